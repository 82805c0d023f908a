import { highestCutOff, MODE, restingDraw } from "../../../simulation/kernel/control";
import { offsetAt } from "../../../units/clock";
import { farCutOff } from "../../../models/system/allowed";
import { inputOf, simulationParameters, type Question } from "../../../simulation/day/simulate";
import { LATENT_HEAT, moistAir, type MoistAir } from "../../../reference/air/moist";
import { moistureHeld, PERSON } from "../../../models/cabin/cabin";
import { moistureAfter, nodesAfter } from "../../../simulation/kernel/cabin";
import type { SimulationInput, SimulationParameters } from "../../../simulation/day/input";
import type { Job } from "../../../document/schema";
import { timeZoneOfJob } from "../../../document/place";
import { dcAdded } from "../../../models/inverter/inverter";
import { heatFactor } from "../../../models/air-conditioner/air-conditioner";
import { buildSystem } from "../../../models/system/build";
import type { System } from "../../../models/system/system";
import { mainUse, patternsOf } from "../../../document/schedule";
import { jobOnTheDay, NOTHING_SAID, SUN_THROUGH, type RunConditions } from "./conditions";

/** All air conditioners of a system as one, W of cooling and W at the bank. */
export interface OneUnit {
  fixed: boolean;
  capacity: number;
  capacityPerKelvin: number;
  sensibleHeatRatio: number;
  /** W at the battery with the compressor at full, over the inverter's idle, and the condenser air it is known at. */
  power: number;
  knownAtC: number;
  powerPerKelvin: number;
  /** How a variable unit's draw falls with its speed, as an exponent on the typical curve. */
  bend: number;
  /** W at the battery of a sea-water pump that runs while the compressor does. */
  pump: number;
  /** W at the battery of the fan, high and low, what a fixed-speed unit saves on the low one, and whether it goes on between runs. */
  fan: number;
  fanLow: number;
  lowFanSaving: number;
  fanBetween: boolean;
  band: number;
  minimumOff: number;
  rampTime: number;
  /** K of the condenser's air over outdoors; or over the sea, with `sea`. */
  condenserRise: number;
  sea: boolean;
  /** Air that single-duct units throw out at full, as air changes of heat: W/K and kg/s. */
  thrownHeat: number;
  thrownFlow: number;
  /** W of heat that the inverter leaves in the cabin for the unit at full. */
  inverterHeat: number;
  /** V at which what cools switches off while it runs: at the end of the main run, and at the battery for a unit beside it. */
  cutOffs: { far: number; atBattery: number };
}

/** What the place, the season and the system's document say about a test run: the lines a particle is carried through. */
export interface Site {
  job: Job;
  /** What was said of its day as it began. */
  conditions: RunConditions;
  system: System;
  parameters: SimulationParameters;
  unit: OneUnit;
  startMs: number;
  stepS: number;
  steps: number;
  /** The place's air, by its height. */
  air: MoistAir;
  /** Outdoors on a usual day of the month, degC; moisture. */
  outdoorC: Float64Array;
  humidity: Float64Array;
  /** W of sun and sky on the skin beyond the air's temperature, into the air and into the slow mass by the glass. */
  skinSun: Float64Array;
  glassAir: Float64Array;
  glassMass: Float64Array;
  /** W/K and kg/s of air changes; W and kg/s of people and what else warms the air. */
  changes: Float64Array;
  changesFlow: Float64Array;
  gains: Float64Array;
  moisture: Float64Array;
  /** W that the panels could pass on a usual day. */
  solar: Float64Array;
  /** Set point by the plan, where a unit is asked; NaN elsewhere. Mode: 0 off, 1 fan, 2 low, 3 medium, 4 automatic. */
  planSetC: Float64Array;
  planMode: Int8Array;
  /** The mode of the plan's use, automatic where it has none; W at the battery of the fan between runs in it, 0 where it stops. */
  usualMode: number;
  rest: number;
  /** What the plan adds to the loads, W at the bank. */
  planLoad: Float64Array;
  /** W/K through the skin to the air outside, and to the sea. */
  airUA: number;
  seaUA: number;
  /** W at the battery without the unit: idle inverter, other loads on average. */
  base: number;
  setPointC: number;
  /** Where the cabin stands at the first reading if it was neither cooled nor aired: its own day run up to it, degC and kg/kg. */
  free: FreeCabin;
  panels: boolean;
  /** W that all panels are rated for. */
  plateW: number;
}

export interface FreeCabin {
  cabinC: number;
  massC: number;
  humidity: number;
}

/** Longest that is looked ahead, s. */
export const LONGEST_S = 48 * 3600;

/** The system's document at the date of a log: its month and first day are those of the log. */
function jobAt(job: Job, startMs: number): { dated: Job; minuteOfDay: number } {
  const zone = timeZoneOfJob(job);
  const local = new Date(startMs + offsetAt(zone, startMs) * 1000);
  const start = local.toISOString().slice(0, 10);
  const minuteOfDay = local.getUTCHours() * 60 + local.getUTCMinutes();
  const usual = start >= "1990-01-01" && start <= "2099-12-31";
  return {
    dated: usual
      ? { ...job, brief: { ...job.brief, month: local.getUTCMonth() + 1 }, plan: { ...job.plan, start } }
      : job,
    minuteOfDay,
  };
}

