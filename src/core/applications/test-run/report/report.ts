import type { Job } from "../../../document/schema";
import { calibrate, monitorIsOff, type Found } from "../inference/calibrate";
import { ahead, type Forecast } from "../inference/forecast";
import { fit, testRunOf, type TestRun } from "../inference/test-run";
import { handAnswers, type HandAnswers } from "../inference/hand-answers";
import { type WhatIf } from "../inference/propagation";
import { repair, type Repair } from "../log/repair";
import type { Readings } from "../log/readings";
import { settingsSaid, type RunSetting, type SettingsSaid } from "../log/settings-said";
import type { Population } from "../inference/sampler";
import { prospectOf } from "./prospect";
import type { RunConditions } from "../site/conditions";
import { say } from "../../../messages/say";

/** Fewest readings, and shortest log, that a forecast is made from. */
export const LEAST_READINGS = 3;
export const LEAST_S = 60;

export interface Answer {
  testRun: TestRun;
  /** Notes that speak of a setting and are not understood. */
  unclear: SettingsSaid["unclear"];
  repairs: Repair[];
  forecast: Forecast;
  hand: HandAnswers;
  found: Found[];
}

export type Answered = { ok: true; answer: Answer } | { ok: false; message: string; repairs: Repair[] };

export interface AnswerCall {
  particles?: number;
  conditions?: RunConditions;
  /** Settings beside those of the log's notes. */
  settings?: readonly RunSetting[];
  seed?: number;
  from?: Population | null;
  whatIf?: WhatIf;
  progress?(done: number): boolean | void;
}

/** The whole way from raw readings to an answer: repair, segments, fit, forecast, hand answers, found values. Null where it was stopped. */
export function answer(job: Job, raw: Readings, call: AnswerCall = {}): Answered | null {
  const { readings, repairs } = repair(raw);
  const notes = settingsSaid(raw, call.conditions?.notesLeftOut);
  const said = [...notes.settings, ...(call.settings ?? [])].sort((a, b) => a.timeMs - b.timeMs);
  const count = readings.timeMs.length;
  const lasted = count > 0 ? (readings.timeMs[count - 1]! - readings.timeMs[0]!) / 1000 : 0;
  if (count < LEAST_READINGS || lasted < LEAST_S)
    return {
      ok: false,
      message: say("testRun.needsReadings", { least: LEAST_READINGS, count }),
      repairs,
    };
  if (lasted > LONGEST_LOG_S) return { ok: false, message: say("testRun.testRunLastsFive"), repairs };
  const testRun = testRunOf(job, readings, call.conditions, said);
  const population = fit(testRun, call);
  if (!population) return null;
  return {
    ok: true,
    answer: {
      testRun,
      unclear: notes.unclear,
      repairs,
      forecast: ahead(testRun, population, { whatIf: call.whatIf, seed: call.seed }),
      hand: handAnswers(testRun),
      found: calibrate(testRun, population),
    },
  };
}

const LONGEST_LOG_S = 5 * 86_400;

/** Why the hand answers and the forecast differ, in words; empty where they agree within a tenth. */
export function whyDifferent({
  testRun,
  forecast,
  hand,
  found,
}: Pick<Answer, "testRun" | "forecast" | "hand" | "found">): string[] {
  const own = forecast.hoursToReserve.p50;
  const out: string[] = [];
  if (own === null) return [say("testRun.forecastDoesNotReach")];
  const { segments, log } = testRun;
  const differs = (hours: number | null) => hours !== null && Math.abs(hours / own - 1) > 0.1;
  const { pullDown, cycles, charged } = segments;
  const lasted = log.lastS;
  const feeding = charged.find(({ toS }) => toS >= lasted - segments.pace);
  if (feeding) out.push(say("testRun.somethingElsePanelsCharges", { amps: Math.round(feeding.amps) }));
  else if (charged.length > 0 && (differs(hand.average) || differs(hand.halfHour)))
    out.push(say("testRun.averageHoldsWhatEngine"));
  const pulling = pullDown && pullDown.toS === null;
  const pulledFor = pullDown ? ((pullDown.toS ?? lasted) - pullDown.fromS) / lasted : 0;
  if (pulling && (differs(hand.now) || differs(hand.average))) out.push(say("testRun.unitStillPullingCabin"));
  else if (pulledFor > 0.25 && differs(hand.average)) out.push(say("testRun.averageSoFarCounts"));
  if (cycles.length > 0 && !pulling && differs(hand.now)) {
    const resting = segments.state[segments.state.length - 1] !== 2;
    out.push(resting ? say("testRun.ampsNowThoseRest") : say("testRun.ampsNowThoseRun"));
  }
  const { site } = testRun;
  const from = log.steps;
  const to = Math.min(site.steps, from + Math.max(1, Math.round((own * 3600) / site.stepS)));
  let change = 0;
  for (let i = from; i < to; i++)
    change += (log.settings.outdoorC[i]! - log.settings.outdoorC[from - 1]!) / (to - from);
  if (Math.abs(change) > 1.5 && (differs(hand.average) || differs(hand.halfHour)))
    out.push(
      change > 0
        ? say("testRun.willKWarmerOutside", { change: Math.round(change) })
        : say("testRun.willKCoolerOutside", { change: Math.round(-change) }),
    );
  const sunNow = site.solar[Math.max(0, from - 1)]!;
  let sun = 0;
  for (let i = from; i < to; i++) sun += site.solar[i]! / (to - from);
  if (site.panels && Math.abs(sun - sunNow) > 0.15 * Math.max(sun, sunNow) && Math.max(sun, sunNow) > 40)
    out.push(sun < sunNow ? say("testRun.sunWillGiveLess") : say("testRun.sunWillGiveMore"));
  const monitor = found.find(({ key }) => key === "monitor");
  if (monitor && monitorIsOff(monitor)) out.push(say("testRun.monitorReckonsAnotherCapacity"));
  if (out.length === 0 && (differs(hand.now) || differs(hand.average) || differs(hand.halfHour)))
    out.push(say("testRun.handAnswersHoldOne"));
  return out;
}

