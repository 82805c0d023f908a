import type { Reading } from "@/core/applications/test-run/log/readings";

/** A reading's values in words. */
export function wordsOf(values: Reading["values"], degrees: (v: number) => string): string {
  const { battery_current_a: amps, battery_voltage_v: volts, soc_pct: percent } = values;
  return [
    amps === undefined ? "" : `${Math.abs(amps).toFixed(1)} A ${amps > 0 ? "in" : "out"}`,
    volts === undefined ? "" : `${volts.toFixed(2)} V`,
    percent === undefined ? "" : `${Math.round(percent)} %`,
    values.solar_power_w === undefined ? "" : `sun ${Math.round(values.solar_power_w)} W`,
    values.ac_power_w === undefined ? "" : `mains ${Math.round(values.ac_power_w)} W`,
    values.cabin_temp_c === undefined ? "" : `cabin ${degrees(values.cabin_temp_c)}`,
    values.outdoor_temp_c === undefined ? "" : `outdoor ${degrees(values.outdoor_temp_c)}`,
  ]
    .filter(Boolean)
    .join(", ");
}