/**
 * W that a house takes beside what anybody tells of: detectors, boards, radios and the monitor on stand-by draw half an
 * ampere to two at 12 V (common practice, no source).
 */
export const UNTOLD_W = 15;

/** People in a cabin whose number was not said: most crews are two (common practice, no source). */
const USUAL_PEOPLE = 2;

/** When a test run begins, Unix ms, how long it is looked at, by which steps, and what was said of its day. */
export interface Span {
  startMs: number;
  seconds: number;
  stepS?: number;
  conditions?: RunConditions;
}

/** The site of a test run. */
export function siteOf(job: Job, { startMs, seconds, stepS = 120, conditions = NOTHING_SAID }: Span): Site {
  const { dated, minuteOfDay } = jobAt(jobOnTheDay(job, conditions), startMs);
  const system = buildSystem(dated);
  const question: Question = {
    days: (Math.ceil(seconds / stepS) * stepS) / 86_400,
    minuteOfDay,
    stepS,
    noOverload: true,
    // A test run happens on some day, not on the design day: its weather begins at the typical one.
    weather: "usual",
  };
  const { input, warmUpSteps, weather, schedule } = inputOf(dated, question, system);
  const parameters = simulationParameters(system, true);
  const steps = weather.steps - warmUpSteps;
  const cut = (line: Float64Array) => line.slice(warmUpSteps, warmUpSteps + steps);
  const { cabin } = parameters;
  const inSea = (cabin.wallUA + cabin.floorUA) * cabin.inSea;
  const airUA = cabin.heatLoss - inSea;
  const { skin, changes, changesFlow, airHeat, massHeat } = input.surroundings;
  const outdoorC = cut(weather.outdoorC);
  const skinSun = cut(skin).map((watts, i) => watts - airUA * outdoorC[i]! - inSea * parameters.seaC);
  const people = cut(schedule.sensible);
  // Where no plan was made somebody is taken to be on board of a cabin that is cooled.
  const crew = conditions.people ?? (dated.plan.patterns.length === 0 ? USUAL_PEOPLE : null);
  // What it loses beside the unit.
  const inverterHeat =
    parameters.inverter.inside && system.converted
      ? system.inverter.idlePower + dcAdded(system.inverter, parameters.mainsLoad) - parameters.mainsLoad
      : 0;
  const shine = SUN_THROUGH[conditions.shade ?? "sun"];
  const lit = (watts: number) => (watts > 0 ? watts * shine : watts);
  const glass = cut(airHeat).map((watts, i) => watts - people[i]! - cabin.heatInside);
  const planSetC = new Float64Array(steps).fill(NaN);
  const planMode = new Int8Array(steps);
  for (let i = 0; i < steps; i++)
    schedule.mode.forEach((mode, u) => {
      const here = mode[warmUpSteps + i]!;
      if (here > planMode[i]!) {
        planMode[i] = here;
        planSetC[i] = schedule.setPointC[u]![warmUpSteps + i]!;
      }
    });
  const mainsLoad = cut(schedule.mainsLoad);
  const dcLoad = cut(schedule.dcLoad);
  const unit = oneUnit(parameters, system);
  const usualMode = planMode.find((mode) => mode >= MODE.low) ?? MODE.auto;
  const atBank = (watts: number) => (system.converted ? dcAdded(system.inverter, watts) : watts);
  return {
    job: dated,
    conditions,
    system,
    parameters,
    unit,
    startMs,
    stepS,
    steps,
    air: moistAir(weather.pressurePa),
    outdoorC,
    humidity: cut(weather.humidity),
    skinSun: skinSun.map(lit),
    glassAir: glass.map(lit),
    glassMass: cut(massHeat).map(lit),
    changes: cut(changes),
    changesFlow: cut(changesFlow),
    gains: people.map(
      (watts) => (crew === null ? watts : crew * PERSON.awake.sensible) + cabin.heatInside + inverterHeat,
    ),
    moisture: cut(schedule.moisture).map((flow) => (crew === null ? flow : (crew * PERSON.awake.latent) / LATENT_HEAT)),
    solar: cut(input.solar).map(lit),
    planSetC,
    planMode,
    usualMode,
    rest: restingDraw(unit, usualMode),
    planLoad: mainsLoad.map((watts, i) => atBank(watts) + dcLoad[i]!),
    airUA,
    seaUA: inSea,
    base: (system.converted ? system.inverter.idlePower : 0) + atBank(parameters.mainsLoad) + parameters.dcLoad,
    setPointC: usualSetPoint(dated, system),
    free: freeCabin(input, warmUpSteps, schedule.moisture),
    panels: dated.sources.panels.length > 0,
    plateW: system.values.sources.panels.reduce((sum, { power, count }) => sum + power.value * count.value, 0),
  };
}

