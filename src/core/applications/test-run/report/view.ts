import type { Job } from "../../../document/schema";
import type { Charged } from "../segmentation/charged";
import { calibrate, monitorIsOff, type Found } from "../inference/calibrate";
import { ahead } from "../inference/forecast";
import { fit, testRunOf, type Effort, type TestRun } from "../inference/test-run";
import { handAnswers, type HandAnswers } from "../inference/hand-answers";
import { type Fan } from "../inference/fan";
import { type Quantiles } from "../inference/quantiles";
import { type WhatIf, type Onward } from "../inference/propagation";
import { propagate, DIMENSIONS, startOf, trajectoryOf } from "../inference/particle";
import { chargeOf, outcomeOf, forecastSnapshot, SNAPSHOT_MINUTES, type Outcome, type ForecastSnapshot } from "./record";
import { gapsOf, repair, type Gap, type Repair } from "../log/repair";
import { firstMinutes, type Readings } from "../log/readings";
import { settingsSaid, type RunSetting, type SettingsSaid } from "../log/settings-said";
import type { Population } from "../inference/sampler";
import { STATES, type Cycle, type Segments, type State } from "../segmentation/segments";
import { learning, startPeaks, type StartPeak } from "../segmentation/starts";
import { thinned } from "../log/thin";
import { prospectOf, type Prospect } from "./prospect";
import { LEAST_READINGS, LEAST_S, whyDifferent } from "./report";
import { reachUntil, type Reach } from "../inference/reach";
import { parseWhatIf, untilSecond } from "../inference/what-if";
import type { RunConditions } from "../site/conditions";
import { say } from "../../../messages/say";

/** Readings that the analysis looks at, and points that a picture has of it. */
export const MOST_ANALYSED = 12_000;
const MOST_DRAWN = 1600;

/** A log as the Test run stage shows it: everything plain, ready to be sent between threads. */
export interface TestRunView {
  startMs: number;
  /** Seconds from the first reading to the last. */
  lastS: number;
  readings: number;
  repairs: Repair[];
  gaps: Gap[];
  /** Lines of the strip, by drawn point. */
  seconds: Float64Array;
  /** A out of the bank. */
  amps: Float64Array;
  /** Charge: counted from the middle start and capacity; and as the monitor shows it, NaN where it does not. */
  share: Float64Array;
  shown: Float64Array;
  cabinC: Float64Array;
  outdoorC: Float64Array;
  solar: Float64Array;
  /** Spans of one state, in seconds. */
  states: { fromS: number; toS: number; state: State | "untold" }[];
  cycles: Cycle[];
  pullDown: { fromS: number; toS: number | null } | null;
  levels: Segments["levels"];
  ofMeans: boolean;
  several: boolean;
  /** Panels may give that were not read: levels are of readings in the dark alone. */
  panelsUnread: boolean;
  switchedOff: boolean;
  charged: Charged[];
  peaks: StartPeak[];
  peaksSay: ReturnType<typeof learning>;
  notes: { ms: number; text: string }[];
  /** Settings as notes and buttons said them, those that were not understood, and what the unit is set to at the log's end. */
  said: RunSetting[];
  unclear: SettingsSaid["unclear"];
  leftOut: SettingsSaid["leftOut"];
  setNow: { setC: number; mode: number };
  /** Charge as the design predicted it from the first reading on, every five minutes. */
  predicted: Float64Array;
  predictedStepS: number;
  reserve: number;
  toReserve: Quantiles;
  toCutoff: Quantiles;
  socNow: Quantiles;
  fan: Fan;
  /** Hours to the reserve as Peukert counts it; null where the battery has no such loss. */
  byPeukert: Quantiles | null;
  prospect: Prospect;
  hand: HandAnswers;
  why: string[];
  found: Found[];
  monitorOff: boolean;
  /** Forecasts at the usual minutes, as far as the log has come. */
  outcome: Outcome;
}

export type ViewAnswer =
  | { ok: true; view: TestRunView }
  | { ok: false; message: string; repairs: Repair[]; readings: number };

/** What a session on one log keeps between questions. */
export interface Session {
  testRun: TestRun;
  population: Population;
}

export interface ViewCall extends Effort {
  conditions?: RunConditions;
  seed?: number;
  whatIf?: WhatIf;
  from?: Population | null;
  progress?(done: number): boolean | void;
}

