import type { Group } from "./resolved";
import { AMPACITY_TABLES, cableCarries, type AmpacityTable } from "../reference/conductors/ampacity";
import { breakerSurvives, nextFuseRating, nextOf } from "../reference/conductors/fuse";
import { arrayOf, controllerOfBranch, converterDraw, farSideOf } from "./sides";
import { minimumCircuitAmpacity, smallConductorLimit } from "../reference/standards/ac-cable";
import { legCount, legShares, MAINS_SYSTEMS } from "../reference/standards/mains";
import { leadArea, type RuleSet } from "../reference/standards/rule-set";
import type { RunPath } from "./path";
import { isCharging, type Branch, type Part, type Job } from "./schema";
import {
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  MEASURED_FIELDS,
  WIRING_FIELDS,
  type BranchKey,
  type WiringKey,
} from "./fields";
import type { ResolvedQuantity, DefaultValue } from "../units/known";
import { ampacityTable, LINK_LENGTH_DEFAULT, linkDefaults, wiringDefaults, ruleSetOf } from "./defaults";
import { fixedSpeed, onBattery, onMains, topPower } from "./unit-kinds";
import type { Kept } from "./kept";
import { resolveGroup, withMore, type PartValues, type WiringValues, type JobValues } from "./resolved";
import { resolveParts, type RunSetting } from "./resolve-parts";

/** What the wiring is settled from. */
type WiringSource = Pick<JobValues, "weather" | "loads" | "bank" | "inverter" | "units"> & {
  day: Pick<JobValues, "sources">;
  branchGroups: Group<BranchKey>[];
  /** What was made for a system that this one differs from in a value. */
  kept: Kept;
};

/** What the circuits of a job have in common. */
interface WiringSetting extends WiringSource {
  job: Job;
  rules: RuleSet;
  table: AmpacityTable;
  group: Group<WiringKey>;
  /** Nominal volts of the battery, the highest it comes to, and of one leg to neutral. */
  bankVoltage: number;
  highestVoltage: number;
  legVolts: number;
  dcRun: RunBase;
  acRun: RunBase;
}

/** A run without its place, its current and the drop allowed. */
type RunBase = Omit<RunSetting, "where" | "dropLimit" | "current">;

/** The parts of one run; those of the system that this one differs from, where they are settled from the same. */
const partsOf = ({ kept }: WiringSetting, parts: Part[], path: RunPath, run: RunSetting): PartValues[] =>
  kept.take(path, { ...run, parts, path }, settledParts);

const settledParts = ({ parts, path, ...run }: RunSetting & { parts: Part[]; path: RunPath }): PartValues[] =>
  resolveParts({ parts, path, run });

/** The circuits of the wiring: what every part of them has, or is taken to have. */
export function resolveWiring(job: Job, source: WiringSource): WiringValues {
  const { bank, weather } = source;
  const rules = ruleSetOf(job);
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const highestVoltage = Math.max(bankVoltage, bank.chargeToVoltage.value);
  const group = resolveGroup(WIRING_FIELDS, job.wiring, "wiring", wiringDefaults(weather.highestC.value));
  const { legVolts, american } = MAINS_SYSTEMS[job.brief.mains];
  const table = ampacityTable(job);
  const shared = { rules, table, american, ambientC: group.ambientC.value, floor: 0, start: 0 };
  const setting: WiringSetting = {
    job,
    rules,
    table,
    group,
    bankVoltage,
    highestVoltage,
    legVolts,
    dcRun: { mains: false, spare: 1.25, volts: bankVoltage, highestVoltage, ...shared },
    acRun: { mains: true, spare: 1, volts: legVolts, highestVoltage: legVolts, ...shared },
    ...source,
  };
  const { current, lanes } = mainCurrent(setting);
  const beside = drawnBeside(setting);
  const charging = chargingOf(setting);
  const isShared = lanes < 2 && fusedBeforeBusbar(job.wiring.main);
  const main = partsOf(setting, job.wiring.main, "wiring.main", {
    where: "main",
    current: isShared ? Math.max(current + beside, charging) : current,
    dropLimit: group.dropLimit.value,
    lanes,
    ...setting.dcRun,
  });
  return withMore(group, {
    links: resolveLinks(setting, main, Math.max(current * lanes + beside, charging)),
    main,
    mains: resolveMains(setting),
    branches: job.wiring.branches.map((branch, i) => resolveBranch(setting, branch, i)),
    measured: resolveGroup(MEASURED_FIELDS, job.wiring.measured, "wiring.measured", {}),
  });
}

