import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { has } from "../../needs/checked";
import { say } from "../../../messages/say";

export const outputBreaker: Rule = {
  id: "output-breaker",
  group: "AC wiring",
  title: "Breaker on the inverter's output",
  asks: "The inverter's output has a breaker, unless the inverter cannot give more than the cable carries.",
  clause: by("NEC 551.30, 240.21", "ABYC E-11", "IEC 60364-4-43", "ISO 13297", "AS/NZS 3000, 2.5"),
  broken: "Stop",
  ofThings: true,
  fix: "Fit a breaker on the output that is no more than its cable carries.",
  system({ system: { wiring, converted, inverter, mains, legs } }) {
    const cables = wiring.mains.parts.flatMap(({ ampacity }) => (ampacity ? [ampacity.value] : []));
    if (!converted || cables.length === 0) return [];
    return [
      presence({
        key: "output",
        title: "breaker on the inverter's output",
        fault: "no breaker on the inverter's output",
        // An inverter that cannot give more than its cable carries protects it by its own limit.
        met: has(wiring.mains, "breaker") || inverter.rating / mains / (legs.split ? 2 : 1) <= Math.min(...cables),
        reason: say("notices.inverterCanPushMore"),
        fix: say("notices.fitBreakerNoMore"),
        part: "wiring.mains",
      }),
    ];
  },
};

export const example: Example = {
  what: "an inverter of 5 kVA on 1.5 mm² without a breaker",
  breaks: () =>
    edit(jobOf({ inverter: { rating: q(5000) } }), (copy) => void (copy.wiring.mains = [part("rcd"), cable(1.5)])),
  word: "Stop",
  meets: () =>
    edit(
      jobOf({ inverter: { rating: q(5000) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16), cable(1.5)]),
    ),
};
