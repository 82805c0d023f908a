import { FUSE_KINDS } from "../../reference/conductors/fuse";
import { areaWords, ruleSetOf } from "../../document/defaults";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { allCircuits } from "../../models/wiring/circuits";
import { PART_NAMES, partWords } from "../../models/wiring/part";
import { arrayOf } from "../../document/sides";
import type { Job } from "../../document/schema";
import type { Assessment } from "../../assessment/verdicts/assess";
import { hasStartAid } from "../../document/unit-kinds";

/** One line of the parts list. */
export interface PartLine {
  part: string;
  detail: string;
  quantity: number;
  unit: "pieces" | "m";
  /** Where it goes. */
  where: string;
}

export const PARTS_HEADER = ["part", "detail", "quantity", "unit", "where"];

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const rounded = (value: number, digits = 0) => String(Number(value.toFixed(digits)));

function runLines(job: Job, circuit: Circuit): PartLine[] {
  return circuit.parts.map((one) => partLine(job, one, circuit));
}

function partLine(job: Job, { part, values, mark }: WiringPart, { title, mains }: Circuit): PartLine {
  const where = `${title}, ${mark}`;
  const named = (name: string) => (part.name.trim() ? `${part.name.trim()}: ${name}` : name);
  switch (part.kind) {
    case "cable": {
      // A mains cable holds its conductors; of a pair of single ones each way is a cable of its own.
      const ways = mains || part.ways === "one" ? 1 : 2;
      return {
        part: mains ? "Cable, AC" : "Cable",
        detail: named(`${areaWords(job, values.areaMm2!.value)}, ${part.insulation} °C`),
        quantity: Number((values.length!.value * values.count!.value * ways).toFixed(2)),
        unit: "m",
        where,
      };
    }
    case "fuse":
      return {
        part: FUSE_KINDS[part.fuseKind].name,
        detail: named(`${rounded(values.rating!.value)} A, breaks ${rounded(values.interrupting!.value / 1000, 1)} kA`),
        quantity: 1,
        unit: "pieces",
        where,
      };
    default: {
      const rating = (values as { rating?: { value: number } }).rating;
      const contacts = part.kind === "joints" ? Math.max(1, Math.round(values.contacts?.value ?? 1)) : 1;
      return {
        part: capital(part.kind === "rcd" ? partWords(part, ruleSetOf(job)) : PART_NAMES[part.kind]),
        detail: named(rating ? `${rounded(rating.value)} A` : ""),
        quantity: contacts,
        unit: "pieces",
        where,
      };
    }
  }
}

/** The parts of a system with their quantities: things first, then each run from the battery outward. */
export function partsList(job: Job, assessment: Assessment): PartLine[] {
  const { values, wiring } = assessment;
  const { bank, inverter, units, sources } = values;
  const lines: PartLine[] = [];
  const piece = (part: string, detail: string, quantity: number, where: string) => {
    if (quantity > 0) lines.push({ part, detail, quantity, unit: "pieces", where });
  };
  const chemistry = { lfp: "lithium iron phosphate", nmc: "lithium-ion", agm: "lead-acid, AGM" }[job.bank.chemistry];
  piece(
    job.bank.build === "cells" ? "Cell" : "Battery",
    `${rounded(bank.capacityAh.value)} Ah, ${rounded(bank.blockVoltage.value, 1)} V, ${chemistry}`,
    Math.round(bank.series.value * bank.parallel.value),
    "Battery",
  );
  job.units.forEach((unit, i) => {
    const power = values.units[i]!.ratedPower.value;
    const kind = { fixed: "fixed speed", variable: "variable speed", dc: "on battery DC" }[unit.kind];
    piece("Air conditioner", `${unit.name}, ${kind}, ${rounded(power)} W`, 1, unit.name);
    if (hasStartAid(unit))
      piece(
        unit.startAid === "soft-starter" ? "Soft starter" : "Start capacitor",
        `for ${rounded(units[i]!.runningCurrent.value, 1)} A running`,
        1,
        unit.name,
      );
  });
  if (assessment.compartment)
    piece(
      "Inverter",
      `${rounded(inverter.rating.value)} VA, ${job.inverter.waveform === "sine" ? "sine" : "modified"}`,
      Math.round(inverter.count.value),
      "Inverter",
    );
  job.sources.panels.forEach((panel, i) => {
    const { power, count } = sources.panels[i]!;
    piece("Panel", `${rounded(power.value)} W`, Math.round(count.value), panel.name);
  });
  const controllers = job.sources.controllers.length || (job.sources.panels.length > 0 ? 1 : 0);
  job.sources.controllers.forEach((controller, i) =>
    piece("Charge controller", `${rounded(sources.controllers[i]!.current.value)} A`, 1, controller.name),
  );
  if (controllers > 0 && job.sources.controllers.length === 0)
    piece("Charge controller", "by the panels’ circuit", 1, "Roof");
  if (job.wiring.links.fuses === "each" && job.bank.build === "batteries")
    piece(
      "Battery fuse",
      `${rounded(values.wiring.links.fuseRating.value)} A`,
      Math.round(bank.parallel.value),
      "Battery",
    );
  job.sources.controllers.forEach((controller, i) => {
    const array = arrayOf(job, sources.panels, sources.lowestC.value, i);
    if (controller.stringFuses === "each" && array.strings >= 3)
      piece("String fuse", `${rounded(sources.controllers[i]!.stringFuse.value)} A`, array.strings, controller.name);
  });
  wiring.branches.forEach(({ branch, title }, i) => {
    const v = values.wiring.branches[i]!;
    if (branch!.role === "engine" && branch!.coupling === "dc-dc")
      piece("DC-DC converter", `${rounded(v.current.value)} A into the battery`, 1, title);
    if (branch!.role === "charger") piece("Charger", `${rounded(v.current.value)} A`, 1, title);
    if (branch!.role === "loads" && branch!.converter)
      piece("DC-DC converter", `${rounded(v.converterRating.value)} A at ${rounded(v.loadVoltage.value)} V`, 1, title);
    if (branch!.role === "shore")
      lines.push({
        part: "Supply lead",
        detail: areaWords(job, v.leadAreaMm2.value),
        quantity: Number(v.leadLength.value.toFixed(1)),
        unit: "m",
        where: title,
      });
  });
  for (const circuit of allCircuits(wiring, assessment.compartment !== null)) {
    // Of several inverters each has a run of its own.
    const list = runLines(job, circuit);
    for (let lane = 0; lane < circuit.lanes; lane++) lines.push(...list);
  }
  return lines;
}

export const partRows = (lines: readonly PartLine[]): (string | number)[][] =>
  lines.map(({ part, detail, quantity, unit, where }) => [part, detail, quantity, unit, where]);