/**
 * A that the main run is sized for, and into how many equal runs it divides: by what the machine at its end can draw, the
 * inverter at its cut-off and units that run straight from the bank.
 */
function mainCurrent({ job, units, inverter, bankVoltage }: WiringSetting): { current: number; lanes: number } {
  const ownRun = (id: string) => job.wiring.branches.some(({ role, unitId }) => role === "dc-unit" && unitId === id);
  const converted = usesInverter(job);
  const direct = sumOf(job.units, (unit, i) =>
    onBattery(unit) && !(converted && ownRun(unit.id)) ? units[i]!.ratedPower.value * topPower(unit, units[i]!) : 0,
  );
  const fullDraw = converted ? fullDcPower(inverter) / inverter.cutOffVoltage.value : 0;
  const lanes = converted && job.inverter.leads === "own" ? Math.max(1, inverter.count.value) : 1;
  return { current: fullDraw / lanes + direct / (0.9 * bankVoltage), lanes };
}

/** Whether batteries in parallel hang one behind another, so that one link carries what several give. */
export const isChained = (layout: Job["wiring"]["links"]["layout"]): boolean =>
  layout === "chain-diagonal" || layout === "chain-one-end";

/** A of all that may charge at the same time. */
function chargingOf({ job, branchGroups, inverter }: WiringSetting): number {
  const branches = sumOf(job.wiring.branches, (branch, i) => (isCharging(branch) ? branchGroups[i]!.current.value : 0));
  return branches + (job.inverter.combined ? inverter.chargeCurrent.value * inverter.count.value : 0);
}

/** A that the DC loads and units on circuits of their own draw together. */
const drawnBeside = (setting: WiringSetting): number =>
  sumOf(setting.job.wiring.branches, (branch, i) =>
    branch.role === "loads" || branch.role === "dc-unit"
      ? bankSideOf(setting, branch, setting.branchGroups[i]!).current
      : 0,
  );

/** Whether a fuse of the main run stands before a busbar, so that it carries what the busbar joins as well. */
function fusedBeforeBusbar(parts: readonly Part[]): boolean {
  const busbar = parts.findLastIndex(({ kind }) => kind === "busbar");
  return parts.slice(0, Math.max(0, busbar)).some(({ kind }) => kind === "fuse");
}

/** The links between batteries, `most` being what all of them give or take at most, A. */
function resolveLinks(setting: WiringSetting, main: PartValues[], most: number): WiringValues["links"] {
  const { job, bank, group, rules, table } = setting;
  const { links } = job.wiring;
  const mainArea = Math.max(...main.map((part) => (part.areaMm2?.value ?? 0) * (part.count?.value ?? 1)), 0);
  const leads = links.layout === "busbars" || job.bank.build === "cells" ? 0 : Math.min(24, bank.parallel.value);
  const parallel = Math.max(1, bank.parallel.value);
  const ownCurrent = (most / parallel) * (parallel > 1 ? PARALLEL_IMBALANCE : 1);
  const ownFuse = nextFuseRating(1.25 * ownCurrent);
  const chained = isChained(links.layout);
  const leadSize = AMPACITY_TABLES[table].sizesMm2.find(
    (areaMm2) =>
      Math.min(
        cableCarries(table, { areaMm2, insulation: "90", route: "free" }, group.ambientC.value),
        rules.dcSmallConductors ? smallConductorLimit(areaMm2) : Infinity,
      ) >= ownFuse,
  );
  const area: DefaultValue = chained
    ? { value: mainArea || 50, why: "as the cable to the inverter" }
    : { value: leadSize ?? (mainArea || 50), why: "what carries the fuse of each battery" };
  const defaults = linkDefaults(area, {
    value: ownFuse,
    why: "125 % of what each battery gives or takes at most, next size up",
  });
  return withMore(resolveGroup(LINK_FIELDS, links, "wiring.links", defaults), {
    paths: Array.from({ length: links.layout === "own-leads" ? leads : Math.max(0, leads - 1) }, (_, i) =>
      resolveGroup(LINK_PATH_FIELDS, links.paths[i] ?? {}, `wiring.links.paths.${i}`, { length: LINK_LENGTH_DEFAULT }),
    ),
  });
}

