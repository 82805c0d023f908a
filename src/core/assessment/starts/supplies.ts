import { breakerSurvives } from "../../reference/conductors/fuse";
import type { Job } from "../../document/schema";
import { mainsVoltage } from "../../document/defaults";
import { generatorDerate } from "../../models/charging/supply";
import { supplyLegs } from "../../reference/standards/mains";
import { surgePower } from "../../models/inverter/inverter";
import { buildSystem } from "../../models/system/build";
import { wordOf, type Word } from "../judge/word";
import { lowestSoc, type System } from "../../models/system/system";
import { startShape } from "../../simulation/start/demand";
import { hardestOf, startContext, traceStart, type Limit, type StartTrace } from "../../simulation/start/start";

/** One unit alone, all of them one after another, all at the same moment. */
export const START_CASES = ["one", "in-turn", "together"] as const;
export type StartCase = (typeof START_CASES)[number];

export interface CaseVerdict {
  /** Smallest of what there is over what is asked. */
  margin: number;
  word: Word;
  /** What decides. */
  by: string;
}

/** A source that may feed the units, and how each way of starting goes on it. */
export interface Supply {
  key: string;
  name: string;
  kind: "inverter" | "generator" | "shore";
  /** A for an inlet, VA for a generator or inverter. */
  rating: number;
  cases: Record<StartCase, CaseVerdict>;
}

export interface Supplies {
  rows: Supply[];
  /** Smallest generator that starts them with a tenth to spare, VA at sea level and 25 degC, by case. */
  smallestGenerator: Record<StartCase, number>;
  /** W that the entered generator has left for a charger while everything runs; negative where it cannot carry them. */
  generatorLeft: number;
  /** Site and temperature: what is left of a generator's rating. */
  generatorShare: number;
}

/** Volts that a compressor may lose at its start: 15 % (common practice, no source). */
const START_DIP = 0.15;

/*
 * Generators over time, in multiples of their rating (typical): an electronic one gives hardly more than its
 * rating; a conventional one's turning mass and winding carry about twice it for a moment.
 */
const GENERATORS = {
  electronic: [
    [0.5, 1.25],
    [10, 1.1],
  ],
  conventional: [
    [0.5, 2],
    [2, 1.5],
    [10, 1.1],
  ],
} as const;

/** Multiple of its rating that a generator gives `seconds` after the demand began. */
export function generatorSurge(kind: keyof typeof GENERATORS, seconds: number): number {
  return GENERATORS[kind].find(([until]) => seconds <= until)?.[1] ?? 1;
}

const SECONDS = Float64Array.from({ length: 73 }, (_, i) => 0.01 * Math.pow(10, i / 18));

/** What the units on mains ask of whatever feeds them, case by case. */
interface Asked {
  /** VA over SECONDS, of the worst start of the case. */
  demands: Record<StartCase, Float64Array>;
  /** VA once all of it runs. */
  steady: Record<StartCase, number>;
}

/** What an inverter-charger that assists adds to a supply: over time, and for hours; VA. */
interface Assistance {
  assists: boolean;
  surge: (seconds: number) => number;
  steady: number;
}

/** The start of a job's mains units on every source that may feed them. Null where no unit runs on mains. */
export function startSupplies(job: Job, system: System = buildSystem(job)): Supplies | null {
  if (system.units.every(({ direct }) => direct)) return null;
  const asked = askedBy(system);
  const assists = system.converted && job.inverter.combined && job.inverter.assist;
  const help: Assistance = {
    assists,
    surge: (seconds) => (assists ? surgePower(system.inverter, seconds) : 0),
    steady: assists ? system.inverter.derated : 0,
  };
  const { generatorContinuous, altitude, generatorRating } = system.values.supplies;
  const left = generatorDerate(altitude.value, system.values.weather.highestC.value);
  // Its surge goes by the plate; what it gives for hours is less.
  const rating = generatorRating.value * left;
  const smallest = (which: StartCase) =>
    (1.1 *
      Math.max(
        asked.steady[which] / generatorContinuous.value,
        asked.demands[which].reduce(
          (most, va, k) => Math.max(most, va / generatorSurge(job.supplies.generatorKind, SECONDS[k]!)),
          0,
        ),
      )) /
    left;
  return {
    rows: [
      ...(system.converted ? [inverterRow(system)] : []),
      generatorRow(system, asked, help, rating),
      ...system.wiring.rules.inlets.map((amps) => shoreRow(system, asked, help, amps)),
    ],
    smallestGenerator: { one: smallest("one"), "in-turn": smallest("in-turn"), together: smallest("together") },
    generatorLeft: rating * generatorContinuous.value - asked.steady["in-turn"],
    generatorShare: left,
  };
}

const peakOf = (trace: Float64Array) => trace.reduce((a, b) => Math.max(a, b), 0);

