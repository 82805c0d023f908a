"use client";

import { createContext, useContext, useDeferredValue, useMemo, useState, type ReactNode } from "react";
import { useStore } from "zustand";
import type { Job } from "@/core/document/schema";
import type { Working } from "@/core/units/trace";
import { assess, type Assessment } from "@/core/assessment/verdicts/assess";
import type { Verdict } from "@/core/assessment/judge/judge";
import type { VerdictWord } from "@/core/assessment/judge/word";
import { DayProvider, useDay } from "./day";
import type { SheetState, SheetStore } from "./sheet-store";

export type VerdictKey = "starts" | "carries" | "lasts" | "recovers";

/** What the drawer at the right shows: a verdict's checks, or the working of a figure. */
export type Inspected = { kind: "verdict"; name: VerdictKey } | { kind: "figure"; key: string };

interface Reading {
  job: Job;
  assessment: Assessment;
  inspected: Inspected[];
  inspect(what: Inspected): void;
  back(): void;
  closeInspector(): void;
}

const StoreContext = createContext<SheetStore | null>(null);
const ReadingContext = createContext<Reading | null>(null);

/** Assesses the system once for everything beneath, and holds what is being inspected. */
export function ReadingProvider({ job, children }: { job: Job; children: ReactNode }) {
  const assessment = useMemo(() => assess(job), [job]);
  const [inspected, setInspected] = useState<Inspected[]>([]);
  const reading = useMemo<Reading>(
    () => ({
      job,
      assessment,
      inspected,
      inspect: (what) => setInspected((stack) => [...stack, what]),
      back: () => setInspected((stack) => stack.slice(0, -1)),
      closeInspector: () => setInspected([]),
    }),
    [job, assessment, inspected],
  );
  return <ReadingContext.Provider value={reading}>{children}</ReadingContext.Provider>;
}

/** Lets what is beneath follow a moment later: verdicts and the typing come first. */
export function DeferredReading({ children }: { children: ReactNode }) {
  const deferred = useDeferredValue(useReading());
  return <ReadingContext.Provider value={deferred}>{children}</ReadingContext.Provider>;
}

export function SheetProvider({ store, children }: { store: SheetStore; children: ReactNode }) {
  const job = useStore(store, (state) => state.job);
  return (
    <StoreContext.Provider value={store}>
      <DayProvider job={job}>
        <ReadingProvider job={job}>{children}</ReadingProvider>
      </DayProvider>
    </StoreContext.Provider>
  );
}

export function useReading(): Reading {
  const reading = useContext(ReadingContext);
  if (!reading) throw new Error("useReading outside a ReadingProvider");
  return reading;
}

/** A verdict by name: Starts and Carries of the reading, Lasts and Recovers of the coupled run, null until there is one. */
export function useVerdict(name: VerdictKey): Verdict<VerdictWord> | null {
  const { assessment } = useReading();
  const { day } = useDay();
  if (name === "starts" || name === "carries") return assessment.verdicts[name];
  return day?.verdicts[name] ?? null;
}

/** A figure by its key, of the assessment or of the coupled run. */
export function useFigure(key: string): Working | undefined {
  const { assessment } = useReading();
  const { day } = useDay();
  return assessment.figures[key] ?? day?.figures[key];
}

export function useSheetStore(): SheetStore {
  const store = useContext(StoreContext);
  if (!store) throw new Error("useSheetStore outside a SheetProvider");
  return store;
}

export function useSheet<T>(select: (state: SheetState) => T): T {
  return useStore(useSheetStore(), select);
}
