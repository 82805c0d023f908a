import { parentPort, workerData } from "node:worker_threads";
import { designsOf } from "../core/applications/options/design";
import { Evaluator } from "../core/applications/options/evaluate";
import { readRequirementText } from "../core/applications/options/target";

/* A lane of a search on the command line: evaluates what it is told to. */
const read = readRequirementText(workerData as string);
if (read.ok && parentPort) {
  const { job, requirement } = read.file;
  const evaluator = new Evaluator(job, requirement, designsOf(job, requirement));
  const port = parentPort;
  port.on("message", ({ id, indices, set }: { id: number; indices: number[]; set: "search" | "confirm" }) =>
    port.postMessage({ id, outcomes: indices.map((index) => evaluator.evaluate(index, set)) }),
  );
}
