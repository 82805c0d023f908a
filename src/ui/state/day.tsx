"use client";

import { proxy, releaseProxy, wrap, type Remote } from "comlink";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import type { PairKey } from "@/core/assessment/run-time-map/axes";
import type { PairSide, RunTimeMap } from "@/core/assessment/run-time-map/run-time-map";
import type { Rig } from "@/core/document/schema";
import type { DayAnswer, DayWorker, WeatherImport } from "@/workers/day.worker";

/** Long enough that a run does not begin at every letter. */
const SETTLE_MS = 120;

interface Hired {
  remote: Remote<DayWorker>;
  dismiss(): void;
}

function hire(): Hired {
  const worker = new Worker(new URL("../../workers/day.worker.ts", import.meta.url), { type: "module" });
  const remote = wrap<DayWorker>(worker);
  return {
    remote,
    dismiss: () => {
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}

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
export function DayProvider({ rig, children }: { rig: Rig; children: ReactNode }) {
  const [held, setHeld] = useState<{ rig: Rig; day: DayAnswer } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const wanted = useRef<Rig | null>(null);
  const busy = useRef(false);
  const hired = useRef<Hired | null>(null);
  useEffect(() => {
    const worker = hire();
    hired.current = worker;
    busy.current = false;
    return () => {
      hired.current = null;
      worker.dismiss();
    };
  }, []);
  const run = useCallback(async () => {
    const mine = hired.current;
    if (busy.current || !mine) return;
    busy.current = true;
    while (wanted.current && hired.current === mine) {
      const asked = wanted.current;
      wanted.current = null;
      try {
        const day = await mine.remote.assess(asked);
        if (hired.current !== mine) return;
        setHeld({ rig: asked, day });
        setFault(null);
      } catch (error) {
        if (hired.current === mine) setFault((error as Error).message);
      }
    }
    if (hired.current === mine) busy.current = false;
  }, []);
  useEffect(() => {
    const wait = setTimeout(() => {
      wanted.current = rig;
      void run();
    }, SETTLE_MS);
    return () => clearTimeout(wait);
  }, [rig, run]);
  const reading = useMemo(() => ({ day: held?.day ?? null, stale: held?.rig !== rig, fault }), [held, rig, fault]);
  const place = useMemo(() => ({ cursor, setCursor }), [cursor]);
  return (
    <DayContext.Provider value={reading}>
      <CursorContext.Provider value={place}>{children}</CursorContext.Provider>
    </DayContext.Provider>
  );
}

/** Both sides of a pair, or null until they have run. */
export async function askPair(rig: Rig, key: PairKey): Promise<[PairSide, PairSide]> {
  const { remote, dismiss } = hire();
  try {
    return await remote.pair(rig, key);
  } finally {
    dismiss();
  }
}

/** What a weather file holds from a date on, read beside the page. */
export async function askWeather(text: string, name: string, month: number, day: number): Promise<WeatherImport> {
  const { remote, dismiss } = hire();
  try {
    return await remote.weather(text, name, month, day);
  } finally {
    dismiss();
  }
}

/** The run-time map, with its progress; `stop` ends it and the answer is null. */
export function askMap(
  rig: Rig,
  onProgress: (share: number) => void,
): { answer: Promise<RunTimeMap | null>; stop(): void } {
  const { remote, dismiss } = hire();
  let stopped = false;
  let stop: () => void = () => {};
  const ended = new Promise<null>((resolve) => {
    stop = () => {
      stopped = true;
      resolve(null);
    };
  });
  const answer = Promise.race([
    remote.map(
      rig,
      proxy((share: number) => {
        if (!stopped) onProgress(share);
        return !stopped;
      }),
    ),
    ended,
  ]).finally(dismiss);
  return { answer, stop };
}
