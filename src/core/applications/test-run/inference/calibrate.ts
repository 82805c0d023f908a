import type { Dimension } from "../../../units/dimension";
import type { Job } from "../../../document/schema";
import type { Origin, Quantity } from "../../../units/known";
import type { TestRun } from "./test-run";
import { DIMENSIONS, PARAMETER_NAMES, type ParameterName } from "./particle";
import { ampHoursBetween } from "./prior";
import type { Population } from "./sampler";
import { steppedOhms } from "./stepped-ohms";
import { heatFactor } from "../../../models/air-conditioner/air-conditioner";
import { condenserC } from "../../../simulation/kernel/unit";
import { ON } from "../segmentation/segments";
import { cabinModel } from "../../../models/cabin/cabin";

export type FoundKey =
  | "running"
  | "fan"
  | "base"
  | "inverterLoss"
  | "bankResistance"
  | "capacity"
  | "monitor"
  | "heatLoss"
  | "slowMass"
  | "solarGain"
  | "solarFactor";

/** A value that a log gives for one of the system's, with its spread and the readings it rests on. */
export interface Found {
  key: FoundKey;
  label: string;
  dimension: Dimension;
  value: number;
  /** The same in the system's own terms, as it would be entered: a share of the plate, one battery's ohms. */
  entered: number;
  /** One sigma. */
  spread: number;
  /** What the system has there now. */
  was: number;
  /** Read straight off the log, or fitted by the model. */
  origin: Extract<Origin, "measured" | "fitted">;
  /** What it rests on, in words. */
  evidence: string;
  /** Whether it can be taken into the system; a monitor's error is told, not taken. */
  offered: boolean;
  /** Outdoors while it was drawn, degC, where the draw hangs on that. */
  atC?: number;
}

/** A parameter is worth offering where the log narrowed it to this share of what it was before. */
const NARROWED = 0.8;

function spreadOf(population: Population, name: ParameterName): { mean: number; spread: number } {
  const i = PARAMETER_NAMES.indexOf(name);
  const { count, z } = population;
  let mean = 0;
  for (let n = 0; n < count; n++) mean += z[n * DIMENSIONS + i]! / count;
  let square = 0;
  for (let n = 0; n < count; n++) square += (z[n * DIMENSIONS + i]! - mean) ** 2 / count;
  return { mean, spread: Math.sqrt(square) };
}

/** Mean and spread over the particles of a value of theirs. */
function overMembers(
  testRun: TestRun,
  population: Population,
  value: (m: ReturnType<TestRun["prior"]["particle"]>) => number,
) {
  const all = Array.from({ length: population.count }, (_, n) =>
    value(testRun.prior.particle(population.z, n * DIMENSIONS)),
  );
  const mean = all.reduce((sum, x) => sum + x, 0) / all.length;
  return { mean, spread: Math.sqrt(all.reduce((sum, x) => sum + (x - mean) ** 2, 0) / all.length) };
}

const plural = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** What a log says of its system's values. Only what it says anything of: a log of one level tells no step. */
export function calibrate(testRun: TestRun, population: Population): Found[] {
  return readOff(testRun, population).map((found) => ({ ...found, entered: termsOf(testRun, found) }));
}

/** What the fall at a single stop may be off by, of its size. */
const LONE_STOP_OFF = 0.05;

/** W that a running fixed-speed unit adds over all else, its fan included, and what says so; null where the log does not. */
function addedRunning({ site, segments }: TestRun): { value: number; spread: number; evidence: string } | null {
  const { running, between, base, step } = segments.levels;
  if (!site.unit.fixed) return null;
  const fan = site.rest;
  const off = between ?? base;
  const paced = Math.sqrt(Math.max(1, segments.cycles.length));
  if (running && off)
    return {
      value: running.value - off.value + (between ? fan : 0),
      spread: Math.hypot(running.spread, off.spread) / paced,
      evidence: segments.ofMeans
        ? `${plural(running.count + off.count, "reading")} of mean current, by where it agrees with the mains`
        : `${plural(running.count, "reading")} at full draw, ${plural(off.count, "reading")} at rest`,
    };
  if (!step) return null;
  return {
    value: step.value + fan,
    // A single stop has no spread of its own.
    spread: Math.max(LONE_STOP_OFF * step.value, step.spread) / Math.sqrt(step.count),
    evidence: `drop in current at ${plural(step.count, "compressor stop")}`,
  };
}

