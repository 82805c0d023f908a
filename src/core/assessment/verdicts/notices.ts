import { openCircuitVoltage } from "../../models/battery/battery";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import type { Dimension } from "../../units/dimension";
import { fieldAt, partAt } from "../../document/labels";
import { everyKnown } from "../../document/resolve";
import { stageOfPath, type Stage } from "../../document/stage";
import { ALTERNATOR_VOLTS } from "../../models/charging/supply";
import type { StartTrace } from "../../simulation/start/start";
import type { Compartment } from "../needs/compartment";
import type { Ladder } from "../starts/ladders";
import type { System } from "../../models/system/system";
import type { NamesOf } from "../../messages/say";
import type { MessageKey } from "../../messages/messages";
import { hasSoftStarter, hasStartAid } from "../../document/unit-kinds";
import type { ControllerKey, PanelKey, SourceKey } from "../../document/day-fields";
import type { BankKey, InverterKey, MeasuredKey, UnitKey } from "../../document/fields";
import { groupOf, keyOf, type JobGroup, type JobKey, type JobPath } from "../../document/path";

/** A charging run from the engine of usual length and size, there and back. */
const PLAIN_RUN_OHM = 0.01;

/** A figure that a notice speaks of, written out in the job's units where it is shown. */
export interface NoticeFigure {
  value: number;
  dimension: Dimension;
  digits?: number;
}
/** The name of a field, as the sheet has it. */
export interface NoticeLabel {
  path: JobPath;
}
/** What a figure usually is. */
export interface NoticeRange {
  low: number;
  high: number;
  dimension: Dimension;
}
export type NoticeValue = string | number | NoticeFigure | NoticeLabel | NoticeRange;

/**
 * Something worth a line beside the work: a remark on what was entered, or a caution for the hands. It is data, and becomes
 * words where it is shown (`noticeText`).
 */
export interface Notice {
  kind: "remark" | "caution";
  stage: Stage;
  key: MessageKey;
  values: Readonly<Record<string, NoticeValue>>;
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
    ...wiringRemarks(system),
    ...outOfRange(system),
    ...cautionsOf(system),
  ];
}

/** The values that a message takes, none where it takes none. */
type ValuesOf<Key extends MessageKey> = [NamesOf<Key>] extends [never]
  ? []
  : [values: Record<NamesOf<Key>, NoticeValue>];

const remark = <Key extends MessageKey>(stage: Stage, key: Key, ...[values]: ValuesOf<Key>): Notice => ({
  kind: "remark",
  stage,
  key,
  values: values ?? {},
});
const caution = <Key extends MessageKey>(stage: Stage, key: Key, ...[values]: ValuesOf<Key>): Notice => ({
  kind: "caution",
  stage,
  key,
  values: values ?? {},
});
const figure = (value: number, dimension: Dimension, digits?: number): NoticeFigure => ({
  value,
  dimension,
  ...(digits === undefined ? {} : { digits }),
});

/** What the inverter makes of the start. */
function* inverterRemarks({ job, values, converted }: System, start: StartTrace): Generator<Notice> {
  if (converted && job.inverter.waveform === "modified") yield remark("start", "notices.modifiedSineOutputMotors");
  if (converted && start.peak.inverterVoltage < values.inverter.alarmVoltage.value && !start.peak.collapsed) {
    yield remark("start", "notices.startPeakInverterSees", {
      inverterVoltage: figure(start.peak.inverterVoltage, "voltage"),
      alarmDelay: figure(values.inverter.alarmDelay.value, "duration"),
    });
  }
}

/** Cold, and a charge that stops early. */
function* bankRemarks({ job, values, bank }: System): Generator<Notice> {
  if (CHEMISTRIES[job.bank.chemistry].lithium && values.bank.temperatureC.value < 0) {
    yield remark("bank", "notices.belowFreezingLithiumBattery");
  }
  if (bank.startSoc < 0.999) {
    yield remark("bank", "notices.chargedBatteryBegins", {
      chargeToVoltage: figure(bank.chargeToVoltage, "voltage"),
      startSoc: figure(bank.startSoc, "ratio", 2),
    });
  }
}

