import { say } from "@/core/messages/say";
import type { TestRunView } from "@/core/applications/test-run/report/view";
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

/** The forecast as its title says it: when the reserve is reached, or the chance of the next day's sun. */
export function forecastInWords(
  { toReserve: { p10, p50, p90 }, prospect: { chance }, lastS }: Pick<TestRunView, "toReserve" | "prospect" | "lastS">,
  clock: (seconds: number) => string,
): string {
  const at = (hours: number) => clock(lastS + hours * 3600);
  if (chance) return say("testRun.chanceOfSun", { inTen: chance.inTen, at: chance.at });
  if (p50 === null) return say("interface.reserveNotReached");
  if (p50 <= 0) return say("interface.reserveIsReached");
  return say("interface.reserveReached", {
    at: at(p50),
    from: at(p10 ?? p50),
    to: p90 === null ? "two days from now" : at(p90),
  });
}
