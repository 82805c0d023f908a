import { median, quantile } from "d3-array";
import { say } from "../../messages/say";
/** A start as a clamp or scope caught it, and what was found in it. */
export interface CapturedStart {
  /** RMS amps of the plateau at the beginning. */
  plateauCurrent: number;
  /** Seconds from the onset until it has settled. */
  startTime: number;
  /** RMS amps it settles to. */
  runningCurrent: number;
  /** Seconds from the onset and RMS amps, thinned for drawing. */
  trace: [seconds: number, amps: number][];
  /** Whether the samples were the current's wave itself, turned into RMS here. */
  wave: boolean;
}

export type ReadCapture = { ok: true; capture: CapturedStart } | { ok: false; message: string };

const DRAWN = 240;
const FEWEST = 20;
const refuse = (message: string): ReadCapture => ({ ok: false, message });

/**
 * Finds the locked-rotor plateau, the start time and the settled running current in samples of time (s) and current (A).
 *
 * Samples that swing through zero are taken as the wave and turned into RMS over one mains period of `mainsHz`;
 * others as RMS already. The running level is the median of the last quarter; the plateau the median of what lies above
 * 85 % of the start's height; the start ends where the current stays within a tenth of the way down to running.
 */
export function readCapture(samples: readonly (readonly [number, number])[], mainsHz: number): ReadCapture {
  const sorted = [...samples].filter(([t, a]) => Number.isFinite(t) && Number.isFinite(a)).sort((a, b) => a[0] - b[0]);
  const once = sorted.filter(([t], i) => i === 0 || t > sorted[i - 1]![0]);
  if (once.length < FEWEST) return refuse(say("input.capture.few", { samples: once.length, fewest: FEWEST }));
  const span = once[once.length - 1]![0] - once[0]![0];
  if (span < 0.1) return refuse(say("input.capture.short"));
  const [least, most] = [Math.min(...once.map(([, a]) => a)), Math.max(...once.map(([, a]) => a))];
  const wave = least < -0.2 * most;
  const period = 1 / mainsHz;
  if (wave && span / (once.length - 1) > period / 8) return refuse(say("input.capture.slow"));
  const trace = wave ? rmsOver(once, period) : once.map(([t, a]): [number, number] => [t, Math.abs(a)]);
  if (trace.length < FEWEST) return refuse(say("input.capture.tooShort"));

  const amps = trace.map(([, a]) => a);
  const running = middle(amps.slice(Math.floor(amps.length * 0.75)));
  const height = quantile(amps, 0.99) ?? 0;
  if (height < 0.5) return refuse(say("input.capture.noCurrent"));
  if (height < 1.25 * running) return refuse(say("input.capture.noStart"));
  const onset = trace.findIndex(([, a]) => a > 0.1 * height);
  const settledBelow = running + 0.1 * (height - running);
  const end = amps.findLastIndex((a) => a > settledBelow);
  if (end < 0 || end >= trace.length - 2) return refuse(say("input.capture.unsettled"));
  const plateau = middle(
    trace.slice(onset, end + 1).flatMap(([, a]) => (a >= running + 0.85 * (height - running) ? [a] : [])),
  );
  const from = trace[onset]![0];
  const step = Math.max(1, Math.ceil(trace.length / DRAWN));
  return {
    ok: true,
    capture: {
      plateauCurrent: plateau,
      startTime: trace[end]![0] - from,
      runningCurrent: running,
      trace: trace
        .filter((_, i) => i % step === 0 && i >= onset - step)
        .map(([t, a]): [number, number] => [Number((t - from).toFixed(4)), Number(a.toFixed(2))]),
      wave,
    },
  };
}

/** RMS over a moving window of one period, at the middle of it; by running sums of the trapezoids of a^2 over time. */
function rmsOver(samples: readonly (readonly [number, number])[], period: number): [number, number][] {
  const out: [number, number][] = [];
  const area = [0];
  for (let i = 1; i < samples.length; i++) {
    const [t0, a0] = samples[i - 1]!;
    const [t1, a1] = samples[i]!;
    area.push(area[i - 1]! + ((t1 - t0) * (a0 * a0 + a1 * a1)) / 2);
  }
  let start = 0;
  for (let i = 0; i < samples.length; i++) {
    while (samples[i]![0] - samples[start + 1]![0] >= period - 1e-9 && start < i - 1) start++;
    const width = samples[i]![0] - samples[start]![0];
    if (width < period * 0.98) continue;
    out.push([samples[i]![0] - width / 2, Math.sqrt(Math.max(0, (area[i]! - area[start]!) / width))]);
  }
  return out;
}

/** The median, or 0 of nothing. */
const middle = (values: readonly number[]) => median(values) ?? 0;
