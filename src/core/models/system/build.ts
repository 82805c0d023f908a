import { bankModel, openCircuitVoltage, type BankModel } from "../battery/battery";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { inverterModel } from "../inverter/inverter";
import { wiringModel } from "../wiring/circuits";
import type { Job } from "../../document/schema";
import { Kept } from "../../document/kept";
import { resolveJob } from "../../document/resolve";
import { mainsVoltage } from "../../document/defaults";
import { legCount, legShares, loadVolts } from "../../reference/standards/mains";
import { constant, given, traced } from "../../units/trace";
import { unitDraws } from "../air-conditioner/air-conditioner";
import type { System } from "./system";
import { onBattery } from "../../document/unit-kinds";
import { usesInverter } from "../../document/resolve-wiring";
import type { JobValues } from "../../document/resolved";

/**
 * The models of a system, built once from its document and its values, with the figures that workings build on. `kept`: what was
 * made for a system that this one differs from in a value.
 */
export function buildSystem(job: Job, values: JobValues = resolveJob(job), kept = new Kept()): System {
  const bank = bankModel(values, job);
  const inverter = inverterModel(values.inverter);
  const wiring = wiringModel(job, values, kept);
  const mains = mainsVoltage(job);
  const unitVolts = job.units.map(({ leg }) => loadVolts(job.brief.mains, leg));
  const units = job.units.map((unit, i) =>
    unitDraws({
      unit,
      values: values.units[i]!,
      drawn: values.drawn[i]!,
      index: i,
      mains: unitVolts[i]!,
      inverter,
      bankVoltage: bank.nominalVoltage,
      restHalf: openCircuitVoltage(bank, 0.5),
      sourceResistance: bank.innerResistance + wiring.resistance,
      pathResistance: wiring.resistance,
      outdoor: values.weather.highestC,
      sea: values.place.seaC,
    }),
  );
  const loads = (side: "mains" | "dc", weight: (i: number) => number) =>
    job.brief.loads.reduce(
      (sum, load, i) => (load.side === side ? sum + values.loads[i]!.power.value * weight(i) : sum),
      0,
    );
  // What DC loads draw from the battery where a converter stands before them.
  const converter = job.wiring.branches.findIndex((branch) => branch.role === "loads" && branch.converter);
  const converterLoss = converter < 0 ? 1 : 1 / values.wiring.branches[converter]!.efficiency.value;
  const onLeg = (leg: 0 | 1, weight: (i: number) => number) =>
    loads("mains", (i) => weight(i) * legShares(job.brief.mains, job.brief.loads[i]!.leg)[leg]);
  const converted = usesInverter(job);
  const beside = job.units.map(
    (unit) =>
      converted &&
      onBattery(unit) &&
      job.wiring.branches.some(({ role, unitId }) => role === "dc-unit" && unitId === unit.id),
  );
  const always = () => 1;
  const atStart = (i: number) => (job.brief.loads[i]!.atStart ? 1 : 0);
  const count = legCount(job.brief.mains);
  return {
    job,
    values,
    bank,
    bankFigures: bankFigures(job, values, bank),
    inverter,
    wiring,
    units,
    mains,
    unitVolts,
    beside,
    converterLoss,
    legs: { count, split: count === 2 && job.inverter.output === "split-phase" },
    converted,
    loads: {
      mains: loads("mains", always),
      dc: converterLoss * loads("dc", always),
      mainsAtStart: loads("mains", atStart),
      dcAtStart: converterLoss * loads("dc", atStart),
      mainsAverage: loads("mains", (i) => values.loads[i]!.dutyCycle.value),
      dcAverage: converterLoss * loads("dc", (i) => values.loads[i]!.dutyCycle.value),
      byLeg: [onLeg(0, always), onLeg(1, always)],
      byLegAtStart: [onLeg(0, atStart), onLeg(1, atStart)],
    },
  };
}

/** The figures of the battery that workings build on. */
function bankFigures(job: Job, { bank: v }: JobValues, bank: BankModel): System["bankFigures"] {
  const capacity = traced({
    key: "bank.capacity",
    name: "Usable nameplate capacity now",
    dimension: "charge",
    value: bank.capacityAh,
    relation: "C = C_1 × p × h × k_T",
    terms: () => [
      given("C_1", v.capacityAh),
      given("p", v.parallel),
      given("h", v.condition),
      constant(
        "k_T",
        "Capacity factor at its temperature",
        bank.capacityAh / (v.capacityAh.value * v.parallel.value * v.condition.value),
        "ratio",
        `${CHEMISTRIES[job.bank.chemistry].name} at ${Math.round(v.temperatureC.value)} °C, typical`,
      ),
    ],
  });
  const resistance = traced({
    key: "bank.resistance",
    name: "Battery resistance",
    dimension: "resistance",
    value: bank.innerResistance,
    relation: "R_b = R_z + R_p + R_l",
    terms: () => [
      constant(
        "R_z",
        `Cells: ${v.series.value} in series, ${v.parallel.value} in parallel`,
        bank.cellResistance,
        "resistance",
        "from the resistance of each; grows with cold",
      ),
      constant(
        "R_p",
        "BMS and terminals",
        bank.protectionResistance,
        "resistance",
        "half of a battery's own, or the board's",
      ),
      constant("R_l", "Links between them", bank.linkResistance, "resistance", "by their layout and lengths"),
    ],
  });
  const restAt = (key: string, name: string, share: number) =>
    traced({
      key,
      name,
      dimension: "voltage",
      value: openCircuitVoltage(bank, share),
      relation: "E = n × E_1",
      terms: () => [
        constant(
          "n",
          "Cells in series",
          bank.cellsInSeries,
          "count",
          "from the batteries' volts and their number in series",
        ),
        constant(
          "E_1",
          "Open-circuit voltage of a cell",
          openCircuitVoltage(bank, share) / bank.cellsInSeries,
          "voltage",
          `${CHEMISTRIES[job.bank.chemistry].name}, typical of published curves`,
        ),
      ],
    });
  return {
    capacity,
    resistance,
    restHalf: restAt("bank.restHalf", "Open-circuit voltage, half charged", 0.5),
    rest: restAt("bank.rest", "Open-circuit voltage at the reserve", Math.min(bank.startSoc, bank.reserveSoc)),
  };
}
