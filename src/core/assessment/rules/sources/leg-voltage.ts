import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bothLegs } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { onMains } from "../../../document/unit-kinds";
import { say } from "../../../messages/say";

export const legVoltage: Rule = {
  id: "leg-voltage",
  group: "Inverter and sources",
  title: "Voltage between the legs",
  asks: "A load between two legs needs an output of two legs: one output fed to both has no voltage between them.",
  clause: by("NEC 551.40(B)", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
  broken: "Fails",
  ofThings: true,
  fix: "Use an output of two legs, or a unit for the voltage of one leg.",
  system: ({ system: { job, legs, converted } }) =>
    !converted || legs.count === 1 || legs.split
      ? []
      : job.units.flatMap((unit, i) =>
          onMains(unit) && unit.leg === "both"
            ? [
                presence({
                  key: `units.${i}.legs`,
                  title: `${unit.name} has its voltage`,
                  fault: `no voltage between the legs for ${unit.name}`,
                  met: false,
                  reason: say("notices.oneOutputFedBoth"),
                  fix: say("notices.useSplitPhaseOutput"),
                  part: `units.${i}`,
                }),
              ]
            : [],
        ),
};

export const example: Example = {
  what: "a 240 V unit on one output fed to both legs",
  breaks: () => bothLegs((copy) => void (copy.units[0]!.leg = "both")),
  word: "Fails",
  meets: () => bothLegs((copy) => void (copy.inverter.neutrals = "own")),
};
