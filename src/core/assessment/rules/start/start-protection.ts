import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type JudgedStart, deviceLimit, indexAt, powerThen, when } from "../../needs/start-moment";
import { currentAlongPath, currentOfBank, largestShare } from "../../../models/system/system";
import { given } from "../../../units/trace";

/** The battery’s current within the peak, then the continuous current of its BMS. */
function withinPeak(start: JudgedStart): Finding[] {
  const { system, own } = start;
  const at = own.nearest.protection;
  if (!at) return [];
  const { bank, values, job } = system;
  const lasting = at.seconds > bank.peakTime;
  const { figure, state } = currentAlongPath(system, {
    key: "starts.protection.along",
    name: "Main circuit current at that moment",
    onPath: powerThen(start, at, "protection"),
    dcLoad: own.side[indexAt(own.seconds, at.seconds)]!,
  });
  return [
    {
      name: job.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
      demand: currentOfBank("starts.protection.need", "Battery current at that moment", figure, state),
      limit: deviceLimit("protection", lasting ? "Limit, continuous" : "Limit, peak", at, {
        relation: "I_l = I_1 ÷ q",
        terms: () => [
          largestShare(system),
          given("I_1", lasting ? values.bank.continuousCurrent : values.bank.peakCurrent),
          given("t_p", values.bank.peakTime),
        ],
        source: "data sheet",
      }),
      holdsFrom: USUAL_SPARE,
      remark: when(at),
    },
  ];
}

export const startProtection: Rule = {
  id: "start-protection",
  group: "Start",
  title: "BMS at the start",
  asks: "The battery's current stays within the peak and then the continuous current of its BMS.",
  clause: "data sheet of the battery",
  broken: "Fails",
  fix: "Fit a soft starter, or use more batteries in parallel.",
  start: (start) => withinPeak(start),
};

export const example: Example = {
  what: "a BMS of 100 A for a start of 300 A",
  breaks: () =>
    jobOf({
      unit: { lockedRotorCurrent: q(60) },
      inverter: { rating: q(8000) },
      bank: { continuousCurrent: q(60), peakCurrent: q(100) },
    }),
  word: "Fails",
  meets: () =>
    jobOf({
      unit: { lockedRotorCurrent: q(15), runningCurrent: q(4) },
      bank: { continuousCurrent: q(300), peakCurrent: q(900) },
    }),
};
