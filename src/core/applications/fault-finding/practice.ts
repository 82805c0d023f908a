import { seeded, type Random } from "../../units/random";
import type { Part, Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { assess } from "../../assessment/verdicts/assess";
import { causeSpec, causesOf, SYMPTOM_KEYS, type CauseKey, type SymptomKey } from "./causes";
import { benchOf, cableRiseK, readingSpec, soundPathOhm, type Bench, type ReadingKey } from "./readings";

/** A system with something wrong with it that only its readings tell: to practise on, and to test the desk by. */
export interface PracticeCase {
  cause: CauseKey;
  symptom: SymptomKey;
  /** What the meters show at a reading, in the order of its fields; one number, 1 or 0, for a question. Null where the system has no such thing. */
  read(reading: ReadingKey): number[] | null;
}

/** Kelvin of a joint over its cable for each watt lost in it (common practice, no source). */
const JOINT_K_PER_W = 1.1;

/** What is wrong, in the system's own terms: the model of the sound system is run with it. */
interface Wrong {
  job: Job;
  /** Ohm more in a lug, and in a breaker. */
  lugOhm: number;
  breakerOhm: number;
  peak: number;
  pauseS: number;
  capacity: number;
  monitor: number;
  daysSinceFull: number;
  shunt: number;
  /** W drawn by what nobody listed. */
  hidden: number;
  sun: number;
  weakPanel: number;
  controllerVolts: number;
  /** Share of the panels' best that the controller passes. */
  controllerCap: number;
  engine: number;
  alternatorVolts: number;
  condenserK: number;
  running: number;
  airFlow: number;
  cooling: number;
  waterFlow: number;
  seaHeat: number;
  roomK: number;
  evenness: number;
  cellVolts: number;
  bankK: number;
  cutOff: number;
  microfarads: number;
  outdoorK: number;
  setPointK: number;
  yes: Partial<Record<ReadingKey, number>>;
}

const between = (random: Random, low: number, high: number) => low + (high - low) * random.even();

function sound(job: Job, random: Random): Wrong {
  return {
    job,
    lugOhm: 0,
    breakerOhm: 0,
    peak: 1 + 0.04 * random.normal(),
    pauseS: 900 * Math.exp(0.6 * random.normal()),
    capacity: 1 + 0.03 * random.normal(),
    monitor: 1,
    daysSinceFull: 3 * Math.exp(0.6 * random.normal()),
    shunt: 1,
    hidden: 0,
    sun: 1 + 0.08 * random.normal(),
    weakPanel: 1 - 0.03 * random.even(),
    controllerVolts: 1 + 0.006 * random.normal(),
    controllerCap: 1,
    engine: 1 + 0.1 * random.normal(),
    alternatorVolts: 0.15 * random.normal(),
    condenserK: 0,
    running: 1 + 0.04 * random.normal(),
    airFlow: 1 + 0.06 * random.normal(),
    cooling: 1 + 0.05 * random.normal(),
    waterFlow: 1 + 0.08 * random.normal(),
    seaHeat: 1,
    roomK: 0,
    evenness: 1 + 0.04 * random.normal(),
    cellVolts: 0.03 * Math.exp(0.4 * random.normal()),
    bankK: 2 * random.normal(),
    cutOff: 1,
    microfarads: 1 - 0.03 * random.even(),
    outdoorK: 1.2 * random.normal(),
    setPointK: 0,
    yes: {},
  };
}

/** Thinner cable in the main run, as it is in the system and not in its papers. */
function thinned(job: Job, share: number): Job {
  const { main } = assess(job).wiring;
  const parts = main.parts.map(({ part, values }): Part =>
    part.kind === "cable" ? { ...part, areaMm2: { value: values.areaMm2!.value * share, origin: "measured" } } : part,
  );
  return { ...job, wiring: { ...job.wiring, main: parts, measured: {} } };
}

/** What a cause is put into a system by. */
interface Breaking {
  bench: Bench;
  /** A random number between two. */
  at: (low: number, high: number) => number;
  /** Ohm that lose so many watts at the full current: what makes a joint smell, whatever the battery's voltage. */
  losing: (watts: number) => number;
}

/** How each cause changes a system, in the cause's own terms. */
const BREAKS: Record<CauseKey, (w: Wrong, breaking: Breaking) => void> = {
  "thin-cable": (w, { at, bench }) => {
    w.job = thinned(bench.job, at(0.22, 0.42));
  },
  "bad-lug": (w, { at, losing, bench }) => {
    w.lugOhm = Math.max(losing(at(18, 70)), 0.35 * soundPathOhm(bench));
  },
  "hot-breaker": (w, { at, losing, bench }) => {
    w.breakerOhm = Math.max(losing(at(20, 60)), 0.25 * soundPathOhm(bench));
  },
  "unlearned-soft-starter": (w, { at }) => {
    w.peak *= at(1.28, 1.5);
    w.yes.peakFalls = 0.95;
  },
  "soft-starter-dead": (w, { bench }) => {
    w.peak *=
      1 /
      (1 -
        bench.assessment.values.units.find((_, i) => bench.job.units[i]!.startAid === "soft-starter")!.softReduction
          .value);
    w.yes.peakFalls = 0.02;
  },
  "economy-mode": (w) => {
    w.yes.economy = 0.99;
  },
  "restart-too-soon": (w, { at }) => {
    w.pauseS = at(20, 170);
    w.yes.onShore = 0.2;
  },
  "weak-capacitor": (w, { at }) => {
    w.microfarads = at(0.4, 0.8);
    w.peak *= at(1.02, 1.15);
    w.running *= at(1.05, 1.15);
    w.yes.onShore = 0.5;
  },
  "tight-compressor": (w, { at }) => {
    w.peak *= at(1.1, 1.3);
    w.running *= at(1.2, 1.45);
    w.cooling *= at(0.65, 0.85);
    w.yes.onShore = 0.75;
  },
  "inverter-small": () => {},
  "others-on": (w) => {
    w.yes.others = 0.97;
  },
  "inverter-hot": (w, { at }) => {
    w.roomK = at(12, 27);
    w.yes.resistive = 0.5;
  },
  "unequal-batteries": (w, { at }) => {
    w.evenness = at(1.35, 2);
  },
  "weak-cell": (w, { at }) => {
    w.cellVolts = at(0.18, 0.6);
    w.capacity = at(0.55, 0.85);
  },
  "tired-bank": (w, { at }) => {
    w.capacity = at(0.45, 0.78);
  },
  "cold-bank": (w, { at }) => {
    w.bankK = -at(18, 32);
    w.capacity = at(0.8, 0.95);
  },
  "cut-off-high": (w, { at }) => {
    w.cutOff = at(1.06, 1.17);
  },
  "wrong-monitor": (w, { at }) => {
    w.monitor = at(1.25, 1.8);
  },
  "monitor-adrift": (w, { at }) => {
    w.daysSinceFull = at(18, 90);
  },
  "shunt-bypassed": (w, { at }) => {
    w.shunt = at(0.45, 0.83);
  },
  "hidden-load": (w, { at }) => {
    w.hidden = at(2, 5);
  },
  "charger-loop": (w, { at }) => {
    w.yes.chargerOn = 0.99;
    w.hidden = at(3, 9);
  },
  "shaded-panel": (w, { at }) => {
    w.yes.shadow = 0.97;
    w.sun = at(0.4, 0.8);
  },
  "dirty-panels": (w, { at }) => {
    w.yes.wiped = 0.97;
    w.sun = at(0.62, 0.82);
  },
  "panel-dead": (w, { at }) => {
    w.weakPanel = at(0.02, 0.6);
    w.sun = at(0.25, 0.75);
  },
  "controller-volts": (w, { at }) => {
    w.controllerVolts = at(0.91, 0.96);
  },
  "controller-small": (w, { at }) => {
    w.controllerCap = at(0.35, 0.65);
  },
  "engine-off": (w) => {
    w.engine = 0.01;
    w.yes.engineSignal = 0.98;
  },
  "engine-drop": (w, { at }) => {
    w.engine = at(0.2, 0.55);
  },
  "alternator-weak": (w, { at }) => {
    w.alternatorVolts = -at(0.9, 1.7);
    w.engine = at(0.15, 0.6);
  },
  "filter-blocked": (w, { at }) => {
    w.airFlow = at(0.55, 0.75);
    w.running *= at(0.87, 0.95);
    w.yes.filter = 0.98;
  },
  "condenser-blocked": (w, { at }) => {
    w.running *= at(1.15, 1.35);
    w.cooling *= at(0.65, 0.85);
    w.yes.condenserLook = 0.96;
  },
  recirculation: (w, { at }) => {
    w.condenserK = at(7, 16);
    w.running *= 1 + 0.012 * w.condenserK;
    w.cooling *= 1 - 0.012 * w.condenserK;
  },
  "cabin-air": (w, { at }) => {
    w.condenserK = -at(4, 8);
    w.yes.sucked = 0.97;
  },
  "low-refrigerant": (w, { at }) => {
    w.cooling *= at(0.3, 0.6);
    w.running *= at(0.65, 0.85);
  },
  "open-cabin": (w) => {
    w.yes.openings = 0.97;
  },
  "clogged-strainer": (w, { at }) => {
    w.waterFlow = at(0.34, 0.58);
    w.running *= at(1.1, 1.3);
    w.yes.strainer = 0.98;
    w.yes.stream = 0.9;
  },
  "pump-dead": (w, { at }) => {
    w.waterFlow = at(0.25, 0.45);
    w.running *= at(1.15, 1.45);
    w.yes.stream = 0.98;
  },
  "coil-scaled": (w, { at }) => {
    w.seaHeat = at(0.45, 0.68);
    w.running *= at(1.15, 1.4);
    w.cooling *= at(0.6, 0.85);
  },
  "unit-leaks": (w) => {
    w.yes.unplugged = 0.02;
    w.yes.onShore = 0.95;
  },
  "two-bonds": (w) => {
    w.yes.unplugged = 0.93;
    w.yes.onShore = 0.25;
  },
  "hotter-than-promised": (w, { at }) => {
    w.outdoorK = at(5, 12);
    w.running *= 1 + 0.009 * w.outdoorK;
  },
  "set-too-cold": (w, { at }) => {
    w.setPointK = at(2, 7);
  },
  sulphated: (w, { at }) => {
    w.capacity = at(0.38, 0.7);
    w.daysSinceFull = at(12, 50);
  },
};

/** Puts a cause into a system. */
function breakIt(cause: CauseKey, bench: Bench, random: Random, w: Wrong): void {
  const current = Math.max(5, bench.assessment.currents["wiring.main"] ?? 0);
  BREAKS[cause](w, {
    bench,
    at: (low, high) => between(random, low, high),
    losing: (watts) => watts / current ** 2,
  });
}

/** Whether a plain heater of the same watts trips it too: where the path takes too much, whatever draws. */
function heaterTrips(w: Wrong, pathRatio: number, random: Random): number {
  if (w.yes.resistive !== undefined) return w.yes.resistive;
  return pathRatio > 1.5 ? 0.75 : pathRatio > 1.2 ? 0.6 : 0.03 + 0.02 * random.even();
}

/**
 * A practice case: a system with a cause in it. Its readings are those of the models of the system with the cause in its own terms
 * (thinner cable, ohms in a joint, microfarads, flow of water), seen through meters with their usual errors; the same seed
 * gives the same practice case. A reading taken again gives another error.
 */
// oxlint-disable-next-line max-lines-per-function -- one answer after another, each a line or two: what every reading of the desk shows
export function practiceCaseOf(job: Job, cause: CauseKey, seed: number): PracticeCase {
  const random = seeded(seed);
  const bench = benchOf(job);
  const w = sound(job, random);
  breakIt(cause, bench, random, w);
  const { assessment } = bench;
  const broken = w.job === job ? assessment : assess(w.job);
  const current = Math.max(5, assessment.currents["wiring.main"] ?? 0);
  const spread = Math.exp(0.1 * random.normal());
  // But for what is wrong the system is built soundly.
  const soundOhm = soundPathOhm(bench);
  const thinner = w.job === job ? 1 : broken.wiring.main.resistance / assessment.wiring.main.resistance;
  const pathOhm = soundOhm * thinner * spread + w.lugOhm + w.breakerOhm;
  const { bank } = buildSystem(job);
  const meter = (value: number, share: number, least: number) =>
    value + (Math.abs(value) * share + least) * random.normal();
  const degrees = (value: number) => Math.round(10 * (value + 0.7 * random.normal())) / 10;
  const air = assessment.values.weather.highestC.value;
  const cableC = air + cableRiseK({ job: w.job, assessment: broken });
  const told = Object.entries(causeSpec(cause).symptoms) as [SymptomKey, number][];
  const all = told.reduce((sum, [, weight]) => sum + weight, 0);
  let pick = random.even() * all;
  const symptom = told.find(([, weight]) => (pick -= weight) <= 0)?.[0] ?? told[0]![0];

  const fieldsOf = (reading: ReadingKey, should: number): number[] => {
    switch (reading) {
      case "path": {
        const volts = bank.nominalVoltage - current * bank.innerResistance;
        return [meter(volts, 0, 0.01), meter(volts - current * pathOhm, 0, 0.01), meter(current, 0.015, 0.3)];
      }
      case "lugRise":
        return [degrees(cableC + 2 + JOINT_K_PER_W * w.lugOhm * current ** 2), degrees(cableC)];
      case "breakerRise":
        return [
          degrees(cableC + 9 + 3 * random.normal() + JOINT_K_PER_W * w.breakerOhm * current ** 2),
          degrees(cableC),
        ];
      case "cableRise":
        return [degrees(cableC), degrees(air)];
      case "peak":
        return [meter(should * w.peak, 0.03, 0.1)];
      case "sinceStop":
        return [w.pauseS];
      case "capacity":
        return [meter(should * w.capacity, 0.02, 0)];
      case "monitorSetting":
        return [should * w.monitor];
      case "lastFull":
        return [w.daysSinceFull * 86_400];
      case "monitorClamp":
        return [meter(current * w.shunt, 0.01, 0.05), meter(current, 0.015, 0.1)];
      case "standby":
        return [meter(should * (1 + w.hidden) * Math.exp(0.2 * random.normal()), 0.02, 0.05)];
      case "solarBest":
        return [meter(should * w.sun * w.controllerCap, 0.03, 1)];
      case "weakPanel":
        return [meter(8 * w.weakPanel, 0.02, 0.02), meter(8, 0.02, 0.02)];
      case "controllerVolts":
        return [should * w.controllerVolts];
      case "controllerCap":
        return [meter(should * w.sun * w.controllerCap, 0.03, 0.2)];
      case "engineAmps":
        return [meter(should * w.engine, 0.04, 0.2)];
      case "engineVolts":
        return [meter(should + w.alternatorVolts, 0, 0.03)];
      case "running":
        return [meter(should * w.running, 0.02, 0.05)];
      case "airSplit":
        // What cooling there is, over the air that carries it.
        return [degrees(26 + (11 * w.cooling) / w.airFlow), degrees(26)];
      case "intakeRise":
        return [degrees(air + should + w.condenserK), degrees(air)];
      case "waterRise":
        return [degrees(25 + (should * w.seaHeat) / w.waterFlow), degrees(25)];
      case "inverterAir":
        return [degrees(air + should + w.roomK), degrees(air)];
      case "share":
        return [meter(40 * should * w.evenness, 0.015, 0.1), meter(40, 0.015, 0.1)];
      case "cellSpread":
        return [w.cellVolts];
      case "bankC":
        return [degrees(should + w.bankK)];
      case "cutOff":
        return [should * w.cutOff];
      case "capacitor":
        return [meter(40 * w.microfarads, 0.01, 0.1), 40];
      case "outdoorOver":
        return [degrees(34 + w.outdoorK), 34];
      case "setPointUnder":
        return [24, 24 - Math.round(w.setPointK)];
      case "resistive":
        return [Number(random.even() < heaterTrips(w, pathOhm / soundOhm, random))];
      default:
        return [Number(random.even() < (w.yes[reading] ?? readingSpec(reading).spread * 0.7))];
    }
  };
  return {
    cause,
    symptom,
    read(reading) {
      const should = readingSpec(reading).expected(bench);
      return should === null ? null : fieldsOf(reading, should);
    },
  };
}

/** A practice case with a cause that nobody knows: even over those that the system can have. */
export function anyPracticeCase(job: Job, seed: number): PracticeCase {
  const causes = causesOf(benchOf(job));
  const random = seeded(seed + 17);
  return practiceCaseOf(job, causes[Math.floor(random.even() * causes.length)]!, seed);
}

/** Whether every symptom has a cause in such a system; for lists that must not lead nowhere. */
export const symptomsOf = (job: Job): SymptomKey[] => {
  const causes = causesOf(benchOf(job));
  return SYMPTOM_KEYS.filter((symptom) => causes.some((cause) => causeSpec(cause).symptoms[symptom]));
};
