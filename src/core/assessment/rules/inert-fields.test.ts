/*
 * No field beside the parts is inert either: forty systems of every rule set, 12 to 96 V, lithium and lead-acid, one to four
 * inverters, every kind of source, sized automatically, are spoiled by one value or choice at a time. Each has to be worse by
 * a rule that the line names. What is not in the tables bears on comfort or on the hours, or is better the larger it is.
 */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { q } from "../../../../tests/jobs";
import { edit } from "../../../../tests/systems";
import { wide } from "../../../../tests/wide-systems";
import { sizeJob } from "../../applications/sizing/size-system";
import { fieldAt, partAt } from "../../document/labels";
import { stepsOf, type JobPath, type Step } from "../../document/path";
import { everyKnown } from "../../document/resolve";
import type { Branch, Job, Part } from "../../document/schema";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import type { RuleId } from "../judge/rule-ids";
import { GRAVITY, isBroken } from "../judge/word";
import { assess } from "../verdicts/assess";

const systems = fc.sample(wide, { numRuns: cases(14, 40), seed: 38 }).map((job) => sizeJob(job).job);
const checksOf = (job: Job) => {
  const { starts, carries } = assess(job).verdicts;
  return [...starts.checks, ...carries.checks];
};
const before = new Map(systems.map((job) => [job, new Map(checksOf(job).map((one) => [one.key, GRAVITY[one.word]]))]));

/** The rules by which a spoiled system is worse than the sound one. */
const worseBy = (job: Job, spoiled: Job): Set<string> =>
  new Set(
    checksOf(spoiled)
      .filter(({ key, word }) => GRAVITY[word] > (before.get(job)!.get(key) ?? 0))
      .map(({ by }) => by),
  );

function put<T>(document: T, [step, ...rest]: readonly Step[], value: unknown): T {
  const copy = (Array.isArray(document) ? [...document] : { ...document }) as Record<Step, unknown>;
  copy[step!] = rest.length > 0 ? put(copy[step!], rest, value) : value;
  return copy as T;
}

const lithium = ({ bank }: Job) => CHEMISTRIES[bank.chemistry].lithium;
const has = (role: Branch["role"]) => (job: Job) => job.wiring.branches.some((branch) => branch.role === role);
const charges = (job: Job) =>
  job.inverter.combined || job.wiring.branches.some(({ role }) => ["solar", "engine", "charger"].includes(role));
const batteries = ({ bank }: Job) => bank.build === "batteries" && bank.parallel!.value > 1;
const strings = ({ sources: { panels } }: Job) =>
  panels.length > 0 && panels[0]!.count!.value / (panels[0]!.series?.value ?? 1) >= 3;
const always = () => true;

type Spoil = [field: string, way: "small" | "large", by: RuleId[], applies: (job: Job) => boolean];
/** Values: fifty times too large, five hundred times too small, temperatures by 60 K, each as far as its field goes. */
const VALUES: Spoil[] = [
  ["bank.continuousCurrent", "small", ["bms-discharge", "start-protection"], always],
  ["bank.peakCurrent", "small", ["start-protection"], always],
  ["bank.chargeCurrent", "small", ["charge-current"], charges],
  ["bank.chargeToVoltage", "large", ["charge-voltage"], always],
  ["bank.stopVoltage", "small", ["battery-stop"], lithium],
  ["bank.stopVoltage", "large", ["bank-voltage", "start-voltage"], always],
  [
    "bank.seriesAllowed",
    "small",
    ["battery-series"],
    ({ bank }) => bank.build === "batteries" && bank.series!.value > 1,
  ],
  ["bank.temperatureC", "large", ["battery-temperature", "bms-discharge"], always],
  ["bank.temperatureC", "small", ["charge-current"], (job) => lithium(job) && charges(job)],
  ["inverter.rating", "small", ["inverter-continuous", "start-inverter"], always],
  ["inverter.rating", "large", ["inverter-full-draw"], always],
  ["inverter.cutOffVoltage", "small", ["inverter-full-draw"], always],
  ["inverter.cutOffVoltage", "large", ["bank-voltage", "start-voltage"], always],
  ["inverter.chargeCurrent", "large", ["charge-current", "battery-leads"], ({ inverter }) => inverter.combined],
  ["inverter.inletLimit", "large", ["supply-inlet"], (job) => job.inverter.combined && has("shore")(job)],
  ["inverter.lossShare", "large", ["inverter-full-draw"], always],
  ["units.0.runningCurrent", "large", ["inverter-continuous", "bms-discharge"], always],
  ["units.0.lockedRotorCurrent", "large", ["start-inverter"], always],
  ["units.0.sinceStop", "small", ["start-rest"], always],
  ["sources.panels.0.openVoltage", "small", ["solar-strings"], has("solar")],
  [
    "sources.panels.0.openVoltage",
    "large",
    ["solar-voltage"],
    // No panel has more than 200 V.
    (job) => has("solar")(job) && job.sources.panels[0]!.openVoltage!.value < 100,
  ],
  ["sources.panels.0.shortCurrent", "large", ["solar-current", "dc-ampacity"], has("solar")],
  ["sources.panels.0.count", "large", ["solar-current", "dc-ampacity"], has("solar")],
  ["sources.panels.0.series", "large", ["solar-voltage", "solar-strings"], has("solar")],
  ["sources.controllers.0.maxVoltage", "small", ["solar-voltage"], has("solar")],
  ["sources.controllers.0.current", "large", ["dc-ampacity", "dc-fuse-load"], has("solar")],
  ["sources.controllers.0.stringFuse", "small", ["solar-string-fuse"], strings],
  ["sources.controllers.0.stringFuse", "large", ["solar-string-fuse"], strings],
  ["wiring.links.areaMm2", "small", ["battery-leads"], batteries],
  ["wiring.links.fuseRating", "small", ["battery-fuses"], batteries],
  [
    "wiring.links.fuseRating",
    "large",
    ["battery-fuses"],
    (job) => batteries(job) && !job.wiring.links.layout.startsWith("chain"),
  ],
  ["wiring.ambientC", "large", ["dc-ampacity", "ac-ampacity", "inverter-full-draw", "battery-leads"], always],
  ["supplies.generatorRating", "small", ["generator"], ({ supplies }) => supplies.generatorAuto],
];

