import type { Rule, Example } from "../../catalogue/rule";
import { sharedBms } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type System, largestShare } from "../../../models/system/system";
import { TracedValue, constant, given, traced } from "../../../units/trace";

/** What comes out of the battery against the current of its BMS. */
function withinBms(system: System, bankCurrent: TracedValue): Finding {
  const { values, bank, job } = system;
  const limit = traced({
    key: "carries.protection",
    name: "Battery limit, continuous",
    dimension: "current",
    value: bank.continuousCurrent,
    relation: "I_l = I_1 ÷ q × k_T",
    terms: () => [
      given("I_1", values.bank.continuousCurrent),
      largestShare(system),
      constant("k_T", "Derating factor at its temperature", bank.hotShare, "ratio", "less from 45 °C on"),
    ],
    source: "data sheet; the battery that gives most meets its limit first",
  });
  return {
    name: job.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
    demand: bankCurrent,
    limit,
    holdsFrom: USUAL_SPARE,
    remark: "continuous, at the reserve",
  };
}

export const bmsDischarge: Rule = {
  id: "bms-discharge",
  group: "Batteries",
  title: "BMS's discharge current",
  asks: "The battery that gives most, at least a tenth over an equal share, stays within the continuous current of its BMS.",
  clause: "data sheet of the battery",
  broken: "Fails",
  fix: "Use more batteries in parallel, or ones whose BMS allows more current.",
  system: ({ system, draw }) => [withinBms(system, draw.bankCurrent)],
};

export const example: Example = {
  what: "two batteries of 54 A each for 105 A, shared unequally",
  breaks: () => sharedBms(54),
  word: "Fails",
  meets: () => sharedBms(90),
};
