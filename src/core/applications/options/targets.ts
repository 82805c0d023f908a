import { patternsOf } from "../../document/schedule";
import { emptySpan, type PlanSpan, type Rig } from "../../document/schema";
import type { Quantity } from "../../units/known";
import { valuesOf } from "./design";
import type { Target, Wish } from "./target";

/** One thing that every design must meet: a system with its plan and place, and how often. */
export interface Asked {
  name: string;
  rig: Rig;
  months: number[];
  tripDays: number;
  share: number;
}

/** The target's own, then what stands beside it. */
export function askedOf(rig: Rig, wish: Wish): Asked[] {
  const { months, tripDays, share } = wish;
  return [
    { name: "the target", rig, months, tripDays, share },
    ...wish.targets.map((target) => ({ ...target, rig: rigOfTarget(rig, target) })),
  ];
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });

/** The system where a target has it: another use, set point or place. */
export function rigOfTarget(rig: Rig, { from, minutes, setPointC, place }: Target): Rig {
  const patterns = patternsOf(rig, valuesOf(rig).brief.hoursWanted.value).map((pattern) => {
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
    ...rig,
    plan: { ...rig.plan, patterns },
    // What was entered of one place says nothing of another.
    ...(place === null ? {} : { place: { listed: place, timeZone: null } }),
  };
}
