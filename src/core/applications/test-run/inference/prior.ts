import { agedResistance } from "../../../document/defaults";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { has, type Readings } from "../log/readings";
import type { Segments } from "../segmentation/segments";
import type { RunConditions } from "../site/conditions";
import { INTEGRAL_S } from "../../../simulation/kernel/control";
import { UNTOLD_W, type Site } from "../site/site";
import { steppedOhms } from "./stepped-ohms";
import { DIMENSIONS, PARAMETER_NAMES, type ParameterName, type Particle } from "./particle";

/** What is known before the log is looked at: each parameter's middle, and what one standard deviation of it is. */
export interface Prior {
  particle(z: Float64Array, offset?: number): Particle;
  widths: Record<ParameterName, number>;
}

const INDEX = Object.fromEntries(PARAMETER_NAMES.map((name, i) => [name, i])) as Record<ParameterName, number>;

/*
 * Widths, as one sigma of a factor's logarithm unless said. They are the trade's ignorance of a described system, from the
 * ranges in the system's own fields (low to high taken as two and a half sigma), not from any test run.
 */
const WIDTHS: Record<ParameterName, number> = {
  heatLoss: 0.22,
  sun: 0.32,
  capacity: 0.1,
  slowMass: 0.5,
  coupling: 0.3,
  lightMass: 0.45,
  cabinStart: 4,
  massStart: 2,
  setPoint: 1.2,
  outdoor: 2.2,
  gains: 0.42,
  draw: 0.1,
  offLevel: 0.35,
  bankAh: 0.05,
  startSoc: 1,
  solar: 0.25,
  shape: 0.14,
  airChanges: 0.5,
  zero: 0.012,
  voltsOff: 1,
  resistance: 0.3,
  settling: 0.7,
};
/**
 * Capacity as it is found over what plate and condition say: new lithium gives two hundredths more than its plate, one of
 * an age that nobody told of the plate's; lead-acid less (common practice, no source). A measured condition is itself.
 */
const FOUND = {
  newLithium: { share: 1.02, width: 0.05 },
  lithium: { share: 1, width: 0.05 },
  lead: { share: 0.98, width: 0.065 },
  measured: { share: 1, width: 0.025 },
} as const;
/** The same where the battery's age was said in words (common practice, no source). */
const FOUND_AT_AGE = {
  lithium: {
    new: { share: 1.03, width: 0.02 },
    "some-years": { share: 0.86, width: 0.055 },
    tired: { share: 0.72, width: 0.08 },
  },
  lead: {
    new: { share: 0.98, width: 0.04 },
    "some-years": { share: 0.8, width: 0.08 },
    tired: { share: 0.6, width: 0.1 },
  },
} as const;
/**
 * Of a monitor's percentage, which counts amps from its last full charge on: it drifts from there with its zero and a wrong
 * capacity, a hundredth or two in some days and several in weeks (common practice, no source).
 */
const MONITOR_WIDTH = { now: 0.015, days: 0.03, weeks: 0.08, untold: 0.03 } as const;
/** Of a battery that was charged full just before. */
const FULL = { share: 1, width: 0.02 } as const;
/** Cooling of an installed unit over its plate's: ducts, filters and sun on its case cost a little (common practice, no source). */
const INSTALLED = 0.97;
/**
 * Of the system's slow mass what moves along within an evening: the depth of boards and cushions that a swing of some hours
 * reaches (ISO 13786's periodic penetration; share from memory).
 */
const MOVES_ALONG = 0.8;
/**
 * Of the system's heat capacity of air and linings what moves with the air: linings lie behind air films of their own and
 * move with the slow mass (ISO 13790's films; from memory).
 */
const MOVES_WITH_AIR = 0.75;
/** Sun taken up over that of a white skin where nobody told its colour: one in four is grey or dark (common practice, no source). */
const COLOUR_UNSAID = 0.15;
/** Share of its own heat over outdoors that a cabin keeps where people are in and out of it before they cool it. */
const AIRED = 0.65;
/** And of its own moisture, which an open door takes within minutes where the heat of boards comes back (common practice, no source). */
const MOIST = 0.25;

