import type { BranchPath, PartPath, RunPath, UnitPath } from "../../document/path";
import { putAt, valueAt } from "../../document/compare";
import type { Job } from "../../document/schema";
import { shelfKind, type ShelfEntry, type ShelfKindKey } from "./shelf";

/** Which shelf entry, as it stood. */
export interface ShelfRef {
  id: string;
  revision: number;
}

/** A place in a system that was filled from the shelf. */
export interface ShelfUse extends ShelfRef {
  /** Path of what holds the reference. */
  path: ShelfPath;
  kind: ShelfKindKey;
}

/** Where a part of the shelf can stand. */
export type ShelfPath = UnitPath | PartPath | BranchPath | "bank" | "inverter";

const refKey = (kind: ShelfKindKey) => (kind === "soft-starter" ? "softShelf" : "shelf");

/**
 * Puts a shelf entry into the system at a path (`units.0`, `inverter`, `bank`, a part, a branch): its quantities with origin
 * plate, its choices, and the reference. Quantities of the kind that the entry does not know are cleared, since they were
 * another part's; measured ones stay, except where the entry is of another revision and knows them.
 */
export function pickInto(job: Job, path: ShelfPath, entry: ShelfEntry, ref: ShelfRef): Job {
  const copy = structuredClone(job);
  const { fields, choices } = shelfKind(entry.kind);
  for (const key of Object.keys(fields)) {
    const at = `${path}.${key}`;
    const known = entry.values[key];
    const old = valueAt(copy, at) as { origin: string } | undefined;
    if (known !== undefined) putAt(copy, at, { value: known, origin: "plate" });
    else if (old && old.origin !== "measured" && old.origin !== "fitted") putAt(copy, at, undefined);
  }
  for (const key of Object.keys(choices)) {
    const word = entry.choices[key];
    if (word !== undefined && key !== "mains" && key !== "role") putAt(copy, `${path}.${key}`, word);
  }
  if (entry.kind === "soft-starter") putAt(copy, `${path}.startAid`, "soft-starter");
  if (entry.kind === "battery") putAt(copy, `${path}.build`, "batteries");
  if (entry.kind === "unit") {
    putAt(copy, `${path}.name`, entry.name);
    if (entry.choices.kind && entry.choices.kind !== "fixed") putAt(copy, `${path}.startAid`, "none");
  }
  putAt(copy, `${path}.${refKey(entry.kind)}`, { id: ref.id, revision: ref.revision });
  return copy;
}

/** Every place of a system that was filled from the shelf. */
export function shelfUses(job: Job): ShelfUse[] {
  const uses: ShelfUse[] = [];
  const add = (path: ShelfPath, kind: ShelfKindKey, ref: ShelfRef | undefined) => {
    if (ref) uses.push({ path, kind, ...ref });
  };
  job.units.forEach((unit, i) => {
    add(`units.${i}`, "unit", unit.shelf);
    add(`units.${i}`, "soft-starter", unit.softShelf);
  });
  add("bank", "battery", job.bank.shelf);
  add("inverter", "inverter", job.inverter.shelf);
  const parts = (path: RunPath, list: Job["wiring"]["main"]) =>
    list.forEach((part, i) => add(`${path}.${i}`, part.kind === "cable" ? "cable" : "fuse", part.shelf));
  parts("wiring.main", job.wiring.main);
  parts("wiring.mains", job.wiring.mains);
  job.wiring.branches.forEach((branch, i) => {
    add(`wiring.branches.${i}`, "charger", branch.shelf);
    parts(`wiring.branches.${i}.parts`, branch.parts);
  });
  return uses;
}

/** The system with every use of an entry brought to its present state. */
export function updateUses(job: Job, entry: ShelfEntry, ref: ShelfRef): Job {
  return shelfUses(job)
    .filter(({ id, kind }) => id === ref.id && kind === entry.kind)
    .reduce((so, { path }) => {
      const name = entry.kind === "unit" ? (valueAt(so, `${path}.name`) as string) : undefined;
      const updated = pickInto(so, path, entry, ref);
      // A unit keeps the name it was given on the job.
      if (name !== undefined) putAt(updated, `${path}.name`, name);
      return updated;
    }, job);
}
