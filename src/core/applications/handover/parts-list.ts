import { FUSE_KINDS } from "../../reference/conductors/fuse";
import { areaWords, ruleSetOf } from "../../document/defaults";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { allCircuits } from "../../models/wiring/circuits";
import { PART_NAMES, partWords } from "../../models/wiring/part";
import { arrayOf } from "../../document/sides";
import type { Job } from "../../document/schema";
import { guardOf } from "../../assessment/needs/guards";
import { protectiveArea } from "../../reference/standards/protective-conductor";
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

/** Parts of a circuit, each DC cable with the lugs of its ends. */
function runLines(job: Job, assessment: Assessment, circuit: Circuit): PartLine[] {
  return circuit.parts.flatMap((one) => {
    const line = partLine(job, one, circuit);
    if (one.part.kind !== "cable") return [line];
    const { areaMm2, count } = one.values;
    if (circuit.mains)
      return [{ ...line, detail: `${line.detail}, protective conductor ${earthWords(job, assessment, circuit, one)}` }];
    const ways = one.part.ways === "one" ? 1 : 2;
    const lugs: PartLine = {
      part: "Lug",
      detail: `for ${areaWords(job, areaMm2!.value)}`,
      quantity: 2 * ways * Math.round(count!.value),
      unit: "pieces",
      where: line.where,
    };
    return areaMm2!.value >= LEAST_LUG_MM2 ? [line, lugs] : [line];
  });
}

/** Copper from which a DC cable ends in crimped lugs; thinner ones end in ferrules and terminals (common practice). */
const LEAST_LUG_MM2 = 6;

function earthWords(job: Job, { wiring }: Assessment, circuit: Circuit, { values }: WiringPart): string {
  const guard = guardOf(wiring, circuit, circuit.parts.length);
  const lineMm2 = values.areaMm2!.value;
  return areaWords(
    job,
    protectiveArea(wiring.rules.key, { deviceA: guard?.values.rating!.value ?? Infinity, lineMm2 }),
  );
}

/** What a switching part is beside its rating: curve, milliamps, type and poles. */
function kindWords({ part, values }: WiringPart): string[] {
  const poles = (which: "all" | "live") => (which === "all" ? "all poles" : "live pole only");
  switch (part.kind) {
    case "breaker":
      return [`type ${part.curve}`, `breaks ${rounded(values.interrupting!.value / 1000, 1)} kA`];
    case "rcd":
      return [`${rounded(1000 * values.residual!.value)} mA`, `type ${part.residualType}`, poles(part.poles)];
    case "changeover":
      return [poles(part.poles)];
    case "isolator":
      return values.voltage ? [`${rounded(values.voltage.value)} V`] : [];
    default:
      return [];
  }
}

function partLine(job: Job, one: WiringPart, { title, mains }: Circuit): PartLine {
  const { part, values, mark } = one;
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
        detail: named([...(rating ? [`${rounded(rating.value)} A`] : []), ...kindWords(one)].join(", ")),
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
    const list = runLines(job, assessment, circuit);
    for (let lane = 0; lane < circuit.lanes; lane++) lines.push(...list);
  }
  return lines;
}

export const partRows = (lines: readonly PartLine[]): (string | number)[][] =>
  lines.map(({ part, detail, quantity, unit, where }) => [part, detail, quantity, unit, where]);
