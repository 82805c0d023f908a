import { quantileSorted } from "d3-array";

/** The tenth, middle and ninetieth of a hundred; null beyond what is looked ahead. */
export interface Quantiles {
  p10: number | null;
  p50: number | null;
  p90: number | null;
}

/** The tenth, middle and ninetieth of a hundred; null where that is beyond the horizon. */
export function quantilesOf(values: readonly number[]): Quantiles {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => {
    const value = quantileSorted(sorted, share);
    return value !== undefined && Number.isFinite(value) ? value : null;
  };
  return { p10: at(0.1), p50: at(0.5), p90: at(0.9) };
}
