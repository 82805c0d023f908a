import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type JudgedStart, apparentThen, deviceLimit, when } from "../../needs/start-moment";
import { curveWords } from "../../../simulation/start/start";
import { constant, given, of, traced } from "../../../units/trace";

/** The AC breaker that comes nearest to opening. */
function breakerPasses(start: JudgedStart): Finding[] {
  const { system, own } = start;
  const { breaker } = own;
  const at = own.nearest.breaker;
  if (!at || breaker?.part.kind !== "breaker") return [];
  const { mains } = system;
  const { curve } = breaker.part;
  const rating = breaker.values.rating!;
  const demand = traced({
    key: "starts.breaker.need",
    name: `Current through ${breaker.name} then`,
    dimension: "current",
    value: at.need,
    relation: "I = S_b ÷ V",
    terms: () => [
      of("S", apparentThen(start, at, "breaker")),
      constant("S_b", "Part through this breaker", at.need * mains, "apparentPower", "its leg, or its unit"),
      constant("V", "AC voltage", mains, "voltage", "of the job"),
    ],
  });
  const limit = deviceLimit("breaker", `${breaker.name} is sure to carry`, at, {
    relation: "I_b = m × I_n",
    terms: () => [
      constant("m", "Multiple of its rating, for that long", at.has / rating.value, "number", curveWords(curve)),
      given("I_n", rating),
    ],
    source: "IEC 60898-1: magnet B 3, C 5, D 10 times at least; thermal 2.55 times for a second",
  });
  return [
    {
      name: breaker.name,
      demand,
      limit,
      holdsFrom: USUAL_SPARE,
      remark: when(at),
      part: breaker.path,
    },
  ];
}

export const startBreaker: Rule = {
  id: "start-breaker",
  group: "Start",
  title: "AC breaker carries the start",
  asks: "Every AC breaker between inverter and unit is sure to pass the start: its magnetic trip (B 3, C 5, D 10 times its rating at least) and its thermal element.",
  clause: by(
    "maker’s time-current band",
    "maker’s time-current band",
    "IEC 60898-1, table 7",
    "IEC 60898-1, table 7",
    "IEC 60898-1, table 7",
  ),
  broken: "Fails",
  fix: "Fit a breaker of a slower type, such as C or D, or a soft starter.",
  start: (start) => breakerPasses(start),
};

export const example: Example = {
  what: "a type B breaker of 16 A for a start of 60 A",
  breaks: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(7), lockedRotorCurrent: q(60) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16, { curve: "B" }), cable(2.5)]),
    ),
  word: "Fails",
  meets: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(7), lockedRotorCurrent: q(35) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16, { curve: "C" }), cable(2.5)]),
    ),
};
