import { bankRestVoltage } from "../bank/bank";
import { CHEMISTRIES } from "../bank/chemistry";
import { formatQuantity } from "../quantity/format";
import { fieldAt, labelOfPath, partAt } from "../rig/labels";
import { everyKnown } from "../rig/resolve";
import { stageOfPath, type Stage } from "../rig/stage";
import { ALTERNATOR_VOLTS } from "../sources/supply";
import type { StartTrace } from "../start/start";
import type { Compartment } from "./runs";
import type { Ladder } from "./starts";
import type { System } from "./system";

/** A charging run from the engine of usual length and size, there and back. */
const PLAIN_RUN_OHM = 0.01;

/** Something worth a line beside the work: a remark on what was entered, or a caution for the hands. */
export interface Notice {
  kind: "remark" | "caution";
  stage: Stage;
  text: string;
}

/** Remarks on this rig and the cautions that belong to the work on each stage. */
export function noticesOf(
  system: System,
  { own: start, ladders }: { own: StartTrace; ladders: Ladder[] },
  compartment: Compartment | null,
): Notice[] {
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
    remark("bank", "Below freezing: a lithium battery may be discharged with care but must not be charged.");
  }
  if (bank.startShare < 0.999) {
    remark(
      "bank",
      `Charged to ${formatQuantity(bank.chargeToVoltage, "voltage", rig.notation)} the battery begins at ${formatQuantity(bank.startShare, "ratio", rig.notation, 2)}.`,
    );
  }
  const shares = bank.shares;
  if (shares.length > 1) {
    const most = Math.max(...shares);
    if (most * shares.length > 1.1)
      remark(
        "path",
        `Battery ${shares.indexOf(most) + 1} of ${shares.length} gives ${formatQuantity(most, "ratio", rig.notation, 2)} of the current, the weakest ${formatQuantity(Math.min(...shares), "ratio", rig.notation, 2)}: equal leads, or taking off at opposite ends, would even it out.`,
      );
  } else if (rig.bank.build === "batteries" && values.bank.parallel.value > 1 && rig.path.links.layout === "busbars") {
    remark("path", "Batteries in parallel are taken as sharing equally: leads of one length to busbars.");
  }
  const { path } = system;
  if (path.excess !== null) {
    const ohms = (value: number) => formatQuantity(value, "resistance", rig.notation, 2);
    const [found, should] = [path.resistance, path.main.resistance];
    const heat = path.excess * Math.pow(system.figures["carries.current"]?.value ?? 0, 2);
    remark(
      "path",
      path.excess > 0.15 * should
        ? `The wiring measures ${ohms(found)} where its parts should have ${ohms(should)}: ${ohms(path.excess)} sit in joints or a tired part, ${formatQuantity(heat, "power", rig.notation, 2)} of heat at the running current. Find it with millivolts across each joint.`
        : `The wiring measures ${ohms(found)}; its parts should have ${ohms(should)}: as it should be. The reading decides until it is cleared: do so when a part of the wiring is changed.`,
    );
  }
  const cold = ladders.find(({ title }) => title.endsWith("0 °C"));
  if (cold && cold.end < cold.cutOff)
    remark(
      "start",
      "With the battery at 0 °C it would not start from the reserve: cold cells have twice the resistance.",
    );
  if (compartment && values.inverter.compartmentC.value > compartment.target + 1) {
    const opening = formatQuantity(compartment.vent.value, "opening", rig.notation, 2);
    remark(
      "start",
      `Its compartment reaches ${formatQuantity(values.inverter.compartmentC.value, "temperature", rig.notation)}; vents of ${opening} each, low and high, would keep it at ${formatQuantity(compartment.target, "temperature", rig.notation)}.`,
    );
  }
  if (
    bank.nominalVoltage > 18 &&
    rig.brief.loads.some(({ side }) => side === "dc") &&
    !rig.path.branches.some(({ role }) => role === "loads")
  )
    remark(
      "path",
      `DC loads on a ${Math.round(bank.nominalVoltage)} V battery: add the branch that feeds them, so that its converter is checked.`,
    );
  rig.units.forEach((unit, i) => {
    if (unit.kind === "fixed" && unit.cure === "soft-starter" && !unit.learned) {
      remark(
        "unit",
        `${unit.name}: the soft starter has not learned. About five starts on shore or generator power bring its peak down.`,
      );
    }
    if (unit.kind === "fixed" && unit.cure !== "none" && values.units[i]!.lockedRotorCurrent.origin === "measured") {
      remark("unit", `${unit.name}: the measured locked-rotor amps are taken as those without the start aid.`);
    }
  });
  rig.units.forEach((unit, i) => {
    const leaving = values.units[i]!.waterLeavingC?.value;
    const degrees = (value: number) => formatQuantity(value, "temperature", rig.notation);
    if (unit.condenser === "sea" && leaving !== undefined && leaving > 43)
      remark(
        "unit",
        `${unit.name}: cooling water leaves at ${degrees(leaving)}. About ${degrees(40)} is healthy; from ${degrees(43)} it is losing: a fouled condenser, a blocked strainer or a weak pump.`,
      );
    if (unit.condenser === "single-duct")
      remark("unit", `${unit.name}: a single duct throws cabin air out, and as much warm air comes in by every gap.`);
  });
  const engine = values.sources.engineCurrent.value;
  const spare =
    values.sources.alternatorCurrent.value * values.sources.hotFactor.value - values.sources.vehicleCurrent.value;
  if (engine > 0 && engine > spare)
    remark(
      "sources",
      `Hot, the alternator has ${formatQuantity(Math.max(0, spare), "current", rig.notation, 2)} to spare on the road: less than the ${formatQuantity(engine, "current", rig.notation, 2)} that the charging circuit would take.`,
    );
  if (rig.path.branches.some(({ role, coupling }) => role === "engine" && coupling === "isolator")) {
    // Straight across, the difference of volts sets the current: a low lithium bank takes all that the cables let through.
    const rush = (ALTERNATOR_VOLTS - bankRestVoltage(bank, bank.reserveShare)) / (bank.innerResistance + PLAIN_RUN_OHM);
    if (rush > spare && spare > 0)
      remark(
        "sources",
        `Through an isolator the battery at its reserve would draw some ${formatQuantity(10 * Math.round(rush / 10), "current", rig.notation, 2)}: more than the ${formatQuantity(spare, "current", rig.notation, 2)} that the hot alternator has. A DC-DC converter holds it to its own current.`,
      );
  }
  if (rig.path.branches.some(({ role, control }) => role === "engine" && control === "ignition"))
    remark("sources", "Engine charging must see the engine running, not the ignition: else it drains the starter.");
  wiringRemarks(system).forEach((text) => remark("path", text));
  outOfRange(system).forEach(({ stage, text }) => remark(stage, text));

  caution(
    "brief",
    "Estimates, not approval. Fixed AC wiring and shore connections belong to licensed people under the local rules; the local authority and the makers' instructions win.",
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
    "Each AC source needs residual current protection (RCD or GFCI); never feed the inverter's output into shore or into its own charger.",
  );
  caution(
    "path",
    "Isolate, lock off and prove dead before a lug is touched: battery, inverter, shore, generator, solar and alternator can all feed it.",
  );
  caution(
    "path",
    "Fixed AC wiring, residual current protection (RCD or GFCI) and the bond of neutral to earth are licensed work under the local rules.",
  );
  caution(
    "bank",
    CHEMISTRIES[rig.bank.chemistry].lithium
      ? "A lithium battery delivers thousands of amps into a dropped spanner: insulated tools, no jewellery, fuse first, connect last."
      : "Lead-acid gives off hydrogen: ventilate, no sparks. A short delivers thousands of amps: insulated tools, no jewellery.",
  );
  caution(
    "sources",
    "Roof work: fall, fragile roofs, wind. Panels are live in daylight: cover them before a lead is touched.",
  );
  caution("sources", "Generators make carbon monoxide: outside, downwind of every opening, with an alarm on board.");
  if (rig.cabin.kind === "boat")
    caution("sources", "On a boat: ignition-protected parts, bonding, and sea-cocks shut before a hose comes off.");
  caution(
    "day",
    "A forecast from typical weather, not a promise. Do not leave people or animals relying on it without supervision and an alarm.",
  );
  return notices;
}

