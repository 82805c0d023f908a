import { CHEMISTRIES } from "../bank/chemistry";
import { formatQuantity } from "../quantity/format";
import { BANK_FIELDS, BRIEF_FIELDS, INVERTER_FIELDS, LOAD_FIELDS, PATH_FIELDS, UNIT_FIELDS } from "../rig/fields";
import type { FieldSpec, Known } from "../rig/quantity";
import type { StartTrace } from "../start/start";
import type { System } from "./system";

export type Stage = "brief" | "unit" | "start" | "bank";

/** Something worth a line beside the work: a remark on what was entered, or a caution for the hands. */
export interface Notice {
  kind: "remark" | "caution";
  stage: Stage;
  text: string;
}

/** Remarks on this rig and the cautions that belong to the work on each stage. */
export function noticesOf(system: System, start: StartTrace): Notice[] {
  const { rig, values, bank, converted } = system;
  const notices: Notice[] = [];
  const remark = (stage: Stage, text: string) => notices.push({ kind: "remark", stage, text });
  const caution = (stage: Stage, text: string) => notices.push({ kind: "caution", stage, text });

  if (converted && rig.inverter.waveform === "modified")
    remark("start", "Modified-sine output: motors run hotter, hum and cool less. Expect more than these watts.");
  if (converted && start.peak.inverterVoltage < values.inverter.alarmVoltage.value && !start.peak.collapsed) {
    remark(
      "start",
      `At the start peak the inverter sees ${formatQuantity(start.peak.inverterVoltage, "voltage", rig.notation)}: under its alarm, which sounds if that lasts ${formatQuantity(values.inverter.alarmDelay.value, "duration", rig.notation)}.`,
    );
  }
  if (CHEMISTRIES[rig.bank.chemistry].lithium && values.bank.temperatureC.value < 0) {
    remark("bank", "Below freezing: a lithium bank may be discharged with care but must not be charged.");
  }
  if (bank.startShare < 0.999) {
    remark(
      "bank",
      `Charged to ${formatQuantity(bank.chargeToVoltage, "voltage", rig.notation)} the bank begins at ${formatQuantity(bank.startShare, "ratio", rig.notation, 2)}.`,
    );
  }
  if (rig.bank.chemistry === "lfp" && values.bank.parallel.value > 1) {
    remark(
      "bank",
      "Parallel paths are taken as equal: same cable length to each battery, or the nearest one carries most.",
    );
  }
  rig.units.forEach((unit, i) => {
    if (unit.kind === "fixed" && unit.cure === "soft-starter" && !unit.learned) {
      remark(
        "unit",
        `${unit.name}: the soft starter has not learned. About five starts on shore or generator power bring its peak down.`,
      );
    }
    if (unit.kind === "fixed" && unit.cure !== "none" && values.units[i]!.lockedRotorCurrent.origin === "measured") {
      remark("unit", `${unit.name}: the measured locked-rotor amps are taken as those without the cure.`);
    }
  });
  outOfRange(system).forEach(({ stage, text }) => remark(stage, text));

  caution(
    "brief",
    "Estimates, not approval. Fixed mains wiring and shore connections belong to licensed people under the local rules; the local authority and the makers' instructions win.",
  );
  caution("brief", "Do not leave people or animals relying on this system without supervision and an alarm.");
  caution(
    "unit",
    "Before opening the unit: isolate, lock off, prove dead. Two sources can feed the same wire: inverter, shore and generator all off.",
  );
  caution(
    "unit",
    "Capacitors keep a lethal charge: discharge through a resistor rated for it, then prove. Leave the refrigerant circuit closed.",
  );
  caution("start", "Never bypass protection to make a start succeed. Measure with the covers on or the power off.");
  caution(
    "start",
    "Each mains source needs earth-leakage protection; never feed the inverter's output into shore or into its own charger.",
  );
  caution(
    "bank",
    CHEMISTRIES[rig.bank.chemistry].lithium
      ? "A lithium bank delivers thousands of amps into a dropped spanner: insulated tools, no jewellery, fuse first, connect last."
      : "Lead-acid gives off hydrogen: ventilate, no sparks. A short delivers thousands of amps: insulated tools, no jewellery.",
  );
  return notices;
}

function outOfRange({ rig, values }: System): { stage: Stage; text: string }[] {
  const found: { stage: Stage; text: string }[] = [];
  const look = (
    stage: Stage,
    fields: Record<string, FieldSpec>,
    group: Record<string, Known | undefined>,
    prefix = "",
  ) => {
    for (const [key, spec] of Object.entries(fields)) {
      const known = group[key];
      if (!known?.entered || (known.value >= spec.low && known.value <= spec.high)) continue;
      // A larger bank makes all of these larger, so its plausible range is no guide to odd voltages.
      if (/Voltage|resistance|Current$|series|capacityAh/.test(key) && stage !== "brief" && known.value > spec.high)
        continue;
      const range = `${formatQuantity(spec.low, spec.dimension, rig.notation)} to ${formatQuantity(spec.high, spec.dimension, rig.notation)}`;
      found.push({
        stage,
        text: `${prefix}${spec.label} ${formatQuantity(known.value, spec.dimension, rig.notation)} is outside the usual ${range}.`,
      });
    }
  };
  look("brief", BRIEF_FIELDS, values.brief);
  values.loads.forEach((load, i) => look("brief", LOAD_FIELDS, load, `${rig.brief.loads[i]!.name}: `));
  values.units.forEach((unit, i) =>
    look("unit", UNIT_FIELDS, unit, rig.units.length > 1 ? `${rig.units[i]!.name}: ` : ""),
  );
  look("bank", BANK_FIELDS, values.bank);
  look("start", INVERTER_FIELDS, values.inverter);
  look("start", PATH_FIELDS, values.path);
  return found;
}
