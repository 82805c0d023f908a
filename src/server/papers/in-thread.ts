import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { MessageChannel } from "node:worker_threads";
import Tinypool from "tinypool";
import { say } from "@/core/messages/say";
import type { CustomerPage } from "@/core/applications/handover/customer-page";
import type { MeasuredRun } from "@/core/applications/handover/document";
import type { Job } from "@/core/document/schema";
import { Refusal } from "../refusal";
import { Turns } from "./turns";

/* Documents and customers' pages take a second or two of a processor each: they are made in a thread beside the server, in turns. */

/** How far the making is: share done, and what is being done. */
export type Tell = (share: number, doing: string) => void;

interface OfRevision {
  job: Job;
  revision: number;
  /** Day that it was stored on. */
  date: string;
}
export interface HandoverTask extends OfRevision {
  kind: "handover";
  runs: readonly MeasuredRun[];
  paper: "a4" | "letter";
  /** The single-line diagram as SVG text, and the small JPEG of each photo that there is. */
  plan: string;
  photos: [id: string, bytes: Uint8Array][];
}

/** What one person may have waiting. */
const MOST_OF_ONE = 20;
/** A thread that has had nothing to do for this long ends, ms: loading what sets pages takes it some seconds. */
const IDLE_MS = 10 * 60_000;

const held = globalThis as { chillbankPapers?: { pool: Tinypool; turns: Turns } };

/** The one thread for documents of this process. It is kept on globalThis because development reloads modules. */
const papers = () =>
  (held.chillbankPapers ??= {
    pool: new Tinypool({
      filename: pathToFileURL(join(process.cwd(), "src/server/papers/paper-worker.mjs")).href,
      runtime: "worker_threads",
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: IDLE_MS,
    }),
    turns: new Turns(1, MOST_OF_ONE),
  });

interface Asked {
  /** Whose turn it takes. */
  personId: string;
  signal?: AbortSignal | undefined;
  tell?: Tell | undefined;
}

function inTurn<T>({ personId, signal, tell }: Asked, work: (pool: Tinypool) => Promise<unknown>): Promise<T> {
  const { pool, turns } = papers();
  return turns.take(personId, () => work(pool) as Promise<T>, {
    ...(signal ? { signal } : {}),
    told: (ahead) => tell?.(0, say("server.paper.waits", { ahead })),
    full: () => new Refusal(503, say("server.busy")),
  });
}

/** The handover document as PDF. Throws an AbortError where `signal` says stop. */
export async function handoverInThread(task: HandoverTask, asked: Asked): Promise<Buffer> {
  const bytes = await inTurn<Uint8Array>(asked, async (pool) => {
    const { port1: near, port2: port } = new MessageChannel();
    near.on("message", ({ share, doing }: { share: number; doing: string }) => {
      if (!asked.signal?.aborted) asked.tell?.(share, doing);
    });
    asked.tell?.(0, "Verdicts");
    try {
      const signal = asked.signal ? { signal: asked.signal } : {};
      return await pool.run({ ...task, port }, { transferList: [port], ...signal });
    } finally {
      near.close();
    }
  });
  return Buffer.from(bytes);
}

/** The customer's page of a job. */
export const customerPageInThread = (of: OfRevision, asked: Asked): Promise<CustomerPage> =>
  inTurn(asked, (pool) => pool.run({ kind: "customer", ...of }, asked.signal ? { signal: asked.signal } : {}));

/** Has the thread loaded by the time that somebody asks for a document: they are looking at where it is asked for. */
export const readyPapers = (): void =>
  void papers()
    .pool.run({ kind: "ready" })
    .catch(() => undefined);

/** Ends the thread for documents; the next one begins it anew. */
export async function endPapers(): Promise<void> {
  const { pool } = held.chillbankPapers ?? {};
  delete held.chillbankPapers;
  await pool?.destroy();
}
