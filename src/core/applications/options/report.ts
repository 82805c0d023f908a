import { AXES, type Axis } from "./frontier";
import { verdictsOfDesign } from "./verdicts";
import { assess } from "../../assessment/verdicts/assess";
import { nameOf } from "./design";
import { givenFaults } from "./evaluate";
import { askedOf } from "./targets";
import { resultOf, type Found, type Point } from "./search";

const round = (value: number, digits: number) => Number(value.toFixed(digits));

function pointAsJson(found: Found, { outcome, share, low, high, step }: Point) {
  const { starts, carries, cost, mass, space, roof, lines, design, tally } = outcome;
  const { battery, inverter, ...rest } = design;
  return {
    name: nameOf(found.requirement, design),
    cost: round(cost, 0),
    mass_kg: round(mass, 1),
    space_l: round(space, 1),
    roof_m2: round(roof, 2),
    ...(found.requirement.targets.length > 0
      ? { hardest: askedOf(found.job, found.requirement)[outcome.target]!.name }
      : {}),
    share_of_days: round(share, 4),
    share_low: round(low, 4),
    share_high: round(high, 4),
    verdicts: verdictsOfDesign(found.job, found.requirement, design),
    weakest: { starts: starts.by, carries: carries.by },
    missed: { by_bank: tally.byBank, by_unit: tally.byUnit, days: tally.days },
    next_step: step && {
      cost: round(step.cost, 0),
      mass_kg: round(step.mass, 1),
      days_of_100: round(step.days, 1),
    },
    design: {
      battery: found.requirement.vary.batteries[battery]!.name,
      inverter: found.requirement.vary.inverters[inverter]!.name,
      ...rest,
    },
    parts: lines.map(({ what, count, cost: each, mass: kg, space: litres }) => ({
      what,
      count,
      cost: round(each, 0),
      mass_kg: round(kg, 2),
      space_l: round(litres, 1),
    })),
  };
}

/** A search as JSON: the frontier along an axis, the choice, why there is none, and the three rules of thumb. */
export function foundAsJson(found: Found, axis: Axis): unknown {
  const { points, choice, nearest, lifts, barred, rulesOfThumb } = resultOf(found, axis);
  const named = (outcome: typeof choice) => outcome && nameOf(found.requirement, outcome.design);
  return {
    requirement: {
      days_without_a_plug: found.requirement.tripDays,
      share_of_days: found.requirement.share,
      seed: found.requirement.seed,
    },
    designs: found.designs.length,
    axis,
    frontier: points.map((point) => pointAsJson(found, point)),
    choice: named(choice),
    nearest: named(nearest),
    lift: lifts.map(({ limit, words, outcome }) => ({ limit, words, design: named(outcome) })),
    kept_out: barred,
    fails_whatever_is_chosen: givenFaults(assess(found.job)),
    rulesOfThumb: rulesOfThumb.map(({ name, rule, outcome, daysOver, costOver, words }) => ({
      name,
      rule,
      design: named(outcome),
      days_over_requirement: daysOver === null ? null : round(daysOver, 1),
      cost_over_choice: costOver === null ? null : round(costOver, 0),
      words,
    })),
  };
}

/** Columns of the frontier as a table. */
export const FRONTIER_HEADER = [
  "name",
  "cost",
  "mass_kg",
  "space_l",
  "roof_m2",
  "share_of_days",
  "share_low",
  "share_high",
  "starts",
  "carries",
  "lasts",
  "recovers",
  "next_cost",
  "next_days_of_100",
];

export function frontierRows(found: Found, axis: Axis): (string | number)[][] {
  return resultOf(found, axis).points.map((point) => {
    const { name, cost, mass_kg, space_l, roof_m2, share_of_days, share_low, share_high, verdicts, next_step } =
      pointAsJson(found, point);
    return [
      name,
      cost,
      mass_kg,
      space_l,
      roof_m2,
      share_of_days,
      share_low,
      share_high,
      verdicts.starts,
      verdicts.carries,
      verdicts.lasts,
      verdicts.recovers,
      next_step?.cost ?? "",
      next_step?.days_of_100 ?? "",
    ];
  });
}

export const isAxis = (text: string): text is Axis => AXES.some((axis) => axis === text);
