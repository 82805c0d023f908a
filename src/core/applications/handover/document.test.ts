import { describe, expect, it } from "vitest";
import { demoJob, jobOf, q } from "../../../../tests/jobs";
import { CAUTIONS } from "../fault-finding/cautions";
import { formatNeedsHas, formatQuantity } from "../../units/format";
import { type Job } from "../../document/schema";
import { adviceOf, cardOf, cardWords, CARD_MODES } from "./card";
import {
  LOCKED,
  handoverOf,
  handoverSource,
  packSteps,
  SECTIONS,
  type Block,
  type MeasuredRun,
  type SectionKey,
} from "./document";
import { inspectionSheet } from "./inspection";
import { runSheet } from "./commissioning";
import { partsList } from "./parts-list";
import type { Bench } from "../fault-finding/readings";
import { workingAsText } from "../../units/trace";
import { assess } from "../../assessment/verdicts/assess";
import { assessDay } from "../../assessment/verdicts/day";
import { fixedSpeed } from "../../document/unit-kinds";

const skep = demoJob("4-skep");
const source = handoverSource(skep);
const of = { revision: 3, date: "2026-05-04" };
const handover = handoverOf(source, of);
const blocksOf = (key: SectionKey, from = handover): Block[] =>
  from.sections.find((one) => one.key === key)?.blocks ?? [];
const rowsOf = (key: SectionKey, from = handover) =>
  blocksOf(key, from).flatMap((block) => (block.kind === "table" ? block.rows : []));
const wordsOf = (key: SectionKey, from = handover) => JSON.stringify(blocksOf(key, from));
const packWith = (change: (job: Job) => void) => {
  const job = structuredClone(skep);
  change(job);
  return handoverOf({ ...source, job }, of);
};

