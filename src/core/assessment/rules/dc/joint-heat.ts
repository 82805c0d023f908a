import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { measuredHot } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { hottest } from "../../needs/checked";
import type { System } from "../../../models/system/system";
import { TracedValue, given, of, traced } from "../../../units/trace";

/** What was measured hot, brought to the running current, against the cable beside it. */
function hotJoints(system: System, along: TracedValue): Finding[] {
  const { values } = system;
  const { hotCurrent, airC, cableC, lugC, protectionC } = values.wiring.measured;
  if (!cableC) return [];
  const findings: Finding[] = [];
  const act = traced({
    key: "measured.act",
    name: "Allowed rise above the cable",
    dimension: "number",
    value: 20,
    relation: "ΔT = 20",
    source: "more than 20 K above the cable at the same current: act; common practice, no source",
  });
  const look = (
    key: "lug" | "protection",
    title: string,
    known: NonNullable<typeof cableC> | undefined,
    name: string,
  ) => {
    if (!known) return;
    const over = traced({
      key: `measured.${key}`,
      name: `${title} over the cable, K`,
      dimension: "number",
      value: Math.max(0, known.value - cableC.value),
      relation: "ΔT = max(0, T − T_c)",
      terms: () => [given("T", known), given("T_c", cableC)],
      source: "at the same current",
    });
    findings.push({
      name: `${name} above its cable`,
      demand: over,
      limit: act,
      remark: "a poor joint or a tired part",
      gravity: "Fails",
      aspect: key,
      holdsFrom: 1.3,
      part: "wiring.measured",
    });
    if (!hotCurrent) return;
    const air = airC?.value ?? values.wiring.ambientC.value;
    const hot = traced({
      key: `measured.${key}.hot`,
      name: `${title} at the running current`,
      dimension: "temperature",
      value:
        values.wiring.ambientC.value + Math.max(0, known.value - air) * Math.pow(along.value / hotCurrent.value, 2),
      relation: "T = T_a + max(0, T_m − T_0) × (I ÷ I_m)²",
      terms: () => [
        given("T_a", values.wiring.ambientC),
        given("T_m", known),
        airC ? given("T_0", airC) : given("T_0", values.wiring.ambientC),
        of("I", along),
        given("I_m", hotCurrent),
      ],
      source: "heat grows with the square of the current",
    });
    findings.push({
      name: `${name} temperature`,
      demand: hot,
      limit: hottest(),
      remark: "by the reading, at the running current",
      aspect: `${key}Hot`,
      holdsFrom: 1.08,
      part: "wiring.measured",
    });
  };
  look("lug", "Hottest termination", lugC, "lug");
  look("protection", "Breaker or fuse", protectionC, "breaker or fuse");
  return findings;
}

export const jointHeat: Rule = {
  id: "joint-heat",
  group: "DC wiring",
  title: "Measured heat of joints",
  asks: "A joint or fuse is less than 20 K above its cable, and under 70 °C at the running current.",
  clause: PRACTICE,
  broken: "Stop",
  fix: "Stop, let it cool, and make the joint anew; a part that stays hot is replaced.",
  system: ({ system, draw }) => hotJoints(system, draw.current),
};

export const example: Example = {
  what: "a lug of 95 °C",
  breaks: () => measuredHot(95),
  word: "Stop",
  meets: () => measuredHot(45),
};
