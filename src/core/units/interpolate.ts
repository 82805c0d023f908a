/** Linear interpolation of y over ascending x; constant beyond both ends. */
export function interpolate(xs: readonly number[], ys: readonly number[], x: number): number {
  const last = xs.length - 1;
  if (x <= xs[0]!) return ys[0]!;
  if (x >= xs[last]!) return ys[last]!;
  let i = 1;
  while (xs[i]! < x) i++;
  const share = (x - xs[i - 1]!) / (xs[i]! - xs[i - 1]!);
  return ys[i - 1]! + share * (ys[i]! - ys[i - 1]!);
}

/** Straight lines between points on log-log axes; the end slopes go on beyond the ends. x, y > 0. */
export function interpolateLogLog(xs: readonly number[], ys: readonly number[], x: number): number {
  let i = 1;
  while (i < xs.length - 1 && xs[i]! < x) i++;
  const slope = Math.log(ys[i]! / ys[i - 1]!) / Math.log(xs[i]! / xs[i - 1]!);
  return ys[i - 1]! * Math.pow(x / xs[i - 1]!, slope);
}
