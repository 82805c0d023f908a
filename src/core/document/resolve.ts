import { AMPACITY_TABLES, cableCarries, type AmpacityTable } from "../reference/conductors/ampacity";
import { cableResistance } from "../reference/conductors/cable";
import { breakerSurvives, FUSE_RATINGS, fuseUnder, nextFuseRating, nextOf } from "../reference/conductors/fuse";
import { arrayOf, controllerOfBranch, converterDraw, farSideOf } from "./sides";
import { acAmpacity, minimumCircuitAmpacity } from "../reference/standards/ac-cable";
import { legCount, legShares, loadVolts, MAINS_SYSTEMS } from "../reference/standards/mains";
import { leadArea, type RuleSet } from "../reference/standards/rule-set";
import { CURE_KEYS, isCharging, type Branch, type CureKey, type Part, type Rig, type Unit } from "./schema";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  CURE_FIELDS,
  INVERTER_FIELDS,
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  LOAD_FIELDS,
  MEASURED_FIELDS,
  PART_FIELDS,
  PATH_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type BankKey,
  type BranchKey,
  type BriefKey,
  type InverterKey,
  type LinkKey,
  type LoadKey,
  type MeasuredKey,
  type PartKey,
  type PathKey,
  type SupplyKey,
  type UnitKey,
} from "./fields";
import { patternsOf } from "./schedule";
import { measuredByReadings, type DrawContext } from "./draw-readings";
import {
  CABIN_FIELDS,
  CONTROLLER_FIELDS,
  OBSTACLE_FIELDS,
  PANEL_FIELDS,
  PLACE_FIELDS,
  PLAN_FIELDS,
  SOURCE_FIELDS,
  SPAN_FIELDS,
  WEATHER_FIELDS,
  type CabinKey,
  type ControllerKey,
  type ObstacleKey,
  type PanelKey,
  type PlaceKey,
  type PlanKey,
  type SourceKey,
  type SpanKey,
  type WeatherKey,
} from "./day-fields";
import {
  cabinDefaults,
  controllerDefaults,
  OBSTACLE_DEFAULTS,
  panelDefaults,
  placeDefaults,
  planDefaults,
  sourceDefaults,
  spanDefaults,
} from "./day-defaults";
import { weatherDefaults } from "./weather-defaults";
import type { FieldSpec, ResolvedQuantity, Quantity, DefaultValue } from "../units/known";
import {
  ampacityTable,
  areaWords,
  bankDefaults,
  branchDefaults,
  briefDefaults,
  cureDefaults,
  inverterDefaults,
  LINK_LENGTH_DEFAULT,
  linkDefaults,
  LOAD_DEFAULTS,
  partDefaults,
  pathDefaults,
  ruleSetOf,
  sizesOf,
  supplyDefaults,
  TYPICAL_LENGTH,
  unitDefaults,
  type OptionalInverterKey,
  type OptionalUnitKey,
  type PartSetting,
} from "./defaults";
import { driveOnMains, fixedSpeed, onBattery, onMains } from "./unit-kinds";

type Group<K extends string, O extends K = never> = Record<Exclude<K, O>, ResolvedQuantity> &
  Partial<Record<O, ResolvedQuantity>>;

/** The quantities that a part of its kind has. */
export type PartValues = Partial<Record<PartKey, ResolvedQuantity>>;

export type PathValues = Group<PathKey> & {
  links: Group<LinkKey> & { paths: { length: ResolvedQuantity }[] };
  main: PartValues[];
  mains: PartValues[];
  branches: (Group<BranchKey> & { parts: PartValues[]; far: PartValues[] })[];
  measured: Partial<Record<MeasuredKey, ResolvedQuantity>>;
};

/** Every quantity of a rig with its value, entered or typical. Optional ones that nobody entered are absent. */
export interface RigValues {
  brief: Group<BriefKey>;
  loads: Group<LoadKey>[];
  units: Group<UnitKey, OptionalUnitKey>[];
  bank: Group<BankKey>;
  inverter: Group<InverterKey, OptionalInverterKey>;
  path: PathValues;
  supplies: Group<SupplyKey>;
  place: Group<PlaceKey>;
  /** The design day: what every figure takes its temperatures from. */
  weather: Group<WeatherKey>;
  cabin: Group<CabinKey, "heatLoss">;
  sources: Group<SourceKey> & {
    panels: Group<PanelKey>[];
    controllers: Group<ControllerKey, "maxArrayCurrent">[];
    obstacles: Group<ObstacleKey>[];
  };
  plan: Group<PlanKey, "startCabinC"> & { patterns: { spans: Partial<Record<SpanKey, ResolvedQuantity>>[] }[] };
  cures: Record<CureKey, Group<"cost" | "mass">>;
}

