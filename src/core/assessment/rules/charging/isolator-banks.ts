import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bank48, engine } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { say } from "../../../messages/say";
import { ALTERNATOR_VOLTS, joinsAlike } from "../../../models/charging/supply";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";

/** Volts by which an alternator may lie over a battery's charging voltage. */
const CHARGE_TOLERANCE_V = 0.3;

/** An isolator joins a starter battery and this one straight. */
function joins({ bank, values }: System, circuit: Circuit): Finding {
  const vehicle = values.wiring.branches[circuit.branchIndex!]!.vehicleVoltage.value;
  const like = joinsAlike(vehicle, bank.nominalVoltage);
  const volts = (ALTERNATOR_VOLTS / 12) * vehicle;
  const agree = bank.chargeToVoltage >= volts - CHARGE_TOLERANCE_V * (vehicle / 12);
  return presence({
    key: `${circuit.path}.alike`,
    title: "isolator joins like batteries",
    fault: like ? "isolator overcharges the battery" : "isolator between unlike voltages",
    met: like && agree,
    reason: like
      ? say("notices.alternatorHoldsVMore", {
          volts: volts.toFixed(1),
          chargeToVoltage: bank.chargeToVoltage.toFixed(1),
        })
      : say("notices.joinedStraight", {
          vehicle: Math.round(vehicle),
          nominalVoltage: bank.nominalVoltage.toFixed(1),
        }),
    fix: say("notices.useDcDcConverter"),
    part: `wiring.branches.${circuit.branchIndex!}`,
  });
}

export const isolatorBanks: Rule = {
  id: "isolator-banks",
  group: "Charging",
  title: "Isolator joins like batteries only",
  asks: "An isolator or relay joins batteries of the same nominal voltage whose charging voltages agree; others need a converter.",
  clause: PRACTICE,
  broken: "Stop",
  ofThings: true,
  fix: "Use a DC-DC converter between batteries that are not alike.",
  system: ({ system }) =>
    system.wiring.branches
      .filter(({ branch }) => branch!.role === "engine" && branch!.coupling === "isolator")
      .map((circuit) => joins(system, circuit)),
};

export const example: Example = {
  what: "an isolator from a 12 V alternator onto a 48 V battery",
  breaks: () => engine({ coupling: "isolator", far: [] }, bank48),
  word: "Stop",
  meets: () => engine({ coupling: "isolator", far: [] }),
};