/** The answer as plain JSON, for the command line. */
export function answerAsJson({ testRun, unclear, repairs, forecast, hand, found }: Answer): unknown {
  const { segments, log, site } = testRun;
  const level = (value: { value: number; spread: number; count: number } | null) =>
    value && { watts: value.value, spread: value.spread, readings: value.count };
  const prospect = prospectOf(testRun, forecast);
  const hours = (seconds: number | null) => (seconds === null ? null : seconds / 3600);
  return {
    readings: segments.seconds.length,
    hours_logged: log.lastS / 3600,
    hours_to_reserve: forecast.hoursToReserve,
    hours_to_cutoff: forecast.hoursToCutoff,
    hours_to_reserve_by_peukert: forecast.hoursByPeukert,
    chance_of_next_sun: prospect.chance && {
      chance: prospect.chance.inTen / 10,
      hours: (prospect.chance.untilS - log.lastS) / 3600,
      at: prospect.chance.at,
    },
    decides: prospect.decides,
    would_help_most: prospect.help && { what: prospect.help.what, narrows_by: prospect.help.narrows },
    conditions: site.conditions,
    state_of_charge_now: forecast.socNow,
    reserve: site.system.bank.reserveSoc,
    by_hand: { amps_now: hand.now, average_so_far: hand.average, last_half_hour: hand.halfHour },
    states: {
      pace_s: segments.pace,
      sun_read_apart: segments.sunApart,
      mains_read_apart: segments.mainsApart,
      current_of_means: segments.ofMeans,
      several_units: segments.several,
      pull_down: segments.pullDown && {
        from_h: hours(segments.pullDown.fromS),
        to_h: hours(segments.pullDown.toS),
      },
      cycles: segments.cycles.map(({ onS, offS, nextS, share, watts }) => ({
        on_h: onS / 3600,
        off_h: offS / 3600,
        next_h: Number.isNaN(nextS) ? null : nextS / 3600,
        run_share: Number.isNaN(share) ? null : share,
        watts: Number.isNaN(watts) ? null : watts,
      })),
      levels: {
        base: level(segments.levels.base),
        between_runs: level(segments.levels.between),
        running: level(segments.levels.running),
        house: level(segments.levels.house),
        compressor_adds: level(segments.levels.step),
      },
      switched_off: segments.switchedOff,
      charged: segments.charged.map(({ fromS, toS, amps }) => ({ from_h: fromS / 3600, to_h: toS / 3600, amps })),
    },
    found: found.map(({ key, label, value, spread, was, origin, evidence }) => ({
      key,
      label,
      value,
      spread,
      was,
      origin,
      evidence,
    })),
    settings: testRun.said.map(({ timeMs, setC, mode, text }) => ({
      at: new Date(timeMs).toISOString(),
      set_c: setC,
      mode,
      said: text,
    })),
    notes_not_understood: unclear.map(({ timeMs, text }) => ({ at: new Date(timeMs).toISOString(), note: text })),
    why_by_hand_differs: whyDifferent({ testRun, forecast, hand, found }),
    repairs: repairs.map(({ what, count, words }) => ({ what, count, words })),
  };
}