function askedBy({ job, units, values, loads, unitVolts }: System): Asked {
  const onMains = units.filter(({ direct }) => !direct);
  const shapes = onMains.map((unit) =>
    startShape(
      job.units[unit.index]!,
      values.units[unit.index]!,
      {
        apparent: unit.runningApparent.value,
        real: unit.running.value,
        fan: unit.fan.value,
        volts: unitVolts[unit.index]!,
      },
      job.units[unit.index]!.startAid,
    ),
  );
  const running = onMains.map(({ runningApparent }) => runningApparent.value);
  const base = loads.mainsAtStart;
  /** VA at each moment: the starters by their shapes, the others as they run or not at all. */
  const demand = (starts: (i: number) => boolean, others: boolean): Float64Array =>
    SECONDS.map((t) =>
      shapes.reduce((sum, shape, i) => sum + (starts(i) ? shape.at(t).apparent : others ? running[i]! : 0), base),
    );
  const worst = (traces: Float64Array[]) => traces.reduce((a, b) => (peakOf(b) > peakOf(a) ? b : a));
  const each = shapes.map((_, i) => i);
  const all = base + running.reduce((sum, va) => sum + va, 0);
  return {
    demands: {
      one: worst(each.map((i) => demand((k) => k === i, false))),
      "in-turn": worst(each.map((i) => demand((k) => k === i, true))),
      together: demand(() => true, true),
    },
    steady: { one: base + Math.max(...running), "in-turn": all, together: all },
  };
}

function onCases(judge: (which: StartCase) => [margin: number, by: string][]): Supply["cases"] {
  const judged = (which: StartCase): CaseVerdict => {
    const [margin, by] = judge(which).reduce((a, b) => (b[0] < a[0] ? b : a));
    return { margin: Math.min(99, margin), word: wordOf(margin), by };
  };
  return { one: judged("one"), "in-turn": judged("in-turn"), together: judged("together") };
}

/** Smallest of what there is over what is asked, over time. */
const overTime = (trace: Float64Array, has: (seconds: number) => number) =>
  trace.reduce((least, asked, k) => Math.min(least, asked > 0 ? has(SECONDS[k]!) / asked : 99), 99);

function inverterRow(system: System): Supply {
  const { units, job, values } = system;
  const context = startContext(system);
  const question = { startAid: "own", share: lowestSoc(system), drawn: false } as const;
  const alone = (i: number) =>
    traceStart(
      {
        ...context,
        job: { ...job, units: [job.units[i]!] },
        values: { ...values, units: [values.units[i]!] },
        units: [{ ...units[i]!, index: 0 }],
        unitVolts: [system.unitVolts[i]!],
        beside: [system.beside[i]!],
      },
      { ...question, starting: 0 },
    );
  const indices = units.filter(({ direct }) => !direct).map(({ index }) => index);
  const traces: Record<StartCase, () => StartTrace> = {
    one: () => hardestOf(indices.map(alone)),
    "in-turn": () => hardestOf(indices.map((starting) => traceStart(context, { ...question, starting }))),
    together: () => traceStart(context, { ...question, starting: -1 }),
  };
  return {
    key: "inverter",
    name: "Inverter and battery, at the reserve",
    kind: "inverter",
    rating: system.inverter.rating,
    cases: onCases((which) =>
      Object.entries(traces[which]().nearest).map(([limit, { need, has }]) => [
        need > 0 ? has / need : 99,
        INVERTER_LIMITS[limit as Limit],
      ]),
    ),
  };
}

/** `rating` is what heat and altitude leave of the generator's surge rating, VA. */
function generatorRow({ job, values }: System, { demands, steady }: Asked, help: Assistance, rating: number): Supply {
  const { generatorKind } = job.supplies;
  const { generatorRating, generatorContinuous } = values.supplies;
  return {
    key: "generator",
    name: generatorKind === "electronic" ? "Generator, electronic" : "Generator, conventional",
    kind: "generator",
    rating: generatorRating.value,
    cases: onCases((which) => [
      [overTime(demands[which], (t) => rating * generatorSurge(generatorKind, t) + help.surge(t)), "its surge"],
      [(rating * generatorContinuous.value + help.steady) / steady[which], "running"],
    ]),
  };
}

function shoreRow({ job, values, wiring }: System, { demands, steady }: Asked, help: Assistance, amps: number): Supply {
  const mains = mainsVoltage(job);
  const legs = supplyLegs(job.brief.mains, amps);
  const ohms = values.supplies.inletResistance.value;
  // What an inverter-charger is set to take from shore caps the inlet while it assists.
  const taken = help.assists ? Math.min(amps, values.inverter.inletLimit.value) : amps;
  const whole = taken * mains * legs;
  return {
    key: `shore-${amps}`,
    name: legs === 2 ? `Shore inlet, ${amps} A, two legs` : `Shore inlet, ${amps} A`,
    kind: "shore",
    rating: amps,
    cases: onCases((which) => [
      [
        overTime(demands[which], (t) => (help.assists ? whole + help.surge(t) : whole * breakerSurvives(t))),
        "its breaker at the start",
      ],
      [(whole / wiring.rules.continuous + help.steady) / steady[which], "running"],
      [
        !help.assists && ohms > 0 ? (START_DIP * mains * mains * legs) / (ohms * peakOf(demands[which])) : 99,
        "voltage dip at the start",
      ],
    ]),
  };
}

const INVERTER_LIMITS: Record<Limit, string> = {
  inverter: "its surge",
  voltage: "voltage",
  unit: "voltage at a DC unit",
  protection: "battery limit",
  fuse: "fuse",
  breaker: "AC breaker",
};
