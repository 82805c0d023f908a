import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { ratingFigure } from "../../needs/checked";
import { constant, traced } from "../../../units/trace";

export const acOutputBreaker: Rule = {
  id: "ac-output-breaker",
  group: "AC wiring",
  title: "Output breaker lets the inverter give its rating",
  asks: "A breaker on the inverter's output is at least the inverter's rated current; a smaller one is safe but opens before the inverter is at its rating.",
  clause: PRACTICE,
  broken: "Tight",
  fix: "Fit a breaker of the inverter’s rated current, and cable that it protects; or leave it, if the loads are smaller.",
  part: {
    breaker: ({ system: { inverter, mains, legs }, circuit, one }) => {
      if (circuit.key !== "mains") return [];
      const share = legs.split ? 2 : 1;
      const output = traced({
        key: "carries.output",
        name: "Rated output current of the inverter",
        dimension: "current",
        value: inverter.rating / share / mains,
        relation: share === 2 ? "I = S_n ÷ 2 ÷ V" : "I = S_n ÷ V",
        terms: () => [
          constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          constant("V", "AC voltage", mains, "voltage", "of one leg"),
        ],
      });
      return [
        {
          topic: "output",
          name: `${one.name} at the inverter's rating`,
          demand: output,
          limit: ratingFigure(one, `${one.path}:rating`),
          remark: {
            met: "it carries the inverter at its rating",
            broken: "it opens before the inverter is at its rating",
          },
          part: one.path,
        },
      ];
    },
  },
};

export const example: Example = {
  what: "a 10 A breaker on the output of 3 kVA at 230 V",
  breaks: () =>
    edit(
      jobOf({ inverter: { rating: q(3000) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(10), cable(2.5)]),
    ),
  word: "Tight",
  meets: () =>
    edit(
      jobOf({ inverter: { rating: q(3000) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16), cable(2.5)]),
    ),
};