function resolveGroup<K extends string>(
  fields: Record<K, FieldSpec>,
  entered: Partial<Record<K, Quantity>>,
  path: string,
  typicals: Partial<Record<K, (need: (key: K) => number) => DefaultValue>>,
): Record<K, ResolvedQuantity> {
  const known = {} as Record<K, ResolvedQuantity>;
  const need = (key: K): number => settle(key)!.value;
  const settle = (key: K): ResolvedQuantity | undefined => {
    const settled = known[key];
    if (settled) return settled;
    const { label, dimension } = fields[key];
    const given = entered[key];
    if (given) {
      const { value, origin } = given;
      return (known[key] = { path: `${path}.${key}`, label, dimension, value, origin, why: "", entered: true });
    }
    const typical = typicals[key];
    if (!typical) return undefined;
    const { value, why } = typical(need);
    return (known[key] = { path: `${path}.${key}`, label, dimension, value, origin: "assumed", why, entered: false });
  };
  for (const key in fields) settle(key);
  return known;
}

/** Fills every gap of a rig with its typical value. Pure; a valid document always resolves. */
export function resolveRig(rig: Rig): RigValues {
  const brief = resolveGroup(BRIEF_FIELDS, rig.brief, "brief", briefDefaults(rig));
  const place = resolveGroup(PLACE_FIELDS, rig.place, "place", placeDefaults(rig));
  // A ready day's figures are the climate's own; what was entered belongs to a day of the customer's own.
  const weather = resolveGroup(
    WEATHER_FIELDS,
    rig.weather.kind === "own" ? rig.weather : {},
    "weather",
    weatherDefaults(rig, place),
  );
  const bank = resolveGroup(BANK_FIELDS, rig.bank, "bank", bankDefaults(rig));
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const loads = rig.brief.loads.map((load, i) => resolveGroup(LOAD_FIELDS, load, `brief.loads.${i}`, LOAD_DEFAULTS));
  const units = rig.units.map((bare, i) => {
    const unit = withReadings(rig, bare, bank);
    return resolveGroup(UNIT_FIELDS, unit, `units.${i}`, unitDefaults(rig, unit, bankVoltage));
  });
  const sum = (list: number[]) => list.reduce((total, one) => total + one, 0);
  const dcPower = sum(rig.brief.loads.map((load, i) => (load.side === "dc" ? loads[i]!.power.value : 0)));
  const branchGroups = rig.path.branches.map((branch, i) =>
    resolveGroup(
      BRANCH_FIELDS,
      branch,
      `path.branches.${i}`,
      branchDefaults(rig, branch, {
        bankVoltage,
        dcPower,
        unitCurrent: units[rig.units.findIndex(({ id }) => id === branch.unitId)]?.runningCurrent.value ?? 10,
      }),
    ),
  );
  const charging = rig.path.branches.map((branch, i) =>
    isCharging(branch) ? branchGroups[i]!.current.value * bankVoltage : 0,
  );
  const acPower =
    sum(rig.units.map((unit, i) => (onBattery(unit) ? 0 : units[i]!.ratedPower.value))) +
    sum(rig.brief.loads.map((load, i) => (load.side === "mains" ? loads[i]!.power.value : 0)));
  const inverterFields = inverterDefaults(rig, bankVoltage, weather.highestC.value, {
    acPower,
    chargingPower: sum(charging),
    ventArea: rig.inverter.ventArea?.value,
  });
  const inverter = resolveGroup(INVERTER_FIELDS, rig.inverter, "inverter", inverterFields);
  const day = resolveDay(rig, { brief, loads, bank, place, branches: branchGroups });
  const path = resolvePath(rig, { weather, loads, bank, inverter, units, day, branchGroups });
  return {
    brief,
    loads,
    units,
    bank,
    inverter,
    path,
    supplies: resolveGroup(SUPPLY_FIELDS, rig.supplies, "supplies", supplyDefaults(rig)),
    place,
    weather,
    ...day,
    cures: Object.fromEntries(
      CURE_KEYS.map((key) => [key, resolveGroup(CURE_FIELDS, rig.cures[key] ?? {}, `cures.${key}`, cureDefaults(key))]),
    ) as RigValues["cures"],
  };
}