describe("the handover document", () => {
  it("has its sections in order, stops first", () => {
    expect(handover.sections.map(({ key }) => key)).toEqual(Object.keys(SECTIONS));
    expect(handover.sections[0]!.key).toBe("stops");
  });
  const done = (step: string, passed: boolean) => ({ step, fields: [], passed, reason: "", by: "", at: null });
  const worked = (passed: (key: string) => boolean | null) => (job: Job) => {
    const sheet = runSheet({ job, assessment: assess(job) });
    job.handover.steps = sheet.flatMap(({ key }) => {
      const one = passed(key);
      return one === null ? [] : [done(key, one)];
    });
  };
  it.each([
    ["nothing was done", () => null, "Design"],
    ["a step was done", (key: string) => (key === "as-drawn" ? true : null), "Being fitted"],
    ["every step passed, but a stop stands", () => true, "Commissioned with faults"],
    ["one step did not pass", (key: string) => key !== "alarms", "Commissioned with faults"],
  ] as const)("says what it is where %s, and has no place to sign", (_, passed, state) => {
    const own = packWith(worked(passed));
    expect(wordsOf("state", own)).toContain(state);
    expect(wordsOf("signed", own)).toContain("Not for signature");
    expect(wordsOf("signed", own)).not.toContain("Licensed person");
  });
  it("is commissioned, and to be signed, where every step passed and nothing stops", () => {
    const job = structuredClone(demoJob("6-levain"));
    worked(() => true)(job);
    expect(wordsOf("signed", handoverOf(handoverSource(job), of))).toContain("of the inspection sheet are open");
    const points = inspectionSheet({ job, assessment: assess(job) });
    job.handover.steps.push(...points.map(({ key }) => done(key, true)));
    const own = handoverOf(handoverSource(job), of);
    expect(wordsOf("state", own)).toContain("Commissioned: every step");
    expect(wordsOf("signed", own)).toContain("Licensed person");
    expect(wordsOf("signed", own)).toContain("Signed as built and measured");
  });
  it.each([
    ["measurements", (bench: Bench) => runSheet(bench)],
    ["inspection", (bench: Bench) => inspectionSheet(bench)],
  ] as const)("shows the photos of a step under its title in %s, answered or not", (key, sheetOf) => {
    const steps = sheetOf({ job: skep, assessment: assess(skep) });
    const [first, second] = [steps[0]!, steps[3]!];
    const photos = ["0d9d1b0e-6f0b-4a8e-9d5e-2f1f5b1c0a01", "0d9d1b0e-6f0b-4a8e-9d5e-2f1f5b1c0a02"];
    const own = packWith((job) => {
      job.handover.steps = [
        { ...done(second.key, true), passed: null, photos },
        { ...done(first.key, true), photos: ["0d9d1b0e-6f0b-4a8e-9d5e-2f1f5b1c0a03"] },
      ];
    });
    const shown = blocksOf(key, own).flatMap((block) => (block.kind === "photos" ? block.photos : []));
    expect(shown).toEqual([
      { id: "0d9d1b0e-6f0b-4a8e-9d5e-2f1f5b1c0a03", caption: first.title },
      { id: photos[0], caption: `${second.title}, 1 of 2` },
      { id: photos[1], caption: `${second.title}, 2 of 2` },
    ]);
  });
  it.each(["dead", "earths", "polarity", "leakage"])("has a stop where %s did not pass", (key) => {
    const own = packWith((job) => (job.handover.steps = [done(key, false)]));
    expect(wordsOf("stops", own)).toContain("Not passed");
  });
  it("is the same for the same system", () => {
    expect(handoverOf(handoverSource(structuredClone(skep)), of)).toEqual(handover);
  });
  it("leaves off what is not wanted, but never a stop or a caution", () => {
    const bare = packWith((job) => (job.handover.document.leaveOut = Object.keys(SECTIONS)));
    expect(bare.sections.map(({ key }) => key)).toEqual([...LOCKED]);
    expect(wordsOf("stops", bare)).toContain("interrupting rating");
  });
  it("has no section of stops where nothing stops", () => {
    const sound = handoverSource(demoJob("1-folio"));
    const stops = [sound.assessment.verdicts.starts, sound.assessment.verdicts.carries].flatMap(({ checks }) =>
      checks.filter(({ word }) => word === "Stop"),
    );
    expect(stops).toEqual([]);
    expect(handoverOf(sound, of).sections.map(({ key }) => key)).not.toContain("stops");
  });
  it("gives every number of a verdict as the assessment has it", () => {
    const { assessment, day } = source;
    const rows = rowsOf("verdicts");
    const checks = [
      ...assessment.verdicts.starts.checks,
      ...assessment.verdicts.carries.checks,
      ...day.verdicts.lasts.checks,
      ...day.verdicts.recovers.checks,
    ];
    expect(rows.map((row) => row.slice(0, 4))).toEqual(
      checks.map((one) => [one.word, one.name, formatNeedsHas(one, skep.notation), one.remark]),
    );
    // And the clause that each wiring rule stands on.
    expect(rows.find((row) => row[1] === "bolt-down strip fuse F1 interrupting rating")![4]).toMatch(/IEC 60364-4-43/);
  });
  it("has the working of both sides of what decides each verdict, down to what was entered", () => {
    const { assessment, day } = source;
    const figures = { ...assessment.figures, ...day.figures };
    const workings = blocksOf("verdicts").flatMap((block) => (block.kind === "working" ? [block.text] : []));
    for (const { decides } of [
      assessment.verdicts.starts,
      assessment.verdicts.carries,
      day.verdicts.lasts,
      day.verdicts.recovers,
    ])
      for (const key of [decides.demand.key, decides.limit.key])
        expect(workings).toContain(workingAsText(figures, key, skep.notation, 2));
  });
  it("says what protection is set to: the battery’s own, and each fuse and breaker of the runs that carry", () => {
    const { values, wiring } = source.assessment;
    const rows = rowsOf("settings").filter(
      ([where]) => where === "Battery limits" || where === wiring.main.title || where === wiring.mains.title,
    );
    const said = (value: number, dimension: "voltage" | "current") => formatQuantity(value, dimension, skep.notation);
    expect(rows).toContainEqual(["Battery limits", "Low-voltage stop", said(values.bank.stopVoltage.value, "voltage")]);
    const fused = wiring.main.parts.filter(({ part }) => part.kind === "fuse");
    expect(fused.length).toBeGreaterThan(0);
    for (const { mark, values: own } of fused)
      expect(rows).toContainEqual([wiring.main.title, `${mark}, rating`, said(own.rating!.value, "current")]);
  });
  it("takes settings and the system from its values, in the job's units", () => {
    const { values } = source.assessment;
    const monitor = values.bank.capacityAh.value * values.bank.parallel.value;
    expect(rowsOf("settings")).toContainEqual([
      "Monitor",
      "Capacity",
      formatQuantity(monitor, "charge", skep.notation),
    ]);
    expect(rowsOf("settings")).toContainEqual([
      "Inverter",
      "Low-voltage cut-off",
      formatQuantity(values.inverter.cutOffVoltage.value, "voltage", skep.notation),
    ]);
    const american = packWith((job) => (job.notation.temperature = "F"));
    expect(wordsOf("card", american)).toContain("°F");
  });
  it("sets each unit to the set point that the card promises", () => {
    const words = formatQuantity(source.card.setPointC, "temperature", skep.notation, 3);
    expect(wordsOf("card")).toContain(`set to ${words}`);
    const rows = rowsOf("settings").filter(([, what]) => what === "Set point as promised");
    expect(rows.map(([, , value]) => value)).toEqual(skep.units.map(() => words));
  });
  it("follows a change of the system: another capacity is another number", () => {
    const job = structuredClone(skep);
    job.bank.capacityAh = q(333);
    const changed = handoverOf(handoverSource(job), of);
    expect(rowsOf("settings", changed)[0]![2]).not.toBe(rowsOf("settings")[0]![2]);
    expect(wordsOf("parts", changed)).toContain("333 Ah");
  });
  it("carries what was measured at commissioning and found since", () => {
    expect(wordsOf("measurements")).toContain("Nothing measured yet");
    const measured = packWith((job) => {
      job.handover.steps = [
        { step: "path", fields: [12.9, 12.4, 50], passed: false, reason: "lug", by: "IS", at: "2026-05-04T10:00:00Z" },
      ];
      job.handover.findings = [
        {
          id: "f",
          at: "2026-05-04T11:00:00Z",
          symptoms: ["part-hot"],
          cause: "bad-lug",
          note: "Crimped anew",
          before: [{ reading: "path", fields: [12.9, 12.4, 50] }],
          after: [{ reading: "path", fields: [12.9, 12.7, 50] }],
          by: "IS",
        },
      ];
    });
    const rows = rowsOf("measurements", measured);
    expect(rows[0]!.slice(0, 2)).toEqual(["Wiring from battery to inverter", "10 mΩ"]);
    expect(rows[0]!.slice(3)).toEqual(["not", "lug, IS, 2026-05-04"]);
    expect(rows[1]).toEqual(["Wiring from battery to inverter", "10 mΩ", "4 mΩ"]);
    expect(wordsOf("measurements", measured)).toContain("A lug or joint with resistance");
  });
  it.each<[string, string, keyof typeof CAUTIONS, keyof typeof CAUTIONS]>([
    ["a lead-acid battery", "4-skep", "hydrogen", "frost"],
    ["a lithium battery", "1-folio", "frost", "hydrogen"],
    ["a boat", "3-shearwater", "afloat", "hydrogen"],
  ])("has the cautions of %s", (_, file, there, missing) => {
    const words = wordsOf("cautions", handoverOf(handoverSource(demoJob(file)), of));
    expect(words).toContain(CAUTIONS[there]);
    expect(words).not.toContain(CAUTIONS[missing]);
    for (const key of ["estimate", "isolate", "bypass", "heat", "carbon"] as const)
      expect(words).toContain(CAUTIONS[key]);
  });
});

