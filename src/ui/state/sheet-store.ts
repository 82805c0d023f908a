import type { WeatherKey } from "@/core/document/day-fields";
import { groupOf, keyOf, type JobKey, type JobPath } from "@/core/document/path";
import { produce } from "immer";
import { temporal } from "zundo";
import { create } from "zustand";
import { putAt, valueAt } from "@/core/document/compare";
import type { Job } from "@/core/document/schema";

/** The design day's quantities. */
const OWN_DAY: ReadonlySet<JobKey> = new Set<WeatherKey>(["highestC", "lowestC", "humidity", "sunHours"]);

export type SaveState =
  | { kind: "saved" }
  | { kind: "unsaved" }
  | { kind: "saving" }
  | { kind: "offline"; reason: string }
  | { kind: "conflict" }
  | { kind: "gone" };

export interface Elsewhere {
  revision: number;
  job: Job;
}

export interface SheetState {
  id: string;
  job: Job;
  /** The last revision known to be stored, and what it held. */
  base: { revision: number; job: Job };
  save: SaveState;
  /** What another window stored since `base`, while the user has yet to choose. */
  elsewhere: Elsewhere | null;
  /** How many edits were not taken because whoever is signed in may not make them. */
  refusals: number;
  /** Writes a value at a dotted path; edits under one `session` are undone together. */
  put(path: JobPath, value: unknown, session?: string): void;
  /** Changes the document by any function, undone as one. */
  change(recipe: (job: Job) => void): void;
  /** Ends an editing session: the next edit is undone by itself. */
  endSession(): void;
  stored(revision: number, job: Job): void;
  setSave(save: SaveState): void;
  setElsewhere(elsewhere: Elsewhere | null): void;
  /** Goes on from a merge with what another window stored. */
  settle(job: Job, base: Elsewhere): void;
}

/**
 * The state of one open sheet: the document with undo and redo, and how it stands against the server. An edit that `allows`
 * says no to is not made.
 */
export function createSheetStore(
  initial: { id: string; revision: number; job: Job },
  allows: (before: Job, after: Job) => boolean = () => true,
) {
  const { id, revision, job } = initial;
  let session: string | null = null;
  const store = create<SheetState>()(
    temporal(
      (set, get) => ({
        id,
        job,
        base: { revision, job },
        save: { kind: "saved" },
        elsewhere: null,
        refusals: 0,
        put(path, value, under) {
          const same = under !== undefined && under === session;
          if (JSON.stringify(valueAt(get().job, path)) === JSON.stringify(value)) return;
          const next = produce(get().job, (draft) => {
            putAt(draft, path, value);
            // A figure of the design day that somebody enters makes it a day of their own.
            if (groupOf(path) === "weather" && OWN_DAY.has(keyOf(path)) && value !== undefined)
              draft.weather.kind = "own";
          });
          if (!allows(get().job, next)) return set({ refusals: get().refusals + 1 });
          const history = store.temporal.getState();
          // The first edit of a session has put the state before it on the pile; the rest of them go without.
          if (same) history.pause();
          set({ job: next });
          if (same) history.resume();
          session = under ?? null;
        },
        change(recipe) {
          const next = produce(get().job, (draft) => recipe(draft as Job));
          if (!allows(get().job, next)) return set({ refusals: get().refusals + 1 });
          session = null;
          set({ job: next });
        },
        endSession() {
          session = null;
        },
        stored: (stored, what) => set({ base: { revision: stored, job: what }, save: { kind: "saved" } }),
        setSave: (save) => set({ save }),
        setElsewhere: (elsewhere) => set({ elsewhere }),
        settle: (merged, base) => set({ job: merged, base, elsewhere: null, save: { kind: "unsaved" } }),
      }),
      {
        limit: 300,
        partialize: ({ job: kept }) => ({ job: kept }),
        equality: (a, b) => a.job === b.job,
      },
    ),
  );
  return store;
}

export type SheetStore = ReturnType<typeof createSheetStore>;
