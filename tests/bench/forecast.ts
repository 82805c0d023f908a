import { secondRun } from "../foreign/second";
import { foreignRun, onlyCurrent } from "../foreign/simulator";
import { ownRun } from "../foreign/own";
import { line, scoreOne, summarise, type Scored } from "../foreign/score";

/** Scores forecasts on foreign runs: `node … [first seed] [how many seeds] [particles]`. */
const [first = 1, many = 60, particles = 300] = process.argv.slice(2).map(Number);
/** OWN=1: runs that the core made itself, from half an hour on. */
const own = Boolean(process.env.OWN);
/** UNITS=2: those of systems with so many units. */
const units = Number(process.env.UNITS ?? 1);
const CUTS = own ? [30, 60, 120] : [15, 30, 60, 120];
/** SECOND=1: runs of the second foreign simulator. */
const second = Boolean(process.env.SECOND);
/** SAID=1: with what somebody on board could have said as the run began. */
const asked = Boolean(process.env.SAID);
const all: Scored[] = [];
const bare: Scored[] = [];
let ms = 0;
/** With EACH=1, a line for each forecast. */
function tell(columns: string, seed: number, one: Scored): Scored {
  const { cut, group, left, p10, p50, p90 } = one;
  const hours = `left ${left.toFixed(2)} p ${p10.toFixed(2)} ${p50.toFixed(2)} ${p90.toFixed(2)}`;
  if (process.env.EACH)
    console.log(columns, seed, cut, group.join(" "), hours, `err ${((100 * p50) / left - 100).toFixed(0)} %`);
  return one;
}
for (let seed = first; seed < first + many; seed++) {
  const run = own ? ownRun(seed, units) : (second ? secondRun : foreignRun)(seed);
  if (!run) continue;
  const { fixed, lead, sunny } = run.kind;
  const said = asked && "said" in run ? run.said : undefined;
  const { reserveBy } = run;
  const group = [fixed ? "fixed" : "variable", lead ? "lead" : "lithium", sunny ? "sunny" : "no panels"];
  for (const cut of CUTS) {
    const t = performance.now();
    const one = scoreOne(run.job, run.readings, run.reserveH, cut, group, { particles, said, reserveBy });
    ms += performance.now() - t;
    if (one) all.push(tell("all", seed, one));
    const two = process.env.ONE
      ? null
      : scoreOne(run.job, onlyCurrent(run.readings), run.reserveH, cut, group, { particles, said, reserveBy });
    if (two) bare.push(tell("bare", seed, two));
  }
}
console.log(line("all columns", summarise(all)));
for (const cut of CUTS) console.log(line(`  ${cut} min`, summarise(all.filter((s) => s.cut === cut))));
for (const name of ["fixed", "variable", "lead", "lithium", "sunny", "no panels"])
  console.log(line(`  ${name}`, summarise(all.filter((s) => s.group.includes(name)))));
console.log(line("time and current", summarise(bare)));
for (const cut of CUTS) console.log(line(`  ${cut} min`, summarise(bare.filter((s) => s.cut === cut))));
for (const name of ["fixed", "variable", "lead", "lithium", "sunny", "no panels"])
  console.log(line(`  ${name}`, summarise(bare.filter((s) => s.group.includes(name)))));
console.log(`${(ms / Math.max(1, all.length)).toFixed(0)} ms a forecast`);