/**
 * Of the system's exchange between air and slow mass, which is that of the air films alone: boards and cushions lie behind
 * them (ISO 13790 comes to half of the films' for light rooms; from memory).
 */
const BEHIND_FILM = 0.8;

/**
 * What was said of the test run's day narrows what it is about; what was not said stays wide. People run such tests on days that
 * are warmer than the month's usual one (common practice, no source).
 */
const SAID = { sun: 0.24, gains: 0.3, outdoor: 1.5, startSoc: 0.02 } as const;
const UNSAID = { sun: 0.34, gains: 0.45, warmerK: 3 } as const;

/** Widths of what a test run's conditions are about, and K by which its day is taken to be warmer than the line that is held. */
function byConditions({ people, colour, blinds, shade, forecastHighC, forecastLowC }: RunConditions) {
  const dayKnown = forecastHighC !== null || forecastLowC !== null;
  return {
    sun: colour !== null && blinds !== null && shade !== null ? SAID.sun : UNSAID.sun,
    gains: people === null ? UNSAID.gains : SAID.gains,
    outdoor: dayKnown ? SAID.outdoor : WIDTHS.outdoor,
    warmerK: dayKnown ? 0 : UNSAID.warmerK,
  };
}

const known = (origin: string | undefined) => origin === "measured" || origin === "fitted";

interface Share {
  share: number;
  width: number;
}

/** What is known and what is shown lie too far apart to be of one charge from so many of their widths on. */
const APART = 2.5;

/**
 * What is known of a share and what a monitor shows of it as one, each by the inverse square of its width. Where they cannot
 * both be true, what was said as the test run began counts, and the monitor before what the job takes for granted.
 */
function agreed(known: Share, shown: Share, saidNow: boolean): Share {
  if (Math.abs(known.share - shown.share) > APART * Math.hypot(known.width, shown.width))
    return saidNow ? known : shown;
  const [wk, ws] = [1 / known.width ** 2, 1 / shown.width ** 2];
  return { share: (known.share * wk + shown.share * ws) / (wk + ws), width: 1 / Math.sqrt(wk + ws) };
}

/** Of what a battery's resistance is from make to make, as a logarithm: 3 to 8 mohm of 100 A h at 12 V (common practice, no source). */
const MAKE_TO_MAKE = 0.4;

/**
 * What a battery holds where its volts step by `times` the resistance that is taken for granted: less where it is more, by how
 * resistance grows with age (`agedResistance`). A low resistance says nothing: makes differ, and new is new.
 */
function agedBy(lithium: boolean, { share, width }: Share, times: number): Share {
  if (times <= 1) return { share, width };
  const perShare = (agedResistance(lithium, 0.5) - agedResistance(lithium, 0.9)) / (0.9 - 0.5);
  const gain = (perShare * width ** 2) / ((perShare * width) ** 2 + MAKE_TO_MAKE ** 2);
  return { share: share - gain * Math.log(times), width: width * Math.sqrt(1 - gain * perShare) };
}

/** Width of a bend that the low fan was measured for: it tells one point of the curve. */
const MEASURED_BEND_WIDTH = 0.07;

