import type { JobPath } from "./path";
import { stepsOf, type Step } from "./path";
import type { Job } from "./schema";

/** A place in the document where two systems differ; `undefined` where one has nothing. */
export interface Change {
  path: JobPath;
  before: unknown;
  after: unknown;
}

type Leaves = Map<string, unknown>;

/** A quantity is one thing, value and origin together; a list is one thing where its rows are not the same ones. */
function leavesOf(value: unknown, path: string, into: Leaves, whole: (path: string) => boolean): Leaves {
  const leaf = value === null || typeof value !== "object" || ("origin" in value && "value" in value) || whole(path);
  if (leaf) into.set(path, value);
  else for (const [key, inner] of Object.entries(value)) leavesOf(inner, path ? `${path}.${key}` : key, into, whole);
  return into;
}

/** Rows of every list of things in a document, as one text of their ids (or their number) by the list's path. */
function listsOf(value: unknown, path = "", into = new Map<string, string>()): Map<string, string> {
  if (value === null || typeof value !== "object") return into;
  if (Array.isArray(value)) {
    const things = value as ({ id?: string } | undefined)[];
    into.set(path, things.map((thing, i) => thing?.id ?? i).join(" "));
  }
  for (const [key, inner] of Object.entries(value)) listsOf(inner, path ? `${path}.${key}` : key, into);
  return into;
}

/** Lists of plain values, by their keys: always compared and merged whole. */
const WHOLE: ReadonlySet<Step> = new Set(["capture", "hours", "shadeByHour", "week"]);

/** Lists whose rows (by id and order) differ among the systems: compared and merged whole, as are lists of plain numbers. */
function unlikeLists(jobs: Job[]): Set<string> {
  const lists = jobs.map((job) => listsOf(job));
  const paths = new Set(lists.flatMap((one) => [...one.keys()]));
  return new Set(
    [...paths].filter(
      (path) => WHOLE.has(stepsOf(path).at(-1)!) || new Set(lists.map((one) => one.get(path))).size > 1,
    ),
  );
}

function differences(before: Job, after: Job, whole: (path: string) => boolean): Change[] {
  const [from, to] = [leavesOf(before, "", new Map(), whole), leavesOf(after, "", new Map(), whole)];
  return [...new Set([...from.keys(), ...to.keys()])]
    .map((path) => ({ path: path as JobPath, before: from.get(path), after: to.get(path) }))
    .filter((change) => JSON.stringify(change.before) !== JSON.stringify(change.after));
}

/** Every place where two systems differ. */
export function compareJobs(before: Job, after: Job): Change[] {
  const unlike = unlikeLists([before, after]);
  return differences(before, after, (path) => unlike.has(path));
}

export type Side = "theirs" | "mine";

/** A place that changed since `base` on one side or on both. */
export interface Contest {
  path: JobPath;
  base: unknown;
  theirs: unknown;
  mine: unknown;
  /** Changed on both sides, to different things. */
  both: boolean;
}

/** What changed since `base` in two copies of it, each place once; the same change on both sides is none. */
export function contest(base: Job, theirs: Job, mine: Job): Contest[] {
  const unlike = unlikeLists([base, theirs, mine]);
  const whole = (path: string) => unlike.has(path);
  const here = new Map(differences(base, mine, whole).map((change) => [change.path, change]));
  const there = new Map(differences(base, theirs, whole).map((change) => [change.path, change]));
  return [...new Set([...there.keys(), ...here.keys()])]
    .map((path) => {
      const [a, b] = [there.get(path), here.get(path)];
      const before = (a ?? b)!.before;
      return { path, base: before, theirs: a ? a.after : before, mine: b ? b.after : before, both: !!a && !!b };
    })
    .filter(({ theirs: a, mine: b }) => JSON.stringify(a) !== JSON.stringify(b));
}

/**
 * Writes `value` (or nothing, for `undefined`) at a dotted path of a plain document, in place. Groups that are not there
 * yet are made on the way, and rows of a list up to the one named; clearing makes none.
 */
export function putAt(document: object, path: string, value: unknown): void {
  const steps = stepsOf(path);
  const last = steps.at(-1)!;
  let at = document as Record<Step, unknown>;
  for (const step of steps.slice(0, -1)) {
    if (at[step] === undefined) {
      if (value === undefined) return;
      if (Array.isArray(at)) while (at.length < Number(step)) at.push({});
      at[step] = {};
    }
    at = at[step] as Record<Step, unknown>;
  }
  if (value === undefined) delete at[last];
  else at[last] = value;
}

/** The value at a path, or at its steps; undefined where there is none. */
export function valueAt(document: unknown, path: string | readonly Step[]): unknown {
  const steps = typeof path === "string" ? stepsOf(path) : path;
  return steps.reduce<unknown>((at, step) => (at as Record<Step, unknown> | undefined)?.[step], document);
}

/** Their system with my value put in at each contested place where mine was chosen. */
export function merge(theirs: Job, contests: Contest[], choice: (path: JobPath) => Side): Job {
  const merged = structuredClone(theirs);
  for (const { path, mine } of contests) if (choice(path) === "mine") putAt(merged, path, structuredClone(mine));
  return merged;
}
