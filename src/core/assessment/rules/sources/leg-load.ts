import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { heavyLeg } from "../../examples/systems";
import { USUAL_SPARE } from "../../judge/word";
import { halfOf } from "../../needs/everything-on";

export const legLoad: Rule = {
  id: "leg-load",
  group: "Inverter and sources",
  title: "Each leg carries its load",
  asks: "On a supply of two legs each leg gives at most its half of the inverter's rating.",
  clause: by("NEC 220.61, 551.42", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
  broken: "Fails",
  fix: "Move loads to the other leg, or use larger inverters.",
  system({ system, inverterRating, outputs }) {
    if (!inverterRating || !system.legs.split) return [];
    const half = halfOf(inverterRating);
    return outputs.map((leg, i) => ({
      name: `leg L${i + 1} of the inverter`,
      demand: leg,
      limit: half,
      remark: "everything on",
      holdsFrom: USUAL_SPARE,
      part: "inverter",
      aspect: i === 0 ? "L1" : "L2",
    }));
  },
};

export const example: Example = {
  what: "3.6 kVA on one leg of a split phase of 3 kVA a leg",
  breaks: () => heavyLeg("L1"),
  word: "Fails",
  meets: () => heavyLeg("L2"),
};
