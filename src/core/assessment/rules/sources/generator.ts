import type { Rule, Example } from "../../catalogue/rule";
import { generatorOf } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { countsOnGenerator } from "../../needs/checked";
import { generatorDerate } from "../../../models/charging/supply";
import type { System } from "../../../models/system/system";
import { TracedValue, constant, given, traced } from "../../../units/trace";

/** A generator that the plan counts on, or that starts by itself, against all AC loads at once. */
function forHours({ job, values, inverter }: System, apparent: TracedValue): Finding {
  const { generatorRating, generatorContinuous, altitude } = values.supplies;
  const left = generatorDerate(altitude.value, values.weather.highestC.value);
  const helps = job.inverter.combined && job.inverter.assist ? inverter.derated : 0;
  const has = traced({
    key: "carries.generator",
    name: "Generator, for hours",
    dimension: "apparentPower",
    value: generatorRating.value * generatorContinuous.value * left + helps,
    relation: "S = S_g × c × k + S_i",
    terms: () => [
      given("S_g", generatorRating),
      given("c", generatorContinuous),
      constant("k", "Altitude and heat", left, "ratio", "3 % less for each 300 m, 1 % for each 5 K above 25 °C"),
      constant(
        "S_i",
        "Added by an inverter-charger",
        helps,
        "apparentPower",
        helps > 0 ? "it assists" : "none assists",
      ),
    ],
  });
  return {
    name: "generator, for hours",
    demand: apparent,
    limit: has,
    remark: "all AC loads at once",
    part: "supplies",
  };
}

export const generator: Rule = {
  id: "generator",
  group: "Inverter and sources",
  title: "Generator carries the units for hours",
  asks: "A generator that the plan counts on, derated by height, heat and its continuous share, carries all AC loads at once, with an inverter-charger's help where that assists; else the battery carries them and the generator only charges.",
  clause: "data sheet of the generator",
  broken: "Tight",
  fix: "Use a larger generator, or count on it for charging only.",
  system: ({ system, draw }) =>
    system.converted && countsOnGenerator(system) ? [forHours(system, draw.apparent)] : [],
};

export const example: Example = {
  what: "a generator of 500 VA for an air conditioner",
  breaks: () => generatorOf(500),
  word: "Tight",
  meets: () => generatorOf(6000),
};