/** How batteries in parallel share the current. */
function* sharingRemarks({ job, values, bank }: System): Generator<Notice> {
  const shares = bank.shares;
  if (shares.length > 1) {
    const most = Math.max(...shares);
    if (most * shares.length > 1.1)
      yield remark("wiring", "notices.batteryGivesCurrentWeakest", {
        number: shares.indexOf(most) + 1,
        count: shares.length,
        most: figure(most, "ratio", 2),
        least: figure(Math.min(...shares), "ratio", 2),
      });
  } else if (
    job.bank.build === "batteries" &&
    values.bank.parallel.value > 1 &&
    job.wiring.links.layout === "busbars"
  ) {
    yield remark("wiring", "notices.batteriesParallelTakenSharing");
  }
}

/** What the measured resistance of the wiring says of its parts. */
function* measuredWiringRemarks({ wiring }: System, pathCurrent: number): Generator<Notice> {
  if (wiring.excess !== null) {
    const ohms = (value: number) => figure(value, "resistance", 2);
    const [found, should] = [wiring.resistance, wiring.main.resistance];
    const heat = wiring.excess * Math.pow(pathCurrent, 2);
    yield wiring.excess > 0.15 * should
      ? remark("wiring", "notices.wiringMeasuresWhereParts", {
          found: ohms(found),
          should: ohms(should),
          excess: ohms(wiring.excess),
          heat: figure(heat, "power", 2),
        })
      : remark("wiring", "notices.wiringMeasuresPartsShould", { found: ohms(found), should: ohms(should) });
  }
}

/** The start in the cold, and the heat of the inverter's compartment. */
function* coldAndHeatRemarks({ values }: System, { ladders, compartment }: Noticed): Generator<Notice> {
  const cold = ladders.find(({ state }) => state === "cold");
  if (cold && cold.end < cold.cutOff) yield remark("start", "notices.coldStart");
  if (compartment && values.inverter.compartmentC.value > compartment.target + 1) {
    const opening = figure(compartment.vent.value, "opening", 2);
    yield remark("start", "notices.compartmentReachesVentsEach", {
      compartmentC: figure(values.inverter.compartmentC.value, "temperature"),
      opening,
      target: figure(compartment.target, "temperature"),
    });
  }
}

/** DC loads that nothing feeds at their own volts. */
function* dcLoadRemarks({ job, bank }: System): Generator<Notice> {
  if (
    bank.nominalVoltage > 18 &&
    job.brief.loads.some(({ side }) => side === "dc") &&
    !job.wiring.branches.some(({ role }) => role === "loads")
  )
    yield remark("wiring", "notices.dcLoadsWithoutBranch", { nominalVoltage: Math.round(bank.nominalVoltage) });
}

/** What a start aid leaves to do or to know. */
function* startAidRemarks({ job, values }: System, i: number): Generator<Notice> {
  const unit = job.units[i]!;
  if (hasSoftStarter(unit) && !unit.learned) {
    yield remark("unit", "notices.softStarterHasNot", { name: unit.name });
  }
  if (hasStartAid(unit) && values.units[i]!.lockedRotorCurrent.origin === "measured") {
    yield remark("unit", "notices.measuredLockedRotorAmps", { name: unit.name });
  }
}

/** What the way of giving off heat means. */
function* condenserRemarks({ job, values }: System, i: number): Generator<Notice> {
  const unit = job.units[i]!;
  const leaving = values.units[i]!.waterLeavingC?.value;
  const degrees = (value: number) => figure(value, "temperature");
  if (unit.condenser === "sea" && leaving !== undefined && leaving > 43)
    yield remark("unit", "notices.coolingWaterLeavesAbout", {
      name: unit.name,
      leaving: degrees(leaving),
      healthy: degrees(40),
      high: degrees(43),
    });
  if (unit.condenser === "single-duct") yield remark("unit", "notices.singleDuctThrowsCabin", { name: unit.name });
}

