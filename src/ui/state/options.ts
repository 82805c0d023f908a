"use client";

import { proxy, type Remote } from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import {
  resultOf,
  search,
  type Found,
  type Lane,
  type Progress,
  type Result,
} from "@/core/applications/options/search";
import type { Axis } from "@/core/applications/options/frontier";
import type { Design } from "@/core/applications/options/design";
import type { Outcome } from "@/core/applications/options/evaluate";
import type { Turned } from "@/core/applications/options/sensitivity";
import type { DesignVerdicts } from "@/core/applications/options/verdicts";
import type { Requirement } from "@/core/applications/options/target";
import type { Job } from "@/core/document/schema";
import type { OptionsWorker, TripRun } from "@/workers/options.worker";
import { askWorker, createWorkerClient, type WorkerClient } from "./worker-client";

const newWorker = () => new Worker(new URL("../../workers/options.worker.ts", import.meta.url), { type: "module" });
const ask = <P extends Promise<unknown>>(question: (remote: Remote<OptionsWorker>) => P) =>
  askWorker<OptionsWorker, P>(newWorker, question);

/** One thread is left to the page where there are more than two. */
const lanesHere = () =>
  Math.max(1, Math.min(8, (navigator.hardwareConcurrency || 2) > 2 ? navigator.hardwareConcurrency - 1 : 2));
/** Least time between two drawings of a search under way, ms. */
const DRAW_MS = 1500;
/** The first drawings come sooner. */
const FIRST_DRAW_MS = 500;
const SOON_MS = 6000;

export interface Search {
  running: boolean;
  progress: { stage: Progress["stage"]; at: number; of: number; seconds: number } | null;
  result: Result | null;
  found: Found | null;
  fault: string | null;
  start(job: Job, requirement: Requirement, on: Found | null): void;
  stop(): void;
}

/** A search beside the page: what it has found so far is drawn while it goes on. */
export function useSearch(axis: Axis): Search {
  const [running, setRunning] = useState(false);
  const [progress, setProgress] = useState<Search["progress"]>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [result, setResult] = useState<{ of: Found; axis: Axis; what: Result } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const stopped = useRef(false);
  const clients = useRef<WorkerClient<OptionsWorker>[]>([]);
  const terminate = () => {
    for (const client of clients.current) client.terminate();
    clients.current = [];
  };
  useEffect(() => terminate, []);

  const start = useCallback((job: Job, requirement: Requirement, on: Found | null) => {
    stopped.current = false;
    terminate();
    setRunning(true);
    setFault(null);
    const mine = Array.from({ length: lanesHere() }, () => createWorkerClient<OptionsWorker>(newWorker));
    clients.current = mine;
    const begun = performance.now();
    let drawn = 0;
    const told = ({ stage, at, of, found: now }: Progress): boolean => {
      if (clients.current !== mine) return false;
      const here = performance.now();
      if (here - drawn > (here - begun < SOON_MS ? FIRST_DRAW_MS : DRAW_MS)) {
        drawn = here;
        setProgress({ stage, at, of, seconds: (here - begun) / 1000 });
        setFound({ ...now, outcomes: [...now.outcomes], confirmed: [...now.confirmed] });
      }
      return !stopped.current;
    };
    void (async () => {
      try {
        const lanes = await Promise.all(
          mine.map(async (client): Promise<Lane> => {
            await client.call((remote) => remote.begin(job, requirement));
            return {
              evaluate: (indices, set) => client.call((remote) => remote.evaluate(indices, set) as Promise<Outcome[]>),
            };
          }),
        );
        const all = await search(job, requirement, { lanes, onProgress: told, from: on });
        if (clients.current !== mine) return;
        setFound({ ...all });
        setProgress({
          stage: "confirm",
          at: all.outcomes.length,
          of: all.designs.length,
          seconds: (performance.now() - begun) / 1000,
        });
      } catch (error) {
        if (clients.current === mine) setFault((error as Error).message);
      } finally {
        if (clients.current === mine) {
          setRunning(false);
          terminate();
        }
      }
    })();
  }, []);
  const stop = useCallback(() => {
    stopped.current = true;
  }, []);
  // What a search comes to is a few milliseconds of sorting; the hand rules need a run, and wait for the end.
  if (found && (result?.of !== found || result.axis !== axis))
    setResult({ of: found, axis, what: resultOf(found, axis, { rulesOfThumb: found.done }) });
  return { running, progress, result: result?.what ?? null, found, fault, start, stop };
}

/** Designs through one trip of the search, side by side. */
export const askTrips = (job: Job, requirement: Requirement, designs: readonly Design[]): Promise<TripRun[]> =>
  ask((remote) => Promise.all(designs.map((design) => remote.trip(job, requirement, design) as Promise<TripRun>)));

/** The four verdicts that the job would have with each design, by the index of its outcome; filled as they are worked out. */
export function useDesignVerdicts(
  job: Job,
  requirement: Requirement,
  outcomes: readonly { index: number; design: Design }[],
): Record<number, DesignVerdicts> {
  const [held, setHeld] = useState<{ job: Job; requirement: Requirement; of: Record<number, DesignVerdicts> }>({
    job,
    requirement,
    of: {},
  });
  const key = outcomes.map(({ index }) => index).join(" ");
  const latest = useRef(outcomes);
  useEffect(() => {
    latest.current = outcomes;
  });
  useEffect(() => {
    let here = true;
    ask(async (remote) => {
      const of: Record<number, DesignVerdicts> = {};
      for (const { index, design } of latest.current) {
        if (!here) return;
        of[index] = (await remote.verdicts(job, requirement, design)) as DesignVerdicts;
        if (here) setHeld({ job, requirement, of: { ...of } });
      }
      // The frame says where the worker broke down: the verdicts that were found stay.
    }).catch(() => {});
    return () => {
      here = false;
    };
  }, [job, requirement, key]);
  return held.job === job && held.requirement === requirement ? held.of : {};
}

export const askFitted = (job: Job, requirement: Requirement, design: Design): Promise<Job> =>
  ask((remote) => remote.fitted(job, requirement, design) as Promise<Job>);

export const askSensitivity = (
  job: Job,
  requirement: Requirement,
  candidates: { index: number; design: Design }[],
  chosen: number,
  onProgress: (done: number) => void,
): Promise<Turned[] | null> =>
  ask(
    (remote) => remote.sensitivity(job, requirement, candidates, chosen, proxy(onProgress)) as Promise<Turned[] | null>,
  );
