import { cabinModel, PERSON, type CabinModel } from "../../models/cabin/cabin";
import type { MeasuredHolding } from "../../models/air-conditioner/air-conditioner";
import type { DrawReading } from "../../document/draw-readings";
import type { System } from "../../models/system/system";
import { LATENT_HEAT } from "../../reference/air/moist";
import { timeWords } from "../../document/schedule";
import { constant, of, traced, type Term, type TracedValue } from "../../units/trace";
import { assembled, STEP_S } from "./assemble";
import { firstUse, type Use } from "./first-use";
import type { SimulationInput } from "./input";
import { surroundingsOf, type Schedule } from "./prepare";
import type { SimulationResult } from "./result";
import { coupledRun } from "./run";

/*
 * What a measured average draw says of the cabin: the heat loss with which the run draws just that, at the hour of the
 * reading and in what was noted of it. What was not noted of an hour is as the job's day has it.
 */

/** How far a heat loss by a measured draw may lie from that of the cabin's parts, and factors between which it is bracketed first. */
const FACTORS = [1, 1.3, 0.75, 1.8, 0.5, 2.4, 0.3, 3] as const;
/** Of the draw: near enough to end the search, and a change over all factors below which it says nothing of the cabin. */
const NEAR = 0.002;
const FLAT = 0.01;
/** Of the draw of the cabin as described: no reading is surer, so that within it the cabin stands as it is. */
const AS_DESCRIBED = 0.01;
/** Days that a use is followed for at the least: cycles come at the moments that they have in the run of the verdicts. */
const USE_DAYS = 3;
const MOST_HALVINGS = 12;
/** Of the draw that a heat loss e times that of the parts has to explain more, where none explains it. */
const FAR_COSTS = 0.1;
/**
 * Minutes that a reading without a duration is the mean of, and minutes on either side of them whose whole cycles are counted
 * too: an hour holds three or four, and each differs a little from the next.
 */
const READ_MIN = 60;
const CYCLES_MIN = 45;
/** Minutes before a reading from which on people, door and sun were as it says. */
const STOOD_MIN = 90;
/** Minutes from switching on after which a reading with no hour is taken to have held. */
const HELD_AFTER_MIN = 60;
/** State of charge that the run is kept at: volts are not what is asked. */
const HALF_CHARGED = 0.5;
const ENDLESS_AH = 1e6;
/** Sun kept off by what was said of it, 0 to 1. */
const SHADE = { sun: 0, part: 0.5, none: 1 } as const;

const kept = new WeakMap<System, TracedValue | null>();

/**
 * Heat loss of the cabin, W/K, with which the run draws what was measured. Null where nothing was, where the heat loss was
 * entered or fitted, where no hours of cooling are planned, or where the draw hardly hangs on it.
 */
export function measuredHeatLoss(system: System): TracedValue | null {
  let found = kept.get(system);
  if (found === undefined) kept.set(system, (found = solved(system)));
  return found;
}

/** What is looked for in a run: a mean line of it between two of its minutes. */
interface Wanted {
  line: "unitPower" | "compressor";
  mean: number;
  fromMin: number;
  toMin: number;
  reading: DrawReading | null;
  outdoorC: number | null;
}

function solved(system: System): TracedValue | null {
  const { job, values, units } = system;
  const measured = units.flatMap(({ holding }) => (holding ? [holding] : []));
  const use = firstUse(system);
  if (values.cabin.heatLoss || measured.length === 0 || measured.length < units.length || !use) return null;
  const wanted = wantedOf(system, measured, use);
  const cabin = cabinModel(values, job);
  const asRead = asItWasRead(system, use, wanted);
  const off = (factor: number) => {
    const run = coupledRun(asRead(cabinModel(values, job, factor * cabin.heatLoss)));
    return meanOverCycles(run, wanted) / wanted.mean - 1;
  };
  const factor = wanted.mean > 0 ? root(off) : 1;
  return factor === null ? null : told(system, { wanted, measured, heatLoss: cabin.heatLoss, factor });
}

