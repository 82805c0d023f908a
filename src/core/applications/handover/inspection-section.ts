import type { Job, StepDone } from "../../document/schema";
import { formatQuantity } from "../../units/format";
import { say } from "../../messages/say";
import type { Bench } from "../fault-finding/readings";
import { heading, list, photosOf, table, text, type Block } from "./blocks";
import { INSPECTION_PARTS, type Step, type Target } from "./commissioning";
import { inspectionProgress, inspectionSheet } from "./inspection";

/** What a point asks for, in words: "up to 500 mΩ", "1 MΩ and more", "15 mA to 30 mA". */
export function limitWords({ low, high, dimension }: Target, { notation }: Job): string {
  const said = (value: number) => formatQuantity(value, dimension, notation);
  if (low === null) return high === null ? "" : `up to ${said(high)}`;
  return high === null ? `${said(low)} and more` : `${said(low)} to ${said(high)}`;
}

/** How a point was answered; empty where it is open. */
function answerOf({ target }: Step, done: StepDone | undefined, job: Job): string {
  if (!done) return "";
  if (done.notApplicable) return "not here";
  if (done.passed === null) return "";
  const [value] = done.fields;
  if (!target || value === null || value === undefined) return done.passed ? "seen" : "not right";
  return `${formatQuantity(value, target.dimension, job.notation)}${done.passed ? "" : ", not right"}`;
}

/** The inspection sheet as it is handed over: every point with its answer, its limit, the instrument, who and when. */
export function inspectionBlocks(bench: Bench): Block[] {
  const { job } = bench;
  const points = inspectionSheet(bench);
  const { answered, open } = inspectionProgress(points, job.handover.steps);
  const said = say("inspection.answered", { answered, points: points.length, open });
  if (answered === 0) return [text(said), ...photosOf(points, job.handover.steps)];
  const answers = new Map(job.handover.steps.map((one) => [one.step, one]));
  const parts = INSPECTION_PARTS.flatMap((part): Block[] => {
    const own = points.filter((one) => one.part === part);
    const rows = own.map((one) => {
      const done = answers.get(one.key);
      const answer = answerOf(one, done, job);
      const by = answer === "" ? [] : [done?.reason, done?.instrument, done?.by, done?.at?.slice(0, 10)];
      return [one.title, answer, one.target ? limitWords(one.target, job) : "", by.filter(Boolean).join(", ")];
    });
    const photos = photosOf(own, job.handover.steps);
    return rows.length > 0 ? [heading(part), ...table(["point", "answer", "limit", ""], rows), ...photos] : [];
  });
  return [text(said), ...list([say("inspection.licensed")], "caution"), ...parts];
}