/** The run from the inverter to the units. */
function resolveMains(setting: WiringSetting): PartValues[] {
  const { job, rules, inverter, units, group, legVolts, branchGroups } = setting;
  const outputLegs = legCount(job.brief.mains) === 2 && job.inverter.output === "split-phase" ? 2 : 1;
  const outputCurrent = usesInverter(job) ? (inverter.rating.value * inverter.count.value) / outputLegs / legVolts : 0;
  const [first, second] = [legCurrent(setting, 0), legCurrent(setting, 1)];
  const legLoad = outputLegs === 2 ? Math.max(first, second) : first + second * (legCount(job.brief.mains) - 1);
  // Behind a transfer switch the shore's breaker feeds as well.
  const shoreDevice = Math.max(
    0,
    ...job.wiring.branches.map((branch, i) => {
      if (branch.role !== "shore") return 0;
      const breaker = branch.parts.find(({ kind }) => kind === "breaker");
      const entered = breaker && "rating" in breaker ? breaker.rating?.value : undefined;
      return entered ?? (breaker ? nextOf(rules.breakers, branchGroups[i]!.current.value) : 0);
    }),
  );
  return partsOf(setting, job.wiring.mains, "wiring.mains", {
    ...setting.acRun,
    where: "mains",
    current: Math.max(outputCurrent, rules.continuous * legLoad),
    floor: rules.smallestAcMm2,
    start: Math.max(0, ...job.units.map((unit, i) => (onMains(unit) ? startBreaker(unit, units[i]!) : 0))),
    upstream: shoreDevice,
    dropLimit: group.branchDropLimit.value,
  });
}

/** A of one leg with everything on it, in the design day's heat. */
function legCurrent({ job, units, loads, weather, legVolts }: WiringSetting, leg: 0 | 1): number {
  const heat = 1 + Math.max(0, 0.013 * (weather.highestC.value - 35));
  const cooling = sumOf(job.units, (unit, i) =>
    onMains(unit) && legShares(job.brief.mains, unit.leg)[leg] > 0
      ? heat * units[i]!.runningCurrent.value * topPower(unit, units[i]!)
      : 0,
  );
  const others = sumOf(job.brief.loads, (load, i) =>
    load.side === "mains" ? (loads[i]!.power.value * legShares(job.brief.mains, load.leg)[leg]) / legVolts : 0,
  );
  return cooling + others;
}

/** One branch: the parts of its battery's side and those of its far side. */
function resolveBranch(setting: WiringSetting, branch: Branch, index: number): WiringValues["branches"][number] {
  const { job, rules, group, day, bankVoltage, highestVoltage, acRun, dcRun } = setting;
  const v = setting.branchGroups[index]!;
  const { panels, lowestC } = day.sources;
  const array = arrayOf(job, panels, lowestC.value, controllerOfBranch(job, index));
  const far = farSideOf({ job, branch, values: v, chargeToVoltage: highestVoltage, rules, array });
  const settle = (list: Part[], name: "parts" | "far", run: Omit<RunSetting, "where" | "dropLimit">) =>
    partsOf(setting, list, `wiring.branches.${index}.${name}`, {
      where: branch.role,
      dropLimit: group.branchDropLimit.value,
      ...run,
    });
  return withMore(v, {
    parts: settle(branch.parts, "parts", bankSideOf(setting, branch, v)),
    far: settle(branch.far, "far", {
      current: Math.max(0.1, far?.current ?? v.current.value),
      ...(far?.mains ? acRun : dcRun),
      volts: far?.volts || bankVoltage,
      highestVoltage: far?.highestVolts || highestVoltage,
      spare: far?.mains ? rules.continuous : far?.limited ? 1 : 1.25,
      floor: far?.mains ? rules.smallestAcMm2 : 0,
    }),
  });
}

