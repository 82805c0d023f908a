import type { JobValues } from "../../document/resolved";
import type { Job } from "../../document/schema";
import type { UnitDraws } from "../air-conditioner/air-conditioner";
import { bankUnderLoad, constantPower } from "../battery/under-load";
import type { BankModel } from "../battery/battery";
import type { InverterModel } from "../inverter/inverter";
import type { WiringModel } from "../wiring/circuits";

/*
 * What a load may draw before the volts at it, or at the battery, fall to the voltage at which something switches off.
 */

/** The most that the path may be asked for before the volts at its end, or at the battery, fall to their limit. */
export interface Allowed {
  /** W along the path. */
  power: number;
  by: "inverter" | "bank";
  /** Rest volts less what the DC loads take, and the volts at the far end when the limit is met. */
  seen: number;
  farEnd: number;
}

/** The parts of a system that decide it. */
export interface Switching {
  job: Job;
  values: JobValues;
  bank: BankModel;
  inverter: InverterModel;
  wiring: WiringModel;
  units: UnitDraws[];
  /** DC units on a branch of their own. */
  beside: boolean[];
  /** Whether mains is made from the battery at all. */
  converted: boolean;
}

/** What hangs at the end of the main run. */
type EndOfRun = Pick<Switching, "converted" | "inverter" | "units" | "beside" | "values">;

/** V at which the first of what hangs at the end of the main run switches off: the inverter, or a DC unit there. */
export function farCutOff({ converted, inverter, units, beside, values }: EndOfRun): number {
  return units.reduce(
    (highest, { direct, index }) =>
      direct && !beside[index] ? Math.max(highest, values.units[index]!.cutOffVoltage.value) : highest,
    converted ? inverter.cutOffVoltage : 0,
  );
}

/** Name of the machine at the end of the main run whose cut-off comes first. */
export const farEnd = (context: EndOfRun): "inverter" | "unit" =>
  context.converted && farCutOff(context) <= context.inverter.cutOffVoltage ? "inverter" : "unit";

/** What the limit is called that the volts set on the main run: the same in checks, conditions and pictures. */
export const voltageLimitName = (context: EndOfRun, { by }: Allowed): string =>
  by === "bank" ? "BMS low-voltage cut-off" : `voltage at the ${farEnd(context)}`;

/** What may flow along the main run, with `dcLoad` W drawn at the battery's terminals; `rest` is the open-circuit voltage. */
export function allowedPathPower(context: Switching & { dcLoad: number }, rest: number): Allowed {
  const atEnd = allowedByEnd(context, rest);
  const atBank = allowedByBank(context, rest);
  return atBank && atBank.power < atEnd.power ? atBank : atEnd;
}

/** Ohm of the battery, of the main run, and of both. */
const resistances = ({ bank, wiring }: Pick<Switching, "bank" | "wiring">) => ({
  inner: bank.innerResistance,
  path: wiring.resistance,
  whole: Math.max(bank.innerResistance + wiring.resistance, 1e-9),
});

/** What may flow before the volts at the end of the main run fall to the cut-off there. */
function allowedByEnd(context: Switching & { dcLoad: number }, rest: number): Allowed {
  const { inner, path, whole } = resistances(context);
  const cutOff = farCutOff(context);
  const at = (terminal: number) => {
    const seen = rest - (context.dcLoad / terminal) * inner;
    // Below half of what is seen the load takes no more power from falling volts: the voltage collapses first.
    const farEnd = Math.max(cutOff, seen / 2);
    return { seen, farEnd, current: Math.max(0, (seen - farEnd) / whole) };
  };
  // The DC loads draw the more amps the lower the volts: theirs are those of the limit itself.
  let limit = at(rest);
  for (let step = 0; step < 5 && context.dcLoad > 0; step++)
    limit = at(Math.max(rest / 4, limit.farEnd + limit.current * path));
  const { seen, farEnd, current } = limit;
  return { power: current * farEnd, by: "inverter", seen, farEnd };
}

/** What may flow before the volts at the battery fall to its own stop; null where the voltage collapses before that. */
function allowedByBank(context: Switching & { dcLoad: number }, rest: number): Allowed | null {
  const { inner, whole } = resistances(context);
  const { stopVoltage } = context.bank;
  if (stopVoltage < rest / 2) return null;
  const sideCurrent = context.dcLoad / stopVoltage;
  const seen = rest - sideCurrent * inner;
  const current = Math.max(0, (rest - stopVoltage) / Math.max(inner, 1e-9) - sideCurrent);
  if (current > seen / (2 * whole)) return null;
  const farEnd = seen - current * whole;
  return { power: current * farEnd, by: "bank", seen, farEnd };
}

/** V where a limit of the main run is stated, at its end or at the battery, with `power` W along it; null where they collapse. */
export function voltsAtLimit(
  { bank, wiring, dcLoad }: Switching & { dcLoad: number },
  { by, rest, power }: { by: Allowed["by"]; rest: number; power: number },
): number | null {
  const under = bankUnderLoad(rest, bank.innerResistance, wiring.resistance, power, dcLoad);
  if (under.collapsed) return null;
  return by === "bank" ? under.bankVoltage : under.inverterVoltage;
}

/** The branch of a DC unit that has one to itself; `i` is the unit's place in the job. */
export const branchOfUnit = ({ job, wiring }: Pick<Switching, "job" | "wiring">, i: number) =>
  wiring.branches.find(({ branch }) => branch!.role === "dc-unit" && branch!.unitId === job.units[i]!.id);

/** Ohm from the battery's terminals to a DC unit on a branch of its own. */
export const resistanceOfBranch = (context: Pick<Switching, "job" | "wiring">, i: number): number =>
  branchOfUnit(context, i)?.resistance ?? 0;

/** V at a DC unit on a branch of its own that draws `power` W; `seen` as `allowedOnBranch` gives it. */
export const voltageOnBranch = (
  context: Pick<Switching, "job" | "wiring" | "bank">,
  i: number,
  { seen, power }: { seen: number; power: number },
): number => constantPower(seen, context.bank.innerResistance + resistanceOfBranch(context, i), power).voltage;

/** The battery with a DC unit on a branch of its own among its loads: V open-circuit, A out of it and along the main run. */
interface BesideOthers {
  rest: number;
  bankCurrent: number;
  pathCurrent: number;
  /** W beside the main run in all, and of them the unit's own. */
  side: number;
  own: number;
}

/** What a DC unit on a branch of its own may draw while all else draws what it does. */
export function allowedOnBranch(
  context: Pick<Switching, "job" | "wiring" | "bank" | "values">,
  i: number,
  { rest, bankCurrent, pathCurrent, side, own }: BesideOthers,
): Allowed {
  const ofUnit = side > 0 ? ((bankCurrent - pathCurrent) * own) / side : 0;
  const seen = Math.max(0, rest - (bankCurrent - ofUnit) * context.bank.innerResistance);
  const whole = Math.max(context.bank.innerResistance + resistanceOfBranch(context, i), 1e-9);
  const floor = Math.max(context.values.units[i]!.cutOffVoltage.value, seen / 2);
  return { power: Math.max(0, ((seen - floor) / whole) * floor), by: "inverter", seen, farEnd: floor };
}
