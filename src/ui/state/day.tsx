"use client";

import { proxy, type Remote } from "comlink";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import type { PairKey } from "@/core/assessment/run-time-map/axes";
import type { PairSide, RunTimeMap } from "@/core/assessment/run-time-map/run-time-map";
import type { Job } from "@/core/document/schema";
import type { DayAnswer, DayWorker, WeatherImport } from "@/workers/day.worker";
import { askWorker, borrowWorker, type WorkerClient } from "./worker-client";

/** Long enough that a run does not begin at every letter. */
const SETTLE_MS = 120;

const start = () => new Worker(new URL("../../workers/day.worker.ts", import.meta.url), { type: "module" });
const ask = <P extends Promise<unknown>>(question: (remote: Remote<DayWorker>) => P) =>
  askWorker<DayWorker, P>(start, question);

interface DayReading {
  /** The last answer, or null until there is one. */
  day: DayAnswer | null;
  /** Whether it is of an older document than the one on screen. */
  stale: boolean;
  /** What went wrong in the run, in words, or null. */
  fault: string | null;
}

interface Cursor {
  /** Step of the record that the day is being read at, or null. */
  cursor: number | null;
  setCursor(step: number | null): void;
}
const CursorContext = createContext<Cursor>({ cursor: null, setCursor: () => {} });
/** Where the day is being read; apart from the answer, so that moving it draws nothing else anew. */
export const useCursor = (): Cursor => useContext(CursorContext);

const DayContext = createContext<DayReading>({
  day: null,
  stale: true,
  fault: null,
});
export const useDay = (): DayReading => useContext(DayContext);

/** Runs the day beside the page whenever the document has settled; only the newest document waits, older ones are dropped. */
export function DayProvider({ job, children }: { job: Job; children: ReactNode }) {
  const [held, setHeld] = useState<{ job: Job; day: DayAnswer } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const wanted = useRef<Job | null>(null);
  const busy = useRef(false);
  const client = useRef<WorkerClient<DayWorker> | null>(null);
  useEffect(() => {
    const mine = borrowWorker<DayWorker>(start);
    client.current = mine;
    busy.current = false;
    return () => {
      client.current = null;
      mine.terminate();
    };
  }, []);
  const run = useCallback(async () => {
    const mine = client.current;
    if (busy.current || !mine) return;
    busy.current = true;
    while (wanted.current && client.current === mine) {
      const asked = wanted.current;
      wanted.current = null;
      try {
        const day = await mine.call((remote) => remote.assess(asked));
        if (client.current !== mine) return;
        setHeld({ job: asked, day });
        setFault(null);
      } catch (error) {
        if (client.current === mine) setFault((error as Error).message);
      }
    }
    if (client.current === mine) busy.current = false;
  }, []);
  useEffect(() => {
    const wait = setTimeout(() => {
      wanted.current = job;
      void run();
    }, SETTLE_MS);
    return () => clearTimeout(wait);
  }, [job, run]);
  const reading = useMemo(() => ({ day: held?.day ?? null, stale: held?.job !== job, fault }), [held, job, fault]);
  const place = useMemo(() => ({ cursor, setCursor }), [cursor]);
  return (
    <DayContext.Provider value={reading}>
      <CursorContext.Provider value={place}>{children}</CursorContext.Provider>
    </DayContext.Provider>
  );
}

/** Both sides of a pair, or null until they have run. */
export const askPair = (job: Job, key: PairKey): Promise<[PairSide, PairSide]> =>
  ask((remote) => remote.pair(job, key));

/** What a weather file holds from a date on, read beside the page. */
export const askWeather = (text: string, name: string, month: number, day: number): Promise<WeatherImport> =>
  ask((remote) => remote.weather(text, name, month, day));

/** The run-time map, with its progress; `stop` ends it and the answer is null. */
export function askMap(
  job: Job,
  onProgress: (share: number) => void,
): { answer: Promise<RunTimeMap | null>; stop(): void } {
  let stopped = false;
  let stop: () => void = () => {};
  const ended = new Promise<null>((resolve) => {
    stop = () => {
      stopped = true;
      resolve(null);
    };
  });
  const onShare = proxy((share: number) => {
    if (!stopped) onProgress(share);
    return !stopped;
  });
  const answer = ask((remote) => Promise.race([remote.map(job, onShare), ended]));
  return { answer, stop };
}
