import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { edit, jobOf, rcd } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const residualPoles: Rule = {
  id: "residual-poles",
  group: "AC wiring",
  title: "All live conductors opened",
  asks: "A residual current device opens the neutral as well as the live conductor; on US boats the one at the inlet. US road: the neutral is grounded and stays closed.",
  clause: by("UL 943", "ABYC E-11", "IEC 60364-7-721, 721.43", "ISO 13297", "AS/NZS 3001.2"),
  broken: "Fails",
  ofThings: true,
  fix: "Fit one that opens the live conductors and the neutral.",
  part: {
    rcd({ system: { wiring }, circuit, one }) {
      if (one.part.kind !== "rcd" || one.part.poles !== "live") return [];
      const { allPoles } = wiring.rules.residual;
      const both = allPoles === "everywhere" || (allPoles === "inlet" && circuit.branch?.role === "shore");
      return both
        ? [
            presence({
              key: `${one.path}.poles`,
              title: `${one.name} opens all poles`,
              fault: `${one.name} leaves the neutral closed`,
              met: false,
              reason: say("notices.liveNeutralMayExchanged"),
              fix: say("notices.fitOneOpensLive"),
              part: one.path,
            }),
          ]
        : [];
    },
  },
};

export const example: Example = {
  what: "an RCD that leaves the neutral closed",
  breaks: () => edit(jobOf(), rcd({ poles: "live" })),
  word: "Fails",
  meets: () => jobOf(),
};