/** What brings the readings of a unit's draw to the unit alone. */
export function drawContext(rig: Rig, unit: Unit, bank: Group<BankKey>): DrawContext {
  const { lossShare, lossRise } = rig.inverter;
  return {
    batteryVolts: bank.blockVoltage.value * bank.series.value,
    capacityAh: bank.capacityAh.value * bank.parallel.value * bank.condition.value,
    acVolts: loadVolts(rig.brief.mains, unit.leg),
    powerFactor: unit.runningPowerFactor?.value ?? (driveOnMains(unit) ? 0.98 : 0.95),
    // At about half load, as an air conditioner mostly loads its inverter.
    lossPerWatt: (lossShare?.value ?? 0.05) + (lossRise?.value ?? 0.05) / 2,
    direct: onBattery(unit),
  };
}

/** A unit with what its readings stand for beside what was entered of it. */
function withReadings(rig: Rig, unit: Unit, bank: Group<BankKey>): Unit {
  if (!unit.readings || unit.readings.length === 0) return unit;
  return { ...measuredByReadings(unit.readings, drawContext(rig, unit, bank)), ...unit };
}

/** W that inverters draw from the bank at their full rating: idle and losses included. */
export function fullDcPower(
  v: Record<"idlePower" | "lossShare" | "lossRise" | "rating" | "count", ResolvedQuantity>,
): number {
  return v.count.value * (v.idlePower.value + (1 + v.lossShare.value + v.lossRise.value) * v.rating.value);
}

/** A of a unit's start that breakers must let pass, referred to one second of their thermal element and to their magnet. */
function startBreaker(unit: Rig["units"][number], v: RigValues["units"][number]): number {
  if (!fixedSpeed(unit)) return 0;
  const soft = unit.cure === "soft-starter";
  const peak = v.lockedRotorCurrent.value * (soft ? 1 - v.softReduction.value : 1) * (soft && !unit.learned ? 1.45 : 1);
  return peak / breakerSurvives(soft ? v.softRamp.value : v.startTime.value);
}

