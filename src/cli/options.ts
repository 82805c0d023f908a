import { availableParallelism } from "node:os";
import { Worker } from "node:worker_threads";
import Papa from "papaparse";
import { Evaluator, type Outcome } from "../core/applications/options/evaluate";
import { designsOf } from "../core/applications/options/design";
import { FRONTIER_HEADER, foundAsJson, frontierRows } from "../core/applications/options/report";
import { search, type Lane } from "../core/applications/options/search";
import { readRequirementText } from "../core/applications/options/target";
import type { Axis } from "../core/applications/options/frontier";
import type { Fault } from "../core/document/schema";

export interface OptionsCall {
  workers: number;
  axis: Axis;
  csv: boolean;
  onProgress?(words: string): void;
}

interface Asked {
  id: number;
  indices: readonly number[];
  set: "search" | "confirm";
}

/** A lane in a thread of its own. */
function threadLane(text: string): Lane & { end(): Promise<number> } {
  // A thread knows nothing of TypeScript until it is told.
  const file = new URL("./options-thread.ts", import.meta.url).href;
  const reader = new URL("../node/typescript.mjs", import.meta.url).href;
  const start = `import(${JSON.stringify(reader)}).then(() => import(${JSON.stringify(file)}));`;
  const worker = new Worker(start, { eval: true, workerData: text });
  let asked = 0;
  const waiting = new Map<number, { resolve(outcomes: Outcome[]): void; reject(error: Error): void }>();
  worker.on("message", ({ id, outcomes }: { id: number; outcomes: Outcome[] }) => {
    waiting.get(id)?.resolve(outcomes);
    waiting.delete(id);
  });
  worker.on("error", (error) => {
    for (const { reject } of waiting.values()) reject(error as Error);
  });
  return {
    evaluate: (indices, set) =>
      new Promise((resolve, reject) => {
        const id = ++asked;
        waiting.set(id, { resolve, reject });
        worker.postMessage({ id, indices, set } satisfies Asked);
      }),
    end: () => worker.terminate(),
  };
}

/** The frontier of a target as text, or what is wrong with it. */
export async function optionsOutput(
  text: string,
  { workers, axis, csv, onProgress }: OptionsCall,
): Promise<{ ok: true; text: string } | { ok: false; faults: Fault[] }> {
  const read = readRequirementText(text);
  if (!read.ok) return read;
  const { job, requirement } = read.file;
  const count = Math.min(workers, availableParallelism());
  const threads = count > 1 ? Array.from({ length: count }, () => threadLane(text)) : [];
  const own = new Evaluator(job, requirement, designsOf(job, requirement));
  const lanes: Lane[] =
    threads.length > 0
      ? threads
      : [{ evaluate: (indices, set) => Promise.resolve(indices.map((index) => own.evaluate(index, set))) }];
  try {
    const found = await search(job, requirement, {
      lanes,
      onProgress: ({ stage, at, of }) => {
        onProgress?.(`${stage}: ${at} of ${of}`);
      },
    });
    return {
      ok: true,
      text: csv
        ? `${Papa.unparse([FRONTIER_HEADER, ...frontierRows(found, axis)], { newline: "\n", escapeFormulae: true })}\n`
        : `${JSON.stringify(foundAsJson(found, axis), null, 2)}\n`,
    };
  } catch (error) {
    return { ok: false, faults: [{ path: "requirement.vary", message: (error as Error).message }] };
  } finally {
    await Promise.all(threads.map((thread) => thread.end()));
  }
}
