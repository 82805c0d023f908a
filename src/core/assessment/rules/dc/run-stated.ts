import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, part, withBranch } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { has } from "../../needs/checked";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import { type Circuit, allCircuits } from "../../../models/wiring/circuits";

/** Circuits whose cable nobody put into the plan: nothing of them is checked. A converter's loads may be wired by others. */
const withoutCable = ({ wiring, converted }: System): Circuit[] =>
  allCircuits(wiring, converted).filter(
    (circuit) => !has(circuit, "cable") && !(circuit.far && circuit.branch!.role === "loads"),
  );

export const runStated: Rule = {
  id: "run-stated",
  group: "DC wiring",
  title: "Every run has its cable, every supply its inlet",
  asks: "A run without a cable in the plan, or a supply without its inlet, is Tight: nothing of it is checked.",
  clause: PRACTICE,
  broken: "Tight",
  ofThings: true,
  fix: "Enter the cable of the circuit, or the inlet of the supply.",
  system: ({ system }) => [
    ...withoutCable(system).map((circuit) =>
      presence({
        key: `${circuit.path}.cable`,
        title: `cable, ${circuit.title}`,
        fault: `cable not stated, ${circuit.title}`,
        met: false,
        reason: say("notices.runWithoutCable"),
        fix: say("notices.addRunCable"),
        part: circuit.path,
      }),
    ),
    ...system.wiring.branches
      .filter(({ branch }) => branch!.role === "shore")
      .map((circuit) =>
        presence({
          key: `${circuit.path}.inlet`,
          title: `inlet, ${circuit.title}`,
          fault: `inlet not stated, ${circuit.title}`,
          met: has(circuit, "inlet"),
          reason: say("notices.supplyWithoutInlet"),
          fix: say("notices.addInlet"),
          part: circuit.path,
          aspect: "inlet",
        }),
      ),
  ],
};

export const example: Example = {
  what: "a supply without its inlet",
  breaks: () => withBranch("shore", { parts: [part("rcd"), breaker(16), cable(2.5)] }),
  word: "Tight",
  meets: () => withBranch("shore", { parts: [part("inlet"), part("rcd"), breaker(16), cable(2.5)] }),
};
