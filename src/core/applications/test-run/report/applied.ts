import { assess } from "../../../assessment/verdicts/assess";
import { assessDay } from "../../../assessment/verdicts/day";
import type { Job } from "../../../document/schema";
import { say } from "../../../messages/say";
import { acceptFound, type Found } from "../inference/calibrate";
import { testRunOf, type TestRun } from "../inference/test-run";
import { type Quantiles } from "../inference/quantiles";
import { DIMENSIONS, propagate, startOf, trajectoryOf, type Particle, type Settings } from "../inference/particle";
import { chargeOf, outcomeOf } from "./record";
import type { Session } from "./view";

/*
 * What a job would be with a test run's findings in it, before they are applied: its log replayed with that job, what of the
 * draw no finding explains, and the verdicts before and after beside the run's own forecast.
 */

/** A log replayed with a job as it is: means over the log. */
export interface Replay {
  /** W out of the battery for house and unit: as read, the sun's part added back, and as the job has it. */
  readW: number;
  replayedW: number;
  /** A h out of the battery by the end of the log, as counted and as the job has it. */
  readAh: number;
  replayedAh: number;
  /** Mean difference of the cabin from what was read, K; null where it was not read. */
  cabinOffK: number | null;
  /** Hours from the first reading to the reserve from the charge that the run began with; null beyond two days. */
  hoursToReserve: number | null;
}

/** A verdict's word, and what decides it. */
export interface Worded {
  word: string;
  by: string;
}
export type Verdicts = Record<"starts" | "carries" | "lasts", Worded>;

export interface Applied {
  /** The job with the findings in it, the heat loss brought to what was drawn where it is among them. */
  job: Job;
  taken: Found[];
  before: Replay & { verdicts: Verdicts };
  after: Replay & { verdicts: Verdicts };
  /** The run's own forecast, hours from the first reading; the moment itself where the run has passed its reserve. */
  forecast: Quantiles;
  passed: boolean;
  /** W and A at the battery that no finding explains, more or less than read; null where all is explained. */
  unexplained: { watts: number; amps: number; words: string } | null;
  /** Why the job's hours lie outside the forecast's range; null where they lie in it. */
  whyOutside: string | null;
}

/** Of the read draw, and W, within which a replay explains it. */
const EXPLAINS = 0.05;
const EXPLAINS_W = 8;
/** Of the draw to which a heat loss among the findings is brought, and spreads that it may be moved by for it. */
const NEAR = 0.005;
const MOST_SPREADS = 2.5;
const HALVINGS = 14;

/** The particle that is the job as it is described: every factor one, at what the log shows of its beginning. */
function asDescribed({ site, prior }: TestRun, startSoc: number): Particle {
  const middle = prior.particle(new Float64Array(DIMENSIONS));
  return {
    ...middle,
    heatLoss: 1,
    sun: 1,
    capacity: 1,
    slowMass: 1,
    coupling: 1,
    lightMass: 1,
    setShift: 0,
    outdoor: 0,
    gains: 1,
    draw: 1,
    offLevel: site.base + site.rest,
    bankAh: site.system.bank.capacityAh,
    startSoc,
    solar: 1,
    shape: site.unit.fixed ? 1 : site.unit.bend,
    airChanges: 1,
    zero: 0,
    resistance: 1,
  };
}

/** A log replayed with the job of its test run. */
function replayed(testRun: TestRun, startSoc: number): Replay {
  const { site, log, segments, readings } = testRun;
  const { bank } = site.system;
  const particle = asDescribed(testRun, startSoc);
  const settings: Settings = { ...log.settings, seenC: null };
  const track = trajectoryOf(site.steps);
  propagate(site, particle, settings, startOf(particle), 0, site.steps, track);
  const drawn = (i: number) => particle.offLevel + track.draw[i]! + site.planLoad[i]!;
  let replayedW = 0;
  let share = startSoc;
  let hoursToReserve: number | null = null;
  let replayedAh = 0;
  for (let i = 0; i < site.steps && hoursToReserve === null; i++) {
    const out = (drawn(i) - site.solar[i]! * settings.sky[i]!) / (bank.nominalVoltage * VOLTS_ABOVE_NOMINAL);
    share -= (out * site.stepS) / 3600 / bank.capacityAh;
    if (share <= bank.reserveSoc) hoursToReserve = ((i + 1) * site.stepS) / 3600;
  }
  for (let i = 0; i < log.steps; i++) {
    replayedW += drawn(i) / log.steps;
    const sun = site.solar[i]! * settings.sky[i]!;
    replayedAh += (((drawn(i) - sun) / (bank.nominalVoltage * VOLTS_ABOVE_NOMINAL)) * site.stepS) / 3600;
  }
  let readWs = 0;
  let lasted = 0;
  let off = 0;
  let cabins = 0;
  for (const { fromS, toS, net, cabinC } of segments.windows) {
    readWs += net * (toS - fromS);
    lasted += toS - fromS;
    if (Number.isNaN(cabinC)) continue;
    const at = Math.min(site.steps - 1, Math.floor((fromS + toS) / 2 / site.stepS));
    off += track.cabinC[at]! - cabinC;
    cabins++;
  }
  const current = readings.values.battery_current_a;
  let readAh = 0;
  for (let i = 1; i < current.length; i++)
    readAh -= ((current[i]! + current[i - 1]!) / 2) * ((segments.seconds[i]! - segments.seconds[i - 1]!) / 3600);
  return {
    readW: readWs / Math.max(1, lasted),
    replayedW,
    readAh,
    replayedAh,
    cabinOffK: cabins > 0 ? off / cabins : null,
    hoursToReserve,
  };
}

