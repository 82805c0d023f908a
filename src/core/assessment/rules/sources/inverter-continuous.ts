import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import type { RunningDraw } from "../../needs/everything-on";
import type { System } from "../../../models/system/system";
import { TracedValue, given, traced } from "../../../units/trace";

/** The inverters against everything on: by what they carry, and by the DC current that they take. */
function everythingOnIt({ values }: System, { apparent, current }: RunningDraw, rating: TracedValue): Finding[] {
  const continuous = {
    name: "inverter continuous",
    demand: apparent,
    limit: rating,
    holdsFrom: USUAL_SPARE,
    remark: "hot, with everything on",
  };
  const { maxDcCurrent, count } = values.inverter;
  if (!maxDcCurrent) return [continuous];
  const most = traced({
    key: "carries.maxDc",
    name: "Largest DC input, all inverters",
    dimension: "current",
    value: maxDcCurrent.value * count.value,
    relation: "I_m = n × I_1",
    terms: () => [given("n", count), given("I_1", maxDcCurrent)],
    source: "data sheet",
  });
  return [
    continuous,
    {
      name: "inverter DC input",
      demand: current,
      limit: most,
      aspect: "maxDc",
      holdsFrom: USUAL_SPARE,
      remark: "at the reserve, when amps are highest",
    },
  ];
}

export const inverterContinuous: Rule = {
  id: "inverter-continuous",
  group: "Inverter and sources",
  title: "Inverter carries everything that is on",
  asks: "The continuous rating, derated for the heat of its compartment, is at least the apparent power of all AC loads at once.",
  clause: "data sheet of the inverter",
  broken: "Fails",
  fix: "Use a larger inverter or more of them, a cooler place for it, or fewer loads at once.",
  system: ({ system, draw, inverterRating }) => (inverterRating ? everythingOnIt(system, draw, inverterRating) : []),
};

export const example: Example = {
  what: "14 A of air conditioning on 2 kVA",
  breaks: () => jobOf({ unit: { runningCurrent: q(14) }, inverter: { rating: q(2000) } }),
  word: "Fails",
  meets: () => jobOf({ unit: { runningCurrent: q(4) }, inverter: { rating: q(3000) } }),
};
