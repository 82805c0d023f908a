import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import { given, stated } from "../../../units/trace";

export const batterySeries: Rule = {
  id: "battery-series",
  group: "Batteries",
  title: "Batteries in series",
  asks: "No more batteries stand in series than their maker allows.",
  clause: "data sheet of the battery",
  broken: "Fails",
  fix: "Use fewer batteries in series, or ones of a higher voltage.",
  system({ system: { values, job } }) {
    const { series, seriesAllowed } = values.bank;
    if (job.bank.build === "cells" || series.value < 2) return [];
    return [
      {
        name: "batteries in series",
        demand: stated({ key: "bank.series", name: "Batteries in series" }, "n", given("n_s", series)),
        limit: stated(
          { key: "bank.seriesAllowed", name: "Max in series", source: "data sheet" },
          "n",
          given("n_m", seriesAllowed),
        ),
        remark: "the BMS units must bear the whole voltage",
        part: "bank",
      },
    ];
  },
};

export const example: Example = {
  what: "six batteries in series where four are allowed",
  breaks: () => jobOf({ bank: { series: q(6), seriesAllowed: q(4) } }),
  word: "Fails",
  meets: () => jobOf({ bank: { series: q(4), seriesAllowed: q(4) } }),
};
