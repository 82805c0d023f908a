import type { Job } from "../../document/schema";
import { designDayOf } from "../../document/weather-defaults";
import { relativeHumidityFrom } from "../../reference/weather/hourly";
import type { Origin } from "../../units/known";
import { buildSystem } from "../../models/system/build";
import { firstUse } from "../../simulation/day/first-use";
import { runOfUse } from "../use/use";
import type { PairKey } from "./axes";
import type { SimulationTotals } from "../../simulation/day/result";
import { usualPattern } from "../../document/schedule";
import { simulate } from "../../simulation/day/simulate";

const put = (value: number) => ({ value, origin: "assumed" as Origin });

type Change = (job: Job, values: ReturnType<typeof buildSystem>["values"]) => void;

const setPoint =
  (degrees: number): Change =>
  (job) => {
    job.brief.setPointC = put(degrees);
    for (const { spans } of job.plan.patterns)
      for (const span of spans) if (span.kind === "unit") span.setPointC = put(degrees);
  };
const mode =
  (of: "low" | "auto"): Change =>
  (job) => {
    for (const { spans } of job.plan.patterns) for (const span of spans) if (span.kind === "unit") span.mode = of;
  };
/** A unit of the same make in another size: capacity, draw and fan go together. */
const sized =
  (times: number): Change =>
  (job, values) => {
    job.units.forEach((unit, u) => {
      const v = values.units[u]!;
      unit.coolingPower = put(v.coolingPower.value * times);
      for (const key of ["ratedPower", "runningCurrent", "dcRunningCurrent", "fanPower", "fanLowPower"] as const) {
        const known = v[key];
        if (known) unit[key] = { value: known.value * times, origin: known.origin };
      }
    });
  };
const awning =
  (up: boolean): Change =>
  (job) => {
    for (const pattern of job.plan.patterns) {
      pattern.spans = pattern.spans.filter(({ kind }) => kind !== "shade");
      if (up)
        pattern.spans.push({ id: "awning", kind: "shade", from: 600, minutes: 540, over: "side", shade: put(0.9) });
    }
  };
const between =
  (on: boolean): Change =>
  (job) =>
    job.units.forEach((unit) => (unit.fanBetween = on));
const panels =
  (times: number): Change =>
  (job, values) =>
    job.sources.panels.forEach((panel, i) => (panel.power = put(values.sources.panels[i]!.power.value * times)));

const CHANGES: Record<PairKey, [Change, Change]> = {
  size: [sized(2 / 3), sized(1.5)],
  fan: [mode("low"), mode("auto")],
  set: [setPoint(22), setPoint(26)],
  awning: [awning(true), awning(false)],
  between: [between(false), between(true)],
  panels: [panels(1), panels(1.5)],
};

export interface PairSide {
  /** Level of the battery, cabin temperature and compressor by the step, noon to noon. */
  share: Float32Array;
  cabinC: Float32Array;
  compressor: Float32Array;
  /** Seconds from the start of use to the reserve. */
  lasts: number;
  reached: boolean;
  totals: SimulationTotals;
}

/** Both sides of a pair through the plan's first day, noon to noon, and through its use until the reserve. */
export function comparePair(job: Job, key: PairKey): [PairSide, PairSide] {
  const base = materialised(job);
  const { values } = buildSystem(base);
  return CHANGES[key].map((change) => {
    const side = structuredClone(base);
    change(side, values);
    const system = buildSystem(side);
    const use = firstUse(system);
    const { run } = simulate(side, { days: 1, minuteOfDay: 720, noOverload: true }, system);
    const own = use && runOfUse(side, system, use);
    return {
      share: run.stateOfCharge,
      cabinC: run.cabinC,
      compressor: run.compressor,
      lasts: own?.lasts ?? 0,
      reached: own?.reached ?? false,
      totals: run.totals,
    };
  }) as [PairSide, PairSide];
}

/** The system with the usual plan written out where it has none, so that its spans can be changed. */
function materialised(job: Job): Job {
  if (job.plan.patterns.length > 0) return structuredClone(job);
  const { values } = buildSystem(job);
  return { ...structuredClone(job), plan: { ...job.plan, patterns: [usualPattern(values.brief.hoursWanted.value)] } };
}

/** Hours to the reserve over outdoor temperature and set point, for the planned hour of starting. */
export interface RunTimeMap {
  /** Highest temperature of the day, degC; the middle one is the design day's. */
  outdoorC: number[];
  setPointC: number[];
  /** Seconds to the reserve by outdoor temperature, then set point; `limit` where it is not reached. */
  seconds: number[][];
  limit: number;
}

/**
 * Runs the use over a grid of days and set points. `onProgress` is told of each column done, 0 to 1; the run stops where
 * it returns false, and the answer is null.
 */
export async function runTimeMap(
  job: Job,
  onProgress: (share: number) => boolean | Promise<boolean> = () => true,
): Promise<RunTimeMap | null> {
  const base = materialised(job);
  const { values } = buildSystem(base);
  // The middle column is the design day; the others are as much warmer or cooler, with its dew point and its sun.
  const { highestC, lowestC, sunHours } = values.weather;
  const swing = highestC.value - lowestC.value;
  const { dewPointC } = designDayOf(base, values);
  const outdoorC = [-8, -6, -4, -2, 0, 2, 4, 6, 8].map((k) => highestC.value + k);
  const setPointC = [20, 21, 22, 23, 24, 25, 26, 27, 28];
  const seconds: number[][] = [];
  let limit = 0;
  for (const [column, outdoor] of outdoorC.entries()) {
    const line: number[] = [];
    for (const degrees of setPointC) {
      const cell = structuredClone(base);
      cell.weather = {
        ...cell.weather,
        kind: "own",
        highestC: put(outdoor),
        lowestC: put(outdoor - swing),
        humidity: put(relativeHumidityFrom(outdoor, Math.min(dewPointC, outdoor - swing + 1))),
        sunHours: put(sunHours.value),
      };
      setPoint(degrees)(cell, values);
      const system = buildSystem(cell);
      const use = firstUse(system);
      const own = use && runOfUse(cell, system, use);
      line.push(own?.lasts ?? 0);
      if (own && !own.reached) limit = Math.max(limit, own.lasts);
    }
    seconds.push(line);
    if (!(await onProgress((column + 1) / outdoorC.length))) return null;
  }
  return { outdoorC, setPointC, seconds, limit: limit || Infinity };
}
