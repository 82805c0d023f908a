import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import { hottest } from "../../needs/checked";
import { given, of, traced } from "../../../units/trace";

/** Terminals of a breaker at its rated current: kelvin over the air (product standards allow 60 to 70). */
const BREAKER_RISE_K = 50;

export const breakerHeat: Rule = {
  id: "breaker-heat",
  group: "DC wiring",
  title: "Heat of a resettable DC breaker",
  asks: "The terminals of a DC breaker stay under 70 °C at the running current, by the square of the current.",
  clause: "UL 489; IEC 60947-2, table 7; " + PRACTICE,
  broken: "Fails",
  fix: "Fit a breaker of a higher rating, or a fuse.",
  part: {
    fuse({ system: { values }, one, load: { current } }) {
      if (one.part.kind !== "fuse" || one.part.fuseKind !== "breaker") return [];
      const rating = one.values.rating!;
      const heat = traced({
        key: `${one.path}:heat`,
        name: `Temperature of ${one.name}`,
        dimension: "temperature",
        value: values.wiring.ambientC.value + BREAKER_RISE_K * Math.pow(current.value / rating.value, 2),
        relation: "T = T_a + 50 × (I ÷ I_n)²",
        terms: () => [given("T_a", values.wiring.ambientC), of("I", current), given("I_n", rating)],
        source: "a rise of 50 K at its rating is usual for terminals",
      });
      return [
        {
          name: `${one.name} heat`,
          demand: heat,
          limit: hottest(),
          remark: "breakers run hotter than their cable",
          holdsFrom: 1.05,
          part: one.path,
        },
      ];
    },
  },
};

export const example: Example = {
  what: "a 50 A DC breaker for what draws 100 A",
  breaks: () => jobOf({ fuse: { fuseKind: "breaker", rating: q(50) }, unit: { runningCurrent: q(5) } }),
  word: "Fails",
  meets: () => jobOf({ fuse: { fuseKind: "breaker", rating: q(250) }, unit: { runningCurrent: q(5) } }),
};
