import type { Job } from "../../document/schema";
import { designsOf, type Design } from "./design";
import type { Outcome } from "./evaluate";
import { barOf, cheapestThatMeets, frontierOf, inOrder, shareOf, type Axis, type Bar } from "./frontier";
import type { Found } from "./found";
import { designsByRulesOfThumb, type RuleOfThumb } from "./rules-of-thumb";
import { statedShare } from "./trips";
import { MOST_DESIGNS, type Requirement } from "./target";
import { say } from "../../messages/say";

export type { Found };

/** Something that evaluates designs by their number: a worker, or the place itself. */
export interface Lane {
  evaluate(indices: readonly number[], set: "search" | "confirm"): Promise<Outcome[]>;
}

export interface Progress {
  stage: "search" | "confirm";
  /** Designs evaluated, of how many. */
  at: number;
  of: number;
  /** What was found so far. */
  found: Found;
}

export interface SearchCall {
  lanes: readonly Lane[];
  /** Told after each batch; false stops the search. */
  onProgress?(progress: Progress): boolean | void;
  /** Goes on from an earlier search of the same requirement. */
  from?: Found | null;
}

const BATCH = 16;
/** The first batches are short, so that there is something to see soon. */
const FIRST_BATCH = 4;
const FIRST = 48;
/** Designs this much short of the frontier are confirmed too, and at most so many. */
const SLACK = 0.04;
const MOST_CONFIRMED = 90;

/**
 * Numbers from 0 to below `count` so that any beginning of them lies evenly over the whole: steps of the golden section,
 * rounded to a number without a common divisor.
 */
export function evenOrder(count: number): number[] {
  const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
  let step = Math.max(1, Math.round(count * 0.618_034));
  while (divisor(step, count) !== 1) step++;
  return Array.from({ length: count }, (_, i) => (i * step) % count);
}

/** Designs that differ by nothing but a soft starter have the same days: they stay together, so that one lane has both. */
function searchOrder(designs: readonly Design[]): number[] {
  const groups = new Map<string, number[]>();
  designs.forEach((design, index) => {
    const key = JSON.stringify({ ...design, start: design.start === "soft-starter" ? "as-is" : design.start });
    const group = groups.get(key);
    if (group) group.push(index);
    else groups.set(key, [index]);
  });
  const all = [...groups.values()];
  return evenOrder(all.length).flatMap((i) => all[i]!);
}

/** Spreads numbers over the lanes in batches; each lane takes the next as soon as it is free. False where it was stopped. */
async function spread(
  lanes: readonly Lane[],
  numbers: readonly number[],
  set: "search" | "confirm",
  take: (outcomes: Outcome[]) => boolean,
): Promise<boolean> {
  let next = 0;
  let stopped = false;
  await Promise.all(
    lanes.map(async (lane) => {
      while (!stopped && next < numbers.length) {
        const batch = numbers.slice(next, next + (next < FIRST ? FIRST_BATCH : BATCH));
        next += batch.length;
        const outcomes = await lane.evaluate(batch, set);
        if (!stopped && !take(outcomes)) stopped = true;
      }
    }),
  );
  return !stopped;
}

/** Designs that the frontier of any axis may hold, chance allowed for; the nearest to it first. */
export function worthConfirming(outcomes: readonly Outcome[], requirement: Requirement): Outcome[] {
  const open = outcomes.filter((outcome) => barOf(outcome, requirement) === null);
  const chosen = new Map<number, Outcome>();
  for (const slack of [0, SLACK / 2, SLACK])
    for (const axis of ["cost", "mass", "roof"] as Axis[])
      for (const outcome of frontierOf(open, axis, slack))
        if (chosen.size < MOST_CONFIRMED) chosen.set(outcome.index, outcome);
  return [...chosen.values()].sort((a, b) => a.index - b.index);
}

/**
 * Searches a target: every design through its weeks, then those of the frontier and near it through fresh ones. The same
 * requirement gives the same result for any number of lanes.
 */
export async function search(
  job: Job,
  requirement: Requirement,
  { lanes, onProgress, from }: SearchCall,
): Promise<Found> {
  const designs = designsOf(job, requirement);
  if (designs.length > MOST_DESIGNS)
    throw new Error(say("input.designs.many", { designs: designs.length, most: MOST_DESIGNS }));
  const found: Found = {
    job,
    requirement,
    designs,
    outcomes: [...(from?.outcomes ?? [])],
    confirmed: [...(from?.confirmed ?? [])],
    done: false,
  };
  const known = new Set(found.outcomes.map(({ index }) => index));
  const left = searchOrder(designs).filter((index) => !known.has(index));
  const tell = (stage: Progress["stage"], at: number, of: number) => onProgress?.({ stage, at, of, found }) !== false;
  const searched = await spread(lanes, left, "search", (outcomes) => {
    found.outcomes.push(...outcomes);
    return tell("search", found.outcomes.length, designs.length);
  });
  // The order in which lanes came back is nobody's business.
  found.outcomes.sort((a, b) => a.index - b.index);
  if (!searched) return found;
  const worth = worthConfirming(found.outcomes, requirement).map(({ index }) => index);
  const confirmed = new Set(found.confirmed.map(({ index }) => index));
  const went = await spread(
    lanes,
    worth.filter((index) => !confirmed.has(index)),
    "confirm",
    (outcomes) => {
      found.confirmed.push(...outcomes);
      return tell("confirm", found.confirmed.length, worth.length);
    },
  );
  found.confirmed.sort((a, b) => a.index - b.index);
  found.done = went;
  return found;
}

