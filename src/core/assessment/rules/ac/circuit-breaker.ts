import type { Branch } from "../../../document/schema";
import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, part, withBranch } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { has } from "../../needs/checked";
import { guardOf } from "../../needs/guards";
import { say } from "../../../messages/say";
import type { Circuit } from "../../../models/wiring/circuits";

/** A circuit that needs a breaker: its own, or one before it on the way from its source. */
const before = (circuit: Circuit, met: boolean, { reason, fix }: { reason: string; fix: string }): Finding =>
  presence({
    key: `${circuit.path}.breaker`,
    title: `breaker, ${circuit.title}`,
    fault: `no breaker, ${circuit.title}`,
    met,
    reason,
    fix,
    part: circuit.path,
  });

export const circuitBreaker: Rule = {
  id: "circuit-breaker",
  group: "AC wiring",
  title: "Breaker before a unit's circuit",
  asks: "A unit's own circuit, a shore inlet and the AC side of a charger have a breaker before them.",
  clause: by("NEC 240.21", "ABYC E-11", "IEC 60364-4-43", "ISO 13297", "AS/NZS 3000, 2.5"),
  broken: "Stop",
  ofThings: true,
  fix: "Fit a breaker where the circuit begins.",
  system({ system: { wiring, converted } }) {
    const guarded = (circuit: Circuit) => guardOf(wiring, circuit, circuit.parts.length) !== null;
    const source = say("notices.sourceWithoutProtectionFault");
    const fix = say("notices.fitBreakerWhereCircuit");
    const of = (role: Branch["role"]) => wiring.branches.filter(({ branch }) => branch!.role === role);
    // The AC side of a charger is protected by a breaker of its own, or by the inlet's.
    const chargers = of("charger").flatMap(({ branch }) => wiring.far.find((side) => side.branch === branch) ?? []);
    return [
      ...(converted ? of("circuit") : []).map((one) =>
        before(one, guarded(one), { reason: say("notices.shortCircuitUnitWould"), fix }),
      ),
      ...of("shore").map((one) =>
        before(one, has(one, "breaker"), { reason: source, fix: say("notices.fitInletBreaker") }),
      ),
      ...(converted ? chargers : []).map((one) => before(one, guarded(one), { reason: source, fix })),
    ];
  },
};

export const example: Example = {
  what: "a supply inlet without a breaker",
  breaks: () => withBranch("shore", { parts: [part("inlet"), part("rcd"), cable(2.5)] }),
  word: "Stop",
  meets: () => withBranch("shore", { parts: [part("inlet"), part("rcd"), breaker(16), cable(2.5)] }),
};
