import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { ratingFigure } from "../../needs/checked";

export const acBreakerLoad: Rule = {
  id: "ac-breaker-load",
  group: "AC wiring",
  title: "AC breaker carries its load",
  asks: "The breaker's rating is at least the design current of what it feeds; on US jobs 125 % of a continuous load.",
  clause: by(
    "NEC 210.20(A)",
    "ABYC E-11, branch circuits",
    "IEC 60364-4-43, 433.1",
    "ISO 13297",
    "AS/NZS 3000, 2.5.3.1",
  ),
  broken: "Fails",
  fix: "Fit a larger breaker, and cable that it protects.",
  part: {
    breaker: ({ circuit, one, load }) => [
      {
        topic: "size",
        name: `${one.name} rating`,
        demand: load.design,
        limit: ratingFigure(one, `${one.path}:rating`),
        remark: "continuous",
        ...(circuit.branch?.role === "shore" ? { gravity: "Tight" } : {}),
        part: one.path,
      },
    ],
  },
};

export const example: Example = {
  what: "a 10 A breaker for a load of 14 A",
  breaks: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(14) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(10), cable(2.5)]),
    ),
  word: "Fails",
  meets: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(14) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16), cable(2.5)]),
    ),
};
