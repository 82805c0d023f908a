import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { betweenLegs, q, split } from "../../examples/systems";
import { halfOf } from "../../needs/everything-on";
import { TracedValue, of, traced } from "../../../units/trace";

export const legBalance: Rule = {
  id: "leg-balance",
  group: "Inverter and sources",
  title: "Legs in balance",
  asks: "The loads of the two legs differ by no more than half of a leg's rating.",
  clause: PRACTICE,
  broken: "Tight",
  fix: "Move loads to the other leg.",
  system({ system, inverterRating, outputs }) {
    if (!inverterRating || !system.legs.split) return [];
    const [first, second] = outputs as [TracedValue, TracedValue];
    return [
      {
        name: "balance of the legs",
        demand: traced({
          key: "carries.leg.apart",
          name: "Difference of the legs",
          dimension: "apparentPower",
          value: Math.abs(first.value - second.value),
          relation: "ΔS = max(S_1, S_2) − min(S_1, S_2)",
          terms: () => [of("S_1", first), of("S_2", second)],
        }),
        limit: traced({
          key: "carries.leg.balance",
          name: "Half of a leg's rating",
          dimension: "apparentPower",
          value: halfOf(inverterRating).value / 2,
          relation: "S = S_l ÷ 2",
          terms: () => [of("S_l", halfOf(inverterRating))],
          source: "common practice, no source",
        }),
        remark: "move loads to the other leg",
        part: "inverter",
      },
    ];
  },
};

export const example: Example = {
  what: "15 A on one leg and nothing on the other",
  breaks: () => split((copy) => void (copy.units[0]!.runningCurrent = q(15))),
  word: "Tight",
  meets: () => betweenLegs(8),
};
