"use client";

import { releaseProxy, wrap, type Remote } from "comlink";
import { useSyncExternalStore } from "react";
import { say } from "@/core/messages/say";

/**
 * A worker beside the page. A call is answered or it fails; it fails, too, where the worker did not load or broke down,
 * which the frame then says until the page is loaded anew.
 */
export interface WorkerClient<T> {
  call<P extends Promise<unknown>>(question: (remote: Remote<T>) => P): Promise<Awaited<P>>;
  terminate(): void;
}

let failure: string | null = null;
const listeners = new Set<() => void>();

function fail(message: string): void {
  failure = message;
  for (const told of listeners) told();
}

const subscribe = (told: () => void) => {
  listeners.add(told);
  return () => void listeners.delete(told);
};

/** Why the calculation beside the page has stopped, in words, or null while it has not. */
export const useWorkerFailure = (): string | null =>
  useSyncExternalStore(
    subscribe,
    () => failure,
    () => null,
  );

/** Starts a worker: `start` names its file where the bundler can see it, `new Worker(new URL(…, import.meta.url))`. */
export function createWorkerClient<T>(start: () => Worker): WorkerClient<T> {
  const worker = start();
  const remote = wrap<T>(worker);
  const broken = new Promise<never>((_, reject) => {
    const stop = () => {
      const message = say("interface.workerStopped");
      fail(message);
      reject(new Error(message));
    };
    worker.addEventListener("error", stop);
    worker.addEventListener("messageerror", stop);
  });
  // Without a call under way there is nobody to tell but the frame.
  broken.catch(() => {});
  return {
    call: <P extends Promise<unknown>>(question: (remote: Remote<T>) => P): Promise<Awaited<P>> =>
      Promise.race([question(remote) as Promise<Awaited<P>>, broken]),
    terminate: () => {
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}

/** Long enough for a look at another page and back, ms. */
const SPARE_MS = 60_000;

/** Workers that were given back, one for each way of starting, until they are ended. */
const spare = new Map<() => Worker, { client: unknown; end: ReturnType<typeof setTimeout> }>();

/**
 * A worker that keeps nothing from one call to the next: the one that was given back last, which has loaded already, or a
 * new one. `terminate` gives it back, or ends it where a call is under way or it broke down.
 */
export function borrowWorker<T>(start: () => Worker): WorkerClient<T> {
  const kept = spare.get(start);
  if (kept) clearTimeout(kept.end);
  spare.delete(start);
  const client = (kept?.client as WorkerClient<T> | undefined) ?? createWorkerClient<T>(start);
  let underWay = 0;
  let broken = false;
  return {
    async call<P extends Promise<unknown>>(question: (remote: Remote<T>) => P): Promise<Awaited<P>> {
      underWay++;
      try {
        return await client.call(question);
      } catch (error) {
        broken = true;
        throw error;
      } finally {
        underWay--;
      }
    },
    terminate() {
      if (underWay > 0 || broken || spare.has(start)) return client.terminate();
      const end = setTimeout(() => {
        spare.delete(start);
        client.terminate();
      }, SPARE_MS);
      spare.set(start, { client, end });
    },
  };
}

/**
 * A line of questions to one worker, which answers them one after another: who stands in it says, when it is their turn, whether
 * the answer is still wanted. One that is not is never put, and its promise gives null.
 */
export function questionLine(): <A>(wanted: () => boolean, put: () => Promise<A>) => Promise<A | null> {
  let before: Promise<unknown> = Promise.resolve();
  return (wanted, put) => {
    const answer = before.then(() => (wanted() ? put() : null));
    before = answer.catch(() => {});
    return answer;
  };
}

/** Puts one question to a worker of its own. */
export async function askWorker<T, P extends Promise<unknown>>(
  start: () => Worker,
  question: (remote: Remote<T>) => P,
): Promise<Awaited<P>> {
  const client = createWorkerClient<T>(start);
  try {
    return await client.call(question);
  } finally {
    client.terminate();
  }
}
