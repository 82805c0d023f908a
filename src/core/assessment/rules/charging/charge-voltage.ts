import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { constant, given, stated, traced } from "../../../units/trace";

export const chargeVoltage: Rule = {
  id: "charge-voltage",
  group: "Charging",
  title: "Charging voltage within what the cells bear",
  asks: "The battery is charged to no more than 3.65 V a cell (LFP), 4.2 V (NMC) or 2.5 V (AGM).",
  clause: by("ABYC E-13", "ABYC E-13", "IEC 62619; data sheet", "ISO/TS 23625", "AS/NZS 5139"),
  broken: "Stop",
  fix: "Set every charger to the charging voltage of the battery.",
  system({ system: { values, job, bank } }) {
    const { mostChargeTo, name } = CHEMISTRIES[job.bank.chemistry];
    return [
      {
        name: "charging voltage of the battery",
        demand: stated({ key: "bank.chargeTo", name: "Charged to" }, "V_h", given("V_1", values.bank.chargeToVoltage)),
        limit: traced({
          key: "bank.mostChargeTo",
          name: "Most that its cells are charged to",
          dimension: "voltage",
          // A thousandth over it, so that a value typed to two digits does not decide.
          value: 1.001 * bank.cellsInSeries * mostChargeTo,
          relation: "V_m = 1.001 × n × V_z",
          terms: () => [
            constant("n", "Cells in series", bank.cellsInSeries, "count", "of the battery"),
            constant("V_z", "Most a cell", mostChargeTo, "voltage", name),
          ],
          source: "of the chemistry",
        }),
        remark: { met: "within what its cells bear", broken: "cells that are overcharged gas, swell or burn" },
        part: "bank.chargeToVoltage",
      },
    ];
  },
};

export const example: Example = {
  what: "LFP charged to 3.9 V a cell",
  breaks: () => jobOf({ bank: { chemistry: "lfp", blockVoltage: q(12.8), chargeToVoltage: q(15.6) } }),
  word: "Stop",
  meets: () => jobOf({ bank: { chemistry: "lfp", blockVoltage: q(12.8), chargeToVoltage: q(14.6) } }),
};
