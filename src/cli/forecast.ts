import { readLog } from "../csv/log";
import { timeZoneOfJob } from "../core/document/place";
import type { RunConditions } from "../core/applications/test-run/site/conditions";
import type { Job } from "../core/document/schema";
import { answer, answerAsJson } from "../core/applications/test-run/report/report";
import { firstMinutes } from "../core/applications/test-run/log/readings";
import { settingsFile } from "../core/applications/test-run/log/settings-said";
import { reachUntil, type Reach, type Way } from "../core/applications/test-run/inference/reach";
import { parseWhatIf, untilSecond } from "../core/applications/test-run/inference/what-if";

export interface ForecastCall {
  /** Minutes of the log that are used, from its first reading; null for all. */
  minutes: number | null;
  /** What is changed for the rest of the run; null for as it is. */
  plan: string | null;
  /** Time of day that the charge is wished to last until; null where none is asked for. */
  until: string | null;
  /** What was said of the run's day. */
  conditions: RunConditions;
  /** A file of settings beside the log's notes; null where there is none. */
  settings: string | null;
}

/** What to set to last until a time, as plain JSON. */
function reachAsJson({ untilS, asItIs, way, nearest }: Reach, startMs: number): unknown {
  const told = (one: Way) => ({
    set_c: one.setC,
    fan: one.fan,
    off_from: one.offFromS === null ? null : new Date(startMs + one.offFromS * 1000).toISOString(),
    chance: one.chance,
    warmer_kh: one.warmerKh,
  });
  return {
    at: new Date(startMs + untilS * 1000).toISOString(),
    as_it_is: told(asItIs),
    settings: way && told(way),
    nearest: nearest && told(nearest),
  };
}

/** A forecast of a log as JSON text, or why there is none. */
export function forecastOutput(
  job: Job,
  text: string,
  { minutes, plan, until, conditions, settings }: ForecastCall,
): { ok: true; text: string } | { ok: false; message: string } {
  const zone = timeZoneOfJob(job);
  const read = readLog(text, zone);
  if (!read.ok) return read;
  const { readings } = read.log;
  const order = readings.timeMs.reduce((first, ms) => Math.min(first, ms), Infinity);
  const cut = minutes === null ? readings : firstMinutes({ ...readings }, minutes, order);
  const end = cut.timeMs.reduce((last, ms) => Math.max(last, ms), -Infinity);
  const what = plan === null ? null : parseWhatIf(plan, { startMs: order, nowMs: end, timeZone: zone });
  if (what && !what.ok) return { ok: false, message: `--plan: ${what.message}` };
  const file = settings === null ? null : settingsFile(settings, zone);
  if (file && file.faults.length > 0)
    return {
      ok: false,
      message: file.faults.map(({ line, message: why }) => `--settings, line ${line}: ${why}`).join("; "),
    };
  const answered = answer(job, cut, {
    conditions,
    ...(what ? { whatIf: what.whatIf } : {}),
    ...(file ? { settings: file.settings.filter(({ timeMs }) => timeMs <= end) } : {}),
  });
  if (!answered) return { ok: false, message: "stopped" };
  if (!answered.ok) return { ok: false, message: answered.message };
  const untilS = until === null ? null : untilSecond(until, { startMs: order, nowMs: end, timeZone: zone });
  if (until !== null && untilS === null) return { ok: false, message: `--until: “${until}” is no time of day` };
  const { testRun, forecast } = answered.answer;
  const reach = untilS === null ? null : reachUntil(testRun, forecast.population, untilS);
  const { understood, refused } = read.log;
  return {
    ok: true,
    text: `${JSON.stringify(
      {
        name: job.name,
        ...(answerAsJson(answered.answer) as object),
        ...(reach ? { until: reachAsJson(reach, order) } : {}),
        read: {
          kind: read.log.kind,
          sign_from: understood?.signFrom ?? "format",
          doubts: understood?.doubts ?? [],
          rows_without_reading: refused.count,
        },
      },
      null,
      2,
    )}\n`,
  };
}
