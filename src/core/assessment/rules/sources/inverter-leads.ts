import type { Rule, Example } from "../../catalogue/rule";
import { split } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const inverterLeads: Rule = {
  id: "inverter-leads",
  group: "Inverter and sources",
  title: "Several inverters: a fuse and equal leads each",
  asks: "Inverters in parallel or stacked each have a fuse and leads of one length, from a busbar rated for the sum.",
  clause: "data sheets of stacked inverters; ISO 13297; ABYC E-11",
  broken: "Fails",
  ofThings: true,
  fix: "Give each inverter a fuse and leads of one length from a busbar.",
  system({ system: { job, values, converted } }) {
    if (!converted || values.inverter.count.value < 2) return [];
    const { leads } = job.inverter;
    return [
      presence({
        key: "leads",
        title: "a fuse and equal leads for each inverter",
        fault: leads === "shared" ? "inverters share one pair of leads" : "leads of the inverters not stated",
        met: leads === "own",
        gravity: leads === "shared" ? "Fails" : "Tight",
        reason: say("notices.invertersOnePairLeads"),
        fix: say("notices.giveEachInverterOwn"),
        part: "inverter.leads",
      }),
    ];
  },
};

export const example: Example = {
  what: "two inverters on one pair of leads",
  breaks: () => split((copy) => void (copy.inverter.leads = "shared")),
  word: "Fails",
  meets: () => split(),
};
