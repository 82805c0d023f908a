import psychrolib from "psychrolib";

psychrolib.SetUnitSystem(psychrolib.SI);

/** Joules a kilogram of water takes to evaporate at cabin temperatures. */
export const LATENT_HEAT = 2.45e6;
/** J/kgK of air with some moisture in it, and kg/m3 at sea level. */
export const AIR_HEAT = 1020;

/** Pressure of the air in Pa at a height in metres: ASHRAE's standard atmosphere, by the library. */
export const pressureAt = (altitude: number): number => psychrolib.GetStandardAtmPressure(altitude);

/** Density of air, kg/m3, at a pressure and temperature. */
export const airDensity = (pressurePa: number, temperatureC: number): number =>
  pressurePa / (287.055 * (temperatureC + 273.15));

/** Kilograms of water to a kilogram of dry air at a dew point in degC. */
export const humidityAtDewPoint = (dewPointC: number, pressurePa: number): number =>
  psychrolib.GetHumRatioFromTDewPoint(Math.max(-90, Math.min(60, dewPointC)), pressurePa);

/**
 * The moist-air functions that an inner loop asks for a hundred thousand times, as tables made once for a pressure from
 * the library's own: saturation by whole degrees, wet bulb by enthalpy. Off the library by less than 0.05 K and 0.1 %.
 */
export interface MoistAir {
  pressurePa: number;
  /** Saturation humidity ratio by degree from -60 to 90 degC. */
  saturation: Float64Array;
  /** Wet bulb, degC, by kJ/kg of enthalpy from -60 to 400. */
  wetBulb: Float64Array;
}

const COLDEST = -60;
const HOTTEST = 90;
const LEAST_KJ = -60;
const MOST_KJ = 400;

const made = new Map<number, MoistAir>();

/** The tables for a pressure, kept for the last few. */
export function moistAir(pressurePa: number): MoistAir {
  const key = Math.round(pressurePa);
  const kept = made.get(key);
  if (kept) return kept;
  const saturation = Float64Array.from({ length: HOTTEST - COLDEST + 1 }, (_, i) =>
    psychrolib.GetSatHumRatio(COLDEST + i, pressurePa),
  );
  // Enthalpy at saturation rises with temperature; a tenth of a degree is fine enough to turn it round.
  const wetBulb = new Float64Array(MOST_KJ - LEAST_KJ + 1);
  let at = COLDEST;
  const enthalpy = (t: number) => psychrolib.GetSatAirEnthalpy(t, pressurePa) / 1000;
  let below = enthalpy(at);
  let above = enthalpy(at + 0.1);
  for (let i = 0; i < wetBulb.length; i++) {
    const wanted = LEAST_KJ + i;
    while (above < wanted && at < HOTTEST - 0.1) {
      at += 0.1;
      below = above;
      above = enthalpy(at + 0.1);
    }
    wetBulb[i] = at + 0.1 * Math.min(1, Math.max(0, (wanted - below) / (above - below)));
  }
  const tables = { pressurePa, saturation, wetBulb };
  if (made.size >= 8) made.delete(made.keys().next().value!);
  made.set(key, tables);
  return tables;
}

/** Saturation humidity ratio at a temperature; geometric between whole degrees, as it grows by a share a degree. */
export function saturationRatio(air: MoistAir, temperatureC: number): number {
  const x = Math.min(HOTTEST - COLDEST - 1e-6, Math.max(0, temperatureC - COLDEST));
  const i = Math.floor(x);
  const a = air.saturation[i]!;
  const b = air.saturation[i + 1]!;
  // Straight between degrees is 0.05 % high in the middle: less than the rest of the model knows.
  return a + (b - a) * (x - i);
}

/** Enthalpy of moist air, J/kg of dry air: ASHRAE Fundamentals, 1006 t + w (2501000 + 1860 t). */
export function enthalpyOf(temperatureC: number, ratio: number): number {
  return 1006 * temperatureC + ratio * (2_501_000 + 1860 * temperatureC);
}

/** Wet bulb in the table, degC, at an enthalpy in J/kg. */
function wetBulbAt({ wetBulb }: MoistAir, joules: number): number {
  const x = Math.min(MOST_KJ - LEAST_KJ - 1e-6, Math.max(0, joules / 1000 - LEAST_KJ));
  const i = Math.floor(x);
  return wetBulb[i]! + (wetBulb[i + 1]! - wetBulb[i]!) * (x - i);
}

/**
 * Wet bulb in degC of air at a temperature and humidity ratio: that of saturated air with the same enthalpy less the
 * heat of the liquid taken up, found in two readings of the table.
 */
export function wetBulbOf(air: MoistAir, temperatureC: number, ratio: number): number {
  const enthalpy = enthalpyOf(temperatureC, ratio);
  const first = wetBulbAt(air, enthalpy);
  const taken = Math.max(0, saturationRatio(air, first) - ratio);
  return wetBulbAt(air, enthalpy + taken * 4186 * Math.max(0, first));
}

/** Relative humidity, 0 to 1. */
export function relativeHumidity(air: MoistAir, temperatureC: number, ratio: number): number {
  const vapour = (w: number) => (air.pressurePa * w) / (0.621945 + w);
  return Math.min(1, vapour(ratio) / vapour(saturationRatio(air, temperatureC)));
}
