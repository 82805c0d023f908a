/** A fan of state of charge ahead, at even steps from the log's last moment. */
export interface Fan {
  stepS: number;
  /** Seconds from the first reading. */
  fromS: number;
  p10: Float64Array;
  p25: Float64Array;
  p50: Float64Array;
  p75: Float64Array;
  p90: Float64Array;
  /** Mean share of the compressor ahead. */
  share: Float64Array;
}

/** Means over the particles, by step from the log's end: W out of the battery for house and unit, W of its panels, and the cabin, degC. */
export interface Means {
  draw: Float64Array;
  solar: Float64Array;
  cabinC: Float64Array;
}

/** What all particles of a forecast fill together. */
export interface Gathered {
  /** State of charge after each step, particle by particle. */
  shares: Float32Array;
  /** Mean share of running by step. */
  running: Float64Array;
  /** Sums of W drawn, of W of the sun and of the cabin's degC by step, over the particles that were carried so far, and their number. */
  draw: Float64Array;
  solar: Float64Array;
  cabinC: Float64Array;
  living: Float64Array;
  count: number;
  /** Mean W of the next hour. */
  nextHour: number;
}

export function meansOf({ draw, solar, cabinC, living }: Gathered): Means {
  const mean = (line: Float64Array) => line.map((sum, i) => (living[i]! > 0 ? sum / living[i]! : 0));
  return { draw: mean(draw), solar: mean(solar), cabinC: mean(cabinC) };
}

/** The fan of the particles' states of charge. */
export function fanOf({ shares, running, count }: Gathered, stepS: number, fromS: number): Fan {
  const steps = running.length;
  // One point in five minutes is enough for a fan.
  const stride = Math.max(1, Math.round(300 / stepS));
  const points = Math.floor((steps - 1) / stride) + 1;
  const line = () => new Float64Array(points);
  const fan: Fan = {
    stepS: stride * stepS,
    fromS,
    p10: line(),
    p25: line(),
    p50: line(),
    p75: line(),
    p90: line(),
    share: line(),
  };
  const column = new Float32Array(count);
  for (let p = 0; p < points; p++) {
    for (let n = 0; n < count; n++) column[n] = shares[n * steps + p * stride]!;
    column.sort();
    const at = (q: number) => column[Math.round(q * (count - 1))]!;
    fan.p10[p] = at(0.1);
    fan.p25[p] = at(0.25);
    fan.p50[p] = at(0.5);
    fan.p75[p] = at(0.75);
    fan.p90[p] = at(0.9);
    fan.share[p] = running[p * stride]!;
  }
  return fan;
}
