import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bank48, cable, engine, fuse, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { type CheckedPart, FUSE_SPARE, answersForItself, ratingFigure } from "../../needs/checked";
import { of, traced } from "../../../units/trace";

/** A fuse against the current that it carries. A solar array's factor is in its current already, and a converter holds its own output. */
function carriesCurrent({ circuit, one, load }: CheckedPart): Finding {
  const { path, name } = one;
  const spare = circuit.far?.limited ? 1 : FUSE_SPARE;
  const least = traced({
    key: `${path}:least`,
    name: `${spare > 1 ? "125 % of the current" : "Current"}, ${name}`,
    dimension: "current",
    value: spare * load.current.value,
    relation: `I_m = ${spare} × I`,
    terms: () => [of("I", load.current)],
    source: "fuse at 125 % of continuous current: common practice, no source",
  });
  return {
    topic: "size",
    name: `${name} rating`,
    demand: least,
    limit: ratingFigure(one, `${path}:rating`),
    remark: "125 % of the running current",
    part: path,
  };
}

export const dcFuseLoad: Rule = {
  id: "dc-fuse-load",
  group: "DC wiring",
  title: "Fuse at 125 % of the current",
  asks: "A fuse is at least 125 % of the current that it carries for hours.",
  clause: PRACTICE,
  broken: "Fails",
  fix: "Fit a larger fuse, and cable that it protects.",
  part: { fuse: (at) => (answersForItself(at.circuit, at.one) ? [carriesCurrent(at)] : []) },
};

export const example: Example = {
  what: "80 A on the 12 V side of a converter that charges 48 V with 50 A",
  breaks: () => engine({ current: q(50), far: [fuse(80), cable(95, 3)] }, bank48),
  word: "Fails",
  meets: () => engine({ current: q(50), far: [fuse(300), cable(95, 3)] }, bank48),
};