function wantedOf({ values, units }: System, measured: MeasuredHolding[], use: Use): Wanted {
  const { reading, outdoorC } = measured[0]!;
  const dutyAlone = units.every((_, i) => !values.units[i]!.dcAverageCurrent);
  const sum = measured.reduce((all, { average, duty }) => all + (dutyAlone ? duty.value : average.value), 0);
  const minute = reading?.minute;
  const at = minute === undefined ? null : (minute - (use.from % 1440) + 1440) % 1440;
  const lasted = reading && "hours" in reading && reading.kind !== "time-to-go" ? reading.hours * 60 : null;
  const [fromMin, toMin] =
    at === null
      ? [Math.min(HELD_AFTER_MIN, use.minutes / 2), use.minutes]
      : lasted === null
        ? [Math.max(0, at - READ_MIN / 2), at + READ_MIN / 2]
        : [Math.max(0, at - lasted), at];
  return {
    line: dutyAlone ? "compressor" : "unitPower",
    mean: sum,
    fromMin,
    toMin: Math.max(toMin, fromMin + STEP_S / 60),
    reading,
    outdoorC,
  };
}

/** The input of a run by its cabin: with all that was noted of the reading's hour, on a battery that does not end it. */
function asItWasRead(system: System, use: Use, wanted: Wanted): (cabin: CabinModel) => SimulationInput {
  const question = {
    days: USE_DAYS,
    minuteOfDay: use.from,
    day: use.day,
    noOverload: true,
    startSoc: HALF_CHARGED,
    extendFrom: { minuteOfRun: use.minutes },
  };
  const { input, around, warmUpSteps } = assembled(system.job, question, system, undefined);
  const { reading, outdoorC, fromMin, toMin } = wanted;
  const step = (minute: number) => warmUpSteps + Math.round((minute * 60) / STEP_S);
  const [from, to] = [step(fromMin), step(toMin)];
  let weather = { ...input.weather, steps: Math.min(input.weather.steps, step(toMin + CYCLES_MIN)) };
  if (outdoorC !== null) {
    let mean = 0;
    for (let i = from; i < to; i++) mean += weather.outdoorC[i]! / (to - from);
    weather = { ...weather, outdoorC: weather.outdoorC.map((degrees) => degrees + outdoorC - mean) };
  }
  const schedule = reading ? stood(system, input.schedule, reading, [step(fromMin - STOOD_MIN), to]) : input.schedule;
  const seaC = reading?.seaC ?? input.job.seaC;
  const bank = { ...input.job.bank, capacityAh: ENDLESS_AH };
  return (cabin) => ({
    ...input,
    job: { ...input.job, cabin, seaC, bank },
    weather,
    schedule,
    surroundings: surroundingsOf(cabin, weather, schedule, { ...around, seaC }),
  });
}

/** The schedule with people, door and sun between two steps as they were noted. */
function stood(
  { values }: System,
  schedule: Schedule,
  { people, open, sun }: DrawReading,
  [from, to]: readonly [number, number],
): Schedule {
  const changed = { ...schedule };
  const put = (key: "sensible" | "moisture" | "airChanges" | "shadeAll", value: number) => {
    changed[key] = schedule[key].slice().fill(value, Math.max(0, from), to);
  };
  if (people !== undefined) {
    put("sensible", people * PERSON.awake.sensible);
    put("moisture", (people * PERSON.awake.latent) / LATENT_HEAT);
  }
  if (open !== undefined) put("airChanges", open ? values.cabin.openAirChanges.value : 0);
  if (sun !== undefined) put("shadeAll", SHADE[sun]);
  return changed;
}

