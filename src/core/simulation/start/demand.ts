import type { Unit } from "../../document/schema";
import { fixedSpeed } from "../../document/unit-kinds";
import type { JobValues } from "../../document/resolved";

export type StartAid = Unit["startAid"];

/** What one unit asks of its supply at a moment of its start. */
export interface Instant {
  /** VA on mains; W for a unit straight from the bank. */
  apparent: number;
  /** W. */
  real: number;
}

/** A unit's start as a function of seconds, with the moments at which its shape has corners. */
export interface StartShape {
  at(seconds: number): Instant;
  corners: number[];
  /** Seconds until the running draw is reached. */
  settles: number;
  /** Largest current of the start, A. */
  peakCurrent: number;
}

export interface RunningDraw {
  apparent: number;
  real: number;
  /** Fan's watts, already turning when the compressor starts. */
  fan: number;
  volts: number;
}

/** An unlearned soft starter lets the peak through this many times larger: 40 to 50 % is usual. */
export const UNLEARNED = 1.45;
/** A start capacitor about halves the start time and hardly touches the peak (models section 1). */
const CAPACITOR_TIME = 0.5;
const CAPACITOR_PEAK = 0.97;
/** Share of the start time for which the current holds near locked rotor before it falls. */
const PLATEAU = 0.8;

/**
 * The start of one unit. `startAid` stands in for the unit's own, so that bare and aided starts can be compared.
 *
 * Fixed speed, bare: locked-rotor current for 80 % of the start time, then straight down to running. Soft starter: the
 * current climbs to (1 - r) LRA over 60 % of the ramp, holds to 85 %, and falls to running. Variable speed: a straight
 * ramp from the fan's draw to running. A clamped inrush holds the fan already; a plate's does not.
 */
export function startShape(
  unit: Unit,
  values: JobValues["units"][number],
  running: RunningDraw,
  startAid: StartAid,
): StartShape {
  if (!fixedSpeed(unit)) return rampShape(values.rampTime.value, running);
  const locked = values.lockedRotorCurrent.value;
  const fan = values.lockedRotorCurrent.origin === "measured" ? 0 : running.fan;
  const soft = startAid === "soft-starter";
  const peakCurrent = soft
    ? Math.min(locked, locked * (1 - values.softReduction.value) * (unit.learned ? 1 : UNLEARNED))
    : startAid === "start-capacitor"
      ? locked * CAPACITOR_PEAK
      : locked;
  const settles = soft
    ? values.softRamp.value
    : values.startTime.value * (startAid === "start-capacitor" ? CAPACITOR_TIME : 1);
  const rises = soft ? 0.6 * settles : 0;
  const falls = (soft ? 0.85 : PLATEAU) * settles;
  const peak = running.volts * peakCurrent;
  const factor = values.startPowerFactor.value;
  return {
    peakCurrent,
    settles,
    corners: [rises, falls, settles],
    at(seconds) {
      if (seconds >= settles) return { apparent: running.apparent, real: running.real };
      if (seconds <= falls) {
        const share = rises > 0 && seconds < rises ? 0.25 + 0.75 * (seconds / rises) : 1;
        return { apparent: peak * share + fan, real: peak * share * factor + fan };
      }
      const down = (seconds - falls) / (settles - falls);
      const blend = (from: number, to: number) => from + down * (to - from);
      return { apparent: blend(peak + fan, running.apparent), real: blend(peak * factor + fan, running.real) };
    },
  };
}

function rampShape(settles: number, running: RunningDraw): StartShape {
  const share = (seconds: number) => Math.min(1, seconds / settles);
  return {
    settles,
    corners: [settles],
    peakCurrent: running.apparent / running.volts,
    at(seconds) {
      const fan = Math.min(running.fan, running.real);
      return {
        apparent: fan + share(seconds) * Math.max(0, running.apparent - fan),
        real: fan + share(seconds) * (running.real - fan),
      };
    },
  };
}
