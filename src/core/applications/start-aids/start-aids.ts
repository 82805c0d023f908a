import { sizeCircuit } from "../sizing/size-circuit";
import { START_AID_KEYS, type StartAidKey, type Job, type Unit } from "../../document/schema";
import type { Quantity } from "../../units/known";
import type { RunPath } from "../../document/path";
import { resolveJob } from "../../document/resolve";
import { buildSystem } from "../../models/system/build";
import { assess, type Assessment } from "../../assessment/verdicts/assess";
import type { Verdict } from "../../assessment/judge/judge";
import type { VerdictWord } from "../../assessment/judge/word";
import { lastsOf } from "../../assessment/verdicts/day";
import { smallestMargin, type StartTrace } from "../../simulation/start/start";
import { starterOnBattery, startsFedElsewhere } from "../../assessment/starts/starts";
import { startSupplies } from "../../assessment/starts/supplies";
import { runsOf } from "../../document/run-titles";
import { fixedSpeed, onBattery } from "../../document/unit-kinds";
import { usesInverter } from "../../document/resolve-wiring";
import type { JobValues } from "../../document/resolved";

export const START_AID_NAMES: Record<StartAidKey, string> = {
  "soft-starter": "Soft starter",
  "start-capacitor": "Start capacitor",
  "bigger-inverter": "Bigger inverter",
  "transformer-inverter": "Transformer-type inverter",
  "thicker-cable": "Thicker cable",
  "second-battery": "One battery more in parallel",
  "variable-unit": "Variable-speed unit",
  generator: "Generator",
};

export interface Judged {
  word: VerdictWord;
  margin: number;
  by: string;
}

/** One start aid, what it would make of Starts and Carries, and what it takes. */
export interface StartAidResult {
  key: StartAidKey;
  name: string;
  /** In words: "3.5 kVA", "95 mm²". */
  what: string;
  starts: Judged;
  carries: Judged;
  lasts: Judged;
  /** Margin of the start less that of the system as it is. */
  gained: number;
  /** Names of the verdicts that become another word. */
  changes: string[];
  cost: number;
  mass: number;
  /** The start's demand over time with it, for drawing: seconds and VA (W without an inverter). */
  seconds: number[];
  demand: number[];
  /** The system with the start aid in it; null for what stands outside the job. */
  job: Job | null;
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });
const INVERTERS_VA = [1000, 1500, 2000, 2500, 3000, 3500, 4000, 5000, 6000, 8000, 10_000, 12_000, 15_000];

/** Everything of the inverter that a data sheet would bring anew; typical values fill it. */
export function newInverter(job: Job, change: Partial<Job["inverter"]>): Job {
  const { waveform, startOrder, type, output, neutrals, leads, neutralBond, combined, assist } = job.inverter;
  const { count, rating, ventArea, ventHeight, compartmentC, inletLimit } = job.inverter;
  const kept = {
    ...{ waveform, startOrder, type, output, neutrals, leads, neutralBond, combined, assist },
    ...{ count, rating, ventArea, ventHeight, compartmentC, inletLimit },
  };
  const inverter = Object.fromEntries(
    Object.entries({ ...kept, ...change }).filter(([, value]) => value !== undefined),
  );
  return { ...job, inverter: inverter as Job["inverter"] };
}

const eachUnit = (job: Job, change: (unit: Unit) => Unit): Job => ({ ...job, units: job.units.map(change) });
const bare = (unit: Unit) => fixedSpeed(unit) && unit.startAid !== "soft-starter";

/** A variable-speed unit of the same cooling in the place of another; typical values fill it. */
export function variableUnit(unit: Unit, values: JobValues["units"][number]): Unit {
  const { id, name, fanBetween, condenser, leg } = unit;
  const coolingPower = plate(values.coolingPower.value);
  return { id, name, kind: "variable", startAid: "none", learned: true, fanBetween, condenser, leg, coolingPower };
}

const VERDICT_NAMES = { starts: "Starts", carries: "Carries", lasts: "Lasts" } as const;

/** Starts, Carries and Lasts of a system; Lasts by the run of its design day. */
function judged(job: Job, { verdicts }: Assessment): Record<"starts" | "carries" | "lasts", Judged> {
  const of = ({ word, decides }: Verdict<VerdictWord>): Judged => ({ word, margin: decides.margin, by: decides.name });
  return { starts: of(verdicts.starts), carries: of(verdicts.carries), lasts: of(lastsOf(job)) };
}

/** The run whose copper a start is short of: that of a DC unit on a branch of its own where its volts decide, or the main one. */
function runOfStart({ units, wiring }: Job, { starting, lowUnit, nearest }: StartTrace, margin: number): RunPath {
  const decides = lowUnit && nearest.unit && nearest.unit.has / nearest.unit.need <= margin;
  const unit = units[decides ? lowUnit.unit : starting];
  const branch = wiring.branches.findIndex(({ role, unitId }) => role === "dc-unit" && unitId === unit?.id);
  return unit && onBattery(unit) && branch >= 0 ? `wiring.branches.${branch}.parts` : "wiring.main";
}

