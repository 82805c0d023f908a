import { cabinModel } from "../../models/cabin/cabin";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import type { Job, Unit } from "../../document/schema";
import { climateFrom, designDayOf } from "../../document/weather-defaults";
import { solarModel, solarPower } from "../../models/charging/solar";
import { alternatorPower, generatorDerate, joinsAlike } from "../../models/charging/supply";
import { supplyLegs } from "../../reference/standards/mains";
import type { System } from "../../models/system/system";
import { generatedDays, readyDay, type Climate } from "../../reference/weather/climate";
import { weatherOfDays, weatherOfHours, type Site, type Weather } from "../../reference/weather/weather";
import { clockFrom, type Clock } from "../../units/clock";
import { resistanceOfBranch } from "../../models/system/allowed";
import { scheduleOf, surroundingsOf, type Schedule, type Surroundings } from "./prepare";
import type { SimulationResult } from "./result";
import type { SimulationInput, SimulationParameters } from "./input";
import type { UnitParameters } from "../kernel/control";
import { fixedSpeed, topCooling } from "../../document/unit-kinds";
import type { JobValues } from "../../document/resolved";
import type { Grid } from "../../reference/sun/position";

export type WeatherKind = Job["weather"]["kind"];

export interface Question {
  /** Whole days to run, from `minuteOfDay` local on the plan's first day (or `day` days after it). */
  days: number;
  minuteOfDay: number;
  day?: number;
  weather?: WeatherKind;
  seed?: number;
  stepS?: number;
  /** Compressors never rest while a unit is on. */
  neverResting?: boolean;
  /** No sun on panels, no engine, no shore, no generator: the battery alone. */
  bankAlone?: boolean;
  /** No sun on panels only. */
  noSolar?: boolean;
  untilReserve?: boolean;
  /** Ends where supply from the battery ends. */
  untilCut?: boolean;
  /** J a day into the battery beside all else, spread as the sun on the level is. */
  extraPerDay?: number;
  /** Units stay on as at the end of the day's main use until the run ends. */
  extendFrom?: { minuteOfRun: number };
  startSoc?: number;
  /** Hours that the cabin takes on before the run, s; a day where it is not said. */
  warmUpS?: number;
  /** Judges battery and cabin only: an inverter that is too small does not end the run. */
  noOverload?: boolean;
}

/** A run with the clock and the weather it went through. */
export interface Simulation {
  run: SimulationResult;
  clock: Clock;
  weather: Weather;
  /** Steps of weather before the run's first. */
  warmUpSteps: number;
  /** Unit asked (mode of the first unit that is asked to cool), set point, by step of the run. */
  schedule: ReturnType<typeof scheduleOf>;
}

/** Hours that the cabin takes on before a run begins. */
const WARM_UP_S = 86_400;
export const STEP_S = 60;
/** Air as a sea-water condenser's unit sees it, and litres a minute that its pump should keep the water within of the sea. */
const HEALTHY_LEAVING_RISE = 12;
/** What each kelvin of too hot cooling water costs, in power and in capacity. */
const FOULING_PER_KELVIN = 0.015;
/** m3/h of cabin air that a single-duct unit throws out: 200 to 400 (common practice, no source). */
const THROWN = 300;

export const climateOf = ({ values }: System): Climate => climateFrom(values.place);

export function siteOf({ values }: System): Site {
  return {
    latitude: values.place.latitude.value,
    longitude: values.place.longitude.value,
    altitude: values.supplies.altitude.value,
  };
}

interface Prepared {
  clock: Clock;
  weather: Weather;
}
const prepared = new Map<string, Prepared>();
/** Steps of weather that are kept in all: ten fortnights at a minute, or a search's many short trips. */
const KEPT_STEPS = 220_000;
let keptSteps = 0;

