import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { strung } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { type ArrayOnController, arraysOf } from "../../needs/arrays";
import { controllerOf } from "../../../document/sides";
import { passedOf, stringVoltsWanted } from "../../../models/charging/strings";
import type { System } from "../../../models/system/system";
import { constant, given, traced } from "../../../units/trace";

/** Share of the longest string's volts from which others on the controller count as alike. */
const ALIKE = 0.9;

/** Whether the strings pass the battery's volts when they are hot, and are alike. */
function passesBattery({ values, job, bank }: System, { index, name, at, array }: ArrayOnController): Finding {
  const own = job.sources.panels.filter((panel) => controllerOf(job, panel) === index);
  // A string that nobody described is not too low, but not stated.
  const described = job.sources.controllers.length > 0 && own.every(({ series, openVoltage }) => series && openVoltage);
  const wanted = traced({
    key: `solar.${index}.wanted`,
    name: `Open-circuit voltage wanted of a string, ${name}`,
    dimension: "voltage",
    value: stringVoltsWanted(bank.chargeToVoltage),
    relation: "V = (V_h + 1) ÷ 0.72",
    terms: () => [given("V_h", values.bank.chargeToVoltage)],
    source:
      "hot and at work a panel has 0.72 of its open-circuit volts, and a tracker needs one more: common practice, no source",
  });
  const lowest = traced({
    key: `solar.${index}.lowest`,
    name: `Open-circuit voltage of the shortest string, ${name}`,
    dimension: "voltage",
    value: array.lowOpenVolts,
    relation: "V = V_oc",
    terms: () => [constant("V_oc", "Shortest string", array.lowOpenVolts, "voltage", "panels in series, at 25 °C")],
  });
  return {
    name: `volts of the strings, ${name}`,
    demand: wanted,
    limit: lowest,
    remark: {
      met: "charges when hot, too",
      broken: described
        ? "too few volts to charge when hot: more in series"
        : "volts and series of the panels, or their controller, not stated",
    },
    gravity: described ? "Fails" : "Tight",
    aspect: `controller${index}`,
    part: at,
  };
}

/** Panels that make no whole string, or groups of other volts on one controller. */
function unlike({ job, values }: System, { index, name, at, array }: ArrayOnController): Finding[] {
  const alike = array.lowOpenVolts >= ALIKE * array.openVolts;
  if (!array.uneven && alike) return [];
  const passes = `${Math.round(100 * passedOf(job, values, index))} % of the panels’ power passes`;
  const one = traced({
    key: `solar.${index}.alikeWanted`,
    name: `Strings that are alike, ${name}`,
    dimension: "count",
    value: 1,
    relation: "n = 1",
    source: "strings in parallel have one voltage",
  });
  const none = traced({
    key: `solar.${index}.alikeThere`,
    name: `Strings alike, ${name}`,
    dimension: "count",
    value: 0,
    relation: "n = 0",
    source: array.uneven ? "panels that make no whole string" : "groups of other volts on one controller",
  });
  return [
    {
      name: array.uneven ? `panels beside whole strings, ${name}` : `strings of unlike volts, ${name}`,
      demand: one,
      limit: none,
      form: "there",
      remark: array.uneven
        ? `the panels do not divide into whole strings, what is over gives nothing: ${passes}`
        : `strings in parallel on one controller have one voltage: ${passes}`,
      gravity: array.uneven ? "Fails" : "Tight",
      part: at,
      aspect: "alike",
    },
  ];
}

export const solarStrings: Rule = {
  id: "solar-strings",
  group: "Solar",
  title: "Strings pass the battery’s volts",
  asks: "Hot and at work every string passes the charging volts of the battery by what a tracker needs; the panels divide into whole strings, and strings on one controller have one voltage.",
  clause: by("NEC 690.7", "NEC 690.7", "IEC 62548, 5.1", "IEC 62548, 5.1", "AS/NZS 5033"),
  broken: "Fails",
  fix: "Put more panels in series, and the same number and kind in each string.",
  system: ({ system }) => arraysOf(system).flatMap((array) => [passesBattery(system, array), ...unlike(system, array)]),
};

export const example: Example = {
  what: "one panel of 18 V on a 12 V battery",
  breaks: () => strung(18, 1, 1),
  word: "Fails",
  meets: () => strung(22, 1, 1),
};
