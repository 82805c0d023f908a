import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bankOf } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { largestDeviceOn } from "../../needs/guards";
import { fuseOfEach, isParallel, linkAmpacity, mostOfBank } from "../../needs/links";
import { isChained } from "../../../document/resolve-wiring";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { TracedValue, constant, given, of, stated, traced } from "../../../units/trace";

/** Fuses of batteries in parallel against what they carry and what they protect. */
function ratings(system: System, bankCurrent: TracedValue): Finding[] {
  if (!isParallel(system)) return [];
  const { links } = system.job.wiring;
  const chained = isChained(links.layout);
  const findings: Finding[] = [];
  if (chained && system.wiring.fuse)
    findings.push({
      ...protectsLead(system, oneFuse(system), "links between the batteries behind the main fuse"),
      aspect: "links",
    });
  if (links.fuses !== "each") {
    // Behind one fuse for all of them each lead has to carry what that fuse lets through.
    if (links.fuses === "none" && !chained && system.wiring.fuse)
      findings.push(protectsLead(system, oneFuse(system), "lead of each battery behind the one fuse"));
    return findings;
  }
  const rated = stated(
    { key: "links.fuse", name: "Fuse of each battery", source: "stamped on it" },
    "I_n",
    given("I_1", system.values.wiring.links.fuseRating),
  );
  findings.push({
    topic: "size",
    name: "fuse of each battery",
    demand: fuseOfEach(system, mostOfBank(system, bankCurrent)),
    limit: rated,
    remark: "125 % of what one battery gives or takes at most",
    gravity: "Fails",
    part: "wiring.links",
    aspect: "own",
  });
  if (!chained) findings.push(protectsLead(system, rated, "lead of each battery behind its fuse"));
  return findings;
}

/** The lead of each battery behind what protects it. */
function protectsLead(system: System, rated: TracedValue, name: string): Finding {
  const { values, wiring } = system;
  const ampacity = linkAmpacity(system);
  const areaMm2 = values.wiring.links.areaMm2.value;
  const most = largestDeviceOn(system, false, { ampacity: ampacity.value, areaMm2 });
  const tight = most > ampacity.value && rated.value > ampacity.value;
  const limit =
    tight || most < ampacity.value
      ? traced({
          key: "links.largest",
          name: "Largest fuse on it",
          dimension: "current",
          value: most,
          relation: "I_m = I_s",
          terms: () => [
            of("I_z", ampacity),
            constant(
              "I_s",
              "Largest device by the rule",
              most,
              "current",
              "from the ampacity and the standard ratings",
            ),
          ],
          source: wiring.rules.standards.protection,
        })
      : ampacity;
  return {
    topic: "guarded",
    name,
    demand: rated,
    limit,
    fix: "Use thicker copper between the batteries, or a smaller fuse before it.",
    remark: { met: "protected by its fuse", broken: "the fuse lets more current through than the copper carries" },
    edge: tight,
    aspect: "lead",
    part: "wiring.links",
  };
}

/** The fuse that all batteries have in common: what may come out of them together. */
function oneFuse({ wiring }: System): TracedValue {
  const { fuse, main } = wiring;
  return traced({
    key: "links.oneFuse",
    name: "Fuse of all batteries together",
    dimension: "current",
    value: wiring.fuseRating,
    relation: main.lanes > 1 ? "I_n = m × I_1" : "I_n = I_1",
    terms: () => [
      given("I_1", fuse!.values.rating!),
      ...(main.lanes > 1
        ? [constant("m", "Equal circuits in parallel", main.lanes, "count", "one for each inverter")]
        : []),
    ],
  });
}

/** Whether each battery in parallel has one. */
function oneEach({ job, values }: System): Finding[] {
  const { fuses } = job.wiring.links;
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  if (job.bank.build !== "batteries" || values.bank.parallel.value <= (lithium ? 1 : 2)) return [];
  return [
    presence({
      key: "batteryFuses",
      title: "a fuse for each battery in parallel",
      fault:
        fuses === "none"
          ? "batteries in parallel without a fuse each"
          : "fuses of the batteries in parallel not stated",
      met: fuses === "each",
      gravity: fuses === "none" && lithium ? "Stop" : "Tight",
      reason: say("notices.faultOneBatteryFed"),
      fix: say("notices.fitFusePostEach"),
      part: "wiring.links",
    }),
  ];
}

export const batteryFuses: Rule = {
  id: "battery-fuses",
  group: "Batteries",
  title: "A fuse for each battery in parallel",
  asks: "Lithium batteries in parallel each have a fuse of their own, since a fault in one is fed by the others; it is not above what its lead carries. Two lead-acid batteries may stand behind one fuse; from three on it is Tight.",
  clause: by("ABYC E-11, E-13", "ABYC E-11, E-13", "IEC 62485-5", "ISO/TS 23625", "AS/NZS 5139"),
  broken: "Stop",
  fix: "Fit a fuse at the post of each battery: at least 125 % of its share, and no more than its lead carries.",
  system: ({ system, draw }) => [...ratings(system, draw.bankCurrent), ...oneEach(system)],
};

export const example: Example = {
  what: "four lithium batteries in parallel without a fuse each",
  breaks: () => bankOf(4, "none"),
  word: "Stop",
  meets: () => bankOf(4, "each"),
};