/** Clock and weather of a span of days at a place: made once for a place, dates and kind of weather, and kept. */
export function prepareWeather(system: System, question: Question): Prepared & { warmUpSteps: number } {
  const { job } = system;
  const stepS = question.stepS ?? STEP_S;
  const site = siteOf(system);
  const climate = climateOf(system);
  const kind = question.weather ?? job.weather.kind;
  const file = kind === "file" ? job.weather.file : null;
  const seed = question.seed ?? job.weather.seed;
  const warmUpS = question.warmUpS ?? WARM_UP_S;
  const warmUpSteps = Math.round(warmUpS / stepS);
  const steps = Math.round((question.days * 86_400) / stepS) + warmUpSteps;
  const { startDate: start, timeZone: zone } = system.values.site;
  // The job's own day is made of its four quantities, whatever they came from; another day is the climate's.
  const day = kind === job.weather.kind ? designDayOf(job, system.values) : null;
  const key = JSON.stringify([
    site,
    climate,
    kind,
    day,
    kind === "generated" ? seed : 0,
    start,
    zone,
    question.minuteOfDay,
    question.day ?? 0,
    steps,
    stepS,
    warmUpS,
  ]);
  const kept = file ? undefined : prepared.get(key);
  if (kept) return { warmUpSteps, ...kept };
  const first = new Date(Date.parse(`${start}T00:00:00Z`) + ((question.day ?? 0) - 1) * 86_400_000);
  const clock = clockFrom(
    zone,
    first.toISOString().slice(0, 10),
    question.minuteOfDay + (WARM_UP_S - warmUpS) / 60,
    steps * stepS,
  );
  const count = Math.ceil(question.days) + 4;
  const weather = file
    ? weatherOfHours(site, clock, { steps, stepS }, file)
    : kind === "generated" || kind === "file"
      ? // The days of a seed are the plan's, whichever day a run begins on.
        weatherOfDays(
          site,
          clock,
          { steps, stepS },
          {
            days: generatedDays(climate, count + (question.day ?? 0), seed).slice(question.day ?? 0),
            seed: seed + (question.day ?? 0),
          },
        )
      : weatherOfDays(
          site,
          clock,
          { steps, stepS },
          { days: [day ?? readyDay(climate, kind === "own" ? "hot" : kind)] },
        );
  const made = { clock, weather };
  if (!file) {
    keptSteps += steps;
    prepared.set(key, made);
    for (const [oldest, { weather: old }] of prepared) {
      if (keptSteps <= KEPT_STEPS || oldest === key) break;
      prepared.delete(oldest);
      keptSteps -= old.steps;
    }
  }
  return { warmUpSteps, ...made };
}

/** Charging volts that solar and engine limits are turned into watts by. */
const chargingVolts = (system: System) => 0.5 * (system.bank.nominalVoltage + system.bank.chargeToVoltage);

/** A at which a battery's protection board opens; lead-acid has none. */
const boardLimit = ({ job, bank }: System): number =>
  CHEMISTRIES[job.bank.chemistry].lithium ? bank.continuousCurrent : Infinity;

/** W that the engine's alternator has for the battery, driving or idling. */
function enginePower(system: System, idle: boolean): number {
  const { job, values, bank } = system;
  // An isolator between unlike batteries is a stop: no run lets it charge.
  const unlike = job.wiring.branches.some(
    (branch, i) =>
      branch.role === "engine" &&
      branch.coupling === "isolator" &&
      !joinsAlike(values.wiring.branches[i]!.vehicleVoltage.value, bank.nominalVoltage),
  );
  if (unlike) return 0;
  return alternatorPower({
    rated: values.sources.alternatorCurrent.value,
    hotFactor: values.sources.hotFactor.value,
    idleFactor: values.sources.idleFactor.value,
    vehicle: values.sources.vehicleCurrent.value,
    limit: values.sources.engineCurrent.value,
    bankVolts: chargingVolts(system),
    converter: !job.wiring.branches.some(({ role, coupling }) => role === "engine" && coupling === "isolator"),
    idle,
  });
}

/** V at which a DC unit switches itself off; one on a circuit of its own by the battery's volts, with its running draw on it. */
function cutOffOf(system: System, i: number): number {
  const { value } = system.values.units[i]!.cutOffVoltage;
  if (!system.beside[i]) return value;
  return value + (system.units[i]!.running.value / Math.max(1, value)) * resistanceOfBranch(system, i);
}

