import fc from "fast-check";
import { emptyBranch, emptyPart, type Job } from "@/core/document/schema";
import { q } from "./jobs";
import { sensible } from "./sensible-systems";

/**
 * Sensible systems and what is sold beside them: lead-acid, NMC and bare cells, up to four inverters, one battery or four in
 * parallel, banks of 96 V, a generator that the job counts on, a DC unit on a branch of its own. Every choice that decides safety is stated,
 * and stated right.
 */
export const wide = fc
  .record({
    job: sensible,
    battery: fc.constantFrom("lfp", "lfp", "agm", "nmc", "cells", "high"),
    inverters: fc.constantFrom(1, 1, 2, 3, 4),
    parallel: fc.constantFrom(1, 2, 4),
    generator: fc.boolean(),
    combined: fc.boolean(),
    direct: fc.boolean(),
    layout: fc.constantFrom("busbars", "chain-diagonal") as fc.Arbitrary<"busbars">,
  })
  .map(({ job, battery, inverters, parallel, generator, combined, direct, layout }): Job => {
    const { bank, inverter } = job;
    const volts = bank.series!.value * 12.8;
    const rating = inverter.rating!.value;
    // What was drawn for two is too much for one; and no busbar is sold for the sum of more than 1,200 A.
    const most = Math.max(inverter.count!.value, Math.floor((1200 * volts) / (1.7 * rating)));
    const count = Math.min(most, Math.max(inverter.count!.value, inverters));
    inverter.count = q(count);
    for (const unit of job.units) Object.assign(unit, { startAid: "soft-starter", learned: true });
    inverter.neutralBond = "relay";
    inverter.leads = "own";
    inverter.combined = combined;
    if (combined) inverter.chargeCurrent = q(20);
    const ah = (3 * rating * count) / volts;
    bank.parallel = q(parallel);
    bank.capacityAh = q(Math.max(60, Math.round(ah / (battery === "cells" ? 1 : parallel))));
    bank.continuousCurrent = q(Math.round((2.6 * rating * count) / volts / (battery === "cells" ? 1 : parallel)));
    bank.chargeCurrent = q(
      Math.max(Math.round(bank.capacityAh.value / 2), Math.round((1.2 * (200 + 20 * count)) / parallel)),
    );
    bank.frostBlock = true;
    if (battery === "agm") Object.assign(bank, { chemistry: "agm", blockVoltage: q(12) });
    // Three cells of NMC are too low for a 12 V inverter.
    if (battery === "nmc" && volts > 20)
      Object.assign(bank, { chemistry: "nmc", blockVoltage: q(volts < 30 ? 25.9 : 51.8), series: q(1) });
    if (battery === "cells" || battery === "high")
      Object.assign(bank, {
        build: "cells",
        series: q(battery === "high" ? 30 : Math.round(volts / 3.2)),
        blockVoltage: undefined,
      });
    job.wiring.above60 = battery === "high" ? "covered" : "unsaid";
    // No link is sold that the fuses of several inverters together protect.
    job.wiring.links = { ...job.wiring.links, layout: count > 1 ? "busbars" : layout, fuses: "each" };
    if (generator)
      Object.assign(job.supplies, { generatorAuto: true, generatorBond: "bonded", generatorRating: q(9000) });
    const open = volts > 60 || battery === "high" ? 150 : 90;
    for (const panel of job.sources.panels) Object.assign(panel, { openVoltage: q(open), shortCurrent: q(10) });
    for (const controller of job.sources.controllers)
      Object.assign(controller, {
        stringFuses: "each",
        maxVoltage: q(1.3 * open * job.sources.panels[0]!.series!.value),
        maxArrayCurrent: q(200),
      });
    if (direct && battery !== "high") {
      job.units.push({
        ...job.units[0]!,
        id: "dc",
        name: "Cooler",
        kind: "dc",
        startAid: "none",
        learned: false,
        runningCurrent: undefined,
        lockedRotorCurrent: undefined,
        dcRunningCurrent: q(20),
        supplyVoltage: q(volts * 0.94),
      });
      job.wiring.branches.push({ ...emptyBranch("dc-unit", "dc"), unitId: "dc" });
    }
    if (count > 1 && !job.wiring.main.some(({ kind }) => kind === "busbar"))
      job.wiring.main.push(emptyPart("busbar", "bus"));
    return job;
  });
