import type { Job } from "../../document/schema";
import type { Assessment } from "../../assessment/verdicts/assess";
import { valuesOf, type Design } from "./design";
import type { Requirement } from "./target";
import { fixedSpeed } from "../../document/unit-kinds";
import type { JobValues } from "../../document/resolved";

/** One line of what a design takes. */
export interface Line {
  what: string;
  count: number;
  cost: number;
  mass: number;
  /** Litres inside. */
  space: number;
}

const wattHours = ({ bank }: JobValues) =>
  bank.capacityAh.value * bank.parallel.value * bank.blockVoltage.value * bank.series.value;
const panelWatts = ({ sources }: JobValues) =>
  sources.panels.reduce((sum, { power, count }) => sum + power.value * count.value, 0);

/** Share of a design's part that is there already. */
function ownedShares(
  job: Job,
  requirement: Requirement,
  design: Design,
): { bank: number; panels: number; inverter: number } {
  const values = valuesOf(job);
  const battery = requirement.vary.batteries[design.battery]!;
  const wanted = battery.blockVoltage * battery.series * battery.capacityAh * design.parallel;
  const has = (part: Requirement["owned"][number]) => requirement.owned.includes(part);
  const part = (there: number, asked: number) => (asked > 0 ? Math.min(1, there / asked) : 0);
  const rating = requirement.vary.inverters[design.inverter]!.rating;
  return {
    bank: has("bank") && job.bank.chemistry === battery.chemistry ? part(wattHours(values), wanted) : 0,
    panels: has("panels") ? part(panelWatts(values), design.panels * requirement.vary.panel.power) : 0,
    inverter: has("inverter") && values.inverter.rating.value >= 0.99 * rating ? 1 : 0,
  };
}

/**
 * Lines under way: those of one name add up. A line is priced `times` over, by watts or amps where it is not by the piece;
 * `free` is the share of it that is there already.
 */
function list() {
  const lines = new Map<string, Line>();
  const add = (
    what: string,
    count: number,
    { cost, mass, space = 0 }: { cost: number; mass: number; space?: number },
    { times = count, free = 0 }: { times?: number; free?: number } = {},
  ) => {
    if (count === 0) return;
    const line = lines.get(what) ?? { what, count: 0, cost: 0, mass: 0, space: 0 };
    const share = times * (1 - free);
    lines.set(what, {
      what,
      count: line.count + count,
      cost: line.cost + cost * share,
      mass: line.mass + mass * share,
      space: line.space + space * share,
    });
  };
  return { lines: () => [...lines.values()], add };
}

/** What a design takes beside its cables and fuses, line by line; what is there already costs and weighs nothing more. */
export function linesOf(job: Job, requirement: Requirement, design: Design): Line[] {
  const { vary, prices } = requirement;
  const owned = ownedShares(job, requirement, design);
  const { lines, add } = list();
  const battery = vary.batteries[design.battery]!;
  add(battery.name, design.parallel, battery, { free: owned.bank });
  add(vary.panel.name, design.panels, vary.panel, { free: owned.panels });
  const watts = design.panels * vary.panel.power;
  add("Charge controller", watts > 0 ? 1 : 0, prices.controllerWatt, { times: watts, free: owned.panels });
  const inverter = vary.inverters[design.inverter]!;
  add(`Inverter, ${inverter.name}`, 1, inverter, { free: owned.inverter });
  const fixed = job.units.filter(fixedSpeed);
  if (design.start === "soft-starter")
    add("Soft starter", fixed.filter(({ startAid }) => startAid !== "soft-starter").length, prices.softStarter);
  if (design.start === "variable-unit") add("Variable-speed unit", fixed.length, prices.variableUnit);
  const shaded = design.cabin === "outside-blinds" || design.cabin === "both";
  const skinned = design.cabin === "insulated" || design.cabin === "both";
  add("Outside blinds", shaded && job.cabin.blinds !== "outside" ? 1 : 0, prices.outsideBlinds);
  add("Awning", design.cabin === "awning" ? 1 : 0, prices.awning);
  add("Insulation", skinned ? 1 : 0, prices.insulation);
  add("Engine converter", design.engine > 0 ? 1 : 0, prices.engineAmp, { times: design.engine });
  add("Generator", design.generator ? 1 : 0, prices.generator);
  return lines();
}

/** Live, neutral and protective conductor. */
const MAINS_CONDUCTORS = 3;
const trimmed = (value: number) => String(Number(value.toFixed(value < 10 ? 1 : 0)));

/** Cables, fuses and breakers of the runs of a fitted system that are made anew, by their keys. */
export function runLinesOf({ prices }: Requirement, { wiring }: Assessment, fresh: ReadonlySet<string>): Line[] {
  const { lines, add } = list();
  for (const circuit of [wiring.main, wiring.mains, ...wiring.branches].filter(({ key }) => fresh.has(key))) {
    const title = circuit.key === "main" ? "Main" : circuit.key === "mains" ? "Mains" : circuit.title;
    for (const { part, values } of circuit.parts) {
      if (part.kind === "cable") {
        // A mains cable's conductors go there and back in one sheath; of the others each is a cable of its own.
        const ways = circuit.mains ? MAINS_CONDUCTORS : part.ways === "both" ? 2 : 1;
        const metres = values.length!.value * ways * values.count!.value;
        add(`${title} cable, ${trimmed(values.areaMm2!.value)} mm²`, 1, prices.cable, {
          times: metres * values.areaMm2!.value,
        });
      } else if (part.kind === "fuse") add(`${title} fuse, ${trimmed(values.rating!.value)} A`, 1, prices.fuse);
      else if (part.kind === "breaker") add(`${title} breaker, ${trimmed(values.rating!.value)} A`, 1, prices.fuse);
    }
  }
  return lines();
}
