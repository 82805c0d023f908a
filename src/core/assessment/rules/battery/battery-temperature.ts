import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { constant, given, stated, traced } from "../../../units/trace";
import { by } from "../../catalogue/clauses";
import type { Example, Rule } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";

export const batteryTemperature: Rule = {
  id: "battery-temperature",
  group: "Batteries",
  title: "Battery not too hot",
  asks: "The battery gets no hotter than 60 °C (lithium) or 50 °C (AGM).",
  clause: by("ABYC E-10, E-13", "ABYC E-10, E-13", "IEC 62619; data sheet", "ISO 13297; ISO/TS 23625", "AS/NZS 5139"),
  broken: "Fails",
  fix: "Move the battery to a cooler place, away from engine and sun, or give its place more air.",
  system({ system: { values, job } }) {
    const { hottestC, name } = CHEMISTRIES[job.bank.chemistry];
    return [
      {
        name: "temperature of the battery",
        demand: stated(
          { key: "bank.hot", name: "Temperature of the battery" },
          "T",
          given("T_1", values.bank.temperatureC),
        ),
        limit: traced({
          key: "bank.hottest",
          name: "Hottest that it may get",
          dimension: "temperature",
          value: hottestC,
          relation: "T = T_m",
          terms: () => [constant("T_m", "Hottest", hottestC, "temperature", name)],
          source: "data sheet",
        }),
        holdsFrom: 1.05,
        remark: { met: "within what its cells bear", broken: "it ages fast, gasses and may run away" },
        part: "bank.temperatureC",
      },
    ];
  },
};

export const example: Example = {
  what: "AGM beside an engine, at 55 °C",
  breaks: () => jobOf({ bank: { chemistry: "agm", temperatureC: q(55) } }),
  word: "Fails",
  meets: () => jobOf({ bank: { chemistry: "agm", temperatureC: q(40) } }),
};
