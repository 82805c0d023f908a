import { COLUMNS, emptyReadings, type Readings } from "./readings";

/**
 * A log of no more than about `most` readings: means over even stretches of time, each value by those that were read in
 * it. A log that is short enough comes back as it is. Readings in order.
 */
export function thinned(readings: Readings, most: number): Readings {
  const { timeMs, values, notes } = readings;
  const count = timeMs.length;
  if (count <= most) return readings;
  const first = timeMs[0]!;
  const width = Math.max(1, (timeMs[count - 1]! - first) / most);
  const from: number[] = [];
  let bin = -1;
  for (let i = 0; i < count; i++) {
    const here = Math.floor((timeMs[i]! - first) / width);
    if (here !== bin) {
      from.push(i);
      bin = here;
    }
  }
  const out = emptyReadings(from.length);
  const place = new Int32Array(count);
  from.forEach((start, k) => {
    const end = from[k + 1] ?? count;
    let time = 0;
    for (let i = start; i < end; i++) {
      time += timeMs[i]! - first;
      place[i] = k;
    }
    out.timeMs[k] = first + time / (end - start);
    for (const column of COLUMNS) {
      let sum = 0;
      let n = 0;
      const line = values[column];
      for (let i = start; i < end; i++)
        if (!Number.isNaN(line[i]!)) {
          sum += line[i]!;
          n++;
        }
      if (n > 0) out.values[column][k] = sum / n;
    }
  });
  out.notes = notes.map(({ at, text }) => ({ at: place[at]!, text }));
  return out;
}
