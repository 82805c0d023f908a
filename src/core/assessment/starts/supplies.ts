import { breakerSurvives } from "../../reference/conductors/fuse";
import type { Rig } from "../../document/schema";
import { mainsVoltage } from "../../document/defaults";
import { generatorDerate } from "../../models/charging/supply";
import { supplyLegs } from "../../reference/standards/mains";
import { surgePower } from "../../models/inverter/inverter";
import { buildSystem } from "../../models/system/build";
import { TIGHT_BELOW, type Word } from "../checks/check";
import { lowestShare, type System } from "../../models/system/system";
import { startShape, type Instant } from "../../simulation/start/demand";
import { smallestMargin, traceStart } from "../../simulation/start/start";

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

const wordOf = (margin: number): Word => (margin < 1 ? "Fails" : margin < TIGHT_BELOW ? "Tight" : "Holds");

const SECONDS = Float64Array.from({ length: 73 }, (_, i) => 0.01 * Math.pow(10, i / 18));

/** The start of a rig's mains units on every source that may feed them. Null where no unit runs on mains. */
export function startSupplies(rig: Rig, system: System = buildSystem(rig)): Supplies | null {
  const { units, values, loads } = system;
  const onMains = units.filter(({ direct }) => !direct);
  if (onMains.length === 0) return null;
  const mains = mainsVoltage(rig);
  const shapes = onMains.map((unit) =>
    startShape(
      rig.units[unit.index]!,
      values.units[unit.index]!,
      {
        apparent: unit.runningApparent.value,
        real: unit.running.value,
        fan: unit.fan.value,
        volts: system.unitVolts[unit.index]!,
      },
      rig.units[unit.index]!.cure,
    ),
  );
  const running = onMains.map((unit): Instant => ({ apparent: unit.runningApparent.value, real: unit.running.value }));
  const base = loads.mainsAtStart;
  /** VA at each moment: the starters by their shapes, the others as they run or not at all. */
  const demand = (starts: (i: number) => boolean, others: boolean): Float64Array =>
    SECONDS.map((t) =>
      shapes.reduce(
        (sum, shape, i) => sum + (starts(i) ? shape.at(t).apparent : others ? running[i]!.apparent : 0),
        base,
      ),
    );
  const peakOf = (trace: Float64Array) => trace.reduce((a, b) => Math.max(a, b), 0);
  const worst = (traces: Float64Array[]) => traces.reduce((a, b) => (peakOf(b) > peakOf(a) ? b : a));
  const each = shapes.map((_, i) => i);
  const demands: Record<StartCase, Float64Array> = {
    one: worst(each.map((i) => demand((k) => k === i, false))),
    "in-turn": worst(each.map((i) => demand((k) => k === i, true))),
    together: demand(() => true, true),
  };
  const steady: Record<StartCase, number> = {
    one: base + Math.max(...running.map(({ apparent }) => apparent)),
    "in-turn": base + running.reduce((sum, { apparent }) => sum + apparent, 0),
    together: base + running.reduce((sum, { apparent }) => sum + apparent, 0),
  };

  const onCases = (judge: (which: StartCase) => [margin: number, by: string][]): Supply["cases"] =>
    Object.fromEntries(
      START_CASES.map((which) => {
        const [margin, by] = judge(which).reduce((a, b) => (b[0] < a[0] ? b : a));
        return [which, { margin: Math.min(99, margin), word: wordOf(margin), by }];
      }),
    ) as Supply["cases"];
  const overTime = (trace: Float64Array, has: (seconds: number) => number) =>
    trace.reduce((least, asked, k) => Math.min(least, asked > 0 ? has(SECONDS[k]!) / asked : 99), 99);

  const rows: Supply[] = [];
  if (system.converted) {
    const context = { ...system, mainsLoad: base, dcLoad: loads.dcAtStart };
    const share = lowestShare(system);
    const alone = (i: number) => {
      const only = {
        ...context,
        rig: { ...rig, units: [rig.units[i]!] },
        values: { ...values, units: [values.units[i]!] },
        units: [{ ...units[i]!, index: 0 }],
        unitVolts: [system.unitVolts[i]!],
        beside: [system.beside[i]!],
      };
      return traceStart(only, 0, "own", share, false);
    };
    const judged = (trace: ReturnType<typeof traceStart>): [number, string][] =>
      Object.entries(trace.nearest).map(([limit, { need, has }]) => [
        need > 0 ? has / need : 99,
        INVERTER_LIMITS[limit]!,
      ]);
    const least = (traces: ReturnType<typeof traceStart>[]) =>
      traces.reduce((a, b) => (smallestMargin(b) < smallestMargin(a) ? b : a));
    const indices = onMains.map(({ index }) => index);
    rows.push({
      key: "inverter",
      name: "Inverter and battery, at the reserve",
      kind: "inverter",
      rating: system.inverter.rating,
      cases: onCases((which) =>
        judged(
          which === "one"
            ? least(indices.map(alone))
            : which === "in-turn"
              ? least(indices.map((i) => traceStart(context, i, "own", share, false)))
              : traceStart(context, -1, "own", share, false),
        ),
      ),
    });
  }

  const kind = rig.supplies.generatorKind;
  const left = generatorDerate(values.supplies.altitude.value, values.weather.highestC.value);
  // Its surge goes by the plate; what it gives for hours is less.
  const rating = values.supplies.generatorRating.value * left;
  const continuousRating = rating * values.supplies.generatorContinuous.value;
  // An inverter-charger that assists adds its own surge and rating to what the supply gives.
  const assists = system.converted && rig.inverter.combined && rig.inverter.assist;
  const added = (seconds: number) => (assists ? surgePower(system.inverter, seconds) : 0);
  const addedSteady = assists ? system.inverter.derated : 0;
  rows.push({
    key: "generator",
    name: kind === "electronic" ? "Generator, electronic" : "Generator, conventional",
    kind: "generator",
    rating: values.supplies.generatorRating.value,
    cases: onCases((which) => [
      [overTime(demands[which], (t) => rating * generatorSurge(kind, t) + added(t)), "its surge"],
      [(continuousRating + addedSteady) / steady[which], "running"],
    ]),
  });
  const needed = (which: StartCase) =>
    (1.1 *
      Math.max(
        steady[which] / values.supplies.generatorContinuous.value,
        demands[which].reduce((most, asked, k) => Math.max(most, asked / generatorSurge(kind, SECONDS[k]!)), 0),
      )) /
    left;

  const { inlets, continuous } = system.path.rules;
  const ohms = values.supplies.inletResistance.value;
  for (const amps of inlets) {
    const legs = supplyLegs(rig.brief.mains, amps);
    // What an inverter-charger is set to take from shore caps the inlet while it assists.
    const taken = assists ? Math.min(amps, values.inverter.inletLimit.value) : amps;
    const whole = taken * mains * legs;
    rows.push({
      key: `shore-${amps}`,
      name: legs === 2 ? `Shore inlet, ${amps} A, two legs` : `Shore inlet, ${amps} A`,
      kind: "shore",
      rating: amps,
      cases: onCases((which) => [
        [
          overTime(demands[which], (t) => (assists ? whole + added(t) : whole * breakerSurvives(t))),
          "its breaker at the start",
        ],
        [(whole / continuous + addedSteady) / steady[which], "running"],
        [
          !assists && ohms > 0 ? (START_DIP * mains * mains * legs) / (ohms * peakOf(demands[which])) : 99,
          "voltage dip at the start",
        ],
      ]),
    });
  }
  return {
    rows,
    smallestGenerator: { one: needed("one"), "in-turn": needed("in-turn"), together: needed("together") },
    generatorLeft: continuousRating - steady["in-turn"],
    generatorShare: left,
  };
}

const INVERTER_LIMITS: Record<string, string> = {
  inverter: "its surge",
  voltage: "voltage",
  protection: "battery limit",
  fuse: "fuse",
  breaker: "AC breaker",
};
