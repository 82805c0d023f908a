import { offsetAt } from "@/core/units/clock";
import { timeZoneOfRig } from "@/core/document/place";
import { repair } from "@/core/applications/test-run/log/repair";
import { writeLog } from "@/csv/log";
import { attachment } from "@/server/door";
import { rigOfTrial, trialHandler } from "@/server/trial-door";
import { logOfTrial } from "@/server/trials";

/** The log as a CSV in the project's own format. */
export const GET = trialHandler(async (_, trial, db) => {
  const job = await rigOfTrial(db, trial);
  const zone = job ? timeZoneOfRig(job.rig) : "UTC";
  const { readings } = repair(await logOfTrial(db, trial.id));
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
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": attachment(`${trial.name}.csv`) },
  });
});