/** What the kernel needs of one unit. */
function unitParameters(system: System, unit: Unit, i: number): UnitParameters {
  const { values } = system;
  const sea = values.place.seaC.value;
  const v = values.units[i]!;
  const draws = system.units[i]!;
  const bySea = unit.condenser === "sea";
  const rise = v.condenserRise.value;
  // Water that leaves hotter than it should stands for a fouled or starved condenser.
  const leaving = v.waterLeavingC?.value;
  const fouled = bySea && leaving !== undefined ? Math.max(0, leaving - (sea + HEALTHY_LEAVING_RISE)) : 0;
  const known = v.runningCurrent.origin === "measured" || v.dcRunningCurrent?.origin === "measured";
  const single = unit.condenser === "single-duct";
  return {
    direct: draws.direct,
    beside: system.beside[i]!,
    cutOffVoltage: draws.direct ? cutOffOf(system, i) : 0,
    fixed: fixedSpeed(unit),
    capacity: v.coolingPower.value * topCooling(unit, v),
    capacityPerKelvin: v.capacityPerKelvin.value,
    sensibleHeatRatio: v.sensibleHeatRatio.value,
    power: draws.known.value,
    // A plate's watts are those of the rating point; measured ones those of the air, or the sea, of that hour.
    knownAtC: known && !bySea ? draws.knownAtC + rise : draws.knownAtC,
    // What was measured on a fouled unit has its cost in it.
    foulingPower: known ? 1 : 1 + FOULING_PER_KELVIN * fouled,
    foulingCapacity: Math.max(0.3, 1 - FOULING_PER_KELVIN * fouled),
    powerPerKelvin: v.powerPerKelvin.value,
    bend: draws.bend,
    lowFanSaving: draws.lowFanSaving ?? draws.fan.value - Math.min(draws.fan.value, v.fanLowPower.value),
    fan: draws.fan.value,
    fanLow: Math.min(draws.fan.value, v.fanLowPower.value),
    pump: draws.pump,
    fanBetween: unit.fanBetween,
    band: v.thermostatBand.value,
    minimumOff: v.minimumOff.value,
    rampTime: v.rampTime.value,
    condenserRise: rise,
    sea: bySea,
    thrownHeat: single ? (THROWN / 3600) * 1.19 * 1020 : 0,
    thrownFlow: single ? (THROWN / 3600) * 1.19 : 0,
  };
}

/** What a run holds constant, from a system whose cabin loses `heatLoss` W/K, or what its parts add up to. */
export function assembledParameters(
  system: System,
  noOverload: boolean,
  heatLoss: number | undefined,
): SimulationParameters {
  const { job, values, bank, inverter, wiring, loads } = system;
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  const sourceValues = values.sources;
  const combined = system.converted && job.inverter.combined;
  const shoreCurrent = combined
    ? Math.min(sourceValues.inletCurrent.value, values.inverter.inletLimit.value)
    : sourceValues.inletCurrent.value;
  return {
    cabin: cabinModel(values, job, heatLoss),
    units: job.units.map((unit, i) => unitParameters(system, unit, i)),
    bank,
    lithium,
    mayCharge: !(lithium && values.bank.temperatureC.value < 0),
    acceptance: sourceValues.acceptance.value,
    chargeLimit: bank.chargeCurrent * bank.chargeShare,
    dischargeLimit: noOverload ? Infinity : boardLimit(system),
    pathResistance: wiring.resistance,
    converted: system.converted,
    inverter: {
      idlePower: inverter.idlePower,
      lossShare: inverter.lossShare,
      lossRise: inverter.lossRise,
      rating: inverter.rating,
      overload: noOverload ? Infinity : 1.1 * inverter.rating,
      cutOffVoltage: inverter.cutOffVoltage,
      inside: job.cabin.inverterInside,
    },
    mainsLoad: loads.mainsAverage,
    dcLoad: loads.dcAverage,
    converterLoss: system.converterLoss,
    shoreLimit: shoreCurrent * system.mains * supplyLegs(job.brief.mains, sourceValues.inletCurrent.value),
    assist: combined && job.inverter.assist,
    autoStart: job.supplies.generatorAuto
      ? { startAt: values.supplies.startAt.value, stopAt: values.supplies.stopAt.value }
      : null,
    fuel: { atFull: values.supplies.fuelAtFull.value, full: values.supplies.generatorRating.value },
    chargerCurrent:
      sourceValues.chargerCurrent.value +
      (combined ? values.inverter.chargeCurrent.value * values.inverter.count.value : 0),
    drivingPower: enginePower(system, false),
    idlingPower: enginePower(system, true),
    seaC: values.place.seaC.value,
  };
}

const schedules = new WeakMap<Clock, Map<string, Schedule>>();

/** The plan laid over a clock: the same for every system of one plan, so a search lays it once for each of its trips. */
function keptSchedule(job: Job, values: JobValues, clock: Clock, { steps, stepS }: Grid): Schedule {
  let kept = schedules.get(clock);
  if (!kept) schedules.set(clock, (kept = new Map()));
  const units = job.units.map(({ id }) => id);
  const key = JSON.stringify([job.plan, values.plan.patterns, values.brief.hoursWanted.value, units, steps, stepS]);
  const found = kept.get(key);
  if (found) return found;
  const made = scheduleOf(job, values, clock, { steps, stepS });
  if (kept.size >= 4) kept.clear();
  kept.set(key, made);
  return made;
}

