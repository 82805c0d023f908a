import { heatFactor, LOW_FAN_CAPACITY, PART_LOAD_LOSS } from "../../models/air-conditioner/air-conditioner";

/*
 * What an air conditioner does in the air it has: capacity and power against the condenser's air and the room's wet bulb,
 * the part of its cooling that dries, and how long a started circuit takes to cool.
 */

/** Seconds that a started compressor takes to cool in full: AHRI 210/240's Cd at three starts an hour is C_d / (4 × 3/h). */
export const COOLING_LAG_S = (PART_LOAD_LOSS * 3600) / 12;
/** Time constants after which a start is over. */
const STARTED = 12;
/** Humidity ratio at the rating point, 27 °C and 19 °C wet bulb, and of a coil at 9 °C. */
const RATED_HUMIDITY = 0.0111;
const COIL_HUMIDITY = 0.0072;
const RATED_WET_BULB_C = 19;
const RATED_CONDENSER_C = 35;

/** Cooling gained for each kelvin of wet bulb in the room, and wet bulb for each kelvin of air at the same moisture. */
const WET_BULB_GAIN = 0.015;
const WET_BULB_PER_KELVIN = 0.32;

/** Cooling over full cooling by mode (off, fan, low, medium, automatic): how far a variable-speed unit may go, and what a fixed-speed one keeps with less air over its coil. */
export const FAN_CAPS = { variable: [0, 0, LOW_FAN_CAPACITY, 0.75, 1], fixed: [0, 0, 0.88, 0.94, 1] } as const;

/** Air at the condenser, degC: outdoors or the sea, and what the unit's own heat adds. */
export const condenserC = (unit: { sea: boolean; condenserRise: number }, outdoorC: number, seaC: number): number =>
  unit.sea ? seaC + unit.condenserRise : outdoorC + unit.condenserRise;

/** Capacity over that at 35 °C, at a condenser's air in degC; no less than 0.3. */
export const hotCapacity = (perKelvin: number, atC: number): number =>
  Math.max(0.3, 1 - perKelvin * (atC - RATED_CONDENSER_C));

/**
 * Wet bulb of the room at which a coil begins to ice, degC, and at which ice has closed it to the air: it stands some ten
 * kelvins under the wet bulb, 9 °C at the rating's 19 °C (common practice, no source).
 */
const ICES_C = 10;
const ICED_C = 5;

/** Share of its cooling that a coil keeps as ice grows on it in a cold room, 0 to 1. */
const leftByIce = (wetBulbC: number): number =>
  wetBulbC >= ICES_C ? 1 : Math.max(0, (wetBulbC - ICED_C) / (ICES_C - ICED_C));

/** Capacity over that at 19 °C wet bulb, at most 1.3; nothing where the coil is iced. */
export const wetCapacity = (wetBulbC: number): number =>
  Math.min(1.3, Math.max(0.6, 1 + WET_BULB_GAIN * (wetBulbC - RATED_WET_BULB_C))) * leftByIce(wetBulbC);

/** Power over that at 19 °C wet bulb, 0.9 to 1.1. */
export const wetPower = (wetBulbC: number): number =>
  Math.min(1.1, Math.max(0.9, 1 + 0.005 * (wetBulbC - RATED_WET_BULB_C)));

/** Full cooling in W of a unit that is as its plate says at 35 °C and 19 °C wet bulb. */
export const fullCooling = (
  unit: { capacity: number; foulingCapacity: number; capacityPerKelvin: number },
  atC: number,
  wetBulbC: number,
): number => unit.capacity * unit.foulingCapacity * hotCapacity(unit.capacityPerKelvin, atC) * wetCapacity(wetBulbC);

/** Power in W with the compressor at full and the high fan. */
export const fullPower = (
  unit: { power: number; foulingPower: number; powerPerKelvin: number; knownAtC: number },
  atC: number,
  wetBulbC: number,
): number => unit.power * unit.foulingPower * heatFactor(unit.powerPerKelvin, atC, unit.knownAtC) * wetPower(wetBulbC);

/** Part of the cooling that takes water out of the air, 0 to 1: less in dry air, none below the coil's own humidity. */
export const latentPart = (sensibleHeatRatio: number, humidity: number): number =>
  Math.max(0, 1 - sensibleHeatRatio) *
  Math.min(1.6, Math.max(0, (humidity - COIL_HUMIDITY) / (RATED_HUMIDITY - COIL_HUMIDITY)));

/** Cooling over full cooling, on average over `seconds` that begin `since` s after the start, with a lag of `lagS`. */
export const coolingReached = (since: number, seconds: number, lagS: number): number =>
  since > STARTED * lagS ? 1 : 1 - (lagS / seconds) * (Math.exp(-since / lagS) - Math.exp(-(since + seconds) / lagS));

/** Factor on the cooling of a piece in which the air's temperature moves by so many kelvins: a cooler coil does less. */
export const coolingAlong = (kelvins: number): number =>
  1 + WET_BULB_GAIN * WET_BULB_PER_KELVIN * Math.min(10, Math.max(-10, kelvins / 2));

const RATED_ROOM_C = 27;
/** Wet bulb for each kg/kg of humidity at the same temperature, K. */
const WET_BULB_PER_HUMIDITY = 640;

/**
 * Wet bulb of the room in degC, straight about the rating point, for the particles of a forecast, which ask millions of
 * times: within 0.9 K of the library's from 20 to 32 °C and 45 to 70 %, which moves the capacity by 1.4 % at most.
 */
export const wetBulbNearRating = (airC: number, humidity: number): number =>
  RATED_WET_BULB_C + WET_BULB_PER_KELVIN * (airC - RATED_ROOM_C) + WET_BULB_PER_HUMIDITY * (humidity - RATED_HUMIDITY);
