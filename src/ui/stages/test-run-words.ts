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

const MODE_WORDS = ["off", "fan only", "low fan", "medium fan", "auto"] as const;

/** How the unit is set, in words: "24 °C, auto". */
export const setInWords = ({ setC, mode }: TestRunView["setNow"], degrees: (value: number) => string): string =>
  mode < 2 ? MODE_WORDS[mode]! : `${degrees(setC)}, ${MODE_WORDS[mode]}`;

/** The forecast as its title says it: when the reserve is reached, or the chance of the next day's sun. */
export function forecastInWords(
  {
    toReserve: { p10, p50, p90 },
    toCutoff,
    prospect: { chance },
    outcome,
    lastS,
  }: Pick<TestRunView, "toReserve" | "toCutoff" | "prospect" | "outcome" | "lastS">,
  clock: (seconds: number) => string,
): string {
  const at = (hours: number) => clock(lastS + hours * 3600);
  if (outcome.reserveH !== null) {
    // Passed is passed: its moment stays, and what is asked from then on is when it switches off.
    const passed = clock(outcome.reserveH * 3600);
    const off = toCutoff;
    return off.p50 === null
      ? say("testRun.reservePassedNoCutOff", { passed })
      : say("testRun.reservePassed", {
          passed,
          at: at(off.p50),
          from: at(off.p10 ?? off.p50),
          to: off.p90 === null ? "two days from now" : at(off.p90),
        });
  }
  if (chance) return say("testRun.chanceOfSun", { inTen: chance.inTen, at: chance.at });
  if (p50 === null) return say("interface.reserveNotReached");
  if (p50 <= 0) return say("interface.reserveIsReached");
  return say("interface.reserveReached", {
    at: at(p50),
    from: at(p10 ?? p50),
    to: p90 === null ? "two days from now" : at(p90),
  });
}