/** Two nodes and moisture through the day before a test run, the unit off; `moisture` in kg/s by step. */
function freeCabin(
  { job, weather, surroundings }: SimulationInput,
  warmUpSteps: number,
  moisture: Float64Array,
): FreeCabin {
  const { cabin } = job;
  const held = moistureHeld(cabin.volume, weather.pressurePa);
  const air = moistAir(weather.pressurePa);
  let nodes = { airC: weather.outdoorC[0]!, massC: weather.outdoorC[0]! };
  let humidity = weather.humidity[0]!;
  for (let i = 0; i < warmUpSteps; i++) {
    const conductance = cabin.heatLoss + surroundings.changes[i]!;
    nodes = nodesAfter(nodes, weather.stepS, {
      conductance,
      outsideC: (surroundings.skin[i]! + surroundings.changes[i]! * weather.outdoorC[i]!) / conductance,
      coupling: cabin.coupling,
      airCapacity: cabin.airHeatCapacity,
      massCapacity: cabin.massHeatCapacity,
      airHeat: surroundings.airHeat[i]!,
      massHeat: surroundings.massHeat[i]!,
    });
    const flows = {
      flow: surroundings.changesFlow[i]!,
      outdoor: weather.humidity[i]!,
      water: moisture[i]!,
      drying: 0,
    };
    humidity = moistureAfter(humidity, weather.stepS, held, flows, air, nodes.airC);
  }
  return { cabinC: nodes.airC, massC: nodes.massC, humidity };
}

/** The set point of the plan's main use, or the brief's. */
function usualSetPoint(job: Job, { values }: System): number {
  const pattern = patternsOf(job, values.brief.hoursWanted.value)[0]!;
  const use = mainUse(pattern);
  const index = use ? pattern.spans.findIndex((span) => span.kind === "unit" && span.from === use.from % 1440) : -1;
  const set = index < 0 ? undefined : values.plan.patterns[0]?.spans[index]?.setPointC?.value;
  return set ?? values.brief.setPointC.value;
}

/** What leaves the battery for so many watts at the path's far end: the path keeps its own. */
function atTerminals(watts: number, { bank, wiring }: System): number {
  const amps = watts / bank.nominalVoltage;
  return watts + amps * amps * wiring.resistance;
}

function oneUnit(run: SimulationParameters, system: System): OneUnit {
  const units = run.units;
  const sum = (value: (u: (typeof units)[number]) => number) => units.reduce((all, u) => all + value(u), 0);
  const capacity = sum((u) => u.capacity * u.foulingCapacity);
  const mean = (value: (u: (typeof units)[number]) => number) =>
    units.reduce((all, u) => all + (value(u) * u.capacity * u.foulingCapacity) / capacity, 0);
  const first = units[0]!;
  // All at one condenser air, so that one heat factor serves.
  const at = first.knownAtC;
  const mains = sum((u) => (u.direct ? 0 : u.power * u.foulingPower * heatFactor(u.powerPerKelvin, at, u.knownAtC)));
  const direct = sum((u) => (u.direct ? u.power * u.foulingPower * heatFactor(u.powerPerKelvin, at, u.knownAtC) : 0));
  // Beside the power of the compressors, at the little more that each watt costs the inverter there.
  const pumps = sum((u) => (u.direct ? 0 : u.pump));
  const atBattery = (value: (u: (typeof units)[number]) => number) =>
    dcAdded(
      system.inverter,
      sum((u) => (u.direct ? 0 : value(u))),
    ) + sum((u) => (u.direct ? value(u) : 0));
  return {
    fixed: first.fixed,
    capacity,
    capacityPerKelvin: mean((u) => u.capacityPerKelvin),
    sensibleHeatRatio: mean((u) => u.sensibleHeatRatio),
    power: atTerminals(dcAdded(system.inverter, mains) + direct, system),
    knownAtC: at,
    powerPerKelvin: mean((u) => u.powerPerKelvin),
    bend: mean((u) => u.bend),
    pump:
      dcAdded(system.inverter, mains + pumps) - dcAdded(system.inverter, mains) + sum((u) => (u.direct ? u.pump : 0)),
    fan: atBattery((u) => u.fan),
    fanLow: atBattery((u) => u.fanLow),
    lowFanSaving: atBattery((u) => u.lowFanSaving),
    fanBetween: first.fanBetween,
    band: mean((u) => u.band),
    minimumOff: mean((u) => u.minimumOff),
    rampTime: mean((u) => u.rampTime),
    condenserRise: mean((u) => u.condenserRise),
    sea: first.sea,
    thrownHeat: sum((u) => u.thrownHeat),
    thrownFlow: sum((u) => u.thrownFlow),
    inverterHeat: run.inverter.inside ? dcAdded(system.inverter, mains) - mains : 0,
    cutOffs: { far: farCutOff(system), atBattery: highestCutOff(units.filter(({ beside }) => beside)) },
  };
}
