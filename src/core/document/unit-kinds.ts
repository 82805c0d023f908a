/*
 * The kinds of air conditioners, and what each can do. What depends on a kind asks for one of these abilities, so that a new
 * kind is one entry here.
 */

interface UnitKindSpec {
  /** As the field offers it. */
  label: string;
  /** What feeds it: the mains side, by inverter or shore, or the battery's DC. */
  supply: "mains" | "battery";
  /** A fixed-speed compressor starts against its locked rotor and cycles by its thermostat; a variable-speed one ramps. */
  speed: "fixed" | "variable";
}

export const UNIT_KINDS = {
  fixed: { label: "fixed speed", supply: "mains", speed: "fixed" },
  variable: { label: "variable speed, AC", supply: "mains", speed: "variable" },
  dc: { label: "12, 24 or 48 V DC", supply: "battery", speed: "variable" },
} as const satisfies Record<string, UnitKindSpec>;

export type UnitKind = keyof typeof UNIT_KINDS;
export const UNIT_KIND_KEYS = Object.keys(UNIT_KINDS) as [UnitKind, ...UnitKind[]];

interface Kind {
  kind: UnitKind;
}

export const onMains = ({ kind }: Kind): boolean => UNIT_KINDS[kind].supply === "mains";
export const onBattery = ({ kind }: Kind): boolean => UNIT_KINDS[kind].supply === "battery";
/** Starts against a locked rotor, has a start and a run capacitor, and can take a start aid. */
export const fixedSpeed = ({ kind }: Kind): boolean => UNIT_KINDS[kind].speed === "fixed";
/** A variable-speed drive behind a rectifier on the mains: it asks for a sine wave and for an RCD that sees its leakage. */
export const driveOnMains = (unit: Kind): boolean => onMains(unit) && !fixedSpeed(unit);
/**
 * A variable-speed unit's control goes beyond the rated point: cooling and power at its top speed over those of its plate
 * (common practice, no source; the power by `variablePowerShare`), but where the plate says its maximum. The circuits and
 * the battery have to carry the top.
 */
export const TOP_SPEED = 1.1;
export const TOP_POWER = 1.14;
/** Most cooling at full speed over that of the plate. */
const MOST_SPEED = 1.3;

/** What is known of a unit's running draw, and where each figure is from. */
type KnownDraw = Record<"runningCurrent" | "ratedPower", { origin: string }> & {
  ratedPower: { value: number };
  dcRunningCurrent?: { origin: string } | null;
  maximumPower?: { value: number } | null;
};

/** What a plate's maximum is over its rated input; null where it says none. A maximum below the rating is no maximum. */
const plateTop = ({ ratedPower, maximumPower }: KnownDraw): number | null =>
  maximumPower ? Math.max(1, maximumPower.value / ratedPower.value) : null;

/** Cooling at full speed over that of the plate: by the plate's maximum it follows the power, in proportion to what is usual. */
export function topCooling(unit: Kind, draw: KnownDraw): number {
  if (fixedSpeed(unit)) return 1;
  const top = plateTop(draw);
  return top === null ? TOP_SPEED : Math.min(MOST_SPEED, 1 + ((top - 1) * (TOP_SPEED - 1)) / (TOP_POWER - 1));
}
/** Power and current at full speed over those of the plate: what was measured was measured at full speed. */
export function topPower(unit: Kind, draw: KnownDraw): number {
  const entered =
    draw.dcRunningCurrent ?? (draw.runningCurrent.origin === "assumed" ? draw.ratedPower : draw.runningCurrent);
  return fixedSpeed(unit) || entered.origin === "measured" || entered.origin === "fitted"
    ? 1
    : (plateTop(draw) ?? TOP_POWER);
}
/** A fixed-speed unit whose soft starter is fitted. */
export const hasSoftStarter = (unit: Kind & { startAid: string }): boolean =>
  fixedSpeed(unit) && unit.startAid === "soft-starter";
/** A fixed-speed unit with a start aid of any kind. */
export const hasStartAid = (unit: Kind & { startAid: string }): boolean => fixedSpeed(unit) && unit.startAid !== "none";
