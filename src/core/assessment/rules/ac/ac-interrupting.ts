import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { constant, given, stated, traced } from "../../../units/trace";

/** A that the smallest breakers on sale interrupt: 3 kA by IEC 60898-1, 5 kA by UL (from memory). */
const LEAST_INTERRUPTING_A = { american: 5000, other: 3000 } as const;

export const acInterrupting: Rule = {
  id: "ac-interrupting",
  group: "AC wiring",
  title: "Interrupting rating of an AC breaker",
  asks: "An AC breaker interrupts at least 3 kA (US 5 kA), the smallest that is sold; the supply's own short-circuit current is measured on site.",
  clause: by("NEC 110.9", "ABYC E-11", "IEC 60364-4-43, 434.5.1", "ISO 13297", "AS/NZS 3000, 2.5.4"),
  broken: "Fails",
  fix: "Fit a breaker with the interrupting rating that the supply asks for.",
  part: {
    breaker: ({ system: { wiring }, one: { path, name, values } }) => {
      const amps = wiring.rules.earth === "ground" ? LEAST_INTERRUPTING_A.american : LEAST_INTERRUPTING_A.other;
      const least = traced({
        key: `${path}:leastInterrupting`,
        name: `Least interrupting rating, ${name}`,
        dimension: "current",
        value: amps,
        relation: "I_k = I_s",
        terms: () => [constant("I_s", "Smallest on sale", amps, "current", wiring.rules.standards.protection)],
        source: "the supply's own short-circuit current is measured on site",
      });
      const breaks = stated(
        { key: `${path}:acBreaks`, name: `Interrupting rating, ${name}`, source: "stamped on it" },
        "I_b",
        given("I_1", values.interrupting!),
      );
      return [
        {
          name: `${name} interrupting rating`,
          demand: least,
          limit: breaks,
          remark: { met: "as breakers are sold", broken: "it may not put out the short circuit of the supply" },
          part: path,
        },
      ];
    },
  },
};

export const example: Example = {
  what: "a breaker that interrupts 1 kA",
  breaks: () =>
    edit(
      jobOf(),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16, { interrupting: q(1000) }), cable(2.5)]),
    ),
  word: "Fails",
  meets: () =>
    edit(
      jobOf(),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16, { interrupting: q(6000) }), cable(2.5)]),
    ),
};
