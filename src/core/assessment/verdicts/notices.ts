import { openCircuitVoltage } from "../../models/battery/battery";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { formatQuantity } from "../../units/format";
import { fieldAt, labelOfPath, partAt } from "../../document/labels";
import { everyKnown } from "../../document/resolve";
import { stageOfPath, type Stage } from "../../document/stage";
import { ALTERNATOR_VOLTS } from "../../models/charging/supply";
import type { StartTrace } from "../../simulation/start/start";
import type { Compartment } from "../needs/compartment";
import type { Ladder } from "../starts/ladders";
import type { System } from "../../models/system/system";
import { say } from "../../messages/say";
import { hasSoftStarter, hasStartAid } from "../../document/unit-kinds";
import type { ControllerKey, PanelKey, SourceKey } from "../../document/day-fields";
import type { BankKey, InverterKey, MeasuredKey, UnitKey } from "../../document/fields";
import { groupOf, keyOf, type JobGroup, type JobKey } from "../../document/path";

/** A charging run from the engine of usual length and size, there and back. */
const PLAIN_RUN_OHM = 0.01;

/** Something worth a line beside the work: a remark on what was entered, or a caution for the hands. */
export interface Notice {
  kind: "remark" | "caution";
  stage: Stage;
  text: string;
}

/** What the remarks are made from beside the system. */
interface Noticed {
  /** The hardest start, and the voltage ladders at its peak. */
  start: StartTrace;
  ladders: Ladder[];
  compartment: Compartment | null;
  /** A along the main circuit with everything on. */
  pathCurrent: number;
}

/** Remarks on this job and the cautions that belong to the work on each stage. */
export function noticesOf(system: System, noticed: Noticed): Notice[] {
  return [
    ...inverterRemarks(system, noticed.start),
    ...bankRemarks(system),
    ...sharingRemarks(system),
    ...measuredWiringRemarks(system, noticed.pathCurrent),
    ...coldAndHeatRemarks(system, noticed),
    ...dcLoadRemarks(system),
    ...system.job.units.flatMap((_, i) => [...startAidRemarks(system, i)]),
    ...system.job.units.flatMap((_, i) => [...condenserRemarks(system, i)]),
    ...engineRemarks(system),
    ...wiringRemarks(system).map((text) => remark("wiring", text)),
    ...outOfRange(system).map(({ stage, text }) => remark(stage, text)),
    ...cautionsOf(system),
  ];
}

const remark = (stage: Stage, text: string): Notice => ({ kind: "remark", stage, text });
const caution = (stage: Stage, text: string): Notice => ({ kind: "caution", stage, text });

/** What the inverter makes of the start. */
function* inverterRemarks({ job, values, converted }: System, start: StartTrace): Generator<Notice> {
  if (converted && job.inverter.waveform === "modified") yield remark("start", say("notices.modifiedSineOutputMotors"));
  if (converted && start.peak.inverterVoltage < values.inverter.alarmVoltage.value && !start.peak.collapsed) {
    yield remark(
      "start",
      say("notices.startPeakInverterSees", {
        inverterVoltage: formatQuantity(start.peak.inverterVoltage, "voltage", job.notation),
        alarmDelay: formatQuantity(values.inverter.alarmDelay.value, "duration", job.notation),
      }),
    );
  }
}

/** Cold, and a charge that stops early. */
function* bankRemarks({ job, values, bank }: System): Generator<Notice> {
  if (CHEMISTRIES[job.bank.chemistry].lithium && values.bank.temperatureC.value < 0) {
    yield remark("bank", say("notices.belowFreezingLithiumBattery"));
  }
  if (bank.startSoc < 0.999) {
    yield remark(
      "bank",
      say("notices.chargedBatteryBegins", {
        chargeToVoltage: formatQuantity(bank.chargeToVoltage, "voltage", job.notation),
        startSoc: formatQuantity(bank.startSoc, "ratio", job.notation, 2),
      }),
    );
  }
}

/** How batteries in parallel share the current. */
function* sharingRemarks({ job, values, bank }: System): Generator<Notice> {
  const shares = bank.shares;
  if (shares.length > 1) {
    const most = Math.max(...shares);
    if (most * shares.length > 1.1)
      yield remark(
        "wiring",
        say("notices.batteryGivesCurrentWeakest", {
          number: shares.indexOf(most) + 1,
          count: shares.length,
          most: formatQuantity(most, "ratio", job.notation, 2),
          least: formatQuantity(Math.min(...shares), "ratio", job.notation, 2),
        }),
      );
  } else if (
    job.bank.build === "batteries" &&
    values.bank.parallel.value > 1 &&
    job.wiring.links.layout === "busbars"
  ) {
    yield remark("wiring", say("notices.batteriesParallelTakenSharing"));
  }
}

