import { formatNeedsHas } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import type { Check } from "@/core/assessment/checks/check";

/** What a check needs and has: `needs 9.6 kVA, has 7.7 kVA`. */
export const needsAndHas = ({ need, has, dimension }: Check, prefs: UnitPreferences): string =>
  formatNeedsHas(need, has, dimension, prefs);
