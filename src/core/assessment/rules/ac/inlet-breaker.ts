import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { moored } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { type Circuit, type WiringPart, cableLength } from "../../../models/wiring/circuits";
import { constant, given, traced } from "../../../units/trace";

/** Cable that may lie between a boat's inlet and its main breaker, m (ABYC E-11, 10 ft; ISO 13297, 3 m). */
const INLET_TO_BREAKER_M = 3.05;

/** How far behind the inlet of a boat its main breaker stands. */
function behindInlet(circuit: Circuit, before: WiringPart[], part: WiringPart["path"]): Finding {
  const cables = before.filter((one) => one.part.kind === "cable");
  const length = traced({
    key: `${circuit.path}:inletCable`,
    name: `Cable between inlet and breaker, ${circuit.title}`,
    dimension: "length",
    value: cableLength(before),
    relation: "L = Σ L_i",
    terms: () => cables.map((one, i) => given(`L_${i + 1}`, one.values.length!)),
  });
  const most = traced({
    key: `${circuit.path}:inletCableMost`,
    name: "Cable allowed between them",
    dimension: "length",
    value: INLET_TO_BREAKER_M,
    relation: "L = L_m",
    terms: () => [constant("L_m", "By the rules", INLET_TO_BREAKER_M, "length", "10 ft, 3 m")],
  });
  return {
    name: `breaker behind the inlet, ${circuit.title}`,
    demand: length,
    limit: most,
    remark: { met: "near the inlet", broken: "the cable before it has nothing on board that switches it off" },
    part,
  };
}

export const inletBreaker: Rule = {
  id: "inlet-breaker",
  group: "AC wiring",
  title: "Main breaker near a boat’s inlet",
  asks: "On a boat no more than 3 m (10 ft) of cable lie between the inlet and its main breaker.",
  clause: by("ABYC E-11", "ABYC E-11, main shore power disconnect", "ISO 13297", "ISO 13297", "AS/NZS 3004.2"),
  broken: "Fails",
  fix: "Move the main breaker nearer to the inlet.",
  circuit({ system, circuit }) {
    if (circuit.branch?.role !== "shore" || system.job.cabin.kind !== "boat") return [];
    const first = circuit.parts.findIndex(({ part }) => part.kind === "breaker");
    return first < 0 ? [] : [behindInlet(circuit, circuit.parts.slice(0, first), circuit.parts[first]!.path)];
  },
};

export const example: Example = {
  what: "a breaker 8 m behind a boat’s inlet",
  breaks: () => moored(8),
  word: "Fails",
  meets: () => moored(3),
};
