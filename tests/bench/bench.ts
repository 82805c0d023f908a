/** Numbers that an issue names, as medians: `npm run bench`. */
import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { Bench } from "tinybench";
import { parseQuantity } from "../../src/core/quantity/parse";
import { METRIC } from "../../src/core/quantity/dimension";
import { emptyRig, readRig, readRigText, type Rig } from "../../src/core/rig/document";
import { compareCures } from "../../src/core/start/cures";
import { assess } from "../../src/core/verdict/assess";
import { measureNext } from "../../src/core/verdict/measure-next";

const folder = join(process.cwd(), "db/demo");
const demo = readdirSync(folder).map((file) => {
  const read = readRigText(readFileSync(join(folder, file), "utf8"));
  if (!read.ok) throw new Error(file);
  return read.rig;
});

/** Two soft-started units, eight loads and everything the sheet can hold: the largest rig in ordinary use. */
function fullRig(): Rig {
  const base = structuredClone(demo.find(({ name }) => name.startsWith("Marionette"))!);
  base.units = base.units.map((unit) => ({ ...unit, cure: "soft-starter" as const }));
  const load = base.brief.loads[0]!;
  base.brief.loads = Array.from({ length: 8 }, (_, i) => ({
    ...load,
    id: `l${i}`,
    side: i % 2 ? ("dc" as const) : ("mains" as const),
  }));
  return base;
}

const full = fullRig();
const text = JSON.stringify(full);
const bench = new Bench({ time: 1500, warmupTime: 500 });
bench
  .add("assess, empty rig", () => void assess(emptyRig("bench")))
  .add("assess, full rig (limit 5 ms)", () => void assess(full))
  .add("assess, the demo's six", () => demo.forEach((rig) => assess(rig)))
  .add("measure next, full rig (limit 50 ms)", () => void measureNext(full))
  .add("cures compared, full rig", () => void compareCures(full))
  .add("read and check a full document", () => void readRig(JSON.parse(text)))
  .add("parse a quantity", () => void parseQuantity("12 ft 6 in", "length", METRIC));
await bench.run();
console.table(
  bench.tasks.map(({ name, result }) => {
    if (result.state !== "completed") return { what: name, "median ms": result.state };
    const { latency } = result;
    return {
      what: name,
      "median ms": Number(latency.p50.toFixed(4)),
      "p99 ms": Number(latency.p99.toFixed(4)),
      samples: latency.samplesCount,
    };
  }),
);
