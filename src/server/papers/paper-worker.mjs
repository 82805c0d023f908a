/* Runs in a thread of its own: works out what a document says and sets its pages. It is JavaScript so that Node can load it and it can load the rest. */
import { setPriority } from "node:os";
import "../../node/typescript.mjs";

try {
  // On Linux this is the calling thread's alone: whoever waits for an answer goes before a document.
  setPriority(10);
} catch {
  // Not allowed here: it competes as any other.
}
const { handoverOf, packSteps } = await import("../../core/applications/handover/document.ts");
const { customerPage } = await import("../../core/applications/handover/customer-page.ts");
const { handoverPdf } = await import("./handover-pdf.ts");

/** Share of the work before the pages are set. */
const WORKED_OUT = 0.7;

/** @param {import("./in-thread").HandoverTask & { port: import("node:worker_threads").MessagePort }} task */
async function handover({ job, revision, date, runs, paper, plan, photos, port }) {
  const steps = packSteps(job, runs);
  let step = steps.next();
  for (; !step.done; step = steps.next())
    port.postMessage({ share: WORKED_OUT * step.value, doing: "Hours of the card" });
  port.postMessage({ share: WORKED_OUT, doing: "Setting the pages" });
  const document = handoverOf(step.value, { revision, date });
  const kept = new Map(photos.map(([id, bytes]) => [id, Buffer.from(bytes)]));
  const pdf = await handoverPdf(document, { plan, photos: kept }, paper);
  port.close();
  return pdf;
}

/** @param {{ kind: "ready" | "handover" | "customer" }} task */
export default function make(task) {
  if (task.kind === "ready") return null;
  return task.kind === "handover" ? handover(task) : customerPage(task.job, task);
}
