import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { awg, bothLegs, breaker, part } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const sharedNeutral: Rule = {
  id: "shared-neutral",
  group: "Inverter and sources",
  title: "Shared neutral carries both legs",
  asks: "One output fed to both legs adds their currents in a shared neutral: it is sized for the sum, or each circuit has a neutral of its own.",
  clause: by("NEC 210.4, 551.30", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
  broken: "Stop",
  ofThings: true,
  fix: "Give each circuit a neutral of its own, or size the neutral for both legs.",
  system({ system: { job, legs, wiring, inverter, mains, converted } }) {
    if (!converted || legs.count === 1 || legs.split) return [];
    const cables = wiring.mains.parts.flatMap(({ ampacity }) => (ampacity ? [ampacity.value] : []));
    const carries = cables.length > 0 && Math.min(...cables) >= inverter.rating / mains;
    return [
      presence({
        key: "sharedNeutral",
        title: "neutral carries both legs",
        fault: "shared neutral carries both legs",
        met: job.inverter.neutrals === "own" || carries,
        reason: say("notices.fedOneSourceCurrents"),
        fix: say("notices.giveEachCircuitNeutral"),
        part: "inverter.neutrals",
      }),
    ];
  },
};

export const example: Example = {
  what: "one source on both legs with a shared neutral of 12 AWG",
  breaks: () => bothLegs((copy) => void (copy.wiring.mains = [part("rcd"), breaker(20), awg(12)])),
  word: "Stop",
  meets: () => bothLegs((copy) => void (copy.inverter.neutrals = "own")),
};
