import type { Rig } from "../rig/document";
import type { Assessment } from "../verdict/assess";
import type { RigValues } from "../rig/resolve";
import { valuesOf, type Design } from "./design";
import type { Wish } from "./wish";

/** One line of what a design takes. */
export interface Line {
  what: string;
  count: number;
  cost: number;
  mass: number;
}

const wattHours = ({ bank }: RigValues) =>
  bank.capacityAh.value * bank.parallel.value * bank.blockVoltage.value * bank.series.value;
const panelWatts = ({ sources }: RigValues) =>
  sources.panels.reduce((sum, { power, count }) => sum + power.value * count.value, 0);

/** Share of a design's part that is there already. */
function ownedShares(rig: Rig, wish: Wish, design: Design): { bank: number; panels: number; inverter: number } {
  const values = valuesOf(rig);
  const battery = wish.vary.batteries[design.battery]!;
  const wanted = battery.blockVoltage * battery.series * battery.capacityAh * design.parallel;
  const has = (part: Wish["owned"][number]) => wish.owned.includes(part);
  const part = (there: number, asked: number) => (asked > 0 ? Math.min(1, there / asked) : 0);
  const rating = wish.vary.inverters[design.inverter]!.rating;
  return {
    bank: has("bank") && rig.bank.chemistry === battery.chemistry ? part(wattHours(values), wanted) : 0,
    panels: has("panels") ? part(panelWatts(values), design.panels * wish.vary.panel.power) : 0,
    inverter: has("inverter") && values.inverter.rating.value >= 0.99 * rating ? 1 : 0,
  };
}

/** What a design takes, line by line; what is there already costs and weighs nothing more. */
export function linesOf(rig: Rig, wish: Wish, design: Design, assessment: Assessment): Line[] {
  const { vary, prices } = wish;
  const owned = ownedShares(rig, wish, design);
  const lines: Line[] = [];
  const add = (
    what: string,
    count: number,
    { cost, mass }: { cost: number; mass: number },
    times = count,
    free = 0,
  ) => {
    if (count > 0) lines.push({ what, count, cost: cost * times * (1 - free), mass: mass * times * (1 - free) });
  };
  const battery = vary.batteries[design.battery]!;
  add(battery.name, design.parallel, battery, design.parallel, owned.bank);
  add(vary.panel.name, design.panels, vary.panel, design.panels, owned.panels);
  const watts = design.panels * vary.panel.power;
  add("Charge controller", watts > 0 ? 1 : 0, prices.controllerWatt, watts, owned.panels);
  const inverter = vary.inverters[design.inverter]!;
  add(`Inverter, ${inverter.name}`, 1, inverter, 1, owned.inverter);
  const fixed = rig.units.filter(({ kind }) => kind === "fixed");
  if (design.start === "soft-starter")
    add("Soft starter", fixed.filter(({ cure }) => cure !== "soft-starter").length, prices.softStarter);
  if (design.start === "variable-unit") add("Variable-speed unit", fixed.length, prices.variableUnit);
  const shaded = design.cabin === "outside-blinds" || design.cabin === "both";
  const skinned = design.cabin === "insulated" || design.cabin === "both";
  add("Outside blinds", shaded && rig.cabin.blinds !== "outside" ? 1 : 0, prices.outsideBlinds);
  add("Awning", design.cabin === "awning" ? 1 : 0, prices.awning);
  add("Insulation", skinned ? 1 : 0, prices.insulation);
  add("Engine converter", design.engine > 0 ? 1 : 0, prices.engineAmp, design.engine);
  add("Generator", design.generator ? 1 : 0, prices.generator);
  for (const { part, values } of assessment.path.main.parts) {
    if (part.kind === "cable") {
      const metres = values.length!.value * (part.ways === "both" ? 2 : 1) * values.count!.value;
      add(`Main cable, ${Math.round(values.areaMm2!.value)} mm²`, 1, prices.cable, metres * values.areaMm2!.value);
    } else if (part.kind === "fuse") add(`Main fuse, ${Math.round(values.rating!.value)} A`, 1, prices.fuse);
  }
  return lines;
}
