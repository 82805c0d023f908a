import { foreignRun, onlyCurrent } from "../foreign/simulator";
import { ownRun } from "../foreign/own";
import { line, scoreOne, summarise, type Scored } from "../foreign/score";

/** Scores forecasts on foreign runs: `node … [first seed] [how many seeds] [members]`. */
const [first = 1, many = 60, members = 300] = process.argv.slice(2).map(Number);
const CUTS = [15, 30, 60, 120];
const all: Scored[] = [];
const bare: Scored[] = [];
let ms = 0;
for (let seed = first; seed < first + many; seed++) {
  const run = process.env.OWN ? ownRun(seed) : foreignRun(seed);
  if (!run) continue;
  const { fixed, lead, sunny } = run.kind;
  const group = [fixed ? "fixed" : "variable", lead ? "lead" : "lithium", sunny ? "sunny" : "no panels"];
  for (const cut of CUTS) {
    const t = performance.now();
    const one = scoreOne(run.rig, run.readings, run.reserveH, cut, group, members);
    ms += performance.now() - t;
    if (one) {
      all.push(one);
      if (process.env.EACH)
        console.log(
          seed,
          cut,
          group.join(" "),
          `left ${one.left.toFixed(2)} p ${one.p10.toFixed(2)} ${one.p50.toFixed(2)} ${one.p90.toFixed(2)} err ${((100 * one.p50) / one.left - 100).toFixed(0)} %`,
        );
    }
    const two = process.env.ONE
      ? null
      : scoreOne(run.rig, onlyCurrent(run.readings), run.reserveH, cut, group, members);
    if (two) bare.push(two);
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
