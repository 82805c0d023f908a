import type { DayRecord } from "@/core/simulation/day/record";

/** A polyline through a record's line between two steps, at most `points` of them; means where there are more steps. */
export function polyline(
  line: Float32Array,
  [from, to]: readonly [number, number],
  points: number,
  x: (step: number) => number,
  y: (value: number) => number,
): string {
  const per = Math.max(1, Math.ceil((to - from) / points));
  let path = "";
  let pen = false;
  for (let k = from; k < to; k += per) {
    let sum = 0;
    const end = Math.min(to, k + per);
    for (let i = k; i < end; i++) sum += line[i]!;
    const value = sum / (end - k);
    if (Number.isNaN(value)) {
      pen = false;
      continue;
    }
    path += `${pen ? "L" : "M"}${x((k + end) / 2).toFixed(1)} ${y(value).toFixed(1)}`;
    pen = true;
  }
  return path;
}

/** The same as a filled shape down to `base`. */
export function area(
  line: Float32Array,
  span: readonly [number, number],
  points: number,
  x: (step: number) => number,
  y: (value: number) => number,
  base: number,
): string {
  const top = polyline(line, span, points, x, y);
  if (!top) return "";
  return `M${x(span[0]).toFixed(1)} ${base}${top.replace("M", "L")}L${x(span[1]).toFixed(1)} ${base}Z`;
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
  let [low, high] = [Infinity, -Infinity];
  for (const line of lines)
    for (let k = from; k < to; k++) {
      const value = line[k]!;
      if (value < low) low = value;
      if (value > high) high = value;
    }
  return low <= high ? [low, high] : [0, 1];
}
