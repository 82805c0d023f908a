import { buildSystem } from "../../models/system/build";
import { simulate } from "../../simulation/day/simulate";
import type { Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import type { Outcome } from "./evaluate";
import { barOf, inOrder } from "./frontier";
import type { Found } from "./found";
import { statedShare } from "./trips";

export const RULES_OF_THUMB = {
  continuous: "Continuous load",
  managed: "Managed day",
  storage: "Days of storage",
} as const;
export type RuleOfThumbKey = keyof typeof RULES_OF_THUMB;

/** What one way of sizing by hand would have bought, and what it would have missed or wasted. */
export interface RuleOfThumb {
  key: RuleOfThumbKey;
  name: string;
  /** Its rule in numbers. */
  rule: string;
  /** Usable W h and W of panels that it asks for. */
  wattHours: number;
  panelWatts: number;
  /** The cheapest design that its rule allows; null where none is large enough. */
  outcome: Outcome | null;
  /** Days of a hundred that it meets over (or under) the target, and money over (or under) the choice. */
  daysOver: number | null;
  costOver: number | null;
  words: string;
}

/** Of a panel's rating times sun hours, what reaches the battery: dirt, heat and wiring (common practice, no source). */
const PANEL_YIELD = 0.75;

/**
 * The three rules of thumb on a target: (a) the unit never rests for the hours of its use; (b) a usual day's draw, with the sun
 * giving the same back by the next; (c) so many days of storage without any sun.
 */
export function designsByRulesOfThumb(found: Found, job: Job, choice: Outcome | null): RuleOfThumb[] {
  const system = buildSystem(job);
  const values = resolveJob(job);
  const usual = simulate(
    job,
    { days: 1, minuteOfDay: 720, weather: "usual", noOverload: true, stepS: 300, bankAlone: true, startSoc: 1 },
    system,
  );
  const { totals } = usual.run;
  const daily = Math.max(1, (totals.fromStore + totals.solarUsed) / 3600);
  const hours = totals.secondsAsked / 3600;
  const running = system.units.reduce((sum, { running: figure }) => sum + figure.value, 0);
  const never =
    (running * 1.1 + (values.inverter.idlePower?.value ?? 0)) * hours +
    Math.max(0, daily - (totals.units * 1.1) / 3600);
  let sun = 0;
  for (let k = 0; k < usual.run.steps; k++) sun += (usual.weather.global[usual.warmUpSteps + k]! * 300) / 3.6e6;
  const days = values.plan.storageDays.value;
  const asked: Record<RuleOfThumbKey, { wattHours: number; panelWatts: number; rule: string }> = {
    continuous: { wattHours: never, panelWatts: 0, rule: `compressor always on for ${hours.toFixed(1)} h` },
    managed: {
      wattHours: daily,
      panelWatts: daily / Math.max(0.1, sun * PANEL_YIELD),
      rule: "one typical day, given back by the sun",
    },
    storage: { wattHours: daily * days, panelWatts: 0, rule: `${days} days at usual use, no sun` },
  };
  return (Object.keys(RULES_OF_THUMB) as RuleOfThumbKey[]).map((key) => {
    const { wattHours, panelWatts, rule } = asked[key];
    const outcome = cheapestBy(found, wattHours, panelWatts);
    const shared = { key, name: RULES_OF_THUMB[key], rule, wattHours, panelWatts, outcome };
    if (!outcome)
      return { ...shared, daysOver: null, costOver: null, words: "asks for more than any design that may vary" };
    const stated = statedShare(outcome.tally);
    const daysOver = 100 * (stated.share - found.requirement.share);
    const costOver = choice ? outcome.cost - choice.cost : null;
    const misses =
      daysOver < 0 ? `misses ${Math.round(-daysOver)} days of 100 that the target asks for` : "meets the target";
    const wastes =
      costOver === null || daysOver < 0
        ? ""
        : costOver > 1
          ? `, with ${Math.round(costOver)} more money than it takes`
          : ", at the choice's price";
    return { ...shared, daysOver, costOver, words: `${misses}${wastes}` };
  });
}

/** The cheapest design that a rule of thumb allows: as its installer would choose it, on starting and carrying alone. */
function cheapestBy({ outcomes, requirement, job }: Found, wattHours: number, panelWatts: number): Outcome | null {
  const reserve = { lfp: 0.2, nmc: 0.2, agm: 0.5 } as const;
  const entered = job.bank.reserve?.value;
  return (
    inOrder(outcomes, "cost").find((outcome) => {
      const { design } = outcome;
      const battery = requirement.vary.batteries[design.battery]!;
      const kept = (job.bank.chemistry === battery.chemistry ? entered : undefined) ?? reserve[battery.chemistry];
      const usable = battery.blockVoltage * battery.series * battery.capacityAh * design.parallel * (1 - kept);
      const bar = barOf(outcome, requirement);
      return (
        usable >= wattHours &&
        design.panels * requirement.vary.panel.power >= panelWatts &&
        bar !== "starts" &&
        bar !== "carries"
      );
    }) ?? null
  );
}