/** What the measured resistance of the wiring says of its parts. */
function* measuredWiringRemarks({ job, wiring }: System, pathCurrent: number): Generator<Notice> {
  if (wiring.excess !== null) {
    const ohms = (value: number) => formatQuantity(value, "resistance", job.notation, 2);
    const [found, should] = [wiring.resistance, wiring.main.resistance];
    const heat = wiring.excess * Math.pow(pathCurrent, 2);
    yield remark(
      "wiring",
      wiring.excess > 0.15 * should
        ? say("notices.wiringMeasuresWhereParts", {
            found: ohms(found),
            should: ohms(should),
            excess: ohms(wiring.excess),
            heat: formatQuantity(heat, "power", job.notation, 2),
          })
        : say("notices.wiringMeasuresPartsShould", { found: ohms(found), should: ohms(should) }),
    );
  }
}

/** The start in the cold, and the heat of the inverter's compartment. */
function* coldAndHeatRemarks({ job, values }: System, { ladders, compartment }: Noticed): Generator<Notice> {
  const cold = ladders.find(({ state }) => state === "cold");
  if (cold && cold.end < cold.cutOff) yield remark("start", say("notices.coldStart"));
  if (compartment && values.inverter.compartmentC.value > compartment.target + 1) {
    const opening = formatQuantity(compartment.vent.value, "opening", job.notation, 2);
    yield remark(
      "start",
      say("notices.compartmentReachesVentsEach", {
        compartmentC: formatQuantity(values.inverter.compartmentC.value, "temperature", job.notation),
        opening,
        target: formatQuantity(compartment.target, "temperature", job.notation),
      }),
    );
  }
}

/** DC loads that nothing feeds at their own volts. */
function* dcLoadRemarks({ job, bank }: System): Generator<Notice> {
  if (
    bank.nominalVoltage > 18 &&
    job.brief.loads.some(({ side }) => side === "dc") &&
    !job.wiring.branches.some(({ role }) => role === "loads")
  )
    yield remark("wiring", say("notices.dcLoadsWithoutBranch", { nominalVoltage: Math.round(bank.nominalVoltage) }));
}

/** What a start aid leaves to do or to know. */
function* startAidRemarks({ job, values }: System, i: number): Generator<Notice> {
  const unit = job.units[i]!;
  if (hasSoftStarter(unit) && !unit.learned) {
    yield remark("unit", say("notices.softStarterHasNot", { name: unit.name }));
  }
  if (hasStartAid(unit) && values.units[i]!.lockedRotorCurrent.origin === "measured") {
    yield remark("unit", say("notices.measuredLockedRotorAmps", { name: unit.name }));
  }
}

/** What the way of giving off heat means. */
function* condenserRemarks({ job, values }: System, i: number): Generator<Notice> {
  const unit = job.units[i]!;
  const leaving = values.units[i]!.waterLeavingC?.value;
  const degrees = (value: number) => formatQuantity(value, "temperature", job.notation);
  if (unit.condenser === "sea" && leaving !== undefined && leaving > 43)
    yield remark(
      "unit",
      say("notices.coolingWaterLeavesAbout", {
        name: unit.name,
        leaving: degrees(leaving),
        healthy: degrees(40),
        high: degrees(43),
      }),
    );
  if (unit.condenser === "single-duct") yield remark("unit", say("notices.singleDuctThrowsCabin", { name: unit.name }));
}

/** What the alternator can spare. */
function* engineRemarks({ job, values, bank }: System): Generator<Notice> {
  const engine = values.sources.engineCurrent.value;
  const spare =
    values.sources.alternatorCurrent.value * values.sources.hotFactor.value - values.sources.vehicleCurrent.value;
  if (engine > 0 && engine > spare)
    yield remark(
      "charging",
      say("notices.hotAlternatorHasSpare", {
        spare: formatQuantity(Math.max(0, spare), "current", job.notation, 2),
        engine: formatQuantity(engine, "current", job.notation, 2),
      }),
    );
  if (job.wiring.branches.some(({ role, coupling }) => role === "engine" && coupling === "isolator")) {
    // Straight across, the difference of volts sets the current: a low lithium battery takes all that the cables let through.
    const rush =
      (ALTERNATOR_VOLTS - openCircuitVoltage(bank, bank.reserveSoc)) / (bank.innerResistance + PLAIN_RUN_OHM);
    if (rush > spare && spare > 0)
      yield remark(
        "charging",
        say("notices.throughIsolatorBatteryReserve", {
          rush: formatQuantity(10 * Math.round(rush / 10), "current", job.notation, 2),
          spare: formatQuantity(spare, "current", job.notation, 2),
        }),
      );
  }
  if (job.wiring.branches.some(({ role, control }) => role === "engine" && control === "ignition"))
    yield remark("charging", say("notices.engineChargingMustSee"));
}

