import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { temperatureShare } from "../../reference/battery/temperature";
import { isCharging } from "../../document/schema";
import { ampacityTable } from "../../document/defaults";
import { cableCarries } from "../../reference/conductors/ampacity";
import { constant, given, of, stated, traced, type TracedValue, type Term } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";
import { PARALLEL_IMBALANCE } from "../../document/resolve-wiring";

/** The rules of the battery itself: fuses and leads of batteries in parallel, series, and all charging currents together. */
export function bankChecks(system: System, bankCurrent: TracedValue): Check[] {
  return [...parallelChecks(system, bankCurrent), ...seriesChecks(system), ...chargeChecks(system)];
}

/** Batteries in parallel that have a fuse each: the fuse against its battery's current, and the lead behind it. */
function parallelChecks(system: System, bankCurrent: TracedValue): Check[] {
  const { values, job } = system;
  const { links } = job.wiring;
  if (job.bank.build === "cells" || values.bank.parallel.value < 2 || links.fuses !== "each") return [];
  const v = values.wiring.links;
  const rated = stated(
    { key: "links.fuse", name: "Fuse of each battery", source: "stamped on it" },
    "I_n",
    given("I_1", v.fuseRating),
  );
  const chained = links.layout === "chain-diagonal" || links.layout === "chain-one-end";
  return [
    check({
      by: "battery-fuses",
      key: "wiring.links:size",
      name: "fuse of each battery",
      demand: fuseOfEach(system, bankCurrent),
      limit: rated,
      remark: "125 % of what one battery gives",
      rule: true,
      part: "wiring.links",
    }),
    ...(chained ? [] : [leadCheck(system, rated)]),
  ];
}

/** 125 % of what the battery gives that gives most. */
function fuseOfEach({ values, bank }: System, bankCurrent: TracedValue): TracedValue {
  const share = Math.max(PARALLEL_IMBALANCE / values.bank.parallel.value, ...bank.shares);
  const own = traced({
    key: "links.current",
    name: "Current of the battery that gives most",
    dimension: "current",
    value: share * bankCurrent.value,
    relation: "I_1 = q × I_b",
    terms: () => [
      constant(
        "q",
        "Largest current share of one battery",
        share,
        "ratio",
        "by the links, a tenth over an equal share at least",
      ),
      of("I_b", bankCurrent),
    ],
  });
  return traced({
    key: "links.least",
    name: "125 % of it",
    dimension: "current",
    value: 1.25 * own.value,
    relation: "I_m = 1.25 × I_1",
    terms: () => [of("I_1", own)],
  });
}

/** The lead of each battery behind its fuse. */
function leadCheck({ values, job, wiring }: System, rated: TracedValue): Check {
  const v = values.wiring.links;
  const carried = cableCarries(
    ampacityTable(job),
    { areaMm2: v.areaMm2.value, insulation: "90", route: "free" },
    values.wiring.ambientC.value,
  );
  const ampacity = traced({
    key: "links.ampacity",
    name: "Ampacity of each battery's lead",
    dimension: "current",
    value: carried,
    relation: "I_z = I_t",
    terms: () => [
      constant(
        "I_t",
        "Table value in this air",
        carried,
        "current",
        "DC table of the rule set, 90 °C insulation, free air",
      ),
      given("S", v.areaMm2),
      given("T", values.wiring.ambientC),
    ],
    source: "DC table of the rule set, 90 °C insulation",
  });
  const tight = wiring.rules.dcDevice === "next-size-up-to-150" && rated.value > ampacity.value;
  const most = tight
    ? traced({
        key: "links.largest",
        name: "Largest fuse on it",
        dimension: "current",
        value: 1.5 * ampacity.value,
        relation: "I_m = 1.5 × I_z",
        terms: () => [of("I_z", ampacity)],
      })
    : ampacity;
  return check({
    by: "battery-fuses",
    key: "wiring.links:guarded",
    name: "lead of each battery behind its fuse",
    demand: rated,
    limit: most,
    remark: "protected by its own fuse",
    rule: true,
    stop: true,
    tight,
    part: "wiring.links",
  });
}

function seriesChecks({ values, job }: System): Check[] {
  const { series, seriesAllowed } = values.bank;
  if (job.bank.build === "cells" || series.value < 2) return [];
  const need = stated({ key: "bank.series", name: "Batteries in series" }, "n", given("n_s", series));
  const has = stated(
    { key: "bank.seriesAllowed", name: "Max in series", source: "data sheet" },
    "n",
    given("n_m", seriesAllowed),
  );
  return [
    check({
      by: "battery-series",
      key: "series",
      name: "batteries in series",
      demand: need,
      limit: has,
      remark: "the BMS units must bear the whole voltage",
      rule: true,
      part: "bank",
    }),
  ];
}

/** All that may charge at the same time against what the battery takes at its temperature. */
function chargeChecks(system: System): Check[] {
  const { values, job, bank } = system;
  const sources: Term[] = [];
  let whole = 0;
  let entered = values.bank.chargeCurrent.entered;
  const add = (name: string, amps: number, why: string, isEntered: boolean) => {
    if (amps <= 0) return;
    whole += amps;
    entered &&= isEntered;
    sources.push(constant(`I_${sources.length + 1}`, name, amps, "current", why));
  };
  system.wiring.branches.forEach(({ branch, array }, i) => {
    if (!isCharging(branch!)) return;
    const v = values.wiring.branches[i]!.current;
    // A controller passes no more than its panels give at the battery's volts.
    const most = array && array.power > 0 ? Math.min(v.value, (1.1 * array.power) / bank.nominalVoltage) : v.value;
    add(branch!.name, most, most < v.value ? "what its panels give" : "largest current", v.entered);
  });
  if (job.inverter.combined && system.converted) {
    const v = values.inverter;
    add(
      "Inverter-charger",
      v.chargeCurrent.value * v.count.value,
      "charging current, all of them",
      v.chargeCurrent.entered,
    );
  }
  if (sources.length === 0) return [];
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  const temperature = values.bank.temperatureC.value;
  const factor = temperatureShare(lithium, temperature, values.bank.highestChargeC.value).charge;
  const need = traced({
    key: "bank.charging",
    name: "All charging currents together",
    dimension: "current",
    value: whole,
    relation: `I = ${sources.map(({ symbol }) => symbol).join(" + ")}`,
    terms: () => sources,
  });
  const has = traced({
    key: "bank.chargeLimit",
    name: "Max charge current",
    dimension: "current",
    value: bank.chargeCurrent * factor,
    relation: "I_m = I_1 ÷ q × k_T",
    terms: () => [
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
    source: "data sheet",
  });
  return [
    check({
      by: "charge-current",
      key: "charge",
      name: "charging currents together",
      demand: need,
      limit: has,
      remark: "all sources at once",
      rule: true,
      ...(entered ? {} : { soft: 0 }),
      part: "bank",
    }),
  ];
}
