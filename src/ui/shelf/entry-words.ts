import { formatQuantity } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import { shelfKind, type ShelfEntry } from "@/core/applications/parts/shelf";

const SHOWN = 4;

/** The first few quantities of an entry in a line: "6.2 A, LRA 33 A". */
export function entryLine(entry: ShelfEntry, notation: UnitPreferences): string {
  const { fields } = shelfKind(entry.kind);
  return Object.entries(fields)
    .flatMap(([key, spec]) => {
      const value = entry.values[key];
      return value === undefined
        ? []
        : [`${spec.label.toLowerCase()} ${formatQuantity(value, spec.dimension, notation)}`];
    })
    .slice(0, SHOWN)
    .join(", ");
}