describe("the customer's card", () => {
  const card = source.card;
  it("gives less without sun and on a hot day, never more", () => {
    for (const mode of CARD_MODES)
      for (const day of card.days)
        expect(card.withoutSun[mode][day]!.seconds).toBeLessThanOrEqual(card.withSun[mode][day]!.seconds);
    for (const hours of [card.withSun, card.withoutSun]) {
      expect(hours.auto.hot.seconds).toBeLessThan(hours.auto.mild.seconds);
      expect(hours.low.hot.seconds).toBeGreaterThanOrEqual(hours.auto.hot.seconds);
    }
  });
  it("has the design day beside the month's three where it is one of its own", () => {
    expect(cardOf({ ...skep, weather: { ...skep.weather, kind: "hot" } }).days).toEqual(["mild", "usual", "hot"]);
    const job = demoJob("2-marionette");
    const own = cardOf(job);
    expect(own.days).toEqual(["mild", "usual", "hot", "own"]);
    // Left on from a full battery on the design day: the run that Lasts is judged by.
    expect(own.withSun.auto.own!.seconds / assessDay(job, { range: false }).useRun!.lasts).toBeCloseTo(1, 1);
  });
  it("is the same with and without sun where there are no panels", () => {
    const job = structuredClone(skep);
    job.sources.panels = [];
    const bare = cardOf(job);
    expect(bare.panels).toBe(false);
    expect(bare.withSun).toEqual(bare.withoutSun);
  });
  it.each<[number, boolean, string]>([
    [20 * 60, false, "under half an hour"],
    [100 * 60, false, "1.5 h"],
    [4.9 * 3600, false, "4 h"],
    [47 * 3600, false, "47 h"],
    [71 * 3600, false, "2 days"],
    [72 * 3600, true, "over 3 days"],
  ])("promises %d s (more: %s) as “%s”, never rounded up", (seconds, more, words) => {
    expect(cardWords({ seconds, more })).toBe(words);
  });
  it("advises by what the system has", () => {
    const fixed = adviceOf(skep, card);
    expect(fixed.nots.some((one) => one.includes("five minutes"))).toBe(skep.units.some(fixedSpeed));
    const boat = adviceOf(demoJob("3-shearwater"), card);
    expect(boat.does.join()).toContain("strainer");
    expect(fixed.does.join()).not.toContain("strainer");
  });
});

