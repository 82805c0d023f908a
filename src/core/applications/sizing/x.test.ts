import fc from "fast-check";
import { it } from "vitest";
import { wide } from "../../../../tests/wide-systems";
import { sizeJob } from "./size-system";
import { assess } from "../../assessment/verdicts/assess";
import { partRows, partsList } from "../handover/parts-list";
it("x", () => {
  fc.sample(wide, { numRuns: 10, seed: 380 }).forEach((raw, n) => {
    const { job, parts, left } = sizeJob(raw);
    const a = assess(job);
    const v = a.values;
    console.log(
      `@@ ${n + 1}. ${a.wiring.rules.name}, ${job.brief.mains}, ${job.cabin.kind}; ${v.bank.series.value}S${v.bank.parallel.value}P ${job.bank.chemistry} ${v.bank.capacityAh.value} Ah, ${(v.bank.blockVoltage.value * v.bank.series.value).toFixed(0)} V; ${v.inverter.count.value} x ${v.inverter.rating.value} VA; ${job.units.map((u) => u.kind).join("+")}; Starts ${a.verdicts.starts.word}, Carries ${a.verdicts.carries.word}`,
    );
    if (process.env.FULL)
      for (const p of parts)
        console.log(
          `@@   ${p.run}: ${p.name} ${p.size} [${p.rule}] smaller ${p.smaller ? p.smaller.size + " breaks " + p.smaller.breaks.join(", ") : "-"}`,
        );
    if (process.env.FULL === "2") for (const r of partRows(partsList(job, a))) console.log("@@   ", r.join(" | "));
    if (left.length)
      console.log(
        "LEFT",
        left.map((c) => c.name),
      );
  });
});