/** Mean outdoor temperature while the unit ran, degC: as read, or as the particles have it. */
function outdoorsRunning({ site, log, segments, prior }: TestRun, population: Population): number {
  const { settings } = log;
  let shift = 0;
  for (let n = 0; n < population.count; n++)
    shift += prior.particle(population.z, n * DIMENSIONS).outdoor / population.count;
  let sum = 0;
  let count = 0;
  segments.seconds.forEach((second, i) => {
    if (segments.state[i] !== ON) return;
    const at = Math.min(log.steps - 1, Math.floor(second / site.stepS));
    sum += settings.outdoorC[at]! + shift * settings.shiftWeight[at]!;
    count++;
  });
  return count > 0 ? sum / count : settings.outdoorC[0]!;
}

/** Draw of the compressor at full at `atC` outdoors, over what the job knows of it at its own. */
const heatOver = ({ unit, parameters }: TestRun["site"], atC: number): number =>
  heatFactor(unit.powerPerKelvin, condenserC(unit, atC, parameters.seaC), unit.knownAtC);

// oxlint-disable-next-line max-lines-per-function -- one value of the job after another: a list, with no way through it
function readOff(testRun: TestRun, population: Population): Omit<Found, "entered">[] {
  const { site, segments, readings } = testRun;
  const { system, job } = site;
  const { values } = system;
  const { levels, volts, seconds } = segments;
  const found: Omit<Found, "entered">[] = [];
  const meanVolts = volts.reduce((sum, v) => sum + v, 0) / Math.max(1, volts.length);
  const unitValues = values.units[0]!;
  // What several units draw together is told, and whose it is, is not: it is offered to none of them.
  const one = site.parameters.units.length === 1;

  const added = addedRunning(testRun);
  const atC = outdoorsRunning(testRun, population);
  const plateAmps = (site.unit.power * heatOver(site, atC) + site.unit.pump) / meanVolts;
  if (added)
    found.push({
      key: "running",
      label: one ? "Added battery current, compressor on" : "Added battery current, all air conditioners on",
      dimension: "current",
      value: added.value / meanVolts,
      spread: added.spread / meanVolts,
      was: plateAmps,
      origin: "measured",
      evidence: added.evidence,
      offered: one,
      ...(site.unit.sea ? {} : { atC }),
    });
  if (levels.base && levels.between && levels.base.count >= 5 && levels.between.count >= 5 && site.unit.fanBetween) {
    const step = levels.between.value - levels.base.value;
    if (step > 5)
      found.push({
        key: "fan",
        label: one ? "Added battery current, fan only" : "Added battery current, all fans",
        dimension: "current",
        value: step / meanVolts,
        spread: Math.hypot(levels.base.spread, levels.between.spread) / meanVolts / Math.sqrt(levels.base.count),
        was: (one ? unitValues.dcFanCurrent?.value : undefined) ?? site.unit.fan / meanVolts,
        origin: "measured",
        evidence: `${plural(levels.base.count, "reading")} with the unit off, ${plural(levels.between.count, "reading")} between runs`,
        offered: one,
      });
  }
  const house = levels.house ?? levels.base;
  if (house && house.count >= 3)
    found.push({
      key: "base",
      label: "Everything else, on average",
      dimension: "power",
      value: Math.max(0, house.value),
      spread: Math.max(1, house.spread),
      was: site.base,
      origin: "measured",
      evidence: levels.house
        ? `battery watts less the AC side's, ${plural(house.count, "reading")}`
        : `${plural(house.count, "reading")} before the unit first ran`,
      offered: true,
    });

  const loss = inverterLoss(testRun);
  if (loss) found.push(loss);
  const inner = bankResistance(testRun);
  if (inner) found.push(inner);

  const capacity = spreadOf(population, "bankAh");
  if (capacity.spread < 0.75) {
    const own = overMembers(testRun, population, (m) => m.bankAh);
    found.push({
      key: "capacity",
      label: "Usable nameplate capacity now",
      dimension: "charge",
      value: own.mean,
      spread: own.spread,
      was: system.bank.capacityAh,
      origin: "fitted",
      evidence: "counted charge against the volts, as far as the log goes",
      offered: true,
    });
  }
  const monitor = monitorError(testRun);
  if (monitor) found.push(monitor);

  const cabin = cabinModel(values, job);
  const heat = spreadOf(population, "heatLoss");
  const hours = seconds[seconds.length - 1]! / 3600;
  const cabinWords = `${plural(segments.windows.length, "stretch", "stretches")} over ${hours.toFixed(1)} h`;
  // Beside a heat loss that the log leaves open, mass and sun make up for it: they are no findings of their own.
  const cabinTold = heat.spread < NARROWED;
  if (cabinTold) {
    const own = overMembers(testRun, population, (m) => m.heatLoss * cabin.heatLoss);
    found.push({
      key: "heatLoss",
      label: "Heat loss, whole cabin",
      dimension: "conductance",
      value: own.mean,
      spread: own.spread,
      was: cabin.heatLoss,
      origin: "fitted",
      evidence: cabinWords,
      offered: true,
    });
  }
  if (cabinTold && spreadOf(population, "slowMass").spread < NARROWED) {
    const own = overMembers(testRun, population, (m) => m.slowMass * cabin.massHeatCapacity);
    found.push({
      key: "slowMass",
      label: "Heat capacity of furniture and structure",
      dimension: "heatCapacity",
      value: own.mean,
      spread: own.spread,
      was: cabin.massHeatCapacity,
      origin: "fitted",
      evidence: cabinWords,
      offered: true,
    });
  }
  const sunny = site.skinSun.slice(0, testRun.log.steps).some((w) => w > 50);
  if (cabinTold && sunny && spreadOf(population, "sun").spread < NARROWED) {
    const own = overMembers(testRun, population, (m) => m.sun * cabin.solarGain);
    found.push({
      key: "solarGain",
      label: "Solar heat gain coefficient of the glass",
      dimension: "ratio",
      value: Math.min(1, own.mean),
      spread: own.spread,
      was: cabin.solarGain,
      origin: "fitted",
      evidence: cabinWords,
      offered: true,
    });
  }
  const sunRead = readings.values.solar_power_w.filter((w) => w > 20).length;
  if (sunRead >= 10) {
    const own = overMembers(testRun, population, (m) => Math.min(1, m.solar * values.sources.systemFactor.value));
    found.push({
      key: "solarFactor",
      label: "Panels: what they give of their rating",
      dimension: "ratio",
      value: own.mean,
      spread: own.spread,
      was: values.sources.systemFactor.value,
      origin: "fitted",
      evidence: `${plural(sunRead, "reading")} in the sun, against a typical day's`,
      offered: true,
    });
  }
  return found;
}