type Choice = [name: string, spoil: (job: Job) => void, by: RuleId, applies: (job: Job) => boolean];
const each = (role: Branch["role"], change: Partial<Branch>) => (job: Job) => {
  for (const branch of job.wiring.branches) if (branch.role === role) Object.assign(branch, change);
};
const parts = (kind: Part["kind"], change: object) => (job: Job) => {
  for (const list of [job.wiring.main, job.wiring.mains, ...job.wiring.branches.flatMap((one) => [one.parts, one.far])])
    for (const part of list) if (part.kind === kind) Object.assign(part, change);
};
const anyPart = (kind: Part["kind"]) => (job: Job) =>
  [...job.wiring.main, ...job.wiring.mains, ...job.wiring.branches.flatMap((one) => one.parts)].some(
    (part) => part.kind === kind,
  );
const american = ({ brief }: Job) => brief.ruleSet.startsWith("us");
/** Choices, of the wrong kind, missing, or not stated. */
const CHOICES: Choice[] = [
  ["no bond of the neutral", (job) => void (job.inverter.neutralBond = "none"), "neutral-bond", always],
  ["a bond that nobody stated", (job) => void (job.inverter.neutralBond = "unsaid"), "neutral-bond", always],
  [
    "a fixed bond on shore",
    (job) => void (job.inverter.neutralBond = "fixed"),
    "neutral-bond",
    (job) => job.inverter.combined && has("shore")(job),
  ],
  [
    "leads that inverters share",
    (job) => void (job.inverter.leads = "shared"),
    "inverter-leads",
    ({ inverter }) => inverter.count!.value > 1,
  ],
  [
    "leads that nobody stated",
    (job) => void (job.inverter.leads = "unsaid"),
    "inverter-leads",
    ({ inverter }) => inverter.count!.value > 1,
  ],
  ["a modified sine", (job) => void (job.inverter.waveform = "modified"), "waveform", always],
  ["charging in frost", (job) => void (job.bank.frostBlock = false), "frost", (job) => lithium(job) && charges(job)],
  [
    "no fuse at each battery",
    (job) => void (job.wiring.links.fuses = "none"),
    "battery-fuses",
    (job) => batteries(job) && lithium(job),
  ],
  [
    "fuses that nobody stated",
    (job) => void (job.wiring.links.fuses = "unsaid"),
    "battery-fuses",
    (job) => batteries(job) && lithium(job),
  ],
  [
    "no touch protection",
    (job) => void (job.wiring.above60 = "none"),
    "dc-above-60",
    ({ bank }) => bank.series!.value > 20,
  ],
  [
    "touch protection not stated",
    (job) => void (job.wiring.above60 = "unsaid"),
    "dc-above-60",
    ({ bank }) => bank.series!.value > 20,
  ],
  [
    "a floating generator",
    (job) => void (job.supplies.generatorBond = "floating"),
    "neutral-bond",
    ({ supplies }) => supplies.generatorAuto,
  ],
  [
    "a generator’s bond not stated",
    (job) => void (job.supplies.generatorBond = "unsaid"),
    "neutral-bond",
    ({ supplies }) => supplies.generatorAuto,
  ],
  [
    "strings without fuses",
    (job) => void (job.sources.controllers[0]!.stringFuses = "none"),
    "solar-string-fuse",
    strings,
  ],
  [
    "string fuses not stated",
    (job) => void (job.sources.controllers[0]!.stringFuses = "unsaid"),
    "solar-string-fuse",
    strings,
  ],
  [
    "panels that no circuit has",
    (job) => void (job.wiring.branches = job.wiring.branches.filter(({ role }) => role !== "solar")),
    "solar-circuit",
    has("solar"),
  ],
  [
    "a lead-acid battery charged as lithium",
    (job) => void Object.assign(job.bank, { chemistry: "agm", chargeToVoltage: q(15.6 * job.bank.series!.value) }),
    "charge-voltage",
    ({ bank }) => bank.build === "batteries" && bank.blockVoltage!.value < 13,
  ],
  ["a charger on its own inverter", each("charger", { fedFrom: "inverter" }), "charging-loop", has("charger")],
  ["charging on the ignition", each("engine", { control: "ignition" }), "engine-control", has("engine")],
  [
    "an isolator between unlike batteries",
    each("engine", { coupling: "isolator", far: [] }),
    "isolator-banks",
    (job) =>
      has("engine")(job) &&
      job.bank.build === "batteries" &&
      job.bank.series!.value * job.bank.blockVoltage!.value > 20,
  ],
  [
    "12 V loads without a converter",
    each("loads", { converter: false }),
    "converter-rating",
    (job) => has("loads")(job) && job.wiring.branches.some(({ converter }) => converter),
  ],
  [
    "a residual device that leaves the neutral closed",
    parts("rcd", { poles: "live" }),
    "residual-poles",
    (job) => anyPart("rcd")(job) && !american(job),
  ],
  [
    "a residual device of type AC",
    parts("rcd", { residualType: "AC" }),
    "residual-type",
    (job) => anyPart("rcd")(job) && !american(job),
  ],
  [
    "a transfer switch that leaves the neutrals joined",
    parts("changeover", { poles: "live" }),
    "sources-apart",
    anyPart("changeover"),
  ],
  [
    "cable in an engine space, of 70 °C",
    parts("cable", { route: "engine", insulation: "70" }),
    "dc-overcurrent",
    always,
  ],
  [
    "fuses for small currents",
    parts("fuse", { fuseKind: "blade", interrupting: undefined, voltage: undefined }),
    "dc-interrupting",
    always,
  ],
];

