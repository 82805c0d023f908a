import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import { fixedSpeed } from "../../../document/unit-kinds";
import { given, traced } from "../../../units/trace";

/** Rest between stop and start below which a compressor may stall against pressure: common practice, no source. */
const REST_NEEDED_S = 180;

export const startRest: Rule = {
  id: "start-rest",
  group: "Start",
  title: "Rest between stop and start",
  asks: "A compressor rests three minutes before it starts again.",
  clause: PRACTICE,
  broken: "Fails",
  fix: "Wait three minutes before the compressor starts again; set its control to do so.",
  beforeStart: ({ job, values }) =>
    job.units.flatMap((unit, i) =>
      fixedSpeed(unit)
        ? [
            {
              name: job.units.length > 1 ? `restart too soon, ${unit.name}` : "restart too soon",
              demand: traced({
                key: "starts.restNeeded",
                name: "Off time that pressures need",
                dimension: "duration",
                value: REST_NEEDED_S,
                relation: "t = 3 min",
                source: "three to five minutes: common practice, no source",
              }),
              limit: traced({
                key: `starts.rested.${i}`,
                name: "Time since the last stop",
                dimension: "duration",
                value: values.units[i]!.sinceStop.value,
                relation: "t = t_r",
                terms: () => [given("t_r", values.units[i]!.sinceStop)],
                source: "entered or assumed",
              }),
              remark: {
                met: "the compressor stays off until its pressures are equal",
                broken: "against pressure the compressor stalls at locked-rotor current until its overload opens",
              },
              aspect: `unit${i}`,
            },
          ]
        : [],
    ),
};

export const example: Example = {
  what: "a restart after one minute",
  breaks: () => jobOf({ unit: { sinceStop: q(60) } }),
  word: "Fails",
  meets: () => jobOf({ unit: { sinceStop: q(300) } }),
};
