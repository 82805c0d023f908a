import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { edit, jobOf } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { isCharging } from "../../../document/schema";
import { say } from "../../../messages/say";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";

export const frost: Rule = {
  id: "frost",
  group: "Charging",
  title: "No lithium charging in frost",
  asks: "Something keeps a lithium battery from being charged below 0 °C, whatever charges it: solar, engine, charger or inverter-charger.",
  clause: by("ABYC E-13", "ABYC E-13", "IEC 62619; data sheet", "ISO/TS 23625", "AS/NZS 5139"),
  broken: "Stop",
  ofThings: true,
  fix: "Use batteries or chargers that stop charging below 0 °C.",
  system({ system: { job, wiring, converted } }) {
    const charged = wiring.branches.some(({ branch }) => isCharging(branch!)) || (job.inverter.combined && converted);
    if (!CHEMISTRIES[job.bank.chemistry].lithium || !charged) return [];
    return [
      presence({
        key: "frost",
        title: "no lithium charging in frost",
        fault: "lithium charged in frost",
        met: job.bank.frostBlock,
        reason: say("notices.platingBelowFreezing"),
        fix: say("notices.useBatteriesChargersBlock"),
        part: "bank.frostBlock",
      }),
    ];
  },
};

export const example: Example = {
  what: "lithium charged by an inverter-charger that does not stop in frost",
  breaks: () => edit(jobOf({ inverter: { combined: true } }), (copy) => void (copy.bank.frostBlock = false)),
  word: "Stop",
  meets: () => edit(jobOf({ inverter: { combined: true } }), (copy) => void (copy.bank.frostBlock = true)),
};