/** The cautions of the trade, by the stage of the work. */
function* cautionsOf({ job, wiring, bank }: System): Generator<Notice> {
  const { earth, residualName } = wiring.rules;
  yield caution("brief", say("notices.estimatesNotApprovalFixed"));
  yield caution("brief", say("notices.doNotLeavePeople"));
  yield caution("unit", say("notices.beforeOpeningUnitIsolate"));
  yield caution("unit", say("notices.capacitorsKeepLethalCharge"));
  yield caution("start", say("notices.neverBypassProtectionMake"));
  yield caution("start", say("notices.eachAcSourceNeeds", { residualName }));
  yield caution("start", say("notices.extensionLead"));
  yield caution("start", say("notices.flickerAtStart"));
  yield caution("wiring", say("notices.isolateLockOffProve"));
  yield caution("wiring", say("notices.fixedAcWiringResidual", { earth, residualName }));
  yield caution(
    "bank",
    CHEMISTRIES[job.bank.chemistry].lithium
      ? say("notices.lithiumBatteryDeliversThousands")
      : say("notices.leadAcidGivesOff"),
  );
  if (bank.chargeToVoltage > 60) yield caution("bank", say("notices.shockAndArcAbove60"));
  if (job.bank.chemistry === "nmc" || job.bank.build === "cells") yield caution("bank", say("notices.salvagedCells"));
  yield caution("wiring", say("notices.extinguisherFirst"));
  if (job.wiring.branches.some(({ role }) => role === "engine")) {
    yield caution("charging", say("notices.starterFlat"));
    yield caution("charging", say("notices.chargeSwitchAtSpeed"));
  }
  yield caution("charging", say("notices.roofWorkFallFragile"));
  yield caution("charging", say("notices.generatorsMakeCarbonMonoxide"));
  yield caution("charging", say("notices.fuelCan"));
  if (job.cabin.kind === "boat") yield caution("charging", say("notices.boatIgnitionProtectedParts"));
  yield caution("day", say("notices.forecastTypicalWeatherNot"));
}

/** What the wiring rules cannot decide until it is said, and what a battery of this voltage asks for beside them. */
function wiringRemarks({ job, values, bank, wiring, converted }: System): string[] {
  const { earth } = wiring.rules;
  const texts: string[] = [];
  const high = bank.chargeToVoltage > 32;
  if (converted && bank.nominalVoltage > 36) texts.push(say("notices.precharge"));
  if (converted) texts.push(say("notices.bondInverterCase", { earth }));
  if (high && wiring.main.parts.some(({ part, values: own }) => part.kind === "isolator" && !own.voltage!.entered))
    texts.push(
      say("notices.isolatorsDcAssumedCheck", {
        chargeToVoltage: formatQuantity(bank.chargeToVoltage, "voltage", job.notation, 3),
      }),
    );
  if (values.bank.series.value > 1 && job.bank.build === "batteries")
    texts.push(say("notices.batteriesSeriesBalanceThem"));
  return texts;
}

/** What a battery of more volts or more amp-hours makes larger: beyond the usual range it is no sign of a slip. */
const GROWS: Partial<Record<JobGroup, ReadonlySet<JobKey>>> = {
  units: new Set<UnitKey>(["supplyVoltage", "cutOffVoltage"]),
  bank: new Set<BankKey>([
    ...(["blockVoltage", "series", "seriesAllowed", "capacityAh", "chargeToVoltage", "stopVoltage"] as const),
    ...(["resistance", "continuousCurrent", "peakCurrent", "chargeCurrent"] as const),
  ]),
  inverter: new Set<InverterKey>(["cutOffVoltage", "alarmVoltage", "maxDcCurrent", "chargeCurrent"]),
  wiring: new Set<MeasuredKey>(["bankVoltage", "inverterVoltage", "hotCurrent"]),
  sources: new Set<PanelKey | ControllerKey | SourceKey>([
    ...(["openVoltage", "series", "maxVoltage", "maxArrayCurrent", "engineCurrent", "chargerCurrent"] as const),
  ]),
};

function outOfRange({ job, values }: System): { stage: Stage; text: string }[] {
  const found: { stage: Stage; text: string }[] = [];
  for (const known of everyKnown(values)) {
    if (!known.entered) continue;
    const spec = fieldAt(known.path, partAt(job, known.path));
    if (!spec || (known.value >= spec.low && known.value <= spec.high)) continue;
    if (known.value > spec.high && GROWS[groupOf(known.path)]?.has(keyOf(known.path))) continue;
    const range = `${formatQuantity(spec.low, spec.dimension, job.notation)} to ${formatQuantity(spec.high, spec.dimension, job.notation)}`;
    const several = groupOf(known.path) !== "units" || job.units.length > 1;
    const label = several ? labelOfPath(job, known.path) : spec.label;
    found.push({
      stage: stageOfPath(known.path),
      text: say("notices.outsideUsual", {
        label,
        known: formatQuantity(known.value, spec.dimension, job.notation),
        range,
      }),
    });
  }
  return found;
}
