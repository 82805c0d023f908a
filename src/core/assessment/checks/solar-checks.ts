import type { JobPath } from "../../document/path";
import { arrayOf, VOLTS_PER_KELVIN, type PanelArray } from "../../document/sides";
import type { ResolvedQuantity } from "../../units/known";
import type { RuleId } from "../rules/catalogue";
import { constant, given, stated, traced } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";

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
    relation: "V = V_oc × (1 + c × max(0, 25 − T))",
    terms: () => [
      constant(
        "V_oc",
        "Open-circuit voltage of the longest string",
        array.openVolts,
        "voltage",
        "panels in series, at 25 °C",
      ),
      constant(
        "c",
        "Voltage rise per kelvin",
        VOLTS_PER_KELVIN,
        "number",
        "0.25 to 0.35 % for silicon: common practice, no source",
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

/** A short-circuit current with the code's factor on it, against a rating. */
function currentCheck(
  { wiring }: System,
  what: { by: RuleId; key: string; name: string; remark: string; part: JobPath },
  shortCircuit: number,
  rating: ResolvedQuantity,
): Check {
  const { solarFactor: factor, standards } = wiring.rules;
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
        },
        array.stringCurrent,
        v.stringFuse,
      ),
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