/** What the wiring rules cannot decide until it is said, and what a bank of this voltage asks for beside them. */
function wiringRemarks({ rig, values, bank, path, converted }: System): string[] {
  const { earth, residualName } = path.rules;
  const texts: string[] = [];
  const high = bank.chargeToVoltage > 32;
  if (converted && rig.inverter.neutralBond === "unsaid")
    texts.push(
      `State where neutral is bonded to ${earth} while the inverter feeds: without that bond a ${residualName} does not open.`,
    );
  if (converted && bank.nominalVoltage > 36)
    texts.push(
      "At 48 V the inverter's capacitors spark when it is connected: use its pre-charge, or a resistor, before the main switch is closed.",
    );
  if (converted)
    texts.push(`Connect the inverter's case to ${earth} by a conductor sized for its DC fuse or as the rule set asks.`);
  if (high && path.main.parts.some(({ part, values: own }) => part.kind === "isolator" && !own.voltage!.entered))
    texts.push(
      `Isolators for ${formatQuantity(bank.chargeToVoltage, "voltage", rig.notation, 3)} DC are assumed: check the label, since many are made for 32 V.`,
    );
  if (values.bank.series.value > 1 && rig.bank.build === "batteries")
    texts.push("Batteries in series: balance them when new and yearly, and check that their maker allows it.");
  const uses =
    rig.supplies.generatorAuto || rig.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "generator"));
  if (uses && rig.supplies.generatorBond === "unsaid")
    texts.push(`State whether the generator bonds neutral to ${earth}: exactly one bond, in the source that feeds.`);
  if (uses && rig.supplies.generatorBond === "floating")
    texts.push(
      `A generator with a floating neutral needs a bond to ${earth} while it feeds, or a ${residualName} does not open.`,
    );
  if (rig.sources.panels.length > 0 && !rig.path.branches.some(({ role }) => role === "solar"))
    texts.push(
      "Panels without a circuit from their controller: add it, so that its cables, fuse and isolator are checked.",
    );
  return texts;
}

function outOfRange({ rig, values }: System): { stage: Stage; text: string }[] {
  const found: { stage: Stage; text: string }[] = [];
  for (const known of everyKnown(values)) {
    const spec = fieldAt(known.path, partAt(rig, known.path));
    if (!spec || !known.entered || (known.value >= spec.low && known.value <= spec.high)) continue;
    // A larger bank makes all of these larger, so its plausible range is no guide to odd voltages.
    const brief = known.path.startsWith("brief");
    if (!brief && known.value > spec.high && /Voltage|resistance|Current$|series|capacityAh/.test(known.path)) continue;
    const range = `${formatQuantity(spec.low, spec.dimension, rig.notation)} to ${formatQuantity(spec.high, spec.dimension, rig.notation)}`;
    const several = !known.path.startsWith("units.") || rig.units.length > 1;
    const label = several ? labelOfPath(rig, known.path) : spec.label;
    found.push({
      stage: stageOfPath(known.path),
      text: `${label} ${formatQuantity(known.value, spec.dimension, rig.notation)} is outside the usual ${range}.`,
    });
  }
  return found;
}
