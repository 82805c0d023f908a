import { setImmediate as breathe } from "node:timers/promises";
import { offsetAt } from "@/core/units/clock";
import { timeZoneOfJob } from "@/core/document/place";
import { pick, type Readings } from "@/core/applications/test-run/log/readings";
import { logPieces } from "@/csv/log";
import { attachment } from "@/server/handler";
import { jobOfTestRun, testRunHandler } from "@/server/test-run-handler";
import { logOfTestRun } from "@/server/test-runs";

/** Offset of a time zone, asked of the calendar once an hour. */
function offsetIn(zone: string): (ms: number) => number {
  let hour = NaN;
  let offset = 0;
  return (ms) => {
    if (Math.floor(ms / 3_600_000) !== hour) {
      hour = Math.floor(ms / 3_600_000);
      offset = offsetAt(zone, ms);
    }
    return offset;
  };
}

/** Readings by their time, all of them: also those without a current, which a forecast has no use for. */
function inOrder(readings: Readings): Readings {
  const { timeMs } = readings;
  if (timeMs.every((ms, i) => i === 0 || timeMs[i - 1]! <= ms)) return readings;
  return pick(
    readings,
    Array.from(timeMs.keys()).sort((a, b) => timeMs[a]! - timeMs[b]!),
  );
}

/** The log as a CSV in the project's own format, as it was kept. */
export const GET = testRunHandler("look", async (_, testRun, db) => {
  const job = await jobOfTestRun(db, testRun);
  const zone = job ? timeZoneOfJob(job.job) : "UTC";
  const pieces = logPieces(inOrder(await logOfTestRun(db, testRun.id)), offsetIn(zone));
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      // The server answers others between the pieces.
      await breathe();
      const { done, value } = pieces.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
  });
  return new Response(stream, {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": attachment(`${testRun.name}.csv`) },
  });
});
