import { COLUMNS, emptyReadings, type Column, type Readings } from "@/core/applications/test-run/log/readings";
import { line, scoreOne, summarise, type Scored } from "../foreign/score";
import { secondRun } from "../foreign/second";
import { foreignRun } from "../foreign/simulator";

/**
 * Scores forecasts on foreign runs without one column after another: `node … [first seed] [how many] [particles]`. SECOND=1:
 * of the second simulator. KIND=variable, fixed, lead or sunny: of such systems only.
 */
const [first = 1, many = 40, particles = 120] = process.argv.slice(2).map(Number);
const CUTS = [30, 120];

function without({ timeMs, values }: Readings, left: readonly Column[]): Readings {
  const rest = emptyReadings(timeMs.length);
  rest.timeMs.set(timeMs);
  for (const column of COLUMNS) if (!left.includes(column)) rest.values[column].set(values[column]);
  return rest;
}

const runs = Array.from({ length: many }, (_, i) => (process.env.SECOND ? secondRun : foreignRun)(first + i))
  .filter((run) => run !== null)
  .filter(({ kind }) => {
    const asked = process.env.KIND;
    return !asked || (asked === "variable" ? !kind.fixed : kind[asked as "fixed" | "lead" | "sunny"]);
  });
const variants: [string, Column[]][] = [
  ["all columns", []],
  ...(["soc_pct", "battery_voltage_v", "solar_power_w", "ac_power_w", "cabin_temp_c", "outdoor_temp_c"] as const).map(
    (column): [string, Column[]] => [`without ${column}`, [column]],
  ),
];
for (const [name, left] of variants) {
  const scored: Scored[] = [];
  for (const { job, readings, reserveH, reserveBy, said } of runs)
    for (const cut of CUTS) {
      const one = scoreOne(job, without(readings, left), reserveH, cut, [], { particles, said, reserveBy });
      if (one) scored.push(one);
    }
  console.log(line(name, summarise(scored)));
}
