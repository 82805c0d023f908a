import { bankModel, bankRestVoltage } from "../bank/bank";
import { CHEMISTRIES } from "../bank/chemistry";
import { inverterModel } from "../inverter/inverter";
import { pathModel } from "../path/path";
import type { Rig } from "../rig/document";
import { resolveRig, usesInverter, type RigValues } from "../rig/resolve";
import { mainsVoltage } from "../rig/typical";
import type { StartTrace } from "../start/start";
import { constant, given, record, type Figures } from "../sum/figure";
import { unitDraws, type UnitDraws } from "../unit/unit";
import { assessCarries } from "./carries";
import type { Verdict } from "./check";
import { assessLasts, type BankColumn, type ModeHours } from "./lasts";
import { noticesOf, type Notice } from "./notices";
import { assessStarts, type Ladder } from "./starts";

export interface Assessment {
  verdicts: { starts: Verdict; carries: Verdict; lasts: Verdict };
  figures: Figures;
  values: RigValues;
  units: UnitDraws[];
  start: {
    /** The start as the rig is: with its cure, at reserve. */
    own: StartTrace;
    /** The same with no cure, where the unit has one. */
    bare: StartTrace | null;
    /** What a soft starter would make of it, where it fails without. */
    softStarter: { margin: number; peakApparent: number } | null;
    /** Rest voltage down to the inverter at the start peak, at reserve and as charged. */
    ladders: Ladder[];
  };
  hours: ModeHours[];
  column: BankColumn;
  notices: Notice[];
}

/**
 * Assesses a rig: the one way from a document to its verdicts, used by the screen, the command line and the tests.
 * Pure and total: a valid document always gives finite figures; what cannot work is a verdict and not an error.
 */
export function assess(rig: Rig): Assessment {
  const figures: Figures = {};
  const values = resolveRig(rig);
  const bank = bankModel(values.bank, rig.bank.chemistry, rig.bank.build);
  const inverter = inverterModel(values.inverter);
  const path = pathModel(figures, rig, values.path);
  const mains = mainsVoltage(rig);
  const units = rig.units.map((unit, i) =>
    unitDraws(figures, unit, values.units[i]!, i, {
      mains,
      inverter,
      bankVoltage: bank.nominalVoltage,
      restHalf: bankRestVoltage(bank, 0.5),
      sourceResistance: bank.cellResistance + bank.protectionResistance + path.resistance,
      outdoor: values.brief.outdoorC,
      setPoint: values.brief.setPointC,
    }),
  );
  recordBank(figures, rig, values, bank);
  const loads = (side: "mains" | "dc", weight: (i: number) => number) =>
    rig.brief.loads.reduce(
      (sum, load, i) => (load.side === side ? sum + values.loads[i]!.power.value * weight(i) : sum),
      0,
    );
  const system = {
    rig,
    values,
    figures,
    bank,
    inverter,
    path,
    units,
    mains,
    converted: usesInverter(rig),
    loads: {
      mains: loads("mains", () => 1),
      dc: loads("dc", () => 1),
      mainsAtStart: loads("mains", (i) => (rig.brief.loads[i]!.atStart ? 1 : 0)),
      dcAtStart: loads("dc", (i) => (rig.brief.loads[i]!.atStart ? 1 : 0)),
      mainsAverage: loads("mains", (i) => values.loads[i]!.share.value),
      dcAverage: loads("dc", (i) => values.loads[i]!.share.value),
    },
  };
  const { verdict: starts, ...start } = assessStarts(system);
  const carries = assessCarries(system);
  const { verdict: lasts, hours, column } = assessLasts(system);
  return {
    verdicts: { starts, carries, lasts },
    figures,
    values,
    units,
    start,
    hours,
    column,
    notices: noticesOf(system, start.own),
  };
}

function recordBank(figures: Figures, rig: Rig, values: RigValues, bank: ReturnType<typeof bankModel>): void {
  const v = values.bank;
  record(figures, "bank.capacity", "Capacity now", "charge", bank.capacityAh, "C = C_1 × p × h × k_T", [
    given("C_1", v.capacityAh),
    given("p", v.parallel),
    given("h", v.condition),
    constant(
      "k_T",
      "Share left at its temperature",
      bank.capacityAh / (v.capacityAh.value * v.parallel.value * v.condition.value),
      "ratio",
      `${CHEMISTRIES[rig.bank.chemistry].name} at ${Math.round(v.temperatureC.value)} °C, typical (memory)`,
    ),
  ]);
  record(
    figures,
    "bank.resistance",
    "Bank resistance",
    "resistance",
    bank.cellResistance + bank.protectionResistance,
    "R_b = R_z + R_p",
    [
      constant(
        "R_z",
        `Cells: ${v.series.value} in series, ${v.parallel.value} in parallel`,
        bank.cellResistance,
        "resistance",
        "from the resistance of each; grows with cold",
      ),
      constant(
        "R_p",
        "Protection and terminals",
        bank.protectionResistance,
        "resistance",
        "half of a battery's own, or the board's",
      ),
    ],
  );
  const restAt = (key: string, name: string, share: number) =>
    record(figures, key, name, "voltage", bankRestVoltage(bank, share), "E = n × E_1", [
      constant(
        "n",
        "Cells in series",
        bank.cellsInSeries,
        "count",
        "from the batteries' volts and their number in series",
      ),
      constant(
        "E_1",
        "Rest voltage of a cell there",
        bankRestVoltage(bank, share) / bank.cellsInSeries,
        "voltage",
        `${CHEMISTRIES[rig.bank.chemistry].name}, typical of published curves (memory)`,
      ),
    ]);
  restAt("bank.restHalf", "Rest voltage, half charged", 0.5);
  restAt("bank.rest", "Rest voltage at reserve", Math.min(bank.startShare, bank.reserveShare));
}