/** Repairs, thins and analyses a log for the stage. Null where it was stopped. */
export function viewOf(
  job: Job,
  raw: Readings,
  call: ViewCall,
): { answer: ViewAnswer; session: Session | null } | null {
  const { readings: whole, repairs } = repair(raw);
  const count = whole.timeMs.length;
  const lasted = count > 0 ? (whole.timeMs[count - 1]! - whole.timeMs[0]!) / 1000 : 0;
  if (count < LEAST_READINGS || lasted < LEAST_S || lasted > 5 * 86_400)
    return {
      answer: {
        ok: false,
        message: lasted > 5 * 86_400 ? say("testRun.testRunLastsFive") : say("testRun.forecastBeginsThreeReadings"),
        repairs,
        readings: count,
      },
      session: null,
    };
  const readings = thinned(whole, MOST_ANALYSED);
  const said = settingsSaid(raw, call.conditions?.notesLeftOut);
  const testRun = testRunOf(job, readings, call.conditions, said.settings);
  const population = fit(testRun, call);
  if (!population) return null;
  const session = { testRun, population };
  return { answer: { ok: true, view: drawView(session, { whole, repairs, said }, call) }, session };
}

/**
 * Times to the reserve under changes to the rest of the test run, from a session's population; to the cut-off where the
 * reserve is passed already.
 */
export function whatIfs(session: Session, changes: readonly WhatIf[]): Quantiles[] {
  const { testRun, population } = session;
  const { start, capacity } = chargeOf(testRun, population);
  const passed = outcomeOf(testRun, start, capacity).reserveH !== null;
  return changes.map((whatIf) => {
    const { hoursToReserve, hoursToCutoff } = ahead(testRun, population, { whatIf, toReserve: !passed });
    return passed ? hoursToCutoff : hoursToReserve;
  });
}

/** The same for changes as people write them (`parseWhatIf`); throws where one is not understood. */
export function whatIfsWritten(session: Session, texts: readonly string[], timeZone: string): Quantiles[] {
  const { timeMs } = session.testRun.readings;
  const at = { startMs: timeMs[0]!, nowMs: timeMs[timeMs.length - 1]!, timeZone };
  return whatIfs(
    session,
    texts.map((text) => {
      const read = parseWhatIf(text, at);
      if (!read.ok) throw new Error(read.message);
      return read.whatIf;
    }),
  );
}

/** What to set to last until a time of day as it is typed; null where it is none. */
export function reachWritten({ testRun, population }: Session, until: string, timeZone: string): Reach | null {
  const { timeMs } = testRun.readings;
  const untilS = untilSecond(until, { startMs: timeMs[0]!, nowMs: timeMs[timeMs.length - 1]!, timeZone });
  return untilS === null ? null : reachUntil(testRun, population, untilS);
}

/** The forecasts as they would have been given at the usual minutes of a log, for what was predicted against what happened. */
export function forecastSnapshots(
  job: Job,
  raw: Readings,
  { particles = 250, conditions }: { particles?: number; conditions?: RunConditions } = {},
): ForecastSnapshot[] {
  const { readings } = repair(raw);
  const said = settingsSaid(raw, conditions?.notesLeftOut).settings;
  const count = readings.timeMs.length;
  if (count < LEAST_READINGS) return [];
  const lastMin = (readings.timeMs[count - 1]! - readings.timeMs[0]!) / 60_000;
  const out: ForecastSnapshot[] = [];
  for (const minutes of SNAPSHOT_MINUTES) {
    if (minutes > lastMin) break;
    const cut = thinned(firstMinutes(readings, minutes), MOST_ANALYSED);
    if (cut.timeMs.length < LEAST_READINGS) continue;
    // Nobody knew by then how it would be set later.
    const end = cut.timeMs[cut.timeMs.length - 1]!;
    const before = said.filter(({ timeMs }) => timeMs <= end);
    const testRun = testRunOf(job, cut, conditions, before);
    const population = fit(testRun, { particles: particles });
    if (population) out.push(forecastSnapshot(minutes, ahead(testRun, population), handAnswers(testRun)));
  }
  return out;
}

