/// <reference lib="webworker" />
import { expose } from "comlink";
import { simulate } from "@/core/day/simulate";
import { designsOf, type Design } from "@/core/options/design";
import { Evaluator, fittedRig, type Outcome } from "@/core/options/evaluate";
import { sensitivityOf, type Turned } from "@/core/options/sensitivity";
import { tripsOf, TRIP_STEP_S } from "@/core/options/trips";
import type { Wish } from "@/core/options/wish";
import type { Rig } from "@/core/rig/document";
import { rigOf } from "@/core/options/design";

/** One design through the first trip of its search, for drawing beside others. */
export interface TripLine {
  stepS: number;
  share: Float32Array;
  cabinC: Float32Array;
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
  ): Turned[] | null => sensitivityOf(rig, wish, candidates, chosen, (done) => void onProgress(done)),
  trip(rig: Rig, wish: Wish, design: Design): TripLine {
    const [first] = tripsOf(rig, wish, "search");
    const { run } = simulate(
      { ...rigOf(rig, wish, design), brief: { ...rig.brief, month: first!.month }, plan: planOf(rig, wish, design) },
      {
        days: wish.tripDays,
        minuteOfDay: 720,
        weather: "generated",
        seed: first!.seed,
        stepS: TRIP_STEP_S,
        noOverload: true,
        startShare: 1,
      },
    );
    const reserve = rig.bank.reserve?.value ?? (wish.vary.batteries[design.battery]!.chemistry === "agm" ? 0.5 : 0.2);
    return { stepS: run.stepS, share: run.share, cabinC: run.cabinC, reserve };
  },
  /** The rig with a design in it, its main cable and fuse by the path's rules. */
  fitted: (rig: Rig, wish: Wish, design: Design): Rig => fittedRig(rig, wish, design),
};

const planOf = (rig: Rig, wish: Wish, design: Design): Rig["plan"] => ({
  ...rigOf(rig, wish, design).plan,
  start: null,
});

export type OptionsWorker = typeof worker;
expose(worker);