describe("the parts list", () => {
  const lines = partsList(skep, assess(skep));
  it("has every part of every run, once", () => {
    const { main, mains, branches, far } = assess(skep).wiring;
    const parts = [main, mains, ...branches, ...far].reduce((sum, { parts: own }) => sum + own.length, 0);
    expect(lines.filter(({ part, where }) => part !== "Lug" && /, [A-Z]\d+$/.test(where))).toHaveLength(parts);
  });
  it("counts cable by the metre there and back, and batteries by blocks", () => {
    const job = structuredClone(skep);
    job.bank.series = q(2);
    job.bank.parallel = q(3);
    job.wiring.main = job.wiring.main.map((part) =>
      part.kind === "cable" ? { ...part, length: q(1.5), count: q(2), ways: "both" as const } : part,
    );
    const own = partsList(job, assess(job));
    expect(own[0]).toMatchObject({ part: "Battery", quantity: 6 });
    expect(own.find(({ part }) => part === "Cable")).toMatchObject({ quantity: 6, unit: "m" });
    // Two cables a pole, there and back, with a lug at each end.
    expect(own.find(({ part }) => part === "Lug")).toMatchObject({ quantity: 8, unit: "pieces" });
  });
  it("says of a device its curve, milliamps, type and poles, of an AC cable its protective conductor", () => {
    const details = partsList(jobOf(), assess(jobOf())).map(({ part, detail }) => `${part}: ${detail}`);
    for (const words of [
      /^Breaker: .*type C, breaks 6 kA$/,
      /^RCD: .*30 mA, type A, all poles$/,
      /^Cable, AC: .*protective conductor [\d.]+ mm²$/,
    ])
      expect(
        details.some((one) => words.test(one)),
        String(words),
      ).toBe(true);
  });
});

