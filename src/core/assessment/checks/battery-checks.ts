import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { temperatureShare } from "../../reference/battery/temperature";
import { isCharging } from "../../document/schema";
import { ampacityTable } from "../../document/defaults";
import { cableCarries } from "../../reference/conductors/ampacity";
import { constant, given, of, stated, traced, type TracedValue, type Term } from "../../units/trace";
import { check, type Check } from "./check";
import { FUSE_SPARE } from "./checked-part";
import { fullDraw } from "./full-draw";
import { largestDeviceOn } from "./guards";
import { largestShare, type System } from "../../models/system/system";
import { isChained, PARALLEL_IMBALANCE } from "../../document/resolve-wiring";

/** The rules of the battery itself: fuses and leads of batteries in parallel, series, and all charging currents together. */
export function bankChecks(system: System, bankCurrent: TracedValue): Check[] {
  return [
    ...parallelChecks(system, bankCurrent),
    ...seriesChecks(system),
    chargeVoltageCheck(system),
    ...chargeChecks(system),
  ];
}

/** Batteries in parallel: their fuses and leads, or the links of a chain, against all that they give or take. */
function parallelChecks(system: System, bankCurrent: TracedValue): Check[] {
  const { values, job } = system;
  const { links } = job.wiring;
  if (job.bank.build === "cells" || values.bank.parallel.value < 2) return [];
  const v = values.wiring.links;
  const most = mostOfBank(system, bankCurrent);
  const least = fuseOfEach(system, most);
  const checks = isChained(links.layout) ? chainChecks(system, most) : [leadLoadCheck(system, least)];
  if (links.fuses !== "each") {
    // Behind one fuse for all of them each lead has to carry what that fuse lets through.
    if (links.fuses === "none" && !isChained(links.layout) && system.wiring.fuse)
      checks.push(leadGuardCheck(system, oneFuse(system), "lead of each battery behind the one fuse"));
    return checks;
  }
  const rated = stated(
    { key: "links.fuse", name: "Fuse of each battery", source: "stamped on it" },
    "I_n",
    given("I_1", v.fuseRating),
  );
  checks.push(
    check({
      by: "battery-fuses",
      key: "wiring.links:size",
      name: "fuse of each battery",
      demand: least,
      limit: rated,
      remark: "125 % of what one battery gives or takes at most",
      rule: true,
      part: "wiring.links",
    }),
  );
  if (!isChained(links.layout)) checks.push(leadGuardCheck(system, rated, "lead of each battery behind its fuse"));
  return checks;
}

