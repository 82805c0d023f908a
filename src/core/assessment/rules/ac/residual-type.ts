import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { edit, jobOf, rcd } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import type { CheckedPart } from "../../needs/checked";
import type { PartOf } from "../../../document/schema";
import { driveOnMains } from "../../../document/unit-kinds";
import { say } from "../../../messages/say";

/** Whether a device sees the currents to earth of what it feeds. */
function typeOf({ system: { wiring, job }, circuit, one }: CheckedPart): Finding {
  const { residualType } = one.part as PartOf<"rcd">;
  const feedsDrive =
    circuit.branch?.role === "circuit"
      ? job.units.some((unit) => unit.id === circuit.branch!.unitId && driveOnMains(unit))
      : job.units.some(driveOnMains);
  const drive = residualType === "AC" && feedsDrive;
  const refused = wiring.rules.residualRefused.includes(residualType);
  const doubtful = wiring.rules.residualDoubtful.includes(residualType);
  return presence({
    key: `${one.path}.type`,
    title: `${one.name} type ${residualType}`,
    fault: `${one.name} of type ${residualType}`,
    met: !drive && !refused && !doubtful,
    gravity: drive || refused ? "Fails" : "Tight",
    reason: drive ? say("notices.smoothedCurrentsVariableSpeed") : say("notices.typeAcDeviceSees"),
    fix: say("notices.fitTypeLeastType"),
    part: one.path,
  });
}

export const residualType: Rule = {
  id: "residual-type",
  group: "AC wiring",
  title: "Residual current device of the right type",
  asks: "Type A at least; type AC is refused in Australia and New Zealand and behind variable-speed units, and doubtful elsewhere; type F or B behind variable-speed drives as the unit's maker says.",
  clause: by(
    "UL 943",
    "UL 1053",
    "IEC 60364-5-53, 531.3.3; IEC 61008-1",
    "ISO 13297; IEC 61008-1",
    "AS/NZS 3000, 2.6.2.2",
  ),
  broken: "Fails",
  ofThings: true,
  fix: "Fit type A at least, and type F or B behind a variable-speed unit.",
  part: { rcd: (at) => [typeOf(at)] },
};

export const example: Example = {
  what: "type AC behind a variable-speed unit",
  breaks: () => edit(jobOf({ unit: { kind: "variable" } }), rcd({ residualType: "AC" })),
  word: "Fails",
  meets: () => edit(jobOf({ unit: { kind: "variable" } }), rcd({ residualType: "F" })),
};