/** The runs of the path: what every part of them has, or is taken to have. */
function resolvePath(
  rig: Rig,
  {
    weather,
    loads,
    bank,
    inverter,
    units,
    day,
    branchGroups,
  }: Pick<RigValues, "weather" | "loads" | "bank" | "inverter" | "units"> & {
    day: ReturnType<typeof resolveDay>;
    branchGroups: Group<BranchKey>[];
  },
): PathValues {
  const rules = ruleSetOf(rig);
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const highestVoltage = Math.max(bankVoltage, bank.chargeToVoltage.value);
  const group = resolveGroup(PATH_FIELDS, rig.path, "path", pathDefaults(weather.highestC.value));
  const [ambientC, mainDrop, branchDrop] = [group.ambientC.value, group.dropLimit.value, group.branchDropLimit.value];
  const shared = { rules, ambientC };
  const dcRun = { ...shared, mains: false, spare: 1.25, volts: bankVoltage, highestVoltage, floor: 0, start: 0 };
  const legVolts = MAINS_SYSTEMS[rig.brief.mains].legVolts;
  const acRun = { ...shared, mains: true, spare: 1, volts: legVolts, highestVoltage: legVolts, start: 0 };

  // The main run is sized by what the machine at its end can draw: the inverter at its cut-off, and units that run straight
  // from the bank.
  const ownRun = (id: string) => rig.path.branches.some(({ role, unitId }) => role === "dc-unit" && unitId === id);
  const converted = usesInverter(rig);
  const direct = sumOf(rig.units, (unit, i) =>
    onBattery(unit) && !(converted && ownRun(unit.id)) ? units[i]!.ratedPower.value : 0,
  );
  const fullDraw = converted ? fullDcPower(inverter) / inverter.cutOffVoltage.value : 0;
  const lanes = converted && rig.inverter.leads === "own" ? Math.max(1, inverter.count.value) : 1;
  const mainCurrent = fullDraw / lanes + direct / (0.9 * bankVoltage);
  const main = resolveParts(rig, rig.path.main, "path.main", {
    ...dcRun,
    where: "main",
    current: mainCurrent,
    dropLimit: mainDrop,
  });
  const mainArea = Math.max(...main.map((part) => (part.areaMm2?.value ?? 0) * (part.count?.value ?? 1)), 0);

  const { links, measured } = rig.path;
  const leads = links.layout === "busbars" || rig.bank.build === "cells" ? 0 : Math.min(24, bank.parallel.value);
  const parallel = Math.max(1, bank.parallel.value);
  const ownCurrent = ((mainCurrent * lanes) / parallel) * (parallel > 1 ? PARALLEL_IMBALANCE : 1);
  const ownFuse = nextFuseRating(1.25 * Math.min(ownCurrent, bank.continuousCurrent.value));
  const chained = links.layout === "chain-diagonal" || links.layout === "chain-one-end";
  const leadSize = sizesOf(rig).find(
    (area) => cableCarries(ampacityTable(rig), area, "90", "free", ambientC) >= ownFuse,
  );
  const area: DefaultValue = chained
    ? { value: mainArea || 50, why: "as the cable to the inverter" }
    : { value: leadSize ?? (mainArea || 50), why: "what carries the fuse of each battery" };

  const outputLegs = legCount(rig.brief.mains) === 2 && rig.inverter.output === "split-phase" ? 2 : 1;
  const outputCurrent = converted ? (inverter.rating.value * inverter.count.value) / outputLegs / legVolts : 0;
  const fedByMains = rig.units.map((unit, i) => ({ unit, v: units[i]! })).filter(({ unit }) => onMains(unit));
  const hardest = Math.max(0, ...fedByMains.map(({ unit, v }) => startBreaker(unit, v)));
  // What hangs on the fuller leg in this heat, with the code's 125 % of continuous loads.
  const heat = 1 + Math.max(0, 0.013 * (weather.highestC.value - 35));
  const onLeg = (leg: 0 | 1) =>
    sumOf(fedByMains, ({ unit, v }) =>
      legShares(rig.brief.mains, unit.leg)[leg] > 0 ? heat * v.runningCurrent.value : 0,
    ) +
    sumOf(rig.brief.loads, (load, i) =>
      load.side === "mains" ? (loads[i]!.power.value * legShares(rig.brief.mains, load.leg)[leg]) / legVolts : 0,
    );
  const legLoad =
    outputLegs === 2 ? Math.max(onLeg(0), onLeg(1)) : onLeg(0) + onLeg(1) * (legCount(rig.brief.mains) - 1);
  // Behind a transfer switch the shore's breaker feeds as well.
  const shoreDevice = Math.max(
    0,
    ...rig.path.branches.map((branch, i) => {
      if (branch.role !== "shore") return 0;
      const breaker = branch.parts.find(({ kind }) => kind === "breaker");
      const entered = breaker && "rating" in breaker ? breaker.rating?.value : undefined;
      return entered ?? (breaker ? nextOf(rules.breakers, branchGroups[i]!.current.value) : 0);
    }),
  );

  return {
    ...group,
    links: {
      ...resolveGroup(
        LINK_FIELDS,
        links,
        "path.links",
        linkDefaults(area, { value: ownFuse, why: "125 % of what each battery gives, next size up" }),
      ),
      paths: Array.from({ length: links.layout === "own-leads" ? leads : Math.max(0, leads - 1) }, (_, i) =>
        resolveGroup(LINK_PATH_FIELDS, links.paths[i] ?? {}, `path.links.paths.${i}`, { length: LINK_LENGTH_DEFAULT }),
      ),
    },
    main,
    mains: resolveParts(rig, rig.path.mains, "path.mains", {
      ...acRun,
      where: "mains",
      current: Math.max(outputCurrent, rules.continuous * legLoad),
      floor: rules.smallestAcMm2,
      start: hardest,
      upstream: shoreDevice,
      dropLimit: branchDrop,
    }),
    branches: rig.path.branches.map((branch, i) => {
      const v = branchGroups[i]!;
      const at = `path.branches.${i}`;
      const settle = (list: Part[], name: string, run: Omit<RunSetting, "where" | "dropLimit">) =>
        resolveParts(rig, list, `${at}.${name}`, { ...run, where: branch.role, dropLimit: branchDrop });
      const { panels, lowestC } = day.sources;
      const array = arrayOf(rig, panels, lowestC.value, controllerOfBranch(rig, i));
      const far = farSideOf(rig, branch, v, { chargeToVoltage: highestVoltage }, rules, array);
      const unit = rig.units.findIndex(({ id }) => id === branch.unitId);
      const own = units[unit];
      const bankSide: Omit<RunSetting, "where" | "dropLimit"> =
        branch.role === "shore"
          ? {
              ...acRun,
              current: v.current.value,
              floor: Math.max(rules.smallestAcMm2, leadArea(rules, v.current.value, 0)),
            }
          : branch.role === "circuit"
            ? {
                ...acRun,
                current: own ? circuitCurrent(rules, own, v.current.value) : v.current.value,
                floor: rules.smallestAcMm2,
                start: own ? startBreaker(rig.units[unit]!, own) : 0,
              }
            : {
                ...dcRun,
                current: Math.max(
                  v.current.value,
                  branch.role === "loads" && branch.converter ? converterDraw(v, bankVoltage) : 0,
                  branch.role === "dc-unit" && own && onBattery(rig.units[unit]!)
                    ? own.ratedPower.value / Math.max(1, own.cutOffVoltage.value)
                    : 0,
                ),
              };
      return {
        ...v,
        parts: settle(branch.parts, "parts", bankSide),
        far: settle(branch.far, "far", {
          ...(far?.mains ? acRun : dcRun),
          current: Math.max(0.1, far?.current ?? v.current.value),
          volts: far?.volts || bankVoltage,
          highestVoltage: far?.highestVolts || highestVoltage,
          spare: far?.mains ? rules.continuous : far?.limited ? 1 : 1.25,
          floor: far?.mains ? rules.smallestAcMm2 : 0,
        }),
      };
    }),
    measured: resolveGroup(MEASURED_FIELDS, measured, "path.measured", {}),
  };
}

