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
 * It is kept as text, because paths are compared, are keys of maps and are watched by components: two lists are never equal,
 * two equal texts are. Whoever decides by a path does so on its steps (`stepsOf`), which are typed.
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

/** A step of a path as it is in a list of steps: the place of a row as a number, all else by its key. */
type StepOf<S extends string> = S extends `${number}` ? number : S;
type StepsOf<P extends string> = P extends `${infer First}.${infer Rest}`
  ? readonly [StepOf<First>, ...StepsOf<Rest>]
  : readonly [StepOf<P>];

export type Step = string | number;
/** The steps of any place in the document of a job: `["units", 0, "power"]`. */
export type JobSteps = StepsOf<JobPath>;
/** The parts of the document: `units`, `bank`, `wiring`. */
export type JobGroup = JobSteps[0];
type LastOf<S extends readonly unknown[]> = S extends readonly [...unknown[], infer Last] ? Last : never;
/** The key of any group or field, or the number of a row. */
export type JobKey = LastOf<JobSteps>;

const stepOf = (text: string): Step => (/^\d+$/.test(text) ? Number(text) : text);

/** The steps of a path: `units.0.power` is `["units", 0, "power"]`. */
export function stepsOf(path: JobPath): JobSteps;
export function stepsOf(path: string): readonly Step[];
export function stepsOf(path: string): readonly Step[] {
  return path.split(".").map(stepOf);
}

/** Any step at its place in a pattern: the row of a list, or the key of one of several alike. */
export const ANY = "*";
/** Steps that many places have in common, such as `["units", ANY, "power"]`. */
export type Pattern = readonly Step[];

/** Whether the steps are those of a pattern, from first to last. */
export const fits = (pattern: Pattern, steps: readonly Step[]): boolean =>
  pattern.length === steps.length && pattern.every((step, i) => step === ANY || step === steps[i]);

/** Where the parts of runs are in the document. */
export const PART_PLACES: readonly Pattern[] = [
  ["wiring", "main", ANY],
  ["wiring", "mains", ANY],
  ["wiring", "branches", ANY, "parts", ANY],
  ["wiring", "branches", ANY, "far", ANY],
];

/** Whether a path is that of a place or of something inside it. */
export const isWithin = (path: JobPath, place: JobPath): boolean => path === place || path.startsWith(`${place}.`);

/** The first step: which part of the document a value belongs to. */
export const groupOf = (path: JobPath): JobGroup => stepsOf(path)[0];

/** The last step: the field's own key. */
export const keyOf = (path: JobPath): JobKey => stepsOf(path).at(-1) as JobKey;

/** Fields of which there may be several alike, with the key that their count has beside them. */
const COUNTS: readonly [field: Pattern, count: string][] = [
  [["bank", "capacityAh"], "parallel"],
  [["inverter", "rating"], "count"],
  [["sources", "panels", ANY, "power"], "count"],
  ...PART_PLACES.map((place): [Pattern, string] => [[...place, "areaMm2"], "count"]),
];

/** The path of the count that belongs to a field, as that of equal batteries to the capacity of each; or undefined. */
export function countOf(path: JobPath): JobPath | undefined {
  const steps = stepsOf(path);
  const found = COUNTS.find(([field]) => fits(field, steps));
  return found && ([...steps.slice(0, -1), found[1]].join(".") as JobPath);
}
