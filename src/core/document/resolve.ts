import { siteOfJob } from "./place";
import type { Group } from "./resolved";
import { loadVolts } from "../reference/standards/mains";
import { START_AID_KEYS, isCharging, type Job, type Unit } from "./schema";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  START_AID_FIELDS,
  INVERTER_FIELDS,
  LOAD_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type BankKey,
  type BranchKey,
} from "./fields";
import { type DrawContext, drawnStates, measuredByReadings, mostDrawn } from "./draw-readings";
import { PLACE_FIELDS, WEATHER_FIELDS } from "./day-fields";
import { placeDefaults } from "./day-defaults";
import { weatherDefaults } from "./weather-defaults";
import {
  ampacityTable,
  bankDefaults,
  branchDefaults,
  briefDefaults,
  startAidDefaults,
  inverterDefaults,
  LOAD_DEFAULTS,
  supplyDefaults,
  unitDefaults,
  controllerRating,
  ruleSetOf,
  usualInlet,
  type BranchSetting,
} from "./defaults";
import { driveOnMains, onBattery, topPower } from "./unit-kinds";
import { resolveGroup, withMore, type JobQuantity, type JobValues } from "./resolved";
import { Kept } from "./kept";
import { dayBesides, jobOfDay, resolveDay } from "./resolve-day";
import { resolveWiring } from "./resolve-wiring";

/** What is around a system and what it is asked for: no part of the system has a say in it. */
type Surroundings = Pick<JobValues, "site" | "brief" | "place" | "weather" | "loads" | "supplies" | "startAids">;

function surroundingsOf(job: Job): Surroundings {
  const brief = resolveGroup(BRIEF_FIELDS, job.brief, "brief", briefDefaults(job));
  const place = resolveGroup(PLACE_FIELDS, job.place, "place", placeDefaults(job));
  // A ready day's figures are the climate's own; what was entered belongs to a day of the customer's own.
  const weather = resolveGroup(
    WEATHER_FIELDS,
    job.weather.kind === "own" ? job.weather : {},
    "weather",
    weatherDefaults(job, place),
  );
  return {
    site: siteOfJob(job),
    brief,
    place,
    weather,
    loads: job.brief.loads.map((load, i) => resolveGroup(LOAD_FIELDS, load, `brief.loads.${i}`, LOAD_DEFAULTS)),
    supplies: resolveGroup(SUPPLY_FIELDS, job.supplies, "supplies", supplyDefaults(job)),
    startAids: Object.fromEntries(
      START_AID_KEYS.map((key) => [
        key,
        resolveGroup(START_AID_FIELDS, job.startAids[key] ?? {}, `startAids.${key}`, startAidDefaults(key)),
      ]),
    ) as JobValues["startAids"],
  };
}

/** What systems have in common that differ in a value of their parts: the first one's surroundings, and what was made for it. */
export interface Common {
  surroundings?: Surroundings;
  kept?: Kept;
}

/**
 * Fills every gap of a system with its typical value. Pure; a valid document always resolves. Where many systems are resolved
 * that differ in their parts alone, what they have in `common` is settled once.
 */