/** Batteries in parallel are never quite alike: one gives at least this much more than its share (common practice). */
export const PARALLEL_IMBALANCE = 1.1;

const sumOf = <T>(list: readonly T[], value: (one: T, i: number) => number) =>
  list.reduce((total, one, i) => total + value(one, i), 0);

/** A that a unit's own circuit is sized for: its plate's MCA, or computed where the rules ask for one; else its current. */
export function circuitCurrent(rules: RuleSet, v: RigValues["units"][number], running: number): number {
  if (v.circuitAmpacity) return Math.max(v.circuitAmpacity.value, running);
  if (rules.continuous === 1) return running;
  const compressor = Math.min(v.compressorCurrent.value, running);
  return minimumCircuitAmpacity(compressor, running - compressor);
}

/** Cabin, sources and plan. */
function resolveDay(
  rig: Rig,
  {
    brief,
    loads,
    bank,
    place,
    branches,
  }: Pick<RigValues, "brief" | "loads" | "bank" | "place"> & { branches: Group<BranchKey>[] },
): Pick<RigValues, "cabin" | "sources" | "plan"> {
  const average = loads.reduce((sum, { power, share }) => sum + power.value * share.value, 0);
  const cabin = resolveGroup(CABIN_FIELDS, rig.cabin, "cabin", cabinDefaults(rig, average));
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const runs = (role: Branch["role"]) =>
    rig.path.branches.reduce((sum, branch, i) => (branch.role === role ? sum + branches[i]!.current.value : sum), 0);
  const source = resolveGroup(
    SOURCE_FIELDS,
    rig.sources,
    "sources",
    sourceDefaults(
      rig,
      { length: cabin.length.value, width: cabin.width.value },
      { engine: runs("engine"), charger: runs("charger"), shore: runs("shore") },
    ),
  );
  // Panels nobody placed lie in rows from the front, as a fitter would set them out.
  let [x, y, row] = [0.1, 0.05, 0];
  const panels = rig.sources.panels.map((panel, i) => {
    const settle = (at: { x: number; y: number }) =>
      resolveGroup(PANEL_FIELDS, panel, `sources.panels.${i}`, panelDefaults(panel, place.latitude.value, at));
    const sized = settle({ x, y });
    if (panel.mount === "portable") return sized;
    const wide = sized.width.value;
    const long = sized.length.value * sized.count.value;
    if (y > 0.06 && y + wide > source.roofWidth.value) [x, y, row] = [x + row, 0.05, 0];
    const placed = settle({ x, y });
    y += wide + 0.05;
    row = Math.max(row, long + 0.05);
    return placed;
  });
  const solar = runs("solar");
  const whole = rig.sources.panels.reduce((sum, _, i) => sum + panels[i]!.power.value * panels[i]!.count.value, 0);
  const each = Math.max(1, rig.sources.controllers.length);
  const limit = Math.max(0.5, solar > 0 ? solar / each : (1.1 * whole) / bankVoltage / each);
  const bankWh = bankVoltage * bank.capacityAh.value * bank.parallel.value;
  return {
    cabin,
    sources: {
      ...source,
      panels,
      controllers: rig.sources.controllers.map((controller, i) =>
        resolveGroup(CONTROLLER_FIELDS, controller, `sources.controllers.${i}`, controllerDefaults(limit)),
      ),
      obstacles: rig.sources.obstacles.map((obstacle, i) =>
        resolveGroup(OBSTACLE_FIELDS, obstacle, `sources.obstacles.${i}`, OBSTACLE_DEFAULTS),
      ),
    },
    plan: {
      ...resolveGroup(PLAN_FIELDS, rig.plan, "plan", planDefaults(rig, bankWh)),
      patterns: patternsOf(rig, brief.hoursWanted.value).map(({ spans }, p) => ({
        spans: spans.map((span, i) =>
          resolveGroup<SpanKey>(
            SPAN_FIELDS,
            span as Partial<Record<SpanKey, Quantity>>,
            `plan.patterns.${p}.spans.${i}`,
            spanDefaults(span, brief.setPointC.value, cabin.openAirChanges.value),
          ),
        ),
      })),
    },
  };
}