/** Loss per watt of the inverter: battery watts over mains watts, by least squares beside a constant. */
function inverterLoss({ site, readings, segments }: TestRun): Omit<Found, "entered"> | null {
  const { inverter, converted } = site.system;
  const mains = readings.values.ac_power_w;
  if (!converted || !segments.mainsApart || !segments.sunApart) return null;
  let n = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let sxy = 0;
  let syy = 0;
  for (let i = 0; i < mains.length; i++) {
    const x = mains[i]!;
    if (Number.isNaN(x) || x < 0) continue;
    // Readings at an edge see the two meters on different sides of it.
    if (segments.chargedAt[i] === 1 || (i > 0 && segments.state[i] !== segments.state[i - 1])) continue;
    // What the path itself takes is not the inverter's.
    const amps = readings.values.battery_current_a[i]!;
    const y =
      segments.watts[i]! - (inverter.lossRise * x * x) / inverter.rating - amps * amps * site.system.wiring.resistance;
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
    syy += y * y;
  }
  const spreadX = sxx / n - (sx / n) ** 2;
  if (n < 10 || spreadX < 100 ** 2) return null;
  const slope = (sxy / n - (sx / n) * (sy / n)) / spreadX;
  const left = Math.max(0, syy / n - (sy / n) ** 2 - slope * slope * spreadX);
  const value = slope - 1;
  if (value < 0 || value > 0.5) return null;
  return {
    key: "inverterLoss",
    label: "Inverter, loss per watt",
    dimension: "ratio",
    value,
    spread: Math.max(0.002, Math.sqrt(left / spreadX / n)),
    was: inverter.lossShare,
    origin: "fitted",
    evidence: `${plural(n, "pair")} of battery and AC watts`,
    offered: true,
  };
}

/** Ohms of the battery by the volts that step when the draw does. */
function bankResistance({ site, readings, segments }: TestRun): Omit<Found, "entered"> | null {
  const stepped = steppedOhms(site, readings, segments);
  if (!stepped) return null;
  return {
    key: "bankResistance",
    label: "Battery to the monitor, by volts that step",
    dimension: "resistance",
    value: stepped.ohms,
    spread: stepped.spread,
    was: site.system.bank.innerResistance,
    origin: "measured",
    evidence: `${plural(stepped.count, "step")} of ${Math.round(stepped.leastA)} A or more`,
    offered: true,
  };
}

/** Least fall of a monitor's percentage that its setting is read from. */
const LEAST_FALL = 8;

