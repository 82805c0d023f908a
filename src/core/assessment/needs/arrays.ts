import type { JobPath } from "../../document/path";
import { arrayOf, type PanelArray } from "../../document/sides";
import type { System } from "../../models/system/system";
import type { ResolvedQuantity } from "../../units/known";
import { constant, given, stated, traced } from "../../units/trace";
import type { Finding } from "../judge/finding";

/** The panels on one controller. */
export interface ArrayOnController {
  /** Of the controller; 0 where panels are there and none is listed. */
  index: number;
  name: string;
  /** Where in the document it is mended. */
  at: JobPath;
  array: PanelArray;
}

/** The panels of each controller that has any. */
export function arraysOf({ job, values }: System): ArrayOnController[] {
  const { controllers, panels } = job.sources;
  const count = Math.max(controllers.length, panels.length > 0 ? 1 : 0);
  return Array.from({ length: count }, (_, index): ArrayOnController => {
    const controller = controllers[index];
    return {
      index,
      name: controller?.name.trim() || "solar controller",
      at: controller ? `sources.controllers.${index}` : "sources.panels",
      array: arrayOf(job, values.sources.panels, values.sources.lowestC.value, index),
    };
  }).filter(({ array }) => array.strings > 0);
}

/** A short-circuit current with the code's factor on it, or `least` times it, against a rating. */
export function shortCircuitWithin(
  { wiring }: System,
  shortCircuit: number,
  rating: ResolvedQuantity,
  { key, least = 0, ...what }: { key: string; name: string; remark: string; part: JobPath; least?: number },
): Finding {
  const { solarFactor, standards } = wiring.rules;
  const factor = Math.max(solarFactor, least);
  const need = traced({
    key: `${key}.need`,
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
  const has = stated({ key: `${key}.has`, name: `Rating, ${what.name}` }, "I_n", given("I_1", rating));
  return { ...what, demand: need, limit: has };
}
