import type { JobPath } from "../../document/path";
import { arrayOf, coldRise, type PanelArray } from "../../document/sides";
import { LEAST_STRING_FUSE } from "../../document/day-defaults";
import { stringVoltsWanted } from "../../models/charging/solar";
import type { ResolvedQuantity } from "../../units/known";
import type { RuleId } from "../rules/catalogue";
import { constant, given, stated, traced } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";

/** Share of the longest string's volts from which others on the controller count as alike. */
const ALIKE = 0.9;
/** Largest fuse of a string over its short-circuit current (IEC 62548, 6.5.3). */
const MOST_STRING_FUSE = 2.4;

/** Volts that a controller is taken to bear where nobody listed one. */
const UNLISTED_VOLTS = 100;

/** Strings against their controllers: volts on the coldest morning, current, and a fuse for each string from three on. */
export function solarChecks(system: System): Check[] {
  const { job, values } = system;
  const count = Math.max(job.sources.controllers.length, job.sources.panels.length > 0 ? 1 : 0);
  return Array.from({ length: count }, (_, i) =>
    controllerChecks(system, i, arrayOf(job, values.sources.panels, values.sources.lowestC.value, i)),
  ).flat();
}

function controllerChecks(system: System, index: number, array: PanelArray): Check[] {
  if (array.strings === 0) return [];
  const { values, job, wiring } = system;
  const controller = job.sources.controllers[index];
  const v = values.sources.controllers[index];
  const name = controller?.name.trim() || "solar controller";
  const at = controller ? (`sources.controllers.${index}` as const) : "sources.panels";
  const cold = traced({
    key: `solar.${index}.cold`,
    name: `String voltage on the coldest morning, ${name}`,
    dimension: "voltage",
    value: array.coldVolts,
    relation: "V = V_oc × k",
    terms: () => [
      constant(
        "V_oc",
        "Open-circuit voltage of the longest string",
        array.openVolts,
        "voltage",
        "panels in series, at 25 °C",
      ),
      constant(
        "k",
        "Rise in the cold",
        coldRise(values.sources.lowestC.value),
        "number",
        "NEC table 690.7(A), IEC 62548 table 5: crystalline silicon",
      ),
      given("T", values.sources.lowestC),
    ],
    source: wiring.rules.standards.solar,
  });
  const bears = traced({
    key: `solar.${index}.bears`,
    name: `Max PV voltage, ${name}`,
    dimension: "voltage",
    value: v?.maxVoltage.value ?? UNLISTED_VOLTS,
    relation: "V_m = V_1",
    terms: () =>
      v
        ? [given("V_1", v.maxVoltage)]
        : [constant("V_1", "A usual controller", UNLISTED_VOLTS, "voltage", "none is listed")],
    source: "data sheet",
  });
  const checks = [
    check({
      by: "solar-voltage",
      key: `solar.${index}.voltage`,
      name: `string voltage, ${name}`,
      demand: cold,
      limit: bears,
      remark:
        cold.value > bears.value
          ? "the controller is destroyed on a cold bright morning"
          : "below the controller’s largest PV voltage",
      rule: true,
      stop: true,
      part: at,
    }),
  ];
  checks.push(...stringVoltsChecks(system, array, { index, name, at }));
  if (v?.maxArrayCurrent)
    checks.push(
      currentCheck(
        system,
        {
          by: "solar-current",
          key: `solar.${index}.amps`,
          name: `array current, ${name}`,
          remark: "all strings at once",
          part: at,
        },
        array.shortCurrent,
        v.maxArrayCurrent,
      ),
    );
  if (array.strings >= 3) checks.push(...stringFuseChecks(system, array, { index, name, at }));
  return checks;
}

/** Whether the strings pass the battery's volts when they are hot, and are alike. */
function stringVoltsChecks(
  { values, job, bank }: System,
  array: PanelArray,
  { index, name, at }: { index: number; name: string; at: JobPath },
): Check[] {
  const own = job.sources.panels.filter(
    ({ controllerId }) =>
      Math.max(
        0,
        job.sources.controllers.findIndex(({ id }) => id === controllerId),
      ) === index,
  );
  // A string that nobody described is not too low, but not stated.
  const described = job.sources.controllers.length > 0 && own.every(({ series, openVoltage }) => series && openVoltage);
  const wanted = traced({
    key: `solar.${index}.wanted`,
    name: `Open-circuit voltage wanted of a string, ${name}`,
    dimension: "voltage",
    value: stringVoltsWanted(bank.chargeToVoltage),
    relation: "V = (V_h + 1) ÷ 0.72",
    terms: () => [given("V_h", values.bank.chargeToVoltage)],
    source:
      "hot and at work a panel has 0.72 of its open-circuit volts, and a tracker needs one more: common practice, no source",
  });
  const lowest = traced({
    key: `solar.${index}.lowest`,
    name: `Open-circuit voltage of the shortest string, ${name}`,
    dimension: "voltage",
    value: array.lowOpenVolts,
    relation: "V = V_oc",
    terms: () => [constant("V_oc", "Shortest string", array.lowOpenVolts, "voltage", "panels in series, at 25 °C")],
  });
  const checks = [
    check({
      by: "solar-strings",
      key: `solar.${index}.stringVolts`,
      name: `volts of the strings, ${name}`,
      demand: wanted,
      limit: lowest,
      remark: {
        met: "charges when hot, too",
        broken: described
          ? "too few volts to charge when hot: more in series"
          : "volts and series of the panels, or their controller, not stated",
      },
      rule: true,
      ...(described ? {} : { soft: 0 }),
      part: at,
    }),
  ];
  return [...checks, ...alikeChecks(array, { index, name, at })];
}