interface RunSetting {
  where: "main" | "mains" | Branch["role"];
  rules: RuleSet;
  /** A that the run is sized for, and what of it the fuse or breaker is chosen for. */
  current: number;
  spare: number;
  /** A that the breaker must have for the start to pass it. */
  start: number;
  /** A of the other source's device, which protects what lies behind a transfer switch before a breaker of its own. */
  upstream?: number;
  ambientC: number;
  mains: boolean;
  /** Nominal volts, the highest that its parts see, and the voltage drop allowed, a share of nominal. */
  volts: number;
  highestVoltage: number;
  dropLimit: number;
  /** Smallest copper allowed, mm2. */
  floor: number;
}

/** A that one cable part of `areaMm2` carries where it runs, by the table of its side. */
function cableAmpacity(
  table: AmpacityTable,
  rules: RuleSet,
  part: Part & { kind: "cable" },
  areaMm2: number,
  mains: boolean,
  ambientC: number,
  circuits: number,
): number {
  const { insulation, method, route, terminals } = part;
  return mains
    ? acAmpacity(rules, { areaMm2, insulation, method, route, terminals, circuits }, ambientC).ampacity
    : cableCarries(table, areaMm2, insulation, route, ambientC, circuits);
}

/** Of the voltage drop allowed, what assumed cables may take; the rest is left for fuses, switches and joints. */
const CABLE_SHARE_OF_DROP = 0.7;
/** The same of the main run, which has a fuse, a switch, a shunt and more terminations. */
const MAIN_SHARE_OF_DROP = 0.5;

/**
 * The parts of one run. What protects is settled first, by the run's current and the thinnest cable that somebody
 * entered; then each cable that nobody entered takes the smallest size that its protection lets live and that keeps within
 * the voltage drop allowed.
 */
