/// <reference lib="webworker" />
import { expose } from "comlink";
import { recordOf, type DayRecord } from "@/core/simulation/day/record";
import { simulate } from "@/core/simulation/day/simulate";
import { designsOf, type Design } from "@/core/applications/options/design";
import { Evaluator, fittedRig, type Outcome } from "@/core/applications/options/evaluate";
import { sensitivityOf, type Turned } from "@/core/applications/options/sensitivity";
import { tripsOf, TRIP_STEP_S } from "@/core/applications/options/trips";
import { verdictsOfDesign, type DesignVerdicts } from "@/core/applications/options/verdicts";
import type { Wish } from "@/core/applications/options/target";
import type { Rig } from "@/core/document/schema";
import { resolveRig } from "@/core/document/resolve";

/** One design through the first trip of its search, for drawing beside others. */
export interface TripRun {
  record: DayRecord;
  /** Share of the battery that is kept. */
  reserve: number;
}

let evaluator: Evaluator | null = null;

/** A lane of a search, and what is asked of single designs. */
const worker = {
  begin(rig: Rig, wish: Wish): void {
    evaluator = new Evaluator(rig, wish, designsOf(rig, wish));
  },
  evaluate(indices: readonly number[], set: "search" | "confirm"): Outcome[] {
    if (!evaluator) throw new Error("no wish was begun");
    const mine = evaluator;
    return indices.map((index) => mine.evaluate(index, set));
  },
  sensitivity: (
    rig: Rig,
    wish: Wish,
    candidates: { index: number; design: Design }[],
    chosen: number,
    onProgress: (done: number) => void,
  ): Turned[] | null => sensitivityOf(rig, wish, { candidates, chosen }, (done) => void onProgress(done)),
  trip(rig: Rig, wish: Wish, design: Design): TripRun {
    const [first] = tripsOf(rig, wish, "search");
    const own = fittedRig(rig, wish, design);
    const simulated = simulate(
      { ...own, brief: { ...rig.brief, month: first!.month }, plan: { ...own.plan, start: null } },
      {
        days: wish.tripDays,
        minuteOfDay: 720,
        weather: "generated",
        seed: first!.seed,
        stepS: TRIP_STEP_S,
        noOverload: true,
        startSoc: 1,
      },
    );
    return { record: recordOf(simulated), reserve: resolveRig(own).bank.reserve.value };
  },
  /** The four verdicts of the job once the design is applied. */
  verdicts: (rig: Rig, wish: Wish, design: Design): DesignVerdicts => verdictsOfDesign(rig, wish, design),
  /** The system with a design in it, its cables and fuses by the path's rules. */
  fitted: (rig: Rig, wish: Wish, design: Design): Rig => fittedRig(rig, wish, design),
};

export type OptionsWorker = typeof worker;
expose(worker);