/** Mean of a line of a run about two of its minutes, over whole cycles where the compressor starts and stops. */
export function meanOverCycles(
  run: SimulationResult,
  { line, fromMin, toMin }: Pick<Wanted, "line" | "fromMin" | "toMin">,
): number {
  const values = run[line];
  const step = (minute: number) => Math.min(run.steps, Math.max(0, Math.round((minute * 60) / run.stepS)));
  let [from, to] = [step(fromMin), Math.max(step(fromMin) + 1, step(toMin))];
  const starts = (a: number, b: number) => {
    const found: number[] = [];
    for (let i = Math.max(1, a); i < b; i++) if (run.compressor[i]! > 0 && run.compressor[i - 1] === 0) found.push(i);
    return found;
  };
  const cycles = starts(step(fromMin - CYCLES_MIN), step(toMin + CYCLES_MIN));
  if (cycles.length >= 2) [from, to] = [cycles[0]!, cycles[cycles.length - 1]!];
  let sum = 0;
  for (let i = from; i < to; i++) sum += values[i]!;
  return sum / Math.max(1, to - from);
}

interface Tried {
  factor: number;
  off: number;
}

/** The factor nearest to 1 at which `off` is nothing; of those tried the nearest to it where none is. Null where `off` is flat. */
function root(off: (factor: number) => number): number | null {
  const tried: Tried[] = [];
  for (const factor of FACTORS) {
    const one = { factor, off: off(factor) };
    if (Math.abs(one.off) < (factor === 1 ? AS_DESCRIBED : NEAR)) return factor;
    const other = tried
      .filter((before) => before.off * one.off < 0)
      .sort((a, b) => Math.abs(a.factor - factor) - Math.abs(b.factor - factor))[0];
    if (other) return between(off, one, other);
    tried.push(one);
  }
  const offs = tried.map((one) => one.off);
  if (Math.max(...offs) - Math.min(...offs) < FLAT) return null;
  // None explains it: the nearest, where a cabin far from the one described has to explain more to be taken.
  const cost = (one: Tried) => Math.abs(one.off) + FAR_COSTS * Math.abs(Math.log(one.factor));
  return tried.reduce((best, one) => (cost(one) < cost(best) ? one : best)).factor;
}

/** The root between two factors on either side of it, by halving and the secant in turn. */
function between(off: (factor: number) => number, one: Tried, other: Tried): number {
  let [a, b] = [one, other];
  let best = Math.abs(a.off) < Math.abs(b.off) ? a : b;
  for (let k = 0; k < MOST_HALVINGS; k++) {
    const share = k % 3 === 2 ? 0.5 : a.off / (a.off - b.off);
    const factor = a.factor + share * (b.factor - a.factor);
    const next = { factor, off: off(factor) };
    if (Math.abs(next.off) < Math.abs(best.off)) best = next;
    if (Math.abs(next.off) < NEAR) break;
    if (next.off * a.off < 0) b = next;
    else a = next;
  }
  return best.factor;
}

interface Told {
  wanted: Wanted;
  measured: MeasuredHolding[];
  heatLoss: number;
  factor: number;
}

/** The heat loss with its working. */
function told(system: System, { wanted, measured, heatLoss, factor }: Told): TracedValue {
  const { reading, outdoorC, fromMin, toMin, line } = wanted;
  const { from } = firstUse(system)!;
  const when = `${timeWords(from + fromMin)} to ${timeWords(from + toMin)}`;
  const hours = reading?.minute === undefined ? ", the hours of the main use" : "";
  const terms = (): Term[] => [
    constant("k", "Factor with which the run draws what was measured", factor, "number", `${when}${hours}`),
    constant("G_p", "Roof, walls, floor and glass together", heatLoss, "conductance", "as the cabin is described"),
    ...measured.map(({ average, duty }, i) =>
      line === "compressor" ? of(`r_${i + 1}`, duty) : of(`P_${i + 1}`, average),
    ),
    ...(outdoorC === null
      ? []
      : [constant("T", "Outdoors when measured", outdoorC, "temperature" as const, "of the measurement")]),
  ];
  return traced({
    key: "cabin.heatLoss",
    name: "Heat loss, by the measured draw",
    dimension: "conductance",
    value: factor * heatLoss,
    relation: "G = k × G_p",
    terms,
    source: `so that the run draws what was measured, ${when}${hours}`,
  });
}
