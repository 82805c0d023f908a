import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import type { WiringPart } from "../../../models/wiring/circuits";
import { constant, given, stated, traced } from "../../../units/trace";

/** Copper from which on AC conductors may be run in parallel: 1/0 AWG is 53.5 mm2, 50 mm2 its metric fellow. */
const PARALLEL_AC_MM2 = 49.5;

/** AC conductors in parallel: each thick enough that they share the current. */
function sideBySide(one: WiringPart): Finding {
  const { path, name } = one;
  return {
    name: `${name} side by side`,
    demand: traced({
      key: `${path}:parallelLeast`,
      name: `Smallest copper in parallel, ${name}`,
      dimension: "area",
      value: PARALLEL_AC_MM2,
      relation: "S_m = S",
      terms: () => [
        constant("S", "From which on AC conductors may be parallel", PARALLEL_AC_MM2, "area", "1/0 AWG, 50 mm²"),
      ],
    }),
    limit: stated({ key: `${path}:parallel`, name: `Copper of each, ${name}` }, "S", given("S_1", one.values.areaMm2!)),
    remark: "thin conductors do not share surely",
    part: path,
  };
}

export const acParallel: Rule = {
  id: "ac-parallel",
  group: "AC wiring",
  title: "No thin AC cables side by side",
  asks: "AC conductors are run in parallel only from 1/0 AWG or 50 mm² on: thinner ones do not share the current surely, and one breaker does not protect each.",
  clause: by("NEC 310.10(G)", "NEC 310.10(G)", "IEC 60364-4-43, 433.4", "IEC 60364-4-43, 433.4", "AS/NZS 3000, 3.4.3"),
  broken: "Fails",
  fix: "Use one thicker cable.",
  part: { cable: ({ circuit, one }) => (circuit.mains && one.values.count!.value > 1 ? [sideBySide(one)] : []) },
};

export const example: Example = {
  what: "two cables of 2.5 mm² side by side behind a 32 A breaker",
  breaks: () =>
    edit(jobOf(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(32), cable(2.5, 3, { count: q(2) })])),
  word: "Fails",
  meets: () => edit(jobOf(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(32), cable(6, 3)])),
};