/** One point of the frontier, with what the step to it buys. */
export interface Point {
  outcome: Outcome;
  share: number;
  low: number;
  high: number;
  /** Over the point before: what more it takes and how many more of a hundred days it meets; null for the first. */
  step: { cost: number; mass: number; days: number } | null;
}

/** Why nothing meets the target, or which limit binds. */
export interface Lift {
  limit: Bar;
  words: string;
  /** The cheapest design that meets the target without this limit. */
  outcome: Outcome;
}

export interface Result {
  axis: Axis;
  points: Point[];
  /** The cheapest design whose days met are as many as asked for. */
  choice: Outcome | null;
  /** The best there is within the limits where none meets the requirement. */
  nearest: Outcome | null;
  lifts: Lift[];
  /** How many designs each bar keeps out. */
  barred: Record<Bar, number>;
  rulesOfThumb: RuleOfThumb[];
}

/** The confirmed outcome where there is one. */
function best(found: Found): Outcome[] {
  const confirmed = new Map(found.confirmed.map((outcome) => [outcome.index, outcome]));
  // Once confirmed designs are there only they count: the others' luck is not known.
  return found.confirmed.length > 0 && found.done
    ? [...confirmed.values()]
    : found.outcomes.map((outcome) => confirmed.get(outcome.index) ?? outcome);
}

const LIFT_WORDS: Record<Lift["limit"], string> = {
  cost: "more money",
  mass: "more payload",
  space: "more space inside",
  starts: "a start that holds",
  carries: "wiring that carries it",
};

/** What a search comes to, along an axis; `rulesOfThumb` where those are wanted too. */
export function resultOf(found: Found, axis: Axis, { rulesOfThumb = true } = {}): Result {
  const { requirement, job } = found;
  const all = best(found);
  const open = all.filter((outcome) => barOf(outcome, requirement) === null);
  const points: Point[] = [];
  for (const outcome of frontierOf(open, axis)) {
    const before = points[points.length - 1];
    const stated = statedShare(outcome.tally);
    points.push({
      outcome,
      ...stated,
      step: before
        ? {
            cost: outcome.cost - before.outcome.cost,
            mass: outcome.mass - before.outcome.mass,
            days: 100 * (shareOf(outcome) - shareOf(before.outcome)),
          }
        : null,
    });
  }
  const choice = cheapestThatMeets(open, requirement, axis);
  const barred: Record<Bar, number> = { starts: 0, carries: 0, cost: 0, mass: 0, space: 0 };
  for (const outcome of found.outcomes) {
    const bar = barOf(outcome, requirement);
    if (bar) barred[bar]++;
  }
  const nearest = choice
    ? null
    : ([...open].sort((a, b) => shareOf(b) - shareOf(a) || a.cost - b.cost || a.index - b.index)[0] ?? null);
  const lifts = choice ? [] : liftsOf(found);
  return {
    axis,
    points,
    choice,
    nearest,
    lifts,
    barred,
    rulesOfThumb: rulesOfThumb ? designsByRulesOfThumb(found, job, choice) : [],
  };
}

function liftsOf(found: Found): Lift[] {
  const { requirement } = found;
  const lifts: Lift[] = [];
  for (const limit of ["cost", "mass", "space", "starts", "carries"] as const) {
    const without = found.outcomes.filter((outcome) => {
      const bar = barOf(outcome, limit === "starts" || limit === "carries" ? requirement : lifted(requirement, limit));
      return bar === null || bar === limit;
    });
    const outcome = inOrder(without, "cost").find(
      (one) => shareOf(one) >= requirement.share && barOf(one, requirement) !== null,
    );
    if (!outcome) continue;
    const more =
      limit === "starts" || limit === "carries"
        ? `${LIFT_WORDS[limit]}: ${outcome[limit].by} fails`
        : `${LIFT_WORDS[limit]}: ${Math.ceil(outcome[limit] - (requirement.limits[limit] ?? 0))}${LIFT_UNITS[limit]}`;
    lifts.push({ limit, words: more, outcome });
  }
  return lifts;
}

const LIFT_UNITS = { cost: "", mass: " kg", space: " litres" };
const lifted = (requirement: Requirement, limit: keyof typeof LIFT_UNITS): Requirement => ({
  ...requirement,
  limits: { ...requirement.limits, [limit]: null },
});
