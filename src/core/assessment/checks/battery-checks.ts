import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { temperatureShare } from "../../reference/battery/temperature";
import { isCharging } from "../../document/schema";
import { PARALLEL_IMBALANCE } from "../../document/resolve";
import { ampacityTable } from "../../document/defaults";
import { cableCarries } from "../../reference/conductors/ampacity";
import { constant, given, of, record, type TracedValue, type Term } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";

/** The rules of the bank itself: fuses and leads of batteries in parallel, series, and all charging currents together. */
export function bankChecks(system: System, bankCurrent: TracedValue): Check[] {
  return [...parallelChecks(system, bankCurrent), ...seriesChecks(system), ...chargeChecks(system)];
}

function parallelChecks(system: System, bankCurrent: TracedValue): Check[] {
  const { figures, values, rig, bank } = system;
  const parallel = values.bank.parallel.value;
  const { links } = rig.path;
  if (rig.bank.build === "cells" || parallel < 2) return [];
  const share = Math.max(PARALLEL_IMBALANCE / parallel, ...bank.shares);
  const own = record(
    figures,
    "links.current",
    "Current of the battery that gives most",
    "current",
    share * bankCurrent.value,
    "I_1 = q × I_b",
    [
      constant(
        "q",
        "Largest current share of one battery",
        share,
        "ratio",
        "by the links, a tenth over an equal share at least",
      ),
      of("I_b", bankCurrent),
    ],
  );
  if (links.fuses !== "each") return [];
  const v = values.path.links;
  const least = record(figures, "links.least", "125 % of it", "current", 1.25 * own.value, "I_m = 1.25 × I_1", [
    of("I_1", own),
  ]);
  const rated = record(
    figures,
    "links.fuse",
    "Fuse of each battery",
    "current",
    v.fuseRating.value,
    "I_n = I_1",
    [given("I_1", v.fuseRating)],
    "stamped on it",
  );
  const checks = [
    check("battery-fuses", "path.links:size", "fuse of each battery", least, rated, "125 % of what one battery gives", {
      rule: true,
      part: "path.links",
    }),
  ];
  const chained = links.layout === "chain-diagonal" || links.layout === "chain-one-end";
  if (!chained) {
    const ampacity = record(
      figures,
      "links.ampacity",
      "Ampacity of each battery's lead",
      "current",
      cableCarries(ampacityTable(rig), v.areaMm2.value, "90", "free", values.path.ambientC.value),
      "I_z = I_t",
      [
        constant(
          "I_t",
          "Table value in this air",
          cableCarries(ampacityTable(rig), v.areaMm2.value, "90", "free", values.path.ambientC.value),
          "current",
          "DC table of the rule set, 90 °C insulation, free air",
        ),
        given("S", v.areaMm2),
        given("T", values.path.ambientC),
      ],
      "DC table of the rule set, 90 °C insulation",
    );
    const tight = system.path.rules.dcDevice === "next-size-up-to-150" && rated.value > ampacity.value;
    const most = tight
      ? record(figures, "links.largest", "Largest fuse on it", "current", 1.5 * ampacity.value, "I_m = 1.5 × I_z", [
          of("I_z", ampacity),
        ])
      : ampacity;
    checks.push(
      check(
        "battery-fuses",
        "path.links:guarded",
        "lead of each battery behind its fuse",
        rated,
        most,
        "protected by its own fuse",
        {
          rule: true,
          stop: true,
          tight,
          part: "path.links",
        },
      ),
    );
  }
  return checks;
}

function seriesChecks({ figures, values, rig }: System): Check[] {
  const { series, seriesAllowed } = values.bank;
  if (rig.bank.build === "cells" || series.value < 2) return [];
  const need = record(figures, "bank.series", "Batteries in series", "count", series.value, "n = n_s", [
    given("n_s", series),
  ]);
  const has = record(
    figures,
    "bank.seriesAllowed",
    "Max in series",
    "count",
    seriesAllowed.value,
    "n = n_m",
    [given("n_m", seriesAllowed)],
    "data sheet",
  );
  return [
    check("battery-series", "series", "batteries in series", need, has, "the BMS units must bear the whole voltage", {
      rule: true,
      part: "bank",
    }),
  ];
}

/** All that may charge at the same time against what the bank takes at its temperature. */
function chargeChecks(system: System): Check[] {
  const { figures, values, rig, bank } = system;
  const sources: Term[] = [];
  let whole = 0;
  let entered = values.bank.chargeCurrent.entered;
  const add = (name: string, amps: number, why: string, isEntered: boolean) => {
    if (amps <= 0) return;
    whole += amps;
    entered &&= isEntered;
    sources.push(constant(`I_${sources.length + 1}`, name, amps, "current", why));
  };
  system.path.branches.forEach(({ branch, array }, i) => {
    if (!isCharging(branch!)) return;
    const v = values.path.branches[i]!.current;
    // A controller passes no more than its panels give at the bank's volts.
    const most = array && array.power > 0 ? Math.min(v.value, (1.1 * array.power) / bank.nominalVoltage) : v.value;
    add(branch!.name, most, most < v.value ? "what its panels give" : "largest current", v.entered);
  });
  if (rig.inverter.combined && system.converted) {
    const v = values.inverter;
    add(
      "Inverter-charger",
      v.chargeCurrent.value * v.count.value,
      "charging current, all of them",
      v.chargeCurrent.entered,
    );
  }
  if (sources.length === 0) return [];
  const { lithium } = CHEMISTRIES[rig.bank.chemistry];
  const temperature = values.bank.temperatureC.value;
  const factor = temperatureShare(lithium, temperature, values.bank.highestChargeC.value).charge;
  const need = record(
    figures,
    "bank.charging",
    "All charging currents together",
    "current",
    whole,
    `I = ${sources.map(({ symbol }) => symbol).join(" + ")}`,
    sources,
  );
  const has = record(
    figures,
    "bank.chargeLimit",
    "Max charge current",
    "current",
    bank.chargeCurrent * factor,
    "I_m = I_1 ÷ q × k_T",
    [
      given("I_1", values.bank.chargeCurrent),
      constant(
        "q",
        "Largest current share of one battery",
        values.bank.chargeCurrent.value / Math.max(1e-9, bank.chargeCurrent),
        "ratio",
        "of batteries in parallel",
      ),
      constant(
        "k_T",
        "Capacity factor at its temperature",
        factor,
        "ratio",
        lithium ? "none in frost, less under 15 °C and over 45 °C" : "as at 25 °C",
      ),
      given("T", values.bank.temperatureC),
    ],
    "data sheet",
  );
  return [
    check("charge-current", "charge", "charging currents together", need, has, "all sources at once", {
      rule: true,
      ...(entered ? {} : { soft: 0 }),
      part: "bank",
    }),
  ];
}