/** Volts under way over nominal: what the amp-hours of a replay are counted by. */
const VOLTS_ABOVE_NOMINAL = 1.02;

function verdictsOf(job: Job): Verdicts {
  const { starts, carries } = assess(job).verdicts;
  const { lasts } = assessDay(job).verdicts;
  const worded = ({ word, decides }: { word: string; decides: { name: string } }) => ({ word, by: decides.name });
  return { starts: worded(starts), carries: worded(carries), lasts: worded(lasts) };
}

/** What a job would be with some of a session's findings in it, held against the log and the run's own forecast. */
export function appliedOf(job: Job, session: Session, taken: readonly Found[], toReserve: Quantiles): Applied {
  const { testRun, population } = session;
  const { readings, site, said, log } = testRun;
  const { start: startSoc, capacity } = chargeOf(testRun, population);
  const { reserveH } = outcomeOf(testRun, startSoc, capacity);
  const replayOf = (one: Job) => replayed(testRunOf(one, readings, site.conditions, said), startSoc);
  const others = taken.filter(({ key }) => key !== "heatLoss").reduce(acceptFound, job);
  const heat = taken.find(({ key }) => key === "heatLoss");
  const brought = heat ? broughtTo(heat, (value) => replayOf(acceptFound(others, { ...heat, entered: value }))) : null;
  const found = taken.map((one) => (one.key === "heatLoss" && brought !== null ? { ...one, entered: brought } : one));
  const next = found.reduce(acceptFound, job);
  const after = replayOf(next);
  const from = (hours: number | null) => (hours === null ? null : hours + log.lastS / 3600);
  // A reserve that the run has passed is no forecast: its moment stands.
  const forecast =
    reserveH === null
      ? { p10: from(toReserve.p10), p50: from(toReserve.p50), p90: from(toReserve.p90) }
      : { p10: reserveH, p50: reserveH, p90: reserveH };
  const unexplained = unexplainedOf(after, site.system.bank.nominalVoltage);
  return {
    job: next,
    taken: found,
    before: { ...replayOf(job), verdicts: verdictsOf(job) },
    after: { ...after, verdicts: verdictsOf(next) },
    forecast,
    passed: reserveH !== null,
    unexplained,
    whyOutside: reserveH === null ? whyOutside(after, forecast, unexplained !== null) : whyOff(after, reserveH),
  };
}

/** The heat loss with which a replay draws what was read, within what the log leaves open of it. */
function broughtTo({ entered, spread }: Found, replay: (heatLoss: number) => Replay): number {
  const off = (heatLoss: number) => {
    const { readW, replayedW } = replay(heatLoss);
    return replayedW / Math.max(1, readW) - 1;
  };
  const [least, most] = [Math.max(0.3 * entered, entered - MOST_SPREADS * spread), entered + MOST_SPREADS * spread];
  const here = off(entered);
  if (Math.abs(here) < NEAR) return entered;
  let [low, high] = here > 0 ? [least, entered] : [entered, most];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    const at = off(middle);
    if (Math.abs(at) < NEAR) return middle;
    if (at > 0) high = middle;
    else low = middle;
  }
  return (low + high) / 2;
}

function unexplainedOf({ readW, replayedW }: Replay, volts: number): Applied["unexplained"] {
  const watts = readW - replayedW;
  if (Math.abs(watts) <= Math.max(EXPLAINS_W, EXPLAINS * readW)) return null;
  const amps = watts / volts;
  const values = { amps: Math.abs(amps).toFixed(Math.abs(amps) < 10 ? 1 : 0), watts: Math.round(Math.abs(watts)) };
  return { watts, amps, words: say(watts > 0 ? "testRun.unexplainedMore" : "testRun.unexplainedLess", values) };
}

function whyOutside({ hoursToReserve }: Replay, { p10, p90 }: Quantiles, unexplained: boolean): string | null {
  const hours = hoursToReserve ?? Infinity;
  if (hours >= (p10 ?? Infinity) && hours <= (p90 ?? Infinity)) return null;
  if (hours < (p10 ?? Infinity)) return say("testRun.outsideShorter");
  return say(unexplained ? "testRun.outsideUnexplained" : "testRun.outsideLonger");
}

/** Of the hours to a reserve that was passed, within which a replay meets it. */
const MEETS = 0.1;

function whyOff({ hoursToReserve }: Replay, reachedH: number): string | null {
  const off = (hoursToReserve ?? Infinity) / reachedH - 1;
  if (Math.abs(off) <= MEETS) return null;
  return say(off < 0 ? "testRun.reachedLater" : "testRun.reachedSooner");
}