describe("sound systems", () => {
  it("hold, or are tight", () => {
    for (const job of systems)
      expect(
        checksOf(job)
          .filter(({ word }) => isBroken(word))
          .map(({ name }) => name),
      ).toEqual([]);
  });
  it("are of every kind", () => {
    for (const is of [
      lithium,
      (job: Job) => !lithium(job),
      batteries,
      strings,
      ...["solar", "engine", "charger", "loads", "shore", "circuit", "dc-unit"].map((role) =>
        has(role as Branch["role"]),
      ),
    ])
      expect(systems.some(is)).toBe(true);
  });
});

describe("one value spoiled", () => {
  it.each(VALUES)("%s far too %s", (field, way, rules, applies) => {
    const path = field as JobPath;
    for (const job of systems.filter(applies)) {
      const known = [...everyKnown(assess(job).values)].find((one) => one.path === path)!;
      const spec = fieldAt(path, partAt(job, path))!;
      const step = spec.dimension === "temperature" ? 60 : null;
      const value =
        way === "small"
          ? Math.max(spec.min, step === null ? known.value * 0.002 : known.value - step)
          : Math.min(spec.max, step === null ? known.value * 50 : known.value + step);
      const worse = worseBy(job, put(job, stepsOf(path), q(value)));
      expect(
        [...worse].some((by) => (rules as string[]).includes(by)),
        `${[...worse]}`,
      ).toBe(true);
    }
  });
});

describe("one choice spoiled", () => {
  it.each(CHOICES)("%s", (_, spoil, by, applies) => {
    const asked = systems.filter(applies);
    expect(asked.length).toBeGreaterThan(0);
    for (const job of asked) expect([...worseBy(job, edit(job, spoil))]).toContain(by);
  });
});

describe("the value that was assumed, entered", () => {
  it("never makes a check worse, but where it was Tight because it was not stated", () => {
    // An area and how many of it are one statement: entered without the other it is one cable.
    const together = /areaMm2$/;
    for (const job of fc.sample(wide, { numRuns: cases(4, 25), seed: 8 })) {
      const { values } = assess(job);
      const was = new Map(checksOf(job).map((one) => [one.key, one]));
      for (const { path, value, origin } of everyKnown(values)) {
        if (origin !== "assumed" || /^(plan|startAids)/.test(path) || together.test(path)) continue;
        if (/links\.paths/.test(path) || !fieldAt(path, partAt(job, path))) continue;
        for (const one of checksOf(put(job, stepsOf(path), q(value)))) {
          const earlier = was.get(one.key);
          if (earlier && !earlier.met && earlier.word === "Tight") continue;
          expect(GRAVITY[one.word], `${path}: ${one.key}`).toBeLessThanOrEqual(earlier ? GRAVITY[earlier.word] : 0);
        }
      }
    }
  });
});