export function resolveJob(
  job: Job,
  { surroundings = surroundingsOf(job), kept = new Kept() }: Common = {},
): JobValues {
  const { site, brief, place, weather, loads, supplies, startAids } = surroundings;
  const bank = kept.take("bank", { bank: job.bank }, resolveBank);
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const units = job.units.map((bare, i) => {
    const unit = withReadings(job, bare, bank);
    const mostDrawnA = bare.readings?.length ? mostDrawn(bare.readings, drawContext(job, bare, bank)) : 0;
    return resolveGroup(UNIT_FIELDS, unit, `units.${i}`, unitDefaults(job, unit, bankVoltage, mostDrawnA));
  });
  const sum = (list: number[]) => list.reduce((total, one) => total + one, 0);
  const dcPower = sum(job.brief.loads.map((load, i) => (load.side === "dc" ? loads[i]!.power.value : 0)));
  const mostCurrent = (i: number) => (i < 0 ? 10 : units[i]!.runningCurrent.value * topPower(job.units[i]!, units[i]!));
  const ofAll = { rules: ruleSetOf(job), table: ampacityTable(job), inlet: usualInlet(job), bankVoltage, dcPower };
  const branchGroups = job.wiring.branches.map((branch, i) => {
    const path = `wiring.branches.${i}`;
    const unitCurrent = mostCurrent(job.units.findIndex(({ id }) => id === branch.unitId));
    const controller = branch.role === "solar" ? controllerRating(job, branch.id) : null;
    return kept.take(path, { path, branch, unitCurrent, controller, ...ofAll }, resolveBranchGroup);
  });
  const charging = job.wiring.branches.map((branch, i) =>
    isCharging(branch) ? branchGroups[i]!.current.value * bankVoltage : 0,
  );
  const acPower =
    sum(job.units.map((unit, i) => (onBattery(unit) ? 0 : units[i]!.ratedPower.value * topPower(unit, units[i]!)))) +
    sum(job.brief.loads.map((load, i) => (load.side === "mains" ? loads[i]!.power.value : 0)));
  const inverterFields = inverterDefaults(job, bankVoltage, weather.highestC.value, {
    acPower,
    chargingPower: sum(charging),
    ventArea: job.inverter.ventArea?.value,
  });
  const inverter = resolveGroup(INVERTER_FIELDS, job.inverter, "inverter", inverterFields);
  const day = kept.take(
    "day",
    { job: jobOfDay(job), ...dayBesides(job, { bank, branchGroups }), brief, loads, place },
    resolveDay,
  );
  const wiring = resolveWiring(job, { weather, loads, bank, inverter, units, day, branchGroups, kept });
  return {
    site,
    brief,
    loads,
    units,
    drawn: job.units.map((unit) => (unit.readings?.length ? drawnStates(unit, drawContext(job, unit, bank)) : {})),
    bank,
    inverter,
    wiring,
    supplies,
    place,
    weather,
    ...day,
    startAids,
  };
}

/**
 * The values of a system that differs from another in the parts of its wiring alone: of the other's `values` all but the wiring
 * stands. `job` is the one that differs; `kept`: what was made for the other.
 */
export function withWiringOf(values: JobValues, job: Job, kept = new Kept()): JobValues {
  const { weather, loads, bank, inverter, units, sources, wiring } = values;
  return {
    ...values,
    wiring: resolveWiring(job, {
      weather,
      loads,
      bank,
      inverter,
      units,
      day: { sources },
      kept,
      branchGroups: wiring.branches,
    }),
  };
}

const resolveBank = (job: Pick<Job, "bank">): JobValues["bank"] =>
  resolveGroup(BANK_FIELDS, job.bank, "bank", bankDefaults(job));

const resolveBranchGroup = ({ path, ...setting }: BranchSetting & { path: string }): Group<BranchKey> =>
  resolveGroup(BRANCH_FIELDS, setting.branch, path, branchDefaults(setting));

/** What brings the readings of a unit's draw to the unit alone. */
export function drawContext(job: Job, unit: Unit, bank: Group<BankKey>): DrawContext {
  const { lossShare, lossRise } = job.inverter;
  return {
    batteryVolts: bank.blockVoltage.value * bank.series.value,
    capacityAh: bank.capacityAh.value * bank.parallel.value * bank.condition.value,
    acVolts: loadVolts(job.brief.mains, unit.leg),
    powerFactor: unit.runningPowerFactor?.value ?? (driveOnMains(unit) ? 0.98 : 0.95),
    // At about half load, as an air conditioner mostly loads its inverter.
    lossPerWatt: (lossShare?.value ?? 0.05) + (lossRise?.value ?? 0.05) / 2,
    direct: onBattery(unit),
  };
}

/** A unit with what its readings stand for beside what was entered of it. */
function withReadings(job: Job, unit: Unit, bank: Group<BankKey>): Unit {
  if (!unit.readings || unit.readings.length === 0) return unit;
  return withMore(measuredByReadings(unit.readings, drawContext(job, unit, bank)), unit);
}

/** Every resolved quantity of a system, in the order of its document. */
export function* everyKnown(values: JobValues | object): Generator<JobQuantity> {
  for (const value of Object.values(values) as unknown[]) {
    if (!value || typeof value !== "object") continue;
    if ("origin" in value && "path" in value) yield value as JobQuantity;
    else yield* everyKnown(value);
  }
}
