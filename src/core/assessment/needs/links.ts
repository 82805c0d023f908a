import { ampacityTable } from "../../document/defaults";
import { largestShare, type System } from "../../models/system/system";
import { cableCarries } from "../../reference/conductors/ampacity";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import { chargingTogether } from "./charging";
import { fullDraw } from "./full-draw";
import { drawnBeside } from "./shared-parts";

/** Whether batteries with leads of their own are in parallel. */
export const isParallel = ({ job, values }: System): boolean =>
  job.bank.build !== "cells" && values.bank.parallel.value >= 2;

/** A that the batteries together give or take at most: with the inverters at their full draw, or charged from all sources. */
export function mostOfBank(system: System, bankCurrent: TracedValue): TracedValue {
  const { lanes } = system.wiring.main;
  const full = system.converted ? fullDraw(system) : null;
  const charging = chargingTogether(system).figure;
  const beside = drawnBeside(system);
  return traced({
    key: "links.most",
    name: "Most that the batteries give or take",
    dimension: "current",
    value: Math.max(bankCurrent.value, lanes * (full?.value ?? 0) + (beside?.value ?? 0), charging?.value ?? 0),
    relation: `I_b = max(I_r${full || beside ? `, ${[...(full ? ["m × I_f"] : []), ...(beside ? ["I_o"] : [])].join(" + ")}` : ""}${charging ? ", I_c" : ""})`,
    terms: () => [
      of("I_r", bankCurrent),
      ...(full
        ? [constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter"), of("I_f", full)]
        : []),
      ...(beside ? [of("I_o", beside)] : []),
      ...(charging ? [of("I_c", charging)] : []),
    ],
    source: "running, at the full draw of inverters and DC circuits, or charged from all sources at once",
  });
}

/** 125 % of what the battery gives or takes that has the largest share. */
export function fuseOfEach(system: System, most: TracedValue): TracedValue {
  const share = largestShare(system);
  const own = traced({
    key: "links.current",
    name: "Current of the battery with the largest share",
    dimension: "current",
    value: share.value * most.value,
    relation: "I_1 = q × I_b",
    terms: () => [share, of("I_b", most)],
  });
  return traced({
    key: "links.least",
    name: "125 % of it",
    dimension: "current",
    value: 1.25 * own.value,
    relation: "I_m = 1.25 × I_1",
    terms: () => [of("I_1", own)],
  });
}

/** What the lead of each battery, or a link of a chain, carries in its air. */
export function linkAmpacity({ values, job }: System): TracedValue {
  const v = values.wiring.links;
  const carried = cableCarries(
    ampacityTable(job),
    { areaMm2: v.areaMm2.value, insulation: "90", route: "free" },
    values.wiring.ambientC.value,
  );
  return traced({
    key: "links.ampacity",
    name: "Ampacity of each battery's lead",
    dimension: "current",
    value: carried,
    relation: "I_z = I_t",
    terms: () => [
      constant(
        "I_t",
        "Table value in this air",
        carried,
        "current",
        "DC table of the rule set, 90 °C insulation, free air",
      ),
      given("S", v.areaMm2),
      given("T", values.wiring.ambientC),
    ],
    source: "DC table of the rule set, 90 °C insulation",
  });
}
