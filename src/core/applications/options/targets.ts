import { patternsOf } from "../../document/schedule";
import { emptySpan, type PlanSpan, type Job } from "../../document/schema";
import type { Quantity } from "../../units/known";
import { valuesOf } from "./design";
import type { Target, Requirement } from "./target";

/** One thing that every design must meet: a system with its plan and place, and how often. */
export interface Asked {
  name: string;
  job: Job;
  months: number[];
  tripDays: number;
  share: number;
}

/** The target's own, then what stands beside it. */
export function askedOf(job: Job, requirement: Requirement): Asked[] {
  const { months, tripDays, share } = requirement;
  return [
    { name: "the target", job, months, tripDays, share },
    ...requirement.targets.map((target) => ({ ...target, job: jobOfTarget(job, target) })),
  ];
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });

/** The system where a target has it: another use, set point or place. */
export function jobOfTarget(job: Job, { from, minutes, setPointC, place }: Target): Job {
  const patterns = patternsOf(job, valuesOf(job).brief.hoursWanted.value).map((pattern) => {
    const others = pattern.spans.filter(({ kind }) => kind !== "unit");
    const own: PlanSpan[] =
      from === null || minutes === null
        ? pattern.spans.filter(({ kind }) => kind === "unit")
        : [emptySpan("unit", "target-unit", from, minutes)];
    const set = own.map((span) =>
      span.kind === "unit" && setPointC !== null ? { ...span, setPointC: plate(setPointC) } : span,
    );
    return { ...pattern, spans: [...set, ...others] };
  });
  return {
    ...job,
    plan: { ...job.plan, patterns },
    // What was entered of one place says nothing of another.
    ...(place === null ? {} : { place: { listed: place, timeZone: null } }),
  };
}
