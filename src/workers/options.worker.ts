/// <reference lib="webworker" />
import { expose } from "comlink";
import { recordOf, type DayRecord } from "@/core/simulation/day/record";
import { simulate } from "@/core/simulation/day/simulate";
import { designsOf, type Design } from "@/core/applications/options/design";
import { Evaluator, fittedJob, type Outcome } from "@/core/applications/options/evaluate";
import { sensitivityOf, type Turned } from "@/core/applications/options/sensitivity";
import { tripsOf, TRIP_STEP_S } from "@/core/applications/options/trips";
import { verdictsOfDesign, type DesignVerdicts } from "@/core/applications/options/verdicts";
import type { Requirement } from "@/core/applications/options/target";
import type { Job } from "@/core/document/schema";
import { resolveJob } from "@/core/document/resolve";

/** One design through the first trip of its search, for drawing beside others. */
export interface TripRun {
  record: DayRecord;
  /** Share of the battery that is kept. */
  reserve: number;
}

let evaluator: Evaluator | null = null;

/** A lane of a search, and what is asked of single designs. */
const worker = {
  begin(job: Job, requirement: Requirement): void {
    evaluator = new Evaluator(job, requirement, designsOf(job, requirement));
  },
  evaluate(indices: readonly number[], set: "search" | "confirm"): Outcome[] {
    if (!evaluator) throw new Error("no requirement was begun");
    const mine = evaluator;
    return indices.map((index) => mine.evaluate(index, set));
  },
  sensitivity: (
    job: Job,
    requirement: Requirement,
    candidates: { index: number; design: Design }[],
    chosen: number,
    onProgress: (done: number) => void,
  ): Turned[] | null => sensitivityOf(job, requirement, { candidates, chosen }, (done) => void onProgress(done)),
  trip(job: Job, requirement: Requirement, design: Design): TripRun {
    const [first] = tripsOf(job, requirement, "search");
    const own = fittedJob(job, requirement, design);
    const simulated = simulate(
      { ...own, brief: { ...job.brief, month: first!.month }, plan: { ...own.plan, start: null } },
      {
        days: requirement.tripDays,
        minuteOfDay: 720,
        weather: "generated",
        seed: first!.seed,
        stepS: TRIP_STEP_S,
        noOverload: true,
        startSoc: 1,
      },
    );
    return { record: recordOf(simulated), reserve: resolveJob(own).bank.reserve.value };
  },
  /** The four verdicts of the job once the design is applied. */
  verdicts: (job: Job, requirement: Requirement, design: Design): DesignVerdicts =>
    verdictsOfDesign(job, requirement, design),
  /** The system with a design in it, its cables and fuses by the path's rules. */
  fitted: (job: Job, requirement: Requirement, design: Design): Job => fittedJob(job, requirement, design),
};

export type OptionsWorker = typeof worker;
expose(worker);
