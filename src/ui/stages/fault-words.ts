import { readingSpec, type ReadingKey } from "@/core/applications/fault-finding/readings";
import type { UnitPreferences } from "@/core/units/dimension";
import { formatQuantity } from "@/core/units/format";

/** A reading's value as it is said: a quantity, or yes and no. */
export function readingWords(reading: ReadingKey, value: number, notation: UnitPreferences): string {
  const { scale, dimension } = readingSpec(reading);
  if (scale === "yes") return value > 0.5 ? "yes" : "no";
  if (dimension === "ratio") return `× ${value.toFixed(2)}`;
  return formatQuantity(value, dimension, notation);
}

/** What a sound system would show at a reading. */
export const soundWords = (reading: ReadingKey, expected: number, notation: UnitPreferences): string =>
  readingSpec(reading).scale === "yes" ? "no" : readingWords(reading, expected, notation);
