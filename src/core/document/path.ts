import type { Job } from "./schema";

/**
 * Places in `T`, one for each group, row and field, with dots between the steps. A quantity is one place and is not gone
 * into; nor is a list of plain values.
 */
type PlaceIn<T> = T extends { value: unknown; origin: unknown }
  ? never
  : T extends readonly (infer Row)[]
    ? Row extends object
      ? `${number}` | `${number}.${PlaceIn<Row>}`
      : never
    : T extends object
      ? { [K in keyof T & string]: K | `${K}.${PlaceIn<NonNullable<T[K]>>}` }[keyof T & string]
      : never;

/**
 * The path of a place in the document of a job: `bank.capacityAh`, `units.0.runningCurrent`. A misspelt one does not compile.
 * It is text and not a list of steps, because paths are compared, are keys of maps and are watched by components: two lists
 * are never equal, two equal texts are.
 */
export type JobPath = PlaceIn<Job>;

/** The path of a unit. */
export type UnitPath = `units.${number}`;
/** The path of what charges or loads the battery beside the inverter. */
export type BranchPath = `wiring.branches.${number}`;
/** The path of a list of parts in the order of the current: the battery's, the mains', a branch's near and far side. */
export type RunPath = "wiring.main" | "wiring.mains" | `${BranchPath}.${"parts" | "far"}`;
/** The path of one part of a run. */
export type PartPath = `${RunPath}.${number}`;

/** The path of one time span of a day's plan. */
export type SpanPath = `plan.patterns.${number}.spans.${number}`;

/** The steps of a path: `units.0.power` is units, 0, power. */
export const segmentsOf = (path: string): string[] => path.split(".");

/** Whether a path is that of a place or of something inside it. */
export function isWithin(path: string, place: string): boolean {
  const steps = segmentsOf(path);
  return segmentsOf(place).every((step, i) => steps[i] === step);
}

/** The first step: which part of the document a value belongs to. */
export const groupOf = (path: string): string => segmentsOf(path)[0]!;

/** The last step: the field's own key. */
export const keyOf = (path: string): string => segmentsOf(path).at(-1)!;
