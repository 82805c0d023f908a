import { extent as extentOf } from "d3-array";
import { area as areaShape, line as lineShape } from "d3-shape";
import type { DayRecord } from "@/core/simulation/day/record";

/** A point of a record's line: the middle of some steps and the mean over them; NaN where any of them has no value. */
type Point = readonly [step: number, value: number];

/** A record's line between two steps in at most `points` pieces. */
function thinned(line: Float32Array, [from, to]: readonly [number, number], points: number): Point[] {
  const per = Math.max(1, Math.ceil((to - from) / points));
  const out: Point[] = [];
  for (let k = from; k < to; k += per) {
    const end = Math.min(to, k + per);
    let sum = 0;
    for (let i = k; i < end; i++) sum += line[i]!;
    out.push([(k + end) / 2, sum / (end - k)]);
  }
  return out;
}

type Scale = (value: number) => number;

/** A line through a record between two steps, at most `points` points of it; means where there are more steps. */
export function polyline(
  line: Float32Array,
  span: readonly [number, number],
  points: number,
  x: Scale,
  y: Scale,
): string {
  const shape = lineShape<Point>(
    ([step]) => x(step),
    ([, value]) => y(value),
  )
    .defined(([, value]) => !Number.isNaN(value))
    .digits(1);
  return shape(thinned(line, span, points)) ?? "";
}

/** The same as a filled shape down to `base`. */
export function area(
  line: Float32Array,
  span: readonly [number, number],
  points: number,
  { x, y, base }: { x: Scale; y: Scale; base: number },
): string {
  const shape = areaShape<Point>(
    ([step]) => x(step),
    base,
    ([, value]) => y(value),
  )
    .defined(([, value]) => !Number.isNaN(value))
    .digits(1);
  return shape(thinned(line, span, points)) ?? "";
}

/** Compressor runs as strokes of a bar code: start and end x, and how hard it ran. */
export function bars(
  { compressor }: DayRecord,
  [from, to]: readonly [number, number],
  points: number,
  x: (step: number) => number,
): { x: number; width: number; share: number }[] {
  const per = Math.max(1, Math.ceil((to - from) / points));
  const out: { x: number; width: number; share: number }[] = [];
  for (let k = from; k < to; k += per) {
    const end = Math.min(to, k + per);
    let sum = 0;
    for (let i = k; i < end; i++) sum += compressor[i]!;
    const share = sum / (end - k);
    if (share < 0.02) continue;
    const [left, right] = [x(k), x(end)];
    const last = out[out.length - 1];
    if (last && left - (last.x + last.width) < 0.05 && Math.abs(last.share - share) < 0.12) last.width = right - last.x;
    else out.push({ x: left, width: right - left, share });
  }
  return out;
}

/** Lowest and highest of some lines between two steps, NaN passed over. */
export function extent(lines: Float32Array[], [from, to]: readonly [number, number]): [number, number] {
  const bounds = lines.flatMap((line) => extentOf(line.subarray(from, to)));
  const [low, high] = extentOf(bounds.filter((bound) => bound !== undefined));
  return low === undefined || high === undefined ? [0, 1] : [low, high];
}
