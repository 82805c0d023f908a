import type { Rule, Example } from "../../catalogue/rule";
import { q, starting } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type JudgedStart, apparentThen, when } from "../../needs/start-moment";
import { constant, given, of, traced } from "../../../units/trace";

/** The inverter at the moment that asks most of its surge. */
function surge(start: JudgedStart): Finding[] {
  const { system, own } = start;
  const at = own.nearest.inverter;
  if (!at) return [];
  const { inverter, legs } = system;
  const v = system.values.inverter;
  const whole = apparentThen(start, at, "inverter");
  const demand = legs.split
    ? traced({
        key: "starts.inverter.leg",
        name: "Fuller leg at that moment, twice",
        dimension: "apparentPower",
        value: at.need,
        relation: "S_w = 2 × S_l",
        terms: () => [
          constant("S_l", "Fuller leg", at.need / 2, "apparentPower", "each leg has half of the inverter"),
          of("S", whole),
        ],
      })
    : whole;
  const each = at.has / v.count.value / Math.max(1e-9, inverter.heatShare);
  const limit = traced({
    key: "starts.inverter.has",
    name: "Inverter surge at that moment",
    dimension: "apparentPower",
    value: at.has,
    relation: "S_s = n × S_1 × k_T",
    terms: () => [
      given("n", v.count),
      constant(
        "S_1",
        "Each inverter, that long into a surge",
        each,
        "apparentPower",
        "its surge points, over log time",
      ),
      constant(
        "k_T",
        "Derating factor at its temperature",
        inverter.heatShare,
        "ratio",
        "derated as the continuous rating is",
      ),
      given("S_a", v.surge1),
      given("t_a", v.surge1Time),
      given("S_b", v.surge2),
      given("t_b", v.surge2Time),
      given("S_c", v.surge3),
      given("t_c", v.surge3Time),
    ],
    source: "data sheet, or typical of the kind",
  });
  return [{ name: "inverter surge", demand, limit, holdsFrom: USUAL_SPARE, remark: when(at) }];
}

export const startInverter: Rule = {
  id: "start-inverter",
  group: "Start",
  title: "Inverter surge",
  asks: "At every moment of the start the inverter's surge, derated by heat, is at least the apparent power asked for; on two legs, of each leg.",
  clause: "data sheet of the inverter",
  broken: "Fails",
  fix: "Fit a soft starter, use an inverter with more surge, or a unit that starts softly.",
  start: (start) => surge(start),
};

export const example: Example = {
  what: "60 A of locked rotor on 1.5 kVA",
  breaks: () => starting(60, { rating: q(1500) }),
  word: "Fails",
  meets: () => starting(20, { rating: q(5000) }),
};