/** The capacity that a monitor's percentage was reckoned with: the charge counted over what it shows gone. */
function monitorError({ site, readings }: TestRun): Omit<Found, "entered"> | null {
  const soc = readings.values.soc_pct;
  let first = -1;
  let last = -1;
  for (let i = 0; i < soc.length; i++)
    if (!Number.isNaN(soc[i]!)) {
      // Held at full a monitor shows nothing.
      if (first < 0 && soc[i]! < 99.5) first = i;
      last = i;
    }
  if (first < 0 || soc[first]! - soc[last]! < LEAST_FALL) return null;
  const fell = (soc[first]! - soc[last]!) / 100;
  const counted = ampHoursBetween(readings, first, last);
  const value = counted / fell;
  if (value <= 0) return null;
  return {
    key: "monitor",
    label: "Capacity the monitor reckons with",
    dimension: "charge",
    value,
    spread: (0.007 / fell) * value,
    was: site.system.bank.capacityAh,
    origin: "measured",
    evidence: `${Math.round(counted)} Ah counted while it fell ${Math.round(100 * fell)} points`,
    offered: false,
  };
}

/** Whether a monitor's setting differs from the plate by more than both are sure of. */
export function monitorIsOff({ key, value, spread, was }: Found): boolean {
  return key === "monitor" && Math.abs(value - was) > Math.max(0.08 * was, 2.5 * spread);
}

const entered = (found: Found): Quantity => ({ value: found.entered, origin: found.origin });

/** The system with one found value in it; the document it was given stays as it was. */
export function acceptFound(job: Job, found: Found): Job {
  const unit = (change: Partial<Job["units"][number]>): Job => ({
    ...job,
    units: job.units.map((one, i) => (i === 0 ? { ...one, ...change } : one)),
  });
  switch (found.key) {
    case "running":
      // What was drawn was drawn on that day; the unit's other readings keep theirs (`termsOf`).
      return unit({
        dcRunningCurrent: entered(found),
        ...(found.atC === undefined || job.units[0]!.measuredAtC
          ? {}
          : { measuredAtC: { value: Math.round(10 * found.atC) / 10, origin: found.origin } }),
      });
    case "fan":
      return unit({ dcFanCurrent: entered(found) });
    case "inverterLoss":
      return { ...job, inverter: { ...job.inverter, lossShare: entered(found) } };
    case "heatLoss":
      return { ...job, cabin: { ...job.cabin, heatLoss: entered(found) } };
    case "slowMass":
      return { ...job, cabin: { ...job.cabin, slowMass: entered(found) } };
    case "solarGain":
      return { ...job, cabin: { ...job.cabin, solarGain: entered(found) } };
    case "solarFactor":
      return { ...job, sources: { ...job.sources, systemFactor: entered(found) } };
    case "bankResistance":
      return { ...job, bank: { ...job.bank, resistance: entered(found) } };
    case "capacity":
      return { ...job, bank: { ...job.bank, condition: entered(found) } };
    case "base":
      return withBase(job, entered(found));
    case "monitor":
      return job;
  }
}

/** Id of the load that stands for what a test run measured beside the unit. */
export const BASE_LOAD_ID = "test-run-base";

/** The measured base in the brief's loads: one line in place of those that it is made of, which stay with a duty cycle of none. */
function withBase(job: Job, power: Quantity): Job {
  const rest = job.brief.loads
    .filter(({ id }) => id !== BASE_LOAD_ID)
    .map((load) => (load.dutyCycle?.value === 0 ? load : { ...load, dutyCycle: { value: 0, origin: power.origin } }));
  return {
    ...job,
    brief: {
      ...job.brief,
      loads: [
        ...rest,
        {
          id: BASE_LOAD_ID,
          name: "All else, measured in a test run",
          side: "dc" as const,
          leg: "L1" as const,
          atStart: true,
          power,
          dutyCycle: { value: 1, origin: power.origin },
        },
      ].slice(-60),
    },
  };
}

/** A found value in the terms it is entered in: shares and single batteries in place of the whole battery's. */
function termsOf({ site }: TestRun, { key, value, atC }: Omit<Found, "entered">): number {
  const { values, inverter, bank, converted } = site.system;
  switch (key) {
    case "running": {
      const beside = site.job.units[0]!.measuredAtC?.value;
      return atC === undefined || beside === undefined
        ? value
        : value * heatFactor(site.unit.powerPerKelvin, beside, atC);
    }
    case "capacity":
      return Math.min(1.2, (value * values.bank.condition.value) / bank.capacityAh);
    case "bankResistance":
      return (value * values.bank.resistance.value) / bank.innerResistance;
    case "base":
      return Math.max(0, value - (converted ? inverter.idlePower : 0));
    default:
      return value;
  }
}
