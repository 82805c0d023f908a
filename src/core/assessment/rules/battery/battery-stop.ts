import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { constant, given, stated, traced } from "../../../units/trace";
import { by } from "../../catalogue/clauses";
import type { Example, Rule } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";

export const batteryStop: Rule = {
  id: "battery-stop",
  group: "Batteries",
  title: "Discharge ends before cells are damaged",
  asks: "The battery is switched off at no less than 2.0 V a cell (LFP), 2.5 V (NMC) or 1.6 V (AGM): by its BMS, or for lead-acid by the inverter.",
  clause: by("ABYC E-13", "ABYC E-13", "IEC 62619; data sheet", "ISO/TS 23625", "AS/NZS 5139"),
  broken: "Fails",
  fix: "Set the low-voltage cut-off of the BMS, or of the inverter, to what the cells bear.",
  system({ system: { values, job, bank, converted } }) {
    const { leastDrawTo, name, lithium } = CHEMISTRIES[job.bank.chemistry];
    const { stopVoltage } = values.bank;
    const { cutOffVoltage } = values.inverter;
    const byInverter = !lithium && converted && cutOffVoltage.value > stopVoltage.value;
    return [
      {
        name: "low-voltage cut-off of the battery",
        demand: traced({
          key: "bank.leastDrawTo",
          name: "Least that its cells are drawn to",
          dimension: "voltage",
          value: bank.cellsInSeries * leastDrawTo,
          relation: "V_m = n × V_z",
          terms: () => [
            constant("n", "Cells in series", bank.cellsInSeries, "count", "of the battery"),
            constant("V_z", "Least a cell", leastDrawTo, "voltage", name),
          ],
          source: "of the chemistry",
        }),
        limit: stated(
          { key: "bank.drawnTo", name: "Switched off at", source: byInverter ? "the inverter" : "the battery" },
          "V_l",
          given("V_1", byInverter ? cutOffVoltage : stopVoltage),
        ),
        remark: {
          met: "within what its cells bear",
          broken: "cells that are drawn lower are damaged, and may burn when charged",
        },
        part: byInverter ? "inverter.cutOffVoltage" : "bank.stopVoltage",
      },
    ];
  },
};

export const example: Example = {
  what: "LFP drawn down to 1.5 V a cell",
  breaks: () => jobOf({ bank: { chemistry: "lfp", blockVoltage: q(12.8), stopVoltage: q(6) } }),
  word: "Fails",
  meets: () => jobOf({ bank: { chemistry: "lfp", blockVoltage: q(12.8), stopVoltage: q(10.4) } }),
};
