import { LATENT_HEAT } from "../../reference/air/moist";
import {
  airChangeHeat,
  outsideCoefficient,
  PERSON,
  SKY_CORRECTION,
  solAir,
  type CabinModel,
} from "../../models/cabin/cabin";
import type { Pattern, Job } from "../../document/schema";
import { onWallsOfAnyFacing } from "../../reference/sun/sky";
import type { Weather } from "../../reference/weather/weather";
import { localSecond, type Clock } from "../../units/clock";
import { patternIndexOn, patternsOf } from "../../document/schedule";
import type { JobValues } from "../../document/resolved";
import type { Grid } from "../../reference/sun/position";

/** What the plan asks at each step. Modes: 0 off, 1 fan, 2 low, 3 medium, 4 automatic. */
export interface Schedule {
  /** By unit, then step. */
  mode: Int8Array[];
  setPointC: Float64Array[];
  sensible: Float64Array;
  /** kg/s of water from people. */
  moisture: Float64Array;
  airChanges: Float64Array;
  /** Light kept off roof and panels, and off the sides: 0 to 1. */
  shadeAll: Float64Array;
  shadeSide: Float64Array;
  /** 0 parked, 1 driving, 2 idling. */
  driving: Int8Array;
  shore: Int8Array;
  generator: Int8Array;
  /** W beyond the brief's loads. */
  mainsLoad: Float64Array;
  dcLoad: Float64Array;
  /** Local hour of the day, 0 to 24. */
  hour: Float64Array;
}

const MODES = { fan: 1, low: 2, medium: 3, auto: 4 } as const;
const MINUTES = 2880;

/** A pattern by the minute, from its own midnight to the end of the day after. */
function compile(job: Job, pattern: Pattern, values: JobValues["plan"]["patterns"][number]) {
  const line = () => new Float64Array(MINUTES);
  const table = {
    mode: job.units.map(line),
    setPointC: job.units.map(line),
    sensible: line(),
    moisture: line(),
    airChanges: line(),
    shadeAll: line(),
    shadeSide: line(),
    driving: line(),
    shore: line(),
    generator: line(),
    mainsLoad: line(),
    dcLoad: line(),
  };
  pattern.spans.forEach((span, i) => {
    const v = values.spans[i]!;
    const [from, to] = [span.from, Math.min(MINUTES, span.from + span.minutes)];
    const each = (into: Float64Array, value: (before: number) => number) => {
      for (let m = from; m < to; m++) into[m] = value(into[m]!);
    };
    switch (span.kind) {
      case "unit":
        job.units.forEach(({ id }, u) => {
          if (span.unitId !== undefined && span.unitId !== id) return;
          each(table.mode[u]!, () => MODES[span.mode]);
          each(table.setPointC[u]!, () => v.setPointC!.value);
        });
        break;
      case "people": {
        const { sensible, latent } = PERSON[span.asleep ? "asleep" : "awake"];
        each(table.sensible, (sum) => sum + v.people!.value * sensible);
        each(table.moisture, (sum) => sum + (v.people!.value * latent) / LATENT_HEAT);
        break;
      }
      case "open":
        each(table.airChanges, (most) => Math.max(most, v.airChanges!.value));
        break;
      case "shade":
        each(span.over === "all" ? table.shadeAll : table.shadeSide, (most) => Math.max(most, v.shade!.value));
        break;
      case "driving":
        each(table.driving, () => (span.idle ? 2 : 1));
        break;
      case "shore":
        each(table.shore, () => 1);
        break;
      case "generator":
        each(table.generator, () => 1);
        break;
      case "load":
        each(span.side === "mains" ? table.mainsLoad : table.dcLoad, (sum) => sum + v.power!.value);
        break;
    }
  });
  return table;
}

