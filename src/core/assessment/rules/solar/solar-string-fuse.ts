import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { panels } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { type ArrayOnController, arraysOf, shortCircuitWithin } from "../../needs/arrays";
import { LEAST_STRING_FUSE } from "../../../document/day-defaults";
import type { System } from "../../../models/system/system";
import type { ResolvedQuantity } from "../../../units/known";
import { constant, given, stated, traced } from "../../../units/trace";

/** Largest fuse of a string over its short-circuit current (IEC 62548, 6.5.3). */
const MOST_STRING_FUSE = 2.4;

/** Fuses of three strings or more on a controller: there, and neither too small nor too large. */
function ofStrings(system: System, one: ArrayOnController): Finding[] {
  const { index, name, at, array } = one;
  const said = system.job.sources.controllers[index]?.stringFuses ?? "unsaid";
  const v = system.values.sources.controllers[index];
  if (said === "each" && v)
    return [
      {
        ...shortCircuitWithin(system, array.stringCurrent, v.stringFuse, {
          key: `solar.${index}.strings`,
          name: `string fuses, ${name}`,
          remark: "carries its string",
          part: at,
          least: LEAST_STRING_FUSE,
        }),
        gravity: "Fails",
      },
      noLargerThanLabel(system, one, v.stringFuse),
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
    source: system.wiring.rules.standards.solar,
  });
  return [
    {
      name: said === "none" ? `no string fuses, ${name}` : `string fuses not stated, ${name}`,
      demand: need,
      limit: has,
      remark: "the other strings can feed a fault in one",
      gravity: said === "none" ? "Stop" : "Tight",
      part: at,
    },
  ];
}

/** A string's fuse protects its panels: none above 2.4 times their short-circuit current. */
function noLargerThanLabel(
  { wiring }: System,
  { index, name, at, array: { lowStringCurrent } }: ArrayOnController,
  fuse: ResolvedQuantity,
): Finding {
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
  return {
    name: `largest string fuse, ${name}`,
    demand: there,
    limit: most,
    remark: { met: "protects the panels", broken: "the other strings can burn a faulty panel before it opens" },
    gravity: "Fails",
    part: at,
    aspect: "largest",
  };
}

export const solarStringFuse: Rule = {
  id: "solar-string-fuse",
  group: "Solar",
  title: "A fuse for each string from three on",
  asks: "From three strings in parallel each has a fuse, since the others can feed a fault in one: 1.5 × (1.56 × in the US) to 2.4 × its short-circuit current, and no more than the panel’s label allows.",
  clause: by("NEC 690.9", "NEC 690.9", "IEC 62548, 6.5.3", "IEC 62548, 6.5.3", "AS/NZS 5033, 3.3"),
  broken: "Stop",
  fix: "Fit a fuse in each string, within what the panel’s label allows.",
  system: ({ system }) => arraysOf(system).flatMap((one) => (one.array.strings >= 3 ? ofStrings(system, one) : [])),
};

export const example: Example = {
  what: "three strings without a fuse each",
  breaks: () => panels(3, 1, {}, { stringFuses: "none" }),
  word: "Stop",
  meets: () => panels(3, 1, {}, { stringFuses: "each" }),
};
