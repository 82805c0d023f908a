"use client";

import { releaseProxy, wrap, type Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Rig } from "@/core/document/schema";
import type { Insight } from "@/workers/insight.worker";
import { useReading } from "./sheet-context";

/** Long enough that the worker does not take a core from somebody who types. */
const SETTLE_MS = 400;

let shared: { worker: Worker; remote: Remote<Insight>; users: number } | null = null;

/** The one worker of this page; ended with its last user. */
function borrow(): Remote<Insight> {
  if (!shared) {
    const worker = new Worker(new URL("../../workers/insight.worker.ts", import.meta.url), { type: "module" });
    shared = { worker, remote: wrap<Insight>(worker), users: 0 };
  }
  shared.users++;
  return shared.remote;
}
function giveBack(): void {
  if (!shared || --shared.users > 0) return;
  shared.remote[releaseProxy]();
  shared.worker.terminate();
  shared = null;
}

type Question = "answers" | "cures" | "supplies" | "ways" | "measureNext" | "pack";

/**
 * The answer to a question about the open rig, or null until there is one; a newer rig's replaces an older one's. `beside` is
 * what else the question is about: the same object while it is the same.
 */
export function useInsight<Q extends Question>(
  question: Q,
  beside?: Parameters<Insight[Q]>[1],
): { answer: Awaited<ReturnType<Insight[Q]>> | null; stale: boolean } {
  const { rig } = useReading();
  const [held, setHeld] = useState<{
    rig: Rig;
    beside: unknown;
    answer: Awaited<ReturnType<Insight[Q]>>;
  } | null>(null);
  const remote = useRef<Remote<Insight>>(null);
  useEffect(() => {
    remote.current = borrow();
    return giveBack;
  }, []);
  useEffect(() => {
    let late = false;
    const wait = setTimeout(() => {
      const ask = remote.current?.[question] as
        ((rig: Rig, beside: unknown) => Promise<Awaited<ReturnType<Insight[Q]>>>) | undefined;
      void ask?.(rig, beside).then((answer) => {
        if (!late) setHeld({ rig, beside, answer });
      });
    }, SETTLE_MS);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [rig, question, beside]);
  return { answer: held?.answer ?? null, stale: held?.rig !== rig || held.beside !== beside };
}

async function askOnce<T>(question: (remote: Remote<Insight>) => Promise<T>): Promise<T> {
  const remote = borrow();
  try {
    return await question(remote);
  } finally {
    giveBack();
  }
}

/** Asks once for the smallest cable and fuse of a run. */
export const askChoice = (rig: Rig, path: string): Promise<Awaited<ReturnType<Insight["choose"]>>> =>
  askOnce((remote) => remote.choose(rig, path));

/** Asks once for every size of the wiring, each with its rule. */
export const askSizes = (rig: Rig): Promise<Awaited<ReturnType<Insight["size"]>>> =>
  askOnce((remote) => remote.size(rig));
