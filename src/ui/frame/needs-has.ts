import { formatNeedsHas } from "@/core/quantity/format";
import type { UnitPreferences } from "@/core/quantity/dimension";
import type { Check } from "@/core/verdict/check";

/** What a check needs and has: `needs 9.6 kVA, has 7.7 kVA`. */
export const needsAndHas = ({ need, has, dimension }: Check, prefs: UnitPreferences): string =>
  formatNeedsHas(need, has, dimension, prefs);
