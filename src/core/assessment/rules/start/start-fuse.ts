import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type JudgedStart, deviceLimit, indexAt, powerThen, when } from "../../needs/start-moment";
import { currentAlongPath } from "../../../models/system/system";
import { constant, given } from "../../../units/trace";

/** The fuse between battery and inverter at the moment that comes nearest to opening it. */
function fuseCarriesStart(start: JudgedStart): Finding[] {
  const { system, own } = start;
  const at = own.nearest.fuse;
  const { fuse, fuseRating } = system.wiring;
  if (!at || !fuse) return [];
  const { figure } = currentAlongPath(system, {
    key: "starts.fuse.need",
    name: "Fuse current at that moment",
    onPath: powerThen(start, at, "fuse"),
    dcLoad: own.side[indexAt(own.seconds, at.seconds)]!,
  });
  return [
    {
      name: fuse.name,
      demand: figure,
      limit: deviceLimit("fuse", "Fuse is sure to carry", at, {
        relation: "I_f = m × I_n",
        terms: () => [
          constant(
            "m",
            "Multiple of its rating, for that long",
            at.has / fuseRating,
            "number",
            "shortest opening times",
          ),
          given("I_n", fuse.values.rating!),
        ],
        source: "bolt-down strip fuses after ISO 8820-5",
      }),
      holdsFrom: USUAL_SPARE,
      remark: when(at),
      part: fuse.path,
    },
  ];
}

export const startFuse: Rule = {
  id: "start-fuse",
  group: "Start",
  title: "Fuse carries the start",
  asks: "The fuse is sure to carry the start for as long as it lasts.",
  clause: "ISO 8820-5, time-current band",
  broken: "Fails",
  fix: "Fit a soft starter, or a larger fuse and cable that it protects.",
  start: (start) => fuseCarriesStart(start),
};

export const example: Example = {
  what: "a 60 A fuse for a start of 300 A",
  breaks: () => jobOf({ unit: { lockedRotorCurrent: q(60) }, inverter: { rating: q(8000) }, fuse: { rating: q(40) } }),
  word: "Fails",
  meets: () => jobOf({ unit: { lockedRotorCurrent: q(15), runningCurrent: q(4) }, fuse: { rating: q(400) } }),
};