/** What the battery's side of a branch, or the mains side of a shore inlet or a unit's own circuit, is sized for. */
function bankSideOf(
  { job, rules, units, bankVoltage, acRun, dcRun }: WiringSetting,
  branch: Branch,
  v: Group<BranchKey>,
): Omit<RunSetting, "where" | "dropLimit"> {
  const at = job.units.findIndex(({ id }) => id === branch.unitId);
  const [unit, own] = [job.units[at], units[at]];
  switch (branch.role) {
    case "shore":
      return {
        current: v.current.value,
        ...acRun,
        floor: Math.max(rules.smallestAcMm2, leadArea(rules, v.current.value, 0)),
      };
    case "circuit":
      return {
        current: own ? circuitCurrent(rules, own, v.current.value) : v.current.value,
        ...acRun,
        floor: rules.smallestAcMm2,
        start: own ? startBreaker(unit!, own) : 0,
      };
    default: {
      const converter = branch.role === "loads" && branch.converter ? converterDraw(v, bankVoltage) : 0;
      const running =
        branch.role === "dc-unit" && own && onBattery(unit!)
          ? // What a clamp read of it counts where that is more than its plate says.
            Math.max(own.ratedPower.value * topPower(unit!, own), (unit!.dcRunningCurrent?.value ?? 0) * bankVoltage) /
            Math.max(1, own.cutOffVoltage.value)
          : 0;
      return { current: Math.max(v.current.value, converter, running), ...dcRun };
    }
  }
}

/** W that inverters draw from the battery at their full rating: idle and losses included. */
export function fullDcPower(
  v: Record<"idlePower" | "lossShare" | "lossRise" | "rating" | "count", ResolvedQuantity>,
): number {
  return v.count.value * (v.idlePower.value + (1 + v.lossShare.value + v.lossRise.value) * v.rating.value);
}

/** A of a unit's start that breakers must let pass, referred to one second of their thermal element and to their magnet. */
function startBreaker(unit: Job["units"][number], v: JobValues["units"][number]): number {
  if (!fixedSpeed(unit)) return 0;
  const soft = unit.startAid === "soft-starter";
  const peak = v.lockedRotorCurrent.value * (soft ? 1 - v.softReduction.value : 1) * (soft && !unit.learned ? 1.45 : 1);
  return peak / breakerSurvives(soft ? v.softRamp.value : v.startTime.value);
}

/** Batteries in parallel are never quite alike: one gives at least this much more than its share (common practice). */
export const PARALLEL_IMBALANCE = 1.1;

/** Sum of a value over a list. */
const sumOf = <T>(list: readonly T[], value: (one: T, i: number) => number) =>
  list.reduce((total, one, i) => total + value(one, i), 0);

/** A that a unit's own circuit is sized for: its plate's MCA, or computed where the rules ask for one; else its current. */
export function circuitCurrent(rules: RuleSet, v: JobValues["units"][number], running: number): number {
  if (v.circuitAmpacity) return Math.max(v.circuitAmpacity.value, running);
  if (rules.continuous === 1) return running;
  const compressor = Math.min(v.compressorCurrent.value, running);
  return minimumCircuitAmpacity(compressor, running - compressor);
}

/** Whether anything in the system needs mains from the inverter. */
export function usesInverter(job: Job): boolean {
  return job.units.some(onMains) || job.brief.loads.some((load) => load.side === "mains");
}