/** What the alternator can spare. */
function* engineRemarks({ job, values, bank }: System): Generator<Notice> {
  const engine = values.sources.engineCurrent.value;
  const spare =
    values.sources.alternatorCurrent.value * values.sources.hotFactor.value - values.sources.vehicleCurrent.value;
  if (engine > 0 && engine > spare)
    yield remark("charging", "notices.hotAlternatorHasSpare", {
      spare: figure(Math.max(0, spare), "current", 2),
      engine: figure(engine, "current", 2),
    });
  if (job.wiring.branches.some(({ role, coupling }) => role === "engine" && coupling === "isolator")) {
    // Straight across, the difference of volts sets the current: a low lithium battery takes all that the cables let through.
    const rush =
      (ALTERNATOR_VOLTS - openCircuitVoltage(bank, bank.reserveSoc)) / (bank.innerResistance + PLAIN_RUN_OHM);
    if (rush > spare && spare > 0)
      yield remark("charging", "notices.throughIsolatorBatteryReserve", {
        rush: figure(10 * Math.round(rush / 10), "current", 2),
        spare: figure(spare, "current", 2),
      });
  }
  if (job.wiring.branches.some(({ role, control }) => role === "engine" && control === "ignition"))
    yield remark("charging", "notices.engineChargingMustSee");
}

/** The cautions of the trade, by the stage of the work. */
function* cautionsOf({ job, wiring, bank }: System): Generator<Notice> {
  const { earth, residualName } = wiring.rules;
  yield caution("brief", "notices.estimatesNotApprovalFixed");
  yield caution("brief", "notices.doNotLeavePeople");
  yield caution("unit", "notices.beforeOpeningUnitIsolate");
  yield caution("unit", "notices.capacitorsKeepLethalCharge");
  yield caution("start", "notices.neverBypassProtectionMake");
  yield caution("start", "notices.eachAcSourceNeeds", { residualName });
  yield caution("start", "notices.extensionLead");
  yield caution("start", "notices.flickerAtStart");
  yield caution("wiring", "notices.isolateLockOffProve");
  yield caution("wiring", "notices.fixedAcWiringResidual", { earth, residualName });
  yield caution(
    "bank",
    CHEMISTRIES[job.bank.chemistry].lithium ? "notices.lithiumBatteryDeliversThousands" : "notices.leadAcidGivesOff",
  );
  if (bank.chargeToVoltage > 60) yield caution("bank", "notices.shockAndArcAbove60");
  if (job.bank.chemistry === "nmc" || job.bank.build === "cells") yield caution("bank", "notices.salvagedCells");
  yield caution("wiring", "notices.extinguisherFirst");
  if (job.wiring.branches.some(({ role }) => role === "engine")) {
    yield caution("charging", "notices.starterFlat");
    yield caution("charging", "notices.chargeSwitchAtSpeed");
  }
  yield caution("charging", "notices.roofWorkFallFragile");
  yield caution("charging", "notices.generatorsMakeCarbonMonoxide");
  yield caution("charging", "notices.fuelCan");
  if (job.cabin.kind === "boat") yield caution("charging", "notices.boatIgnitionProtectedParts");
  yield caution("day", "notices.forecastTypicalWeatherNot");
}

/** What the wiring rules cannot decide until it is said, and what a battery of this voltage asks for beside them. */
function* wiringRemarks({ job, values, bank, wiring, converted }: System): Generator<Notice> {
  const { earth } = wiring.rules;
  const high = bank.chargeToVoltage > 32;
  if (converted && bank.nominalVoltage > 36) yield remark("wiring", "notices.precharge");
  if (converted) yield remark("wiring", "notices.bondInverterCase", { earth });
  if (high && wiring.main.parts.some(({ part, values: own }) => part.kind === "isolator" && !own.voltage!.entered))
    yield remark("wiring", "notices.isolatorsDcAssumedCheck", {
      chargeToVoltage: figure(bank.chargeToVoltage, "voltage", 3),
    });
  if (values.bank.series.value > 1 && job.bank.build === "batteries")
    yield remark("wiring", "notices.batteriesSeriesBalanceThem");
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

function* outOfRange({ job, values }: System): Generator<Notice> {
  for (const { path, value, entered } of everyKnown(values)) {
    if (!entered) continue;
    const spec = fieldAt(path, partAt(job, path));
    if (!spec || (value >= spec.low && value <= spec.high)) continue;
    if (value > spec.high && GROWS[groupOf(path)]?.has(keyOf(path))) continue;
    const { dimension, low, high, label } = spec;
    const several = groupOf(path) !== "units" || job.units.length > 1;
    yield remark(stageOfPath(path), "notices.outsideUsual", {
      label: several ? { path } : label,
      known: figure(value, dimension),
      range: { low, high, dimension },
    });
  }
}
