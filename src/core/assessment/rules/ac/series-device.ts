import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { inMain, jobOf, q } from "../../examples/systems";
import { carriesWhatFlows, inSeries, isArraySide } from "../../needs/in-series";

export const seriesDevice: Rule = {
  id: "series-device",
  group: "AC wiring",
  title: "Switches, inlets, connectors, busbars, shunts",
  asks: "Every part in series is rated at least as high as the fuse or breaker that protects it, or, where there is none, as the current that can flow.",
  clause: by("NEC 110.10, 551.45", "ABYC E-11", "IEC 60364-5-53, 536.4", "ISO 13297", "AS/NZS 3000, 2.5.1"),
  broken: "Fails",
  fix: "Fit one with a higher rating, or a smaller fuse or breaker before it.",
  part: inSeries((at) => (isArraySide(at) ? [] : [carriesWhatFlows(at)])),
};

export const example: Example = {
  what: "a 200 A isolator behind a 400 A fuse",
  breaks: () =>
    inMain("isolator", { rating: q(200) }, jobOf({ fuse: { rating: q(400) }, cable: { areaMm2: q(70), count: q(2) } })),
  word: "Fails",
  meets: () =>
    inMain("isolator", { rating: q(400) }, jobOf({ fuse: { rating: q(400) }, cable: { areaMm2: q(70), count: q(2) } })),
};