function resolveParts(rig: Rig, parts: Part[], path: string, run: RunSetting): PartValues[] {
  const table = ampacityTable(rig);
  const sizes = AMPACITY_TABLES[table].sizesMm2;
  const ratings = run.mains ? run.rules.breakers : FUSE_RATINGS;
  const circuitsOf = (part: Part & { kind: "cable" }) =>
    part.circuits?.value ?? (part.route === "bundled" && !run.mains ? 3 : 1);
  const carries = (part: Part & { kind: "cable" }, area: number, count: number) =>
    cableAmpacity(table, run.rules, part, area, run.mains, run.ambientC, circuitsOf(part)) * count;
  const entered = parts.flatMap((part) =>
    part.kind !== "cable"
      ? []
      : part.ampacity
        ? [part.ampacity.value]
        : part.areaMm2
          ? [carries(part, part.areaMm2.value, part.count?.value ?? 1)]
          : [],
  );
  const thinnest = Math.min(...entered, Infinity);
  const asked = Math.max(run.spare * run.current, run.start);
  const wanted = nextOf(ratings, asked);
  const under = run.mains ? (ratings.findLast((rating) => rating <= thinnest) ?? ratings[0]!) : fuseUnder(thinnest);
  const rating: DefaultValue =
    thinnest < wanted
      ? { value: under, why: "the largest that protects the cable" }
      : {
          value: wanted,
          why:
            run.start > run.spare * run.current
              ? "lets the start pass, next size up"
              : run.spare > 1
                ? "125 % of the largest current, next size up"
                : "the largest current, next size up",
        };
  const ratingOf = (part: Part) =>
    part.kind === "fuse" || part.kind === "breaker" ? (part.rating?.value ?? rating.value) : undefined;
  const cables = parts.filter(({ kind }) => kind === "cable").length;
  return parts.map((part, i) => {
    const before = parts
      .slice(0, i)
      .map(ratingOf)
      .findLast((one) => one !== undefined);
    const transfer = parts.findIndex(({ kind }) => kind === "changeover");
    const ownAfter = parts.slice(transfer + 1, i).some((one) => ratingOf(one) !== undefined);
    const other = transfer >= 0 && i > transfer && !ownAfter ? (run.upstream ?? 0) : 0;
    const protectedBy = Math.max(
      other,
      before ??
        (other > 0 ? undefined : parts.map(ratingOf).find((one) => one !== undefined)) ??
        (other > 0 ? 0 : rating.value),
    );
    // Where no single cable carries what protects it, several side by side are assumed: typical parts fit together.
    const size = (): { area: DefaultValue; count: DefaultValue } => {
      const one = { value: 1, why: "one" };
      if (part.kind !== "cable") return { area: { value: 0, why: "" }, count: one };
      const metres = part.length?.value ?? TYPICAL_LENGTH(run.where);
      const allowed =
        ((run.where === "main" ? MAIN_SHARE_OF_DROP : CABLE_SHARE_OF_DROP) * run.dropLimit * run.volts) /
        cables /
        Math.max(Math.min(run.current, protectedBy / run.spare), 0.1);
      const ways = part.ways === "both" ? 2 : 1;
      const counts = part.count ? [part.count.value] : part.areaMm2 || run.mains ? [1] : [1, 2, 3, 4];
      const withinDrop = (area: number, count: number) =>
        ways * cableResistance(area, metres, count, WARM_C) <= allowed;
      let first: { area: number; count: number } | null = null;
      let best: { area: number; count: number } | null = null;
      for (const count of counts) {
        for (const area of sizes) {
          if (area < run.floor * 0.99 || carries(part, area, count) < protectedBy) continue;
          first ??= { area, count };
          if (withinDrop(area, count)) {
            best = { area, count };
            break;
          }
        }
        if (best) break;
      }
      const found = best ?? first ?? { area: sizes[sizes.length - 1]!, count: counts[counts.length - 1]! };
      const byDrop = first !== null && found.area * found.count > first.area * first.count;
      return {
        area: {
          value: found.area,
          why: byDrop
            ? `${areaWords(rig, found.area)} is the smallest within the voltage drop allowed`
            : `${areaWords(rig, found.area)} is the smallest that its fuse or breaker protects`,
        },
        count: found.count > 1 ? { value: found.count, why: "no single one carries it" } : one,
      };
    };
    const cable = size();
    const setting: PartSetting = {
      where: run.where,
      bankVoltage: run.volts,
      highestVoltage: run.highestVoltage,
      mains: run.mains,
      american: MAINS_SYSTEMS[rig.brief.mains].american,
      rating,
      areaMm2: cable.area,
      count: cable.count,
      carries: { value: Math.max(protectedBy, run.mains ? 16 : 100), why: "as its fuse or breaker, or more" },
    };
    return resolveGroup<PartKey>(
      PART_FIELDS[part.kind] as Record<PartKey, FieldSpec>,
      part as unknown as Partial<Record<PartKey, Quantity>>,
      `${path}.${i}`,
      partDefaults(part, setting),
    );
  });
}
/** Copper at work, for assumed sizes. */
const WARM_C = 60;

/** Every resolved quantity of a rig, in the order of its document. */
export function* everyKnown(values: RigValues | object): Generator<ResolvedQuantity> {
  for (const value of Object.values(values) as unknown[]) {
    if (!value || typeof value !== "object") continue;
    if ("origin" in value && "path" in value) yield value as ResolvedQuantity;
    else yield* everyKnown(value);
  }
}

/** Whether anything in the rig needs mains from the inverter. */
export function usesInverter(rig: Rig): boolean {
  return rig.units.some(onMains) || rig.brief.loads.some((load) => load.side === "mains");
}
