import { interpolate } from "../../units/interpolate";

/*
 * What a battery may give and take at its temperature, as shares of its limits at 25 degC. Lithium: charging not at all in
 * frost, a tenth at 0 degC and the whole from 15 degC on, less from 45 degC and none over the maker's limit; discharging less
 * from 45 degC and not at all 10 K over that limit (common practice, no source). Lead-acid: no such limits are stated.
 */

const COLD_C = [0, 15] as const;
const COLD_SHARE = [0.1, 1] as const;
const HOT_C = 45;

export interface TemperatureShare {
  charge: number;
  discharge: number;
}

/** Shares of the charge and discharge limits that are left at `temperatureC`; no charging above `highestChargeC`. */
export function temperatureShare(lithium: boolean, temperatureC: number, highestChargeC: number): TemperatureShare {
  if (!lithium) return { charge: 1, discharge: 1 };
  const hot = (limit: number) =>
    temperatureC <= HOT_C ? 1 : temperatureC >= limit ? 0 : (limit - temperatureC) / Math.max(0.1, limit - HOT_C);
  const cold = temperatureC < 0 ? 0 : interpolate(COLD_C, COLD_SHARE, temperatureC);
  return { charge: Math.min(cold, hot(highestChargeC)), discharge: hot(highestChargeC + 10) };
}
