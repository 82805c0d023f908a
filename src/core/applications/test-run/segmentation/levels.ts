export interface Level {
  value: number;
  spread: number;
  count: number;
}

/** Value at a share of a sorted list. */
export const percentile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(share * (sorted.length - 1))))]!;

/** Mean, spread and count of the middle of some values: the outer twentieth on either side is left out. */
export function levelOf(values: readonly number[]): Level | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const cut = Math.floor(sorted.length / 20);
  const inner = sorted.slice(cut, sorted.length - cut);
  const mean = inner.reduce((sum, value) => sum + value, 0) / inner.length;
  const spread = Math.sqrt(inner.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, inner.length - 1));
  return { value: mean, spread, count: values.length };
}
