import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { cable, edit, panels } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { switchesOff } from "../../needs/checked";
import { say } from "../../../messages/say";

export const solarIsolator: Rule = {
  id: "solar-isolator",
  group: "Solar",
  title: "Isolator on the array side",
  asks: "The array can be switched off before the controller.",
  clause: by("NEC 690.13", "NEC 690.13", "IEC 62548, 7.3.4", "IEC 62548, 7.3.4", "AS/NZS 5033, 4.3"),
  broken: "Fails",
  ofThings: true,
  fix: "Fit an isolator between the panels and the controller.",
  system: ({ system: { wiring } }) =>
    wiring.branches
      .filter(({ branch }) => branch!.role === "solar")
      .map((circuit) =>
        presence({
          key: `${circuit.path}.isolator`,
          title: `isolator on the array side, ${circuit.title}`,
          fault: `no isolator on the array side, ${circuit.title}`,
          met: (wiring.far.find(({ branch }) => branch === circuit.branch)?.parts ?? []).some(switchesOff),
          reason: say("notices.arrayLiveDaylightCould"),
          fix: say("notices.fitArrayIsolator"),
          part: `wiring.branches.${circuit.branchIndex!}.far`,
        }),
      ),
};

export const example: Example = {
  what: "no isolator on the array side",
  breaks: () => edit(panels(1, 1), (copy) => void (copy.wiring.branches[0]!.far = [cable(6)])),
  word: "Fails",
  meets: () => panels(1, 1),
};
