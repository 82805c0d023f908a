import { bankModel, bankRestVoltage } from "../bank/bank";
import { CHEMISTRIES } from "../bank/chemistry";
import { inverterModel } from "../inverter/inverter";
import { pathModel } from "../path/path";
import type { Rig } from "../rig/document";
import { resolveRig, usesInverter, type RigValues } from "../rig/resolve";
import { mainsVoltage } from "../rig/typical";
import { constant, given, record, type Figures } from "../sum/figure";
import { unitDraws } from "../unit/unit";
import type { System } from "./system";

/** The models of a rig, built once from its document, with the ledger that everything after writes into. */
export function buildSystem(rig: Rig): System {
  const figures: Figures = {};
  const values = resolveRig(rig);
  const bank = bankModel(values, rig);
  const inverter = inverterModel(values.inverter);
  const path = pathModel(figures, rig, values);
  const mains = mainsVoltage(rig);
  const units = rig.units.map((unit, i) =>
    unitDraws(figures, unit, values.units[i]!, i, {
      mains,
      inverter,
      bankVoltage: bank.nominalVoltage,
      restHalf: bankRestVoltage(bank, 0.5),
      sourceResistance: bank.innerResistance + path.resistance,
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
  return {
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
  record(figures, "bank.resistance", "Bank resistance", "resistance", bank.innerResistance, "R_b = R_z + R_p + R_l", [
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
    constant("R_l", "Links between them", bank.linkResistance, "resistance", "by their layout and lengths"),
  ]);
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
