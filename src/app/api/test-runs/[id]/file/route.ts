import { offsetAt } from "@/core/units/clock";
import { timeZoneOfJob } from "@/core/document/place";
import { repair } from "@/core/applications/test-run/log/repair";
import { writeLog } from "@/csv/log";
import { attachment } from "@/server/door";
import { jobOfTestRun, testRunHandler } from "@/server/test-run-door";
import { logOfTestRun } from "@/server/test-runs";

/** The log as a CSV in the project's own format. */
export const GET = testRunHandler(async (_, testRun, db) => {
  const job = await jobOfTestRun(db, testRun);
  const zone = job ? timeZoneOfJob(job.job) : "UTC";
  const { readings } = repair(await logOfTestRun(db, testRun.id));
  let hour = NaN;
  let offset = 0;
  const zoned = (ms: number) => {
    if (Math.floor(ms / 3_600_000) !== hour) {
      hour = Math.floor(ms / 3_600_000);
      offset = offsetAt(zone, ms);
    }
    return offset;
  };
  return new Response(writeLog(readings, zoned), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": attachment(`${testRun.name}.csv`) },
  });
});