function drawView(
  { testRun, population }: Session,
  { whole, repairs, said }: { whole: Readings; repairs: Repair[]; said: SettingsSaid },
  { whatIf, seed }: Pick<Onward, "whatIf" | "seed">,
): TestRunView {
  const { readings, segments, site, log } = testRun;
  const forecast = ahead(testRun, population, { whatIf, seed });
  const hand = handAnswers(testRun);
  const found = calibrate(testRun, population);
  const { start, capacity } = chargeOf(testRun, population);
  const drawn = thinned(readings, MOST_DRAWN);
  const first = readings.timeMs[0]!;
  const current = drawn.values.battery_current_a;
  const seconds = Float64Array.from(drawn.timeMs, (ms) => (ms - first) / 1000);
  const share = new Float64Array(seconds.length);
  let counted = 0;
  for (let i = 0; i < seconds.length; i++) {
    if (i > 0) counted -= ((current[i]! + current[i - 1]!) / 2) * ((seconds[i]! - seconds[i - 1]!) / 3600);
    share[i] = start - counted / capacity;
  }
  const peaks = startPeaks(whole);
  return {
    startMs: first,
    lastS: log.lastS,
    readings: whole.timeMs.length,
    repairs,
    gaps: gapsOf(readings).slice(0, 200),
    seconds,
    amps: current.map((amps) => -amps),
    share,
    shown: drawn.values.soc_pct.map((percent) => percent / 100),
    cabinC: drawn.values.cabin_temp_c,
    outdoorC: drawn.values.outdoor_temp_c,
    solar: drawn.values.solar_power_w,
    states: spansOf(segments),
    cycles: segments.cycles,
    pullDown: segments.pullDown,
    levels: segments.levels,
    ofMeans: segments.ofMeans,
    several: segments.several,
    panelsUnread: !segments.sunApart,
    switchedOff: segments.switchedOff,
    charged: segments.charged,
    peaks,
    peaksSay: learning(peaks),
    notes: whole.notes.slice(-500).map(({ at, text }) => ({ ms: whole.timeMs[at]!, text })),
    said: [...testRun.said],
    unclear: said.unclear,
    leftOut: said.leftOut,
    setNow: setNow(testRun),
    ...predictedLine(testRun, start),
    reserve: site.system.bank.reserveSoc,
    toReserve: forecast.hoursToReserve,
    toCutoff: forecast.hoursToCutoff,
    socNow: forecast.socNow,
    byPeukert: forecast.hoursByPeukert,
    prospect: prospectOf(testRun, forecast),
    fan: forecast.fan,
    hand,
    why: whyDifferent({ testRun, forecast, hand, found }),
    found,
    monitorOff: found.some(monitorIsOff),
    outcome: outcomeOf(testRun, start, capacity),
  };
}

/** Set point, degC, and mode that the forecast goes on from. */
function setNow({ log }: TestRun): TestRunView["setNow"] {
  const at = Math.min(log.settings.setC.length - 1, log.steps);
  return { setC: log.settings.setC[at]!, mode: log.settings.mode[at]! };
}

function spansOf({ seconds, state, chargedAt, mainsApart }: Segments): TestRunView["states"] {
  const spans: TestRunView["states"] = [];
  for (let i = 0; i < seconds.length; i++) {
    // What a unit did while something else fed the battery, its mains watts alone could say.
    const here = chargedAt[i] === 1 && !mainsApart ? "untold" : STATES[state[i]!]!;
    const last = spans[spans.length - 1];
    if (last && last.state === here) last.toS = seconds[i]!;
    else {
      const edge = i === 0 ? seconds[0]! : (seconds[i]! + seconds[i - 1]!) / 2;
      if (last) last.toS = edge;
      spans.push({ fromS: edge, toS: seconds[i]!, state: here });
    }
  }
  return spans;
}

const PROMISED_STEP_S = 300;

/** The design's own line from the log's start on, from the charge it began with: the system as its document has it, on a usual day. */
function predictedLine(testRun: TestRun, startSoc: number): { predicted: Float64Array; predictedStepS: number } {
  const { site, log } = testRun;
  const { bank } = site.system;
  const own = testRun.prior.particle(new Float64Array(DIMENSIONS));
  const particle = {
    ...own,
    offLevel: site.base + site.rest,
    startSoc,
    bankAh: bank.capacityAh,
    cabinC: site.free.cabinC,
    massC: site.free.massC,
  };
  const settings = {
    ...log.settings,
    outdoorC: site.outdoorC,
    sky: new Float64Array(site.steps).fill(1),
    shiftWeight: new Float64Array(site.steps),
  };
  const track = trajectoryOf(site.steps);
  propagate(site, particle, settings, startOf(particle), 0, site.steps, track);
  const stride = Math.max(1, Math.round(PROMISED_STEP_S / site.stepS));
  const predicted: number[] = [];
  let share = particle.startSoc;
  for (let i = 0; i < site.steps && share > 0; i++) {
    if (i % stride === 0) predicted.push(share);
    const watts = particle.offLevel + track.draw[i]! - site.solar[i]!;
    share = Math.min(1, share - (watts * site.stepS) / 3600 / (bank.nominalVoltage * 1.03) / bank.capacityAh);
  }
  return { predicted: Float64Array.from(predicted), predictedStepS: stride * site.stepS };
}
