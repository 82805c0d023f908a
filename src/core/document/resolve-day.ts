import type { Group } from "./resolved";
import { type Branch, type Job } from "./schema";
import { type BranchKey } from "./fields";
import { patternsOf } from "./schedule";
import { controllerOf } from "./sides";
import {
  CABIN_FIELDS,
  CONTROLLER_FIELDS,
  OBSTACLE_FIELDS,
  PANEL_FIELDS,
  PLAN_FIELDS,
  SOURCE_FIELDS,
  SPAN_FIELDS,
  type SpanKey,
} from "./day-fields";
import {
  cabinDefaults,
  controllerDefaults,
  OBSTACLE_DEFAULTS,
  panelDefaults,
  planDefaults,
  sourceDefaults,
  spanDefaults,
} from "./day-defaults";
import type { Quantity, ResolvedQuantity } from "../units/known";
import { resolveGroup, withMore, type JobValues } from "./resolved";

/** A of the largest single string on a controller. */
function largestString(
  job: JobOfDay,
  panels: readonly { shortCurrent: ResolvedQuantity }[],
  controller: number,
): number {
  return Math.max(
    0,
    ...job.sources.panels.map((panel, i) =>
      controllerOf(job, panel) === controller ? panels[i]!.shortCurrent.value : 0,
    ),
  );
}

/** What of a document its day follows from. */
type JobOfDay = Pick<Job, "brief" | "bank" | "cabin" | "sources" | "plan" | "place" | "supplies" | "notation">;

export const jobOfDay = ({ brief, bank, cabin, sources, plan, place, supplies, notation }: Job): JobOfDay => ({
  brief,
  bank,
  cabin,
  sources,
  plan,
  place,
  supplies,
  notation,
});

/** What of the values of a system its day follows from: the battery's volts, its energy in Wh, and A that may charge it, by source. */
export function dayBesides(
  job: Job,
  { bank, branchGroups }: { bank: JobValues["bank"]; branchGroups: readonly Group<BranchKey>[] },
): Pick<DaySource, "bankVoltage" | "bankWh" | "charging"> {
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const runs = (role: Branch["role"]) =>
    job.wiring.branches.reduce(
      (sum, branch, i) => (branch.role === role ? sum + branchGroups[i]!.current.value : sum),
      0,
    );
  return {
    bankVoltage,
    bankWh: bankVoltage * bank.capacityAh.value * bank.parallel.value,
    charging: { engine: runs("engine"), charger: runs("charger"), shore: runs("shore"), solar: runs("solar") },
  };
}

interface DaySource extends Pick<JobValues, "brief" | "loads" | "place"> {
  job: JobOfDay;
  bankVoltage: number;
  bankWh: number;
  charging: Record<"engine" | "charger" | "shore" | "solar", number>;
}

/** Cabin, sources and plan. */
export function resolveDay({
  job,
  brief,
  loads,
  place,
  bankVoltage,
  bankWh,
  charging,
}: DaySource): Pick<JobValues, "cabin" | "sources" | "plan"> {
  const average = loads.reduce((sum, { power, dutyCycle }) => sum + power.value * dutyCycle.value, 0);
  const cabin = resolveGroup(
    CABIN_FIELDS,
    job.cabin,
    "cabin",
    cabinDefaults(job, { loadsAverage: average, wind: place.wind.value }),
  );
  const source = resolveGroup(
    SOURCE_FIELDS,
    job.sources,
    "sources",
    sourceDefaults(job, { length: cabin.length.value, width: cabin.width.value }, charging),
  );
  // Panels nobody placed lie in rows from the front, as a fitter would set them out.
  let [x, y, row] = [0.1, 0.05, 0];
  const panels = job.sources.panels.map((panel, i) => {
    const settle = (at: { x: number; y: number }) =>
      resolveGroup(PANEL_FIELDS, panel, `sources.panels.${i}`, panelDefaults(panel, place.latitude.value, at));
    const sized = settle({ x, y });
    if (panel.mount === "portable") return sized;
    const wide = sized.width.value;
    const long = sized.length.value * sized.count.value;
    if (y > 0.06 && y + wide > source.roofWidth.value) [x, y, row] = [x + row, 0.05, 0];
    const placed = settle({ x, y });
    y += wide + 0.05;
    row = Math.max(row, long + 0.05);
    return placed;
  });
  const { solar } = charging;
  const whole = job.sources.panels.reduce((sum, _, i) => sum + panels[i]!.power.value * panels[i]!.count.value, 0);
  const each = Math.max(1, job.sources.controllers.length);
  const limit = Math.max(0.5, solar > 0 ? solar / each : (1.1 * whole) / bankVoltage / each);
  return {
    cabin,
    sources: withMore(source, {
      panels,
      controllers: job.sources.controllers.map((controller, i) =>
        resolveGroup(
          CONTROLLER_FIELDS,
          controller,
          `sources.controllers.${i}`,
          controllerDefaults(limit, largestString(job, panels, i)),
        ),
      ),
      obstacles: job.sources.obstacles.map((obstacle, i) =>
        resolveGroup(OBSTACLE_FIELDS, obstacle, `sources.obstacles.${i}`, OBSTACLE_DEFAULTS),
      ),
    }),
    plan: withMore(resolveGroup(PLAN_FIELDS, job.plan, "plan", planDefaults(job, bankWh)), {
      patterns: patternsOf(job, brief.hoursWanted.value).map(({ spans }, p) => ({
        spans: spans.map((span, i) =>
          resolveGroup<SpanKey>(
            SPAN_FIELDS,
            span as Partial<Record<SpanKey, Quantity>>,
            `plan.patterns.${p}.spans.${i}`,
            spanDefaults(span, brief.setPointC.value, cabin.openAirChanges.value),
          ),
        ),
      })),
    }),
  };
}
