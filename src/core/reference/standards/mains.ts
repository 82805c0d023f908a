/*
 * Mains systems that a job may have. A leg is one live conductor of the supply: a 120/240 V supply has two, 120 V each to
 * neutral and 240 V between them.
 */

export const MAINS_KEYS = ["230V50Hz", "120V60Hz", "120V240V60Hz", "100V60Hz", "127V220V60Hz"] as const;
export type MainsKey = (typeof MAINS_KEYS)[number];

/** The live conductor that a load hangs on; `both` for a load between the two legs. */
export type Leg = "L1" | "L2" | "both";

export interface MainsSystem {
  /** As it is said in the trade. */
  label: string;
  /** Volts from one leg to neutral. */
  legVolts: number;
  /** Volts between the two legs; null where there is only one. */
  acrossVolts: number | null;
  hertz: number;
  /** North American wiring practice: AWG, breakers by UL 489, GFCI and ground. */
  american: boolean;
}

export const MAINS_SYSTEMS: Record<MainsKey, MainsSystem> = {
  "230V50Hz": { label: "230 V 50 Hz", legVolts: 230, acrossVolts: null, hertz: 50, american: false },
  "120V60Hz": { label: "120 V 60 Hz", legVolts: 120, acrossVolts: null, hertz: 60, american: true },
  "120V240V60Hz": { label: "120/240 V 60 Hz, split phase", legVolts: 120, acrossVolts: 240, hertz: 60, american: true },
  "100V60Hz": { label: "100 V 50/60 Hz", legVolts: 100, acrossVolts: null, hertz: 60, american: true },
  "127V220V60Hz": { label: "127/220 V 60 Hz", legVolts: 127, acrossVolts: 220, hertz: 60, american: true },
};

/** Volts of a mains load on a leg, or across both where the system has two. */
export function loadVolts(mains: MainsKey, leg: Leg): number {
  const { legVolts, acrossVolts } = MAINS_SYSTEMS[mains];
  return leg === "both" && acrossVolts !== null ? acrossVolts : legVolts;
}

/** Number of legs of the supply: 1 or 2. */
export const legCount = (mains: MainsKey): 1 | 2 => (MAINS_SYSTEMS[mains].acrossVolts === null ? 1 : 2);

/** Share of a load's volt-amperes that each leg carries: [L1, L2]. A system of one leg has it all on the first. */
export function legShares(mains: MainsKey, leg: Leg): readonly [number, number] {
  if (legCount(mains) === 1 || leg === "L1") return [1, 0];
  return leg === "L2" ? [0, 1] : [0.5, 0.5];
}

/** A from which on the inlets of a two-legged system bring both legs: the 50 A 120/240 V inlet. */
const BOTH_LEGS_FROM_A = 50;

/** Legs that an inlet of `amps` brings: two from the 50 A inlet of a 120/240 V or 127/220 V system on, else one. */
export const supplyLegs = (mains: MainsKey, amps: number): 1 | 2 =>
  legCount(mains) === 2 && amps >= BOTH_LEGS_FROM_A ? 2 : 1;

/** How an inverter feeds the legs of a supply. */
export interface Legs {
  count: 1 | 2;
  /** Half of the inverter's rating on each leg: what is asked of a leg counts double against the whole. */
  split: boolean;
}
