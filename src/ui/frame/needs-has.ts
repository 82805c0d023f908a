import { formatNeedsHas, formatPair } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import type { Check } from "@/core/assessment/checks/check";

/** What a check needs and has: `needs 9.6 kVA, has 7.7 kVA`. */
export const needsAndHas = ({ need, has, dimension }: Check, prefs: UnitPreferences): string =>
  formatNeedsHas(need, has, dimension, prefs);

/** The same as two texts in one unit; of a thing that is missing or in place, the second alone. */
export function pairOf(check: Check, prefs: UnitPreferences): { need: string | null; has: string } {
  if (check.dimension === "count") return { need: null, has: needsAndHas(check, prefs) };
  return formatPair(check.need, check.has, check.dimension, prefs);
}
