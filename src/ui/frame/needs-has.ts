import { formatNeedsHas, formatPair } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import type { Check } from "@/core/assessment/judge/judge";

/** What a check needs and has as two texts in one unit; of a thing that is missing or in place, the second alone. */
export function pairOf(check: Check, prefs: UnitPreferences): { need: string | null; has: string } {
  if (check.form === "there") return { need: null, has: formatNeedsHas(check, prefs) };
  return formatPair(check, prefs);
}
