import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { roofed } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const solarCircuit: Rule = {
  id: "solar-circuit",
  group: "Solar",
  title: "Panels have a circuit",
  asks: "Panels on the job have a solar circuit in the wiring: without it nothing of theirs is checked.",
  clause: PRACTICE,
  broken: "Tight",
  ofThings: true,
  fix: "Add a solar circuit.",
  system: ({ system: { job, wiring } }) =>
    job.sources.panels.length === 0 || wiring.branches.some(({ branch }) => branch!.role === "solar")
      ? []
      : [
          presence({
            key: "solarCircuit",
            title: "panels have a circuit",
            fault: "panels without a solar circuit",
            met: false,
            reason: say("notices.panelsWithoutCircuitTheir"),
            fix: say("notices.addSolarCircuit"),
            part: "wiring.main",
          }),
        ],
};

export const example: Example = {
  what: "panels without a solar circuit",
  breaks: () => roofed(false),
  word: "Tight",
  meets: () => roofed(true),
};