/** What a start aid makes of the system, with what it is in words; null where it cannot be had. `run` is the hardest start's. */
function apply(job: Job, key: StartAidKey, run: RunPath): { job: Job; what: string } | null {
  const values = resolveJob(job);
  switch (key) {
    case "soft-starter":
      if (!job.units.some(bare)) return null;
      return {
        job: eachUnit(job, (unit) => (bare(unit) ? { ...unit, startAid: "soft-starter", learned: true } : unit)),
        what: "learned",
      };
    case "start-capacitor":
      if (!job.units.some((unit) => fixedSpeed(unit) && unit.startAid === "none")) return null;
      return {
        job: eachUnit(job, (unit) =>
          fixedSpeed(unit) && unit.startAid === "none" ? { ...unit, startAid: "start-capacitor" } : unit,
        ),
        what: "half the time",
      };
    case "bigger-inverter": {
      if (!usesInverter(job)) return null;
      const larger = INVERTERS_VA.filter((va) => va > values.inverter.rating.value * 1.05);
      if (larger.length === 0) return null;
      const fitted = (va: number) => newInverter(job, { rating: plate(va) });
      // The smallest that gets through its own surge with the spare of a sound start; cables and fuse are a choice of their own.
      const enough = larger.find((va) => {
        const nearest = assess(fitted(va)).start.own.nearest.inverter;
        return nearest !== undefined && nearest.has >= 1.15 * nearest.need;
      });
      const va = enough ?? larger[larger.length - 1]!;
      return { job: fitted(va), what: `${va / 1000} kVA` };
    }
    case "transformer-inverter":
      if (!usesInverter(job) || job.inverter.type === "transformer") return null;
      return {
        job: newInverter(job, { type: "transformer" }),
        what: `${values.inverter.rating.value / 1000} kVA, same rating`,
      };
    case "thicker-cable": {
      const chosen = sizeCircuit(job, run, { headroom: true });
      if (!chosen?.thicker) return null;
      const circuit = run === "wiring.main" ? "" : `, ${runsOf(job).find(({ path }) => path === run)!.title}`;
      return { job: chosen.job, what: chosen.words + circuit };
    }
    case "second-battery":
      return {
        job: { ...job, bank: { ...job.bank, parallel: plate(values.bank.parallel.value + 1) } },
        what: `${values.bank.parallel.value + 1} in parallel`,
      };
    case "variable-unit":
      if (!job.units.some(fixedSpeed)) return null;
      return {
        job: eachUnit(job, (unit) =>
          fixedSpeed(unit) ? variableUnit(unit, values.units[job.units.indexOf(unit)]!) : unit,
        ),
        what: "same cooling",
      };
    case "generator":
      return null;
  }
}

/** Starts with the units on mains started by a generator. */
function onGenerator(job: Job): { what: string; starts: Judged } | null {
  const system = buildSystem(job);
  const supplies = startSupplies(job, system);
  if (!supplies) return null;
  const needed = supplies.smallestGenerator["in-turn"];
  const rounded = Math.ceil(needed / 100) / 10;
  const starts: Judged = { word: "Holds", margin: (rounded * 1100) / needed, by: "generator" };
  const what = `${rounded} kVA, the unit on it alone`;
  const left = startsFedElsewhere(system);
  if (!left || left.decides.margin >= starts.margin) return { what, starts };
  return { what, starts: { word: left.word, margin: left.decides.margin, by: left.decides.name } };
}

const peaksOf = (trace: StartTrace) => ({ seconds: Array.from(trace.seconds), demand: Array.from(trace.apparent) });

/**
 * Every start aid that can be had for a system, each applied by itself and assessed whole. `without` is the system with the start aids
 * it already has: their gain is measured from it.
 */
export function compareStartAids(job: Job): StartAidResult[] {
  const before = assess(job);
  const now = judged(job, before);
  const margin = smallestMargin(before.start.own);
  const direct = starterOnBattery(job, before.start.own) !== null;
  const run = runOfStart(job, before.start.own, margin);
  const results: StartAidResult[] = [];
  for (const key of START_AID_KEYS) {
    const { cost, mass } = before.values.startAids[key];
    const shared = { key, name: START_AID_NAMES[key], cost: cost.value, mass: mass.value };
    if (key === "generator") {
      const generator = onGenerator(job);
      if (!generator) continue;
      results.push({
        ...shared,
        ...generator,
        carries: now.carries,
        lasts: now.lasts,
        gained: Math.max(0, generator.starts.margin - margin),
        changes: now.starts.word === generator.starts.word ? [] : [VERDICT_NAMES.starts],
        ...peaksOf(before.start.own),
        job: null,
      });
      continue;
    }
    // At the hardest start the inverter feeds only what runs beside it: another one is no help.
    if (direct && (key === "bigger-inverter" || key === "transformer-inverter")) continue;
    const applied = apply(job, key, run);
    if (!applied) continue;
    const after = assess(applied.job);
    const own = judged(applied.job, after);
    results.push({
      ...shared,
      what: applied.what,
      ...own,
      gained: smallestMargin(after.start.own) - margin,
      changes: (["starts", "carries", "lasts"] as const)
        .filter((name) => own[name].word !== now[name].word)
        .map((name) => VERDICT_NAMES[name]),
      ...peaksOf(after.start.own),
      job: applied.job,
    });
  }
  return results;
}