/** A that the batteries together give or take at most: with the inverters at their full draw, or charged from all sources. */
function mostOfBank(system: System, bankCurrent: TracedValue): TracedValue {
  const { lanes } = system.wiring.main;
  const full = system.converted ? fullDraw(system) : null;
  const charging = chargingTogether(system).figure;
  return traced({
    key: "links.most",
    name: "Most that the batteries give or take",
    dimension: "current",
    value: Math.max(bankCurrent.value, lanes * (full?.value ?? 0), charging?.value ?? 0),
    relation: `I_b = max(I_r${full ? ", m × I_f" : ""}${charging ? ", I_c" : ""})`,
    terms: () => [
      of("I_r", bankCurrent),
      ...(full
        ? [constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter"), of("I_f", full)]
        : []),
      ...(charging ? [of("I_c", charging)] : []),
    ],
    source: "running, at the inverters' full draw, or charged from all sources at once",
  });
}

/** 125 % of what the battery gives or takes that has the largest share. */
function fuseOfEach(system: System, most: TracedValue): TracedValue {
  const share = largestShare(system);
  const own = traced({
    key: "links.current",
    name: "Current of the battery with the largest share",
    dimension: "current",
    value: share.value * most.value,
    relation: "I_1 = q × I_b",
    terms: () => [share, of("I_b", most)],
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

/** What the lead of each battery, or a link of a chain, carries in its air. */
function linkAmpacity({ values, job }: System): TracedValue {
  const v = values.wiring.links;
  const carried = cableCarries(
    ampacityTable(job),
    { areaMm2: v.areaMm2.value, insulation: "90", route: "free" },
    values.wiring.ambientC.value,
  );
  return traced({
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
}

/** The lead of each battery against what it carries. */
function leadLoadCheck(system: System, least: TracedValue): Check {
  return check({
    by: "battery-leads",
    key: "wiring.links:ampacity",
    name: "lead of each battery",
    demand: least,
    limit: linkAmpacity(system),
    remark: "125 % of what one battery gives or takes at most",
    rule: true,
    soft: 1 / FUSE_SPARE,
    part: "wiring.links",
  });
}

/** The lead of each battery behind what protects it. */
function leadGuardCheck(system: System, rated: TracedValue, name: string): Check {
  const { values, wiring } = system;
  const ampacity = linkAmpacity(system);
  const areaMm2 = values.wiring.links.areaMm2.value;
  const most = largestDeviceOn(system, false, { ampacity: ampacity.value, areaMm2 });
  const tight = most > ampacity.value && rated.value > ampacity.value;
  const limit =
    tight || most < ampacity.value
      ? traced({
          key: "links.largest",
          name: "Largest fuse on it",
          dimension: "current",
          value: most,
          relation: "I_m = I_s",
          terms: () => [
            of("I_z", ampacity),
            constant(
              "I_s",
              "Largest device by the rule",
              most,
              "current",
              "from the ampacity and the standard ratings",
            ),
          ],
          source: wiring.rules.standards.protection,
        })
      : ampacity;
  return check({
    by: "battery-fuses",
    key: "wiring.links:guarded",
    name,
    demand: rated,
    limit,
    remark: "protected by its fuse",
    rule: true,
    stop: true,
    tight,
    part: "wiring.links",
  });
}

/** The fuse that all batteries have in common: what may come out of them together. */
function oneFuse({ wiring }: System): TracedValue {
  const { fuse, main } = wiring;
  return traced({
    key: "links.oneFuse",
    name: "Fuse of all batteries together",
    dimension: "current",
    value: wiring.fuseRating,
    relation: main.lanes > 1 ? "I_n = m × I_1" : "I_n = I_1",
    terms: () => [
      given("I_1", fuse!.values.rating!),
      ...(main.lanes > 1
        ? [constant("m", "Equal circuits in parallel", main.lanes, "count", "one for each inverter")]
        : []),
    ],
  });
}

/** The links of a chain: the last one carries what all batteries but one give, and the main fuse protects it. */
function chainChecks(system: System, most: TracedValue): Check[] {
  const { values, wiring } = system;
  const n = values.bank.parallel.value;
  const share = Math.min(1, (PARALLEL_IMBALANCE * (n - 1)) / n);
  const ampacity = linkAmpacity(system);
  const carries = traced({
    key: "links.chain",
    name: "Current of the link that carries most",
    dimension: "current",
    value: share * most.value,
    relation: "I_1 = q × I_b",
    terms: () => [
      constant("q", "Share of all batteries but one", share, "ratio", "a tenth over an equal share"),
      of("I_b", most),
    ],
  });
  const checks = [
    check({
      by: "battery-leads",
      key: "wiring.links:ampacity",
      name: "link that carries most",
      demand: carries,
      limit: ampacity,
      remark: "what all batteries but one give or take",
      rule: true,
      part: "wiring.links",
    }),
  ];
  if (wiring.fuse)
    checks.push(leadGuardCheck(system, oneFuse(system), "links between the batteries behind the main fuse"));
  return checks;
}

/** What the battery is charged to against what its cells bear. */
function chargeVoltageCheck({ values, job, bank }: System): Check {
  const { mostChargeTo, name } = CHEMISTRIES[job.bank.chemistry];
  const need = stated({ key: "bank.chargeTo", name: "Charged to" }, "V_h", given("V_1", values.bank.chargeToVoltage));
  const has = traced({
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
  });
  return check({
    by: "charge-voltage",
    key: "chargeVoltage",
    name: "charging voltage of the battery",
    demand: need,
    limit: has,
    remark: { met: "within what its cells bear", broken: "cells that are overcharged gas, swell or burn" },
    rule: true,
    stop: true,
    part: "bank.chargeToVoltage",
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

/** All that may charge at the same time; null where nothing does. `entered` where somebody said every part of it. */
function chargingTogether(system: System): { figure: TracedValue | null; entered: boolean } {
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
  if (sources.length === 0) return { figure: null, entered };
  const figure = traced({
    key: "bank.charging",
    name: "All charging currents together",
    dimension: "current",
    value: whole,
    relation: `I = ${sources.map(({ symbol }) => symbol).join(" + ")}`,
    terms: () => sources,
  });
  return { figure, entered };
}

/** All that may charge at the same time against what the battery takes at its temperature. */
function chargeChecks(system: System): Check[] {
  const { values, job, bank } = system;
  const { figure: need, entered } = chargingTogether(system);
  if (!need) return [];
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  const temperature = values.bank.temperatureC.value;
  const factor = temperatureShare(lithium, temperature, values.bank.highestChargeC.value).charge;
  const has = traced({
    key: "bank.chargeLimit",
    name: "Max charge current",
    dimension: "current",
    value: bank.chargeCurrent * factor,
    relation: "I_m = I_1 ÷ q × k_T",
    terms: () => [
      given("I_1", values.bank.chargeCurrent),
      largestShare(system),
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