interface Kept<T> {
  schedule: Schedule;
  key: string;
  made: T;
}
const keptSurroundings = new WeakMap<Weather, Kept<Surroundings>>();
const keptSolar = new WeakMap<Weather, Kept<Float64Array>>();

/**
 * What was last made of a weather and a plan, as long as the rest that it is made of, `from`, stays the same: while battery or
 * inverter are changed field by field, sun and heat are worked out once. Nobody may write into it.
 */
function lastMade<T>(
  kept: WeakMap<Weather, Kept<T>>,
  { weather, schedule, from }: { weather: Weather; schedule: Schedule; from: unknown },
  make: () => T,
): T {
  const key = JSON.stringify(from);
  const last = kept.get(weather);
  if (last?.schedule === schedule && last.key === key) return last.made;
  const made = make();
  kept.set(weather, { schedule, key, made });
  return made;
}

/** A line of watts with `perDay` J a day added, in proportion to the sun on the level; evenly where there is none. */
export function withSpread(power: Float64Array, { global, stepS, steps }: Weather, perDay: number): Float64Array {
  const whole = global.reduce((sum, watts) => sum + watts, 0) * stepS;
  const days = (steps * stepS) / 86_400;
  return power.map((watts, i) => watts + (whole > 0 ? (perDay * days * global[i]!) / whole : perDay / 86_400));
}

/** What the coupled run of a question is given, and what stands around its cabin. */
export type Assembled = Omit<Simulation, "run"> & {
  input: SimulationInput;
  around: { wind: number; seaC: number; covered: number };
};

/** What the coupled run of a question is given, of a cabin that loses `heatLoss` W/K, or what its parts add up to. */
export function assembled(job: Job, question: Question, system: System, heatLoss: number | undefined): Assembled {
  const { values } = system;
  const { clock, weather, warmUpSteps } = prepareWeather(system, question);
  const { steps, stepS } = weather;
  // What is changed below is nobody else's.
  const own = question.extendFrom !== undefined || question.bankAlone === true;
  const schedule = own
    ? scheduleOf(job, values, clock, { steps, stepS })
    : keptSchedule(job, values, clock, { steps, stepS });
  if (question.extendFrom) {
    // The last settings of the use go on to the end of the run.
    const at = Math.min(steps - 1, warmUpSteps + Math.round((question.extendFrom.minuteOfRun * 60) / stepS));
    schedule.mode.forEach((mode, u) => {
      const settings = schedule.setPointC[u]!;
      if (mode[at - 1]! >= 2) {
        mode.fill(mode[at - 1]!, at);
        settings.fill(settings[at - 1]!, at);
      }
    });
  }
  if (question.bankAlone) for (const line of [schedule.shore, schedule.generator, schedule.driving]) line.fill(0);
  const solar = solarModel(values, job);
  const power =
    question.bankAlone || question.noSolar
      ? new Float64Array(steps)
      : lastMade(keptSolar, { weather, schedule, from: [solar, chargingVolts(system)] }, () =>
          solarPower(solar, weather, schedule.hour, schedule.shadeAll, chargingVolts(system)),
        );
  const auto = job.supplies.generatorAuto && !question.bankAlone;
  const wanted = auto || schedule.generator.includes(1);
  const generator = new Float64Array(steps);
  if (wanted) {
    const { generatorRating, generatorContinuous, altitude } = values.supplies;
    const rated = generatorRating.value * generatorContinuous.value;
    for (let i = 0; i < steps; i++) generator[i] = rated * generatorDerate(altitude.value, weather.outdoorC[i]!);
  }
  const inner: SimulationParameters = {
    ...assembledParameters(system, question.noOverload ?? false, heatLoss),
    // The battery's own board opens whatever the question.
    dischargeLimit: boardLimit(system),
    ...(question.bankAlone ? { autoStart: null } : {}),
  };
  const around = { wind: values.place.wind.value, seaC: inner.seaC, covered: solar.covered };
  const input: SimulationInput = {
    job: inner,
    weather,
    schedule,
    surroundings: lastMade(keptSurroundings, { weather, schedule, from: [inner.cabin, around] }, () =>
      surroundingsOf(inner.cabin, weather, schedule, around),
    ),
    solar: question.extraPerDay ? withSpread(power, weather, question.extraPerDay) : power,
    generator,
    warmUpSteps,
    startSoc: question.startSoc ?? system.bank.startSoc,
    neverResting: question.neverResting ?? false,
    untilReserve: question.untilReserve ?? false,
    untilCut: question.untilCut ?? false,
    startCabinC: values.plan.startCabinC?.value ?? null,
    warmedUp: null,
  };
  return { input, clock, weather, warmUpSteps, schedule, around };
}