/** Prior of a log on its system: the document's values and how they are known, narrowed by the columns that were read. */
// oxlint-disable-next-line max-lines-per-function -- one quantity of the prior after another: a list, with no way through it
export function priorOf(site: Site, readings: Readings, segments: Segments, setSaid = false): Prior {
  const { job, system } = site;
  const { values } = system;
  const { warmerK, ...said } = byConditions(site.conditions);
  const widths = { ...WIDTHS, ...said };
  if (known(values.cabin.heatLoss?.origin)) widths.heatLoss = 0.1;
  if (known(values.units[0]!.coolingPower.origin)) widths.capacity = 0.06;
  // How long a started circuit takes to cool in full is known less well than how a variable unit's draw bends.
  if (site.unit.fixed) widths.shape = 0.5;
  else if (values.units[0]!.dcLowCurrent) widths.shape = MEASURED_BEND_WIDTH;
  const asked = setSaid || site.planMode.some((mode) => mode >= 2);
  const setOrigin = values.brief.setPointC.origin;
  widths.setPoint = asked || setOrigin !== "assumed" ? 0.9 : 1.6;

  // Levels that the log itself shows take the place of the system's.
  const { base, between, running } = segments.levels;
  const seenOff = between ?? null;
  const fanBetween = site.rest;
  let off = site.base + UNTOLD_W + fanBetween;
  const { house, fan } = segments.levels;
  if (segments.mainsApart && house) {
    const fanSeen = fan && fan.count >= 3 ? fan.value : fanBetween;
    off = Math.max(1, house.value) + (site.unit.fanBetween ? fanSeen : 0);
    widths.offLevel = 0.05 + 0.1 * (fanBetween / off);
  } else if (seenOff) {
    off = Math.max(1, seenOff.value);
    // A reading or two may have fallen into a fridge's run or beside it.
    widths.offLevel = seenOff.count >= 3 ? 0.06 : 0.15;
  } else if (base && base.count >= 3) {
    off = Math.max(1, base.value) + fanBetween;
    widths.offLevel = 0.15;
  }
  if (site.unit.fixed && running && running.count >= 3) widths.draw = 0.12;

  // Where the cabin stood at the first reading.
  const cabin = readings.values.cabin_temp_c;
  const first = cabin.findIndex((value) => !Number.isNaN(value));
  const readCabin = first >= 0 && segments.seconds[first]! < 900;
  const { free } = site;
  // Shut all day it would stand at `free`; most are aired until the unit goes on.
  const outdoorC = readings.values.outdoor_temp_c.find((value) => !Number.isNaN(value)) ?? site.outdoorC[0]!;
  const aired = outdoorC + AIRED * (free.cabinC - site.outdoorC[0]!);
  const cabinMiddle = readCabin ? cabin[first]! : aired;
  widths.cabinStart = readCabin ? 0.6 : WIDTHS.cabinStart;
  const massMiddle = cabinMiddle + Math.min(3, Math.max(-3, 0.6 * (free.massC - free.cabinC)));

  const humidity = site.humidity[0]! + MOIST * (free.humidity - site.humidity[0]!);

  const outdoorRead = has(readings, "outdoor_temp_c");
  if (outdoorRead) widths.outdoor = 0.7;
  if (has(readings, "solar_power_w")) widths.solar = 0.2;

  // Charge at the start: the monitor's, where there is one, else the system's.
  const soc = readings.values.soc_pct;
  const firstSoc = soc.findIndex((value) => !Number.isNaN(value));
  const counted = firstSoc > 0 ? ampHoursBetween(readings, 0, firstSoc) : 0;
  const startKnown = firstSoc >= 0;
  const startOrigin = values.bank.startSoc.origin;
  // What is known of the charge and what the monitor shows are two readings of one thing: each counts by how sure it is.
  const { lastFull, startSoc: saidSoc } = site.conditions;
  const justFull = lastFull === "now" && saidSoc === null;
  const saidNow = saidSoc !== null || justFull;
  const told = justFull
    ? FULL
    : {
        share: system.bank.startSoc,
        width: saidNow || known(startOrigin) ? SAID.startSoc : startOrigin === "plate" ? 0.035 : 0.06,
      };
  const shown = startKnown
    ? { share: soc[firstSoc]! / 100 + counted / system.bank.capacityAh, width: MONITOR_WIDTH[lastFull ?? "untold"] }
    : null;
  const start = shown === null ? told : agreed(told, shown, saidNow);
  widths.startSoc = start.width;
  const { condition } = values.bank;
  const measured = known(condition.origin);

  const stepCurrent = (running?.value ?? site.unit.power) / system.bank.nominalVoltage;
  const lithium = CHEMISTRIES[job.bank.chemistry].lithium;
  const isNew = condition.origin !== "assumed" && condition.value >= 1;
  const { batteryAge } = site.conditions;
  const atAge = measured || batteryAge === null ? null : FOUND_AT_AGE[lithium ? "lithium" : "lead"][batteryAge];
  const found = measured ? FOUND.measured : (atAge ?? FOUND[!lithium ? "lead" : isNew ? "newLithium" : "lithium"]);
  // What an age says is of the plate, whatever condition the job takes for granted.
  const plateAh = atAge ? system.bank.capacityAh / condition.value : system.bank.capacityAh;
  // A worn battery has more resistance, too; where its age is not known, volts that step with the draw tell of it.
  const stepped =
    measured || atAge || known(values.bank.resistance.origin) ? null : steppedOhms(site, readings, segments);
  const aged = stepped ? agedBy(lithium, found, stepped.ohms / system.bank.innerResistance) : found;
  const worn = atAge ? agedResistance(lithium, atAge.share) / agedResistance(lithium, condition.value) : 1;
  widths.bankAh = aged.width;
  const zeroWidth = widths.zero * Math.max(20, stepCurrent);
  const w = Float64Array.from(PARAMETER_NAMES, (name) => widths[name]);

  const darker = site.conditions.colour === null ? COLOUR_UNSAID : 0;
  const particle = (z: Float64Array, at = 0): Particle => {
    const v = (i: number) => z[at + i]! * w[i]!;
    // Full is full: what would be over it is a little under.
    let startSoc = start.share + v(INDEX.startSoc) - (startKnown ? 0.005 : 0.015);
    if (startSoc > 1) startSoc = Math.max(0.5, 1 - 0.3 * (startSoc - 1));
    const share = Math.max(0.2, aged.share + v(INDEX.bankAh));
    return {
      heatLoss: Math.exp(v(INDEX.heatLoss)),
      sun: Math.exp(v(INDEX.sun) + darker - 0.05),
      capacity: INSTALLED * Math.exp(v(INDEX.capacity)),
      slowMass: MOVES_ALONG * Math.exp(v(INDEX.slowMass)),
      coupling: BEHIND_FILM * Math.exp(v(INDEX.coupling)),
      lightMass: MOVES_WITH_AIR * Math.exp(v(INDEX.lightMass)),
      cabinC: cabinMiddle + v(INDEX.cabinStart),
      massC: massMiddle + v(INDEX.massStart) + (readCabin ? 0 : 0.8 * v(INDEX.cabinStart)),
      humidity,
      setShift: v(INDEX.setPoint),
      outdoor: (outdoorRead ? 0 : warmerK) + v(INDEX.outdoor),
      gains: Math.exp(v(INDEX.gains)),
      draw: Math.exp(v(INDEX.draw)),
      offLevel: off * Math.exp(v(INDEX.offLevel)),
      bankAh: plateAh * share,
      startSoc: Math.max(0.02, startSoc),
      solar: Math.exp(v(INDEX.solar) - 0.03),
      // A variable unit's draw bends as its low fan was measured, or as is usual.
      shape: site.unit.bend * Math.exp(v(INDEX.shape)),
      airChanges: Math.exp(v(INDEX.airChanges)),
      zero: z[at + INDEX.zero]! * zeroWidth,
      voltsOff: z[at + INDEX.voltsOff]!,
      resistance: worn * Math.exp(v(INDEX.resistance)),
      settling: INTEGRAL_S * Math.exp(v(INDEX.settling)),
    };
  };
  return { particle, widths };
}

/** A h out of the battery between two readings, by the trapezium; gaps are bridged. */
export function ampHoursBetween({ timeMs, values }: Readings, from: number, to: number): number {
  let sum = 0;
  const current = values.battery_current_a;
  for (let i = from + 1; i <= to; i++)
    sum -= ((current[i]! + current[i - 1]!) / 2) * ((timeMs[i]! - timeMs[i - 1]!) / 3_600_000);
  return sum;
}

export const middleOf = (prior: Prior): Particle => prior.particle(new Float64Array(DIMENSIONS));