describe("test runs in a handover document", () => {
  const hours = (p10: number | null, p50: number, p90: number | null) => ({ p10, p50, p90 });
  const hand = { now: 4, average: 5, halfHour: 4.5 };
  const run = (name: string, day: number, change: Partial<MeasuredRun> = {}): MeasuredRun => ({
    name,
    kind: "fixed speed, lithium",
    startedMs: Date.UTC(2026, 6, day, 20),
    finishedMs: Date.UTC(2026, 6, day + 1, 2),
    snapshots: [
      { minutes: 30, toReserve: hours(3.1, 4.4, 6.2), toCutoff: hours(4, 5, 7), hand },
      { minutes: 60, toReserve: hours(2.9, 3.6, null), toCutoff: hours(4, 5, 7), hand },
    ],
    outcome: { reserveH: 4.5, cutoffH: null, endSoc: 0.15 },
    ...change,
  });
  const measured = (...runs: MeasuredRun[]) => blocksOf("measurements", handoverOf({ ...source, runs }, of));
  it("tells each forecast as it was given, and what came of it", () => {
    const [head, end, told] = measured(run("Second night", 5));
    expect(head).toEqual({ kind: "heading", text: "Run of 2026-07-05: Second night" });
    expect(end).toEqual({ kind: "text", text: "Battery at its reserve after 4.5 h." });
    expect(told).toMatchObject({
      rows: [
        ["30 min", "3.1 h to 6.2 h", "4.4 h", "4 h", "+10 %"],
        ["60 min", "2.9 h to over 48 h", "3.6 h", "3.5 h", "+3 %"],
      ],
    });
  });
  it.each<[string, Partial<MeasuredRun>, string]>([
    ["still under way", { finishedMs: null, outcome: null }, "Still under way."],
    [
      "over before its reserve",
      { outcome: { reserveH: null, cutoffH: null, endSoc: 0.42 } },
      "Ended before its reserve, with 42 % left.",
    ],
  ])("says of one that is %s so, and holds nothing against it", (_, change, words) => {
    const [, end, told] = measured(run("A run", 5, change));
    expect(end).toMatchObject({ text: words });
    expect((told as Extract<Block, { kind: "table" }>).rows.every((row) => row[3] === "" && row[4] === "")).toBe(true);
  });
  it("has the oldest first, whatever order they come in", () => {
    const runs = handoverSource(skep, [run("late", 9), run("early", 2)]).runs;
    expect(runs.map(({ name }) => name)).toEqual(["early", "late"]);
  });
});

describe("steps of a handover document", () => {
  it("climb to the whole, and end in the same as all at once", () => {
    const steps = packSteps(skep);
    const shares: number[] = [];
    let step = steps.next();
    for (; !step.done; step = steps.next()) shares.push(step.value);
    expect(shares.length).toBeGreaterThanOrEqual(10);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares[shares.length - 1]).toBeCloseTo(1, 9);
    expect(handoverOf(step.value, of)).toEqual(handover);
  });
});

describe("follow-ups of a handover", () => {
  it("count from the handover's day where nothing was signed, and say how often", () => {
    const rows = rowsOf("followUps");
    expect(rows.find(([title]) => title === "Tighten the connections again")!.slice(2)).toEqual(["2026-06-04", "once"]);
    const signed = packWith((job) => (job.handover.document.signedOn = "2026-01-10"));
    expect(
      rowsOf("followUps", signed)
        .find(([title]) => title === "Annual capacity run")!
        .slice(2),
    ).toEqual(["2027-01-10", "every year"]);
  });
});
