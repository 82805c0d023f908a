"use client";

import type { RunPath } from "@/core/document/path";
import type { Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Job } from "@/core/document/schema";
import type { Insight } from "@/workers/insight.worker";
import { useReading } from "./sheet-context";
import { borrowWorker, questionLine, type WorkerClient } from "./worker-client";

/** Long enough that the worker does not take a core from somebody who types. */
const SETTLE_MS = 400;

const start = () => new Worker(new URL("../../workers/insight.worker.ts", import.meta.url), { type: "module" });

interface Shared {
  client: WorkerClient<Insight>;
  /** What each keystroke's pause asks anew: the answers about older documents need not be waited for. */
  inTurn: ReturnType<typeof questionLine>;
  users: number;
}
let shared: Shared | null = null;

/** The one worker of this page; given back with its last user. */
function borrow(): Shared {
  shared ??= { client: borrowWorker<Insight>(start), inTurn: questionLine(), users: 0 };
  shared.users++;
  return shared;
}
function giveBack(): void {
  if (!shared || --shared.users > 0) return;
  shared.client.terminate();
  shared = null;
}

type Question = "answers" | "startAids" | "supplies" | "conditions" | "measureNext" | "handover";

/**
 * The answer to a question about the open system, or null until there is one; a newer system's replaces an older one's. `beside` is
 * what else the question is about: the same object while it is the same.
 */
export function useInsight<Q extends Question>(
  question: Q,
  beside?: Parameters<Insight[Q]>[1],
): { answer: Awaited<ReturnType<Insight[Q]>> | null; stale: boolean } {
  const { job } = useReading();
  const [held, setHeld] = useState<{
    job: Job;
    beside: unknown;
    answer: Awaited<ReturnType<Insight[Q]>>;
  } | null>(null);
  const worker = useRef<Shared>(null);
  useEffect(() => {
    worker.current = borrow();
    return giveBack;
  }, []);
  useEffect(() => {
    let late = false;
    const wait = setTimeout(() => {
      type Ask = (job: Job, beside: unknown) => Promise<Awaited<ReturnType<Insight[Q]>>>;
      // A worker that broke down is told of by the frame; what is shown stays, marked as older than the document.
      const { client, inTurn } = worker.current!;
      inTurn(
        () => !late,
        () => client.call((remote) => (remote[question] as unknown as Ask)(job, beside)),
      )
        .then((answer) => {
          if (!late && answer !== null) setHeld({ job, beside, answer });
        })
        .catch(() => {});
    }, SETTLE_MS);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [job, question, beside]);
  return { answer: held?.answer ?? null, stale: held?.job !== job || held.beside !== beside };
}

async function askOnce<T>(question: (remote: Remote<Insight>) => Promise<T>): Promise<T> {
  const { client } = borrow();
  try {
    return await client.call(question);
  } finally {
    giveBack();
  }
}

/** Asks once for the smallest cable and fuse of a run. */
export const askChoice = (job: Job, path: RunPath): Promise<Awaited<ReturnType<Insight["choose"]>>> =>
  askOnce((remote) => remote.choose(job, path));

/** Asks once for every size of the wiring, each with its rule. */
export const askSizes = (job: Job): Promise<Awaited<ReturnType<Insight["size"]>>> =>
  askOnce((remote) => remote.size(job));