/** The plan laid over the local time of a run: each day's own spans, and those of the day before that run past midnight. */
export function scheduleOf(job: Job, values: JobValues, clock: Clock, { steps, stepS }: Grid): Schedule {
  const patterns = patternsOf(job, values.brief.hoursWanted.value);
  const tables = patterns.map((pattern, p) => compile(job, pattern, values.plan.patterns[p]!));
  const line = () => new Float64Array(steps);
  const flags = () => new Int8Array(steps);
  const schedule: Schedule = {
    mode: job.units.map(flags),
    setPointC: job.units.map(line),
    sensible: line(),
    moisture: line(),
    airChanges: line(),
    shadeAll: line(),
    shadeSide: line(),
    driving: flags(),
    shore: flags(),
    generator: flags(),
    mainsLoad: line(),
    dcLoad: line(),
    hour: line(),
  };
  const weekdayOf = (day: number) => (((day + 3) % 7) + 7) % 7;
  let day = NaN;
  let today = tables[0]!;
  let yesterday = tables[0]!;
  for (let i = 0; i < steps; i++) {
    const local = localSecond(clock, i * stepS);
    const here = Math.floor(local / 86_400);
    if (here !== day) {
      day = here;
      today = tables[patternIndexOn(job, patterns, weekdayOf(day))]!;
      yesterday = tables[patternIndexOn(job, patterns, weekdayOf(day - 1))]!;
    }
    const minute = Math.floor((local - day * 86_400) / 60);
    const past = minute + 1440;
    schedule.hour[i] = (local - day * 86_400) / 3600;
    for (let u = 0; u < job.units.length; u++) {
      const own = today.mode[u]![minute]!;
      schedule.mode[u]![i] = own || yesterday.mode[u]![past]!;
      schedule.setPointC[u]![i] = own ? today.setPointC[u]![minute]! : yesterday.setPointC[u]![past]!;
    }
    schedule.sensible[i] = today.sensible[minute]! + yesterday.sensible[past]!;
    schedule.moisture[i] = today.moisture[minute]! + yesterday.moisture[past]!;
    schedule.airChanges[i] = Math.max(today.airChanges[minute]!, yesterday.airChanges[past]!);
    schedule.shadeAll[i] = Math.max(today.shadeAll[minute]!, yesterday.shadeAll[past]!);
    schedule.shadeSide[i] = Math.max(today.shadeSide[minute]!, yesterday.shadeSide[past]!);
    schedule.driving[i] = today.driving[minute]! || yesterday.driving[past]!;
    schedule.shore[i] = today.shore[minute]! || yesterday.shore[past]!;
    schedule.generator[i] = today.generator[minute]! || yesterday.generator[past]!;
    schedule.mainsLoad[i] = today.mainsLoad[minute]! + yesterday.mainsLoad[past]!;
    schedule.dcLoad[i] = today.dcLoad[minute]! + yesterday.dcLoad[past]!;
  }
  return schedule;
}

/** What weather and plan do to the cabin at each step, for the two nodes: all that does not hang on their state. */
export interface Surroundings {
  /** Sum of conductance times sol-air temperature over the skin, W (with degC): the skin gives `skin - heatLoss T_a`. */
  skin: Float64Array;
  /** Heat of air changes, W/K, and their dry air, kg/s. */
  changes: Float64Array;
  changesFlow: Float64Array;
  /** W straight into the air, and into the slow mass. */
  airHeat: Float64Array;
  massHeat: Float64Array;
}

/** Sun through glass lands on floor and furniture first. */
const SUN_TO_MASS = 0.6;
/** Roof in the shadow of panels keeps this share of its sun, by their edges and from beneath. */
const UNDER_PANELS = 0.3;

export function surroundingsOf(
  cabin: CabinModel,
  weather: Weather,
  schedule: Schedule,
  { covered, ...site }: { wind: number; seaC: number; covered: number },
): Surroundings {
  const { steps, outdoorC, global, diffuse, track, pressurePa } = weather;
  const line = () => new Float64Array(steps);
  const out: Surroundings = { skin: line(), changes: line(), changesFlow: line(), airHeat: line(), massHeat: line() };
  const coefficient = outsideCoefficient(site.wind);
  const open = 1 - Math.min(1, covered / cabin.roofArea) * (1 - UNDER_PANELS);
  const perChange = airChangeHeat(cabin.volume, pressurePa, 25);
  const flow = perChange / 1020;
  const wallInAir = cabin.wallUA * (1 - cabin.inSea);
  const floorInAir = cabin.floorUA * (1 - cabin.inSea);
  const toSea = (cabin.wallUA + cabin.floorUA) * cabin.inSea * site.seaC;
  for (let i = 0; i < steps; i++) {
    const air = outdoorC[i]!;
    const lit = 1 - schedule.shadeAll[i]!;
    const walls =
      onWallsOfAnyFacing(track.sinAltitude[i]!, track.cosAltitude[i]!, global[i]!, diffuse[i]!) *
      lit *
      (1 - schedule.shadeSide[i]! / 2);
    const roofC = solAir(air, cabin.absorptance, global[i]! * open * lit, coefficient, SKY_CORRECTION * lit);
    const wallC = solAir(air, cabin.absorptance, walls, coefficient);
    out.skin[i] = cabin.roofUA * roofC + wallInAir * wallC + (floorInAir + cabin.glassUA) * air + toSea;
    const changes = Math.max(cabin.airChanges, schedule.airChanges[i]!);
    out.changes[i] = changes * perChange;
    out.changesFlow[i] = changes * flow;
    const sun = cabin.glassArea * cabin.solarGain * walls;
    out.airHeat[i] = schedule.sensible[i]! + cabin.heatInside + (1 - SUN_TO_MASS) * sun;
    out.massHeat[i] = SUN_TO_MASS * sun;
  }
  return out;
}