/** Panels that make no whole string, or groups of other volts on one controller. */
function alikeChecks(array: PanelArray, { index, name, at }: { index: number; name: string; at: JobPath }): Check[] {
  const alike = array.lowOpenVolts >= ALIKE * array.openVolts;
  if (!array.uneven && alike) return [];
  const one = traced({
    key: `solar.${index}.alikeWanted`,
    name: `Strings that are alike, ${name}`,
    dimension: "count",
    value: 1,
    relation: "n = 1",
    source: "strings in parallel have one voltage",
  });
  const none = traced({
    key: `solar.${index}.alikeThere`,
    name: `Strings alike, ${name}`,
    dimension: "count",
    value: 0,
    relation: "n = 0",
    source: array.uneven ? "panels that make no whole string" : "groups of other volts on one controller",
  });
  return [
    check({
      by: "solar-strings",
      key: `solar.${index}.alike`,
      name: array.uneven ? `panels beside whole strings, ${name}` : `strings of unlike volts, ${name}`,
      demand: one,
      limit: none,
      remark: array.uneven
        ? "the panels do not divide into whole strings: what is over gives nothing"
        : "strings in parallel on one controller have one voltage: the lower one gives little",
      rule: true,
      ...(array.uneven ? {} : { soft: 0 }),
      part: at,
    }),
  ];
}

/** A short-circuit current with the code's factor on it, against a rating. */
function currentCheck(
  { wiring }: System,
  what: { by: RuleId; key: string; name: string; remark: string; part: JobPath; least?: number },
  shortCircuit: number,
  rating: ResolvedQuantity,
): Check {
  const { solarFactor, standards } = wiring.rules;
  const factor = Math.max(solarFactor, what.least ?? 0);
  const need = traced({
    key: `${what.key}.need`,
    name: `Current by the code, ${what.name}`,
    dimension: "current",
    value: factor * shortCircuit,
    relation: "I = k × I_sc",
    terms: () => [
      constant("k", "Code factor", factor, "number", standards.solar),
      constant("I_sc", "Short-circuit current", shortCircuit, "current", "labels of the panels"),
    ],
    source: standards.solar,
  });
  const has = stated({ key: `${what.key}.has`, name: `Rating, ${what.name}` }, "I_n", given("I_1", rating));
  return check({
    by: what.by,
    key: what.key,
    name: what.name,
    demand: need,
    limit: has,
    remark: what.remark,
    rule: true,
    part: what.part,
  });
}

/** A string's fuse protects its panels: none above 2.4 times their short-circuit current. */
function largestStringFuseCheck(
  { wiring }: System,
  { lowStringCurrent }: PanelArray,
  fuse: ResolvedQuantity,
  { index, name, at }: { index: number; name: string; at: JobPath },
): Check {
  const most = traced({
    key: `solar.${index}.mostFuse`,
    name: `Largest string fuse, ${name}`,
    dimension: "current",
    value: MOST_STRING_FUSE * lowStringCurrent,
    relation: "I_m = 2.4 × I_sc",
    terms: () => [
      constant(
        "I_sc",
        "Short-circuit current of the smallest string",
        lowStringCurrent,
        "current",
        "labels of the panels",
      ),
    ],
    source: `${wiring.rules.standards.solar}: no more than the panels' label allows`,
  });
  const there = stated({ key: `solar.${index}.fuse`, name: `String fuse, ${name}` }, "I_n", given("I_1", fuse));
  return check({
    by: "solar-string-fuse",
    key: `solar.${index}.largestFuse`,
    name: `largest string fuse, ${name}`,
    demand: there,
    limit: most,
    remark: { met: "protects the panels", broken: "the other strings can burn a faulty panel before it opens" },
    rule: true,
    part: at,
  });
}

function stringFuseChecks(
  system: System,
  array: PanelArray,
  { index, name, at }: { index: number; name: string; at: JobPath },
): Check[] {
  const { job, values, wiring } = system;
  const said = job.sources.controllers[index]?.stringFuses ?? "unsaid";
  const v = values.sources.controllers[index];
  if (said === "each" && v)
    return [
      currentCheck(
        system,
        {
          by: "solar-string-fuse",
          key: `solar.${index}.strings`,
          name: `string fuses, ${name}`,
          remark: "carries its string",
          part: at,
          least: LEAST_STRING_FUSE,
        },
        array.stringCurrent,
        v.stringFuse,
      ),
      largestStringFuseCheck(system, array, v.stringFuse, { index, name, at }),
    ];
  const need = traced({
    key: `solar.${index}.strings`,
    name: `Strings in parallel, ${name}`,
    dimension: "count",
    value: array.strings,
    relation: "n = n_s",
    terms: () => [constant("n_s", "Strings on the controller", array.strings, "count", "panels over panels in series")],
  });
  const has = traced({
    key: `solar.${index}.unfused`,
    name: "Strings allowed without a fuse each",
    dimension: "count",
    value: 2,
    relation: "n = 2",
    source: wiring.rules.standards.solar,
  });
  return [
    check({
      by: "solar-string-fuse",
      key: `solar.${index}.strings`,
      name: said === "none" ? `no string fuses, ${name}` : `string fuses not stated, ${name}`,
      demand: need,
      limit: has,
      remark: "the other strings can feed a fault in one",
      rule: true,
      ...(said === "none" ? { stop: true } : { soft: 0 }),
      part: at,
    }),
  ];
}
