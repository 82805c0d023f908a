import { foreignRun, twinReserveH } from "../foreign/simulator";
import { percent, quantile } from "../foreign/score";

/**
 * What no forecast could do better on the foreign runs: one that knows cabin, unit, house and sky as they are, and guesses
 * only the battery, its start and what has not happened yet. `node … [first seed] [how many seeds]`.
 */
const [first = 1, many = 60] = process.argv.slice(2).map(Number);
const TWINS = 15;
const rows: { cut: number; fixed: boolean; error: number; width: number }[] = [];
for (let seed = first; seed < first + many; seed++) {
  const run = foreignRun(seed);
  if (!run) continue;
  for (const cut of [15, 30, 60, 120]) {
    const left = run.reserveH - cut / 60;
    if (left < 0.4) continue;
    const ends = Array.from({ length: TWINS }, (_, luck) => Math.max(0, twinReserveH(seed, cut, luck) - cut / 60));
    rows.push({
      cut,
      fixed: run.kind.fixed,
      error: Math.abs(quantile(ends, 0.5) / left - 1),
      width: (quantile(ends, 0.9) - quantile(ends, 0.1)) / left,
    });
  }
}
const tell = (name: string, some: typeof rows) => {
  const errors = some.map(({ error }) => error);
  const width = quantile(
    some.map((row) => row.width),
    0.5,
  );
  console.log(
    `${name.padEnd(12)} n ${some.length}  median ${percent(quantile(errors, 0.5))}  p90 ${percent(quantile(errors, 0.9))}  band ${percent(width)}`,
  );
};
tell("all", rows);
for (const cut of [15, 30, 60, 120])
  tell(
    `  ${cut} min`,
    rows.filter((row) => row.cut === cut),
  );
tell(
  "  fixed",
  rows.filter(({ fixed }) => fixed),
);
tell(
  "  variable",
  rows.filter(({ fixed }) => !fixed),
);
