import type { Charged } from "./charged";
import type { Level } from "./levels";

/** What the unit does at a reading. */
export type State = "off" | "between" | "compressor";
export const STATES: readonly State[] = ["off", "between", "compressor"];
/** The same as numbers, by which a log keeps them: indices of `STATES`. */
export const [OFF, RESTING, ON] = [0, 1, 2];

/** A stretch of the log that is compared as one: whole cycles, edge to edge, or a piece of an unbroken run. */
export interface Window {
  fromS: number;
  toS: number;
  /** A variable unit's that rested and ran in it without coming round to where it began: no. */
  whole: boolean;
  /** Share of it that the compressor ran; NaN for a variable unit, whose draw is the measure. */
  share: number;
  /** Spread of that share by how often was read, one sigma. */
  shareSpread: number;
  /** W at the battery, mean: all of it, sun taken off where it is not known apart. */
  net: number;
  /** Levels with the compressor on and off, W at the battery; NaN where not seen. */
  on: number;
  off: number;
  /** Means over it, NaN where not read. */
  volts: number;
  amps: number;
  cabinC: number;
  outdoorC: number;
  solar: number;
  /** W at the battery that its mains side adds, by the inverter's losses; NaN where the mains was not read. */
  mains: number;
}

export interface Cycle {
  onS: number;
  offS: number;
  /** When it next came on; NaN while it rests. */
  nextS: number;
  share: number;
  /** Mean W while on. */
  watts: number;
}

export interface Segments {
  /** Seconds from the first reading. */
  seconds: Float64Array;
  /** W at the battery; sun added back where it was read. */
  watts: Float64Array;
  /** Battery volts, filled from the model's idea where they were not read. */
  volts: Float64Array;
  state: Uint8Array;
  sunApart: boolean;
  /** Whether the mains side was read nearly always, so that the unit's draw stands apart from the house's. */
  mainsApart: boolean;
  /** The current is of means and too seldom read for a fixed-speed unit's cycles to show: told by its charge instead. */
  ofMeans: boolean;
  /** Several fixed-speed units come and go in it: on is any of them, and their share is told by what they draw. */
  several: boolean;
  /** Usual seconds between readings. */
  pace: number;
  firstOnS: number | null;
  /** Before that first run it rested with its fan on, and was not off. */
  restedFirst: boolean;
  /** When a run was last seen; null where none was. */
  lastOnS: number | null;
  /** From first start until it first rested, or slowed; null end while it goes on. */
  pullDown: { fromS: number; toS: number | null } | null;
  cycles: Cycle[];
  windows: Window[];
  /** Of readings whose watts are what the system takes: none in the sun of panels that were not read. */
  levels: {
    base: Level | null;
    between: Level | null;
    running: Level | null;
    /** W that the running compressor adds over its rest, by its stops. */
    step: Level | null;
    /** All that is not on the mains side, idle inverter included; and the mains side's lowest, W at the bank. */
    house: Level | null;
    fan: Level | null;
  };
  /** Stretches in which engine, shore or generator charged the bank. */
  charged: Charged[];
  /** By reading: 1 in such a stretch. */
  chargedAt: Uint8Array;
  /** The unit was switched off by hand near the end: it has rested longer than its cycles explain. */
  switchedOff: boolean;
}
