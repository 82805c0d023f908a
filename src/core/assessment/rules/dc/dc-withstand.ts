import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, loadRunMm2 } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import type { CheckedPart } from "../../needs/checked";
import { guardOf } from "../../needs/guards";
import { faultAt } from "../../needs/short-circuit";
import type { WiringPart } from "../../../models/wiring/circuits";
import { WITHSTAND_K, withstandArea } from "../../../reference/conductors/ampacity";
import { letThrough } from "../../../reference/conductors/fuse";
import { constant, given, of, traced } from "../../../units/trace";

/** Whether a cable lives through the short circuit that its fuse ends: S = sqrt(I^2 t) / k. */
function withstands(at: CheckedPart, guard: WiringPart): Finding {
  const { one } = at;
  const part = one.part as WiringPart["part"] & { kind: "cable" };
  const fault = faultAt(at);
  const kind = guard.part.kind === "fuse" ? guard.part.fuseKind : "breaker";
  const through = letThrough(guard.values.rating!.value, fault.value, kind);
  const k = WITHSTAND_K[part.insulation];
  const least = traced({
    key: `${one.path}:withstand`,
    name: `Withstands the short circuit, ${one.name}`,
    dimension: "area",
    value: withstandArea(through, k),
    relation: "S = √(I_k² × t) ÷ k",
    terms: () => [
      of("I_k", fault),
      constant(
        "t",
        "Until the fuse has opened",
        through / (fault.value * fault.value),
        "duration",
        `${guard.name}: slow edge of its band, ISO 8820-5`,
      ),
      constant(
        "k",
        "Copper in this insulation",
        k,
        "number",
        "IEC 60364-5-54: 115 at 70 °C, 143 at 90 °C, 88 at 105 °C",
      ),
    ],
    source: "IEC 60364-5-54, adiabatic",
  });
  const there = traced({
    key: `${one.path}:area`,
    name: `Copper, ${one.name}`,
    dimension: "area",
    value: one.values.areaMm2!.value * one.values.count!.value,
    relation: "S = n × S_1",
    terms: () => [given("n", one.values.count!), given("S_1", one.values.areaMm2!)],
  });
  return {
    topic: "short",
    name: `${one.name} in a short circuit`,
    demand: least,
    limit: there,
    remark: "until its fuse has opened",
    part: one.path,
  };
}

export const dcWithstand: Rule = {
  id: "dc-withstand",
  group: "DC wiring",
  title: "Cable withstands the short circuit",
  asks: "The copper withstands the energy that its fuse lets through: S ≥ √(I²t) ÷ k.",
  clause: "IEC 60364-5-54, 543.1.2",
  broken: "Stop",
  fix: "Use thicker cable, or a fuse that opens sooner.",
  part: {
    cable(at) {
      const { system, circuit, index } = at;
      const guard = guardOf(system.wiring, circuit, index);
      return guard && !circuit.mains && !circuit.far?.limited ? [withstands(at, guard)] : [];
    },
  },
};

export const example: Example = {
  what: "0.75 mm² behind a 300 A fuse",
  breaks: () => loadRunMm2(jobOf(), 0.75, 300),
  word: "Stop",
  meets: () => loadRunMm2(jobOf(), 16, 60),
};
