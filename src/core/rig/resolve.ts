import { cableCarries } from "../path/ampacity";
import { BREAKER_RATINGS, fuseUnder, nextFuseRating, nextOf } from "../path/fuse";
import { CURE_KEYS, isCharging, isMains, type Branch, type CureKey, type Part, type Rig } from "./document";
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
import { patternsOf } from "../day/plan";
import {
  CABIN_FIELDS,
  CONTROLLER_FIELDS,
  OBSTACLE_FIELDS,
  PANEL_FIELDS,
  PLACE_FIELDS,
  PLAN_FIELDS,
  SOURCE_FIELDS,
  SPAN_FIELDS,
  type CabinKey,
  type ControllerKey,
  type ObstacleKey,
  type PanelKey,
  type PlaceKey,
  type PlanKey,
  type SourceKey,
  type SpanKey,
} from "./day-fields";
import {
  cabinTypicals,
  controllerTypicals,
  OBSTACLE_TYPICALS,
  panelTypicals,
  placeTypicals,
  planTypicals,
  sourceTypicals,
  spanTypicals,
} from "./day-typical";
import type { FieldSpec, Known, Quantity, Typical } from "./quantity";
import {
  ampacityTable,
  areaWords,
  bankTypicals,
  branchTypicals,
  briefTypicals,
  cureTypicals,
  inverterTypicals,
  LINK_LENGTH_TYPICAL,
  linkTypicals,
  LOAD_TYPICALS,
  mainsVoltage,
  partTypicals,
  pathTypicals,
  sizesOf,
  supplyTypicals,
  unitTypicals,
  type OptionalInverterKey,
  type OptionalUnitKey,
  type PartSetting,
} from "./typical";

type Group<K extends string, O extends K = never> = Record<Exclude<K, O>, Known> & Partial<Record<O, Known>>;

/** The quantities that a part of its kind has. */
export type PartValues = Partial<Record<PartKey, Known>>;

export type PathValues = Group<PathKey> & {
  links: Group<LinkKey> & { paths: { length: Known }[] };
  main: PartValues[];
  mains: PartValues[];
  branches: (Group<BranchKey> & { parts: PartValues[] })[];
  measured: Partial<Record<MeasuredKey, Known>>;
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
  cabin: Group<CabinKey, "heatLoss">;
  sources: Group<SourceKey> & {
    panels: Group<PanelKey>[];
    controllers: Group<ControllerKey>[];
    obstacles: Group<ObstacleKey>[];
  };
  plan: Group<PlanKey> & { patterns: { spans: Partial<Record<SpanKey, Known>>[] }[] };
  cures: Record<CureKey, Group<"cost" | "mass">>;
}

function resolveGroup<K extends string>(
  fields: Record<K, FieldSpec>,
  entered: Partial<Record<K, Quantity>>,
  path: string,
  typicals: Partial<Record<K, (need: (key: K) => number) => Typical>>,
): Record<K, Known> {
  const known = {} as Record<K, Known>;
  const settle = (key: K): Known | undefined => {
    if (known[key]) return known[key];
    const { label, dimension } = fields[key];
    const given = entered[key];
    const typical = typicals[key];
    if (given) {
      known[key] = { path: `${path}.${key}`, label, dimension, ...given, why: "", entered: true };
    } else if (typical) {
      const { value, why } = typical((other) => settle(other)!.value);
      known[key] = { path: `${path}.${key}`, label, dimension, value, origin: "assumed", why, entered: false };
    }
    return known[key];
  };
  (Object.keys(fields) as K[]).forEach(settle);
  return known;
}

/** Fills every gap of a rig with its typical value. Pure; a valid document always resolves. */
export function resolveRig(rig: Rig): RigValues {
  const brief = resolveGroup(BRIEF_FIELDS, rig.brief, "brief", briefTypicals(rig));
  const bank = resolveGroup(BANK_FIELDS, rig.bank, "bank", bankTypicals(rig));
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const loads = rig.brief.loads.map((load, i) => resolveGroup(LOAD_FIELDS, load, `brief.loads.${i}`, LOAD_TYPICALS));
  const units = rig.units.map((unit, i) =>
    resolveGroup(UNIT_FIELDS, unit, `units.${i}`, unitTypicals(rig, unit, bankVoltage)),
  );
  const sum = (list: number[]) => list.reduce((total, one) => total + one, 0);
  const dcPower = sum(rig.brief.loads.map((load, i) => (load.side === "dc" ? loads[i]!.power.value : 0)));
  const branchGroups = rig.path.branches.map((branch, i) =>
    resolveGroup(
      BRANCH_FIELDS,
      branch,
      `path.branches.${i}`,
      branchTypicals(rig, branch, {
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
    sum(rig.units.map((unit, i) => (unit.kind === "dc" ? 0 : units[i]!.ratedPower.value))) +
    sum(rig.brief.loads.map((load, i) => (load.side === "mains" ? loads[i]!.power.value : 0)));
  const inverterFields = inverterTypicals(rig, bankVoltage, brief.outdoorC.value, {
    acPower,
    chargingPower: sum(charging),
    ventArea: rig.inverter.ventArea?.value,
  });
  const inverter = resolveGroup(INVERTER_FIELDS, rig.inverter, "inverter", inverterFields);
  // The path is sized by what the machine at its end can draw: the inverter, and units that run straight from the bank.
  const direct = sum(rig.units.map((unit, i) => (unit.kind === "dc" ? units[i]!.ratedPower.value : 0)));
  const made = usesInverter(rig) ? inverter.rating.value * inverter.count.value : 0;

  const group = resolveGroup(PATH_FIELDS, rig.path, "path", pathTypicals(brief.outdoorC.value));
  const ambientC = group.ambientC.value;
  const dc = (path: string, parts: Part[], where: PartSetting["where"], current: number) =>
    resolveParts(rig, parts, path, { where, bankVoltage, current, ambientC, mains: false });
  const ac = (path: string, parts: Part[], where: PartSetting["where"], current: number) =>
    resolveParts(rig, parts, path, { where, bankVoltage, current, ambientC, mains: true });
  const main = dc("path.main", rig.path.main, "main", (direct + made / 0.9) / (0.9 * bankVoltage));
  const mainArea = Math.max(...main.map((part) => part.areaMm2?.value ?? 0), 0);
  const { links, measured } = rig.path;
  const leads = links.layout === "busbars" || rig.bank.build === "cells" ? 0 : Math.min(24, bank.parallel.value);
  const path: PathValues = {
    ...group,
    links: {
      ...resolveGroup(LINK_FIELDS, links, "path.links", linkTypicals(mainArea || 50)),
      paths: Array.from({ length: links.layout === "own-leads" ? leads : Math.max(0, leads - 1) }, (_, i) =>
        resolveGroup(LINK_PATH_FIELDS, links.paths[i] ?? {}, `path.links.paths.${i}`, { length: LINK_LENGTH_TYPICAL }),
      ),
    },
    main,
    mains: ac("path.mains", rig.path.mains, "mains", made / mainsVoltage(rig)),
    branches: rig.path.branches.map((branch, i) => {
      const settle = isMains(branch) ? ac : dc;
      const at = `path.branches.${i}`;
      const current = branchGroups[i]!.current.value;
      return { ...branchGroups[i]!, parts: settle(`${at}.parts`, branch.parts, branch.role, current) };
    }),
    measured: resolveGroup(MEASURED_FIELDS, measured, "path.measured", {}),
  };
  return {
    brief,
    loads,
    units,
    bank,
    inverter,
    path,
    supplies: resolveGroup(SUPPLY_FIELDS, rig.supplies, "supplies", supplyTypicals(rig)),
    ...resolveDay(rig, { brief, loads, bank, branches: path.branches }),
    cures: Object.fromEntries(
      CURE_KEYS.map((key) => [key, resolveGroup(CURE_FIELDS, rig.cures[key] ?? {}, `cures.${key}`, cureTypicals(key))]),
    ) as RigValues["cures"],
  };
}

/** Place, cabin, sources and plan. */
function resolveDay(
  rig: Rig,
  { brief, loads, bank, branches }: Pick<RigValues, "brief" | "loads" | "bank"> & { branches: Group<BranchKey>[] },
): Pick<RigValues, "place" | "cabin" | "sources" | "plan"> {
  const place = resolveGroup(PLACE_FIELDS, rig.place, "place", placeTypicals(rig));
  const average = loads.reduce((sum, { power, share }) => sum + power.value * share.value, 0);
  const cabin = resolveGroup(CABIN_FIELDS, rig.cabin, "cabin", cabinTypicals(rig, average));
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const runs = (role: Branch["role"]) =>
    rig.path.branches.reduce((sum, branch, i) => (branch.role === role ? sum + branches[i]!.current.value : sum), 0);
  const source = resolveGroup(
    SOURCE_FIELDS,
    rig.sources,
    "sources",
    sourceTypicals(
      rig,
      { length: cabin.length.value, width: cabin.width.value },
      { engine: runs("engine"), charger: runs("charger"), shore: runs("shore") },
    ),
  );
  // Panels nobody placed lie in rows from the front, as a fitter would set them out.
  let [x, y, row] = [0.1, 0.05, 0];
  const panels = rig.sources.panels.map((panel, i) => {
    const settle = (at: { x: number; y: number }) =>
      resolveGroup(PANEL_FIELDS, panel, `sources.panels.${i}`, panelTypicals(panel, place.latitude.value, at));
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
    place,
    cabin,
    sources: {
      ...source,
      panels,
      controllers: rig.sources.controllers.map((controller, i) =>
        resolveGroup(CONTROLLER_FIELDS, controller, `sources.controllers.${i}`, controllerTypicals(limit)),
      ),
      obstacles: rig.sources.obstacles.map((obstacle, i) =>
        resolveGroup(OBSTACLE_FIELDS, obstacle, `sources.obstacles.${i}`, OBSTACLE_TYPICALS),
      ),
    },
    plan: {
      ...resolveGroup(PLAN_FIELDS, rig.plan, "plan", planTypicals(rig, bankWh)),
      patterns: patternsOf(rig, brief.hoursWanted.value).map(({ spans }, p) => ({
        spans: spans.map((span, i) =>
          resolveGroup<SpanKey>(
            SPAN_FIELDS,
            span as Partial<Record<SpanKey, Quantity>>,
            `plan.patterns.${p}.spans.${i}`,
            spanTypicals(span, brief.setPointC.value, cabin.openAirChanges.value),
          ),
        ),
      })),
    },
  };
}

interface RunSetting {
  where: "main" | "mains" | Branch["role"];
  bankVoltage: number;
  /** A that the run is sized for. */
  current: number;
  ambientC: number;
  mains: boolean;
}

/**
 * The parts of one run. What protects is settled first, by the run's current and the thinnest cable that somebody
 * entered; then each cable that nobody entered takes the smallest size that its protection lets live.
 */
function resolveParts(rig: Rig, parts: Part[], path: string, run: RunSetting): PartValues[] {
  const table = ampacityTable(rig);
  const sizes = sizesOf(rig);
  const ratings = BREAKER_RATINGS[rig.brief.mains === "120V60Hz" ? "120" : "230"];
  const carries = (part: Part & { kind: "cable" }, area: number, count: number) =>
    cableCarries(table, area, part.insulation, part.route, run.ambientC) * count;
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
  const wanted = run.mains ? nextOf(ratings, run.current) : nextFuseRating(1.25 * run.current);
  const under = run.mains ? (ratings.findLast((rating) => rating <= thinnest) ?? ratings[0]!) : fuseUnder(thinnest);
  const rating: Typical =
    thinnest < wanted
      ? { value: under, why: "the largest that protects the cable" }
      : {
          value: wanted,
          why: run.mains ? "the largest current, next size up" : "125 % of the largest current, next size up",
        };
  const ratingOf = (part: Part) =>
    part.kind === "fuse" || part.kind === "breaker" ? (part.rating?.value ?? rating.value) : undefined;
  return parts.map((part, i) => {
    const before = parts
      .slice(0, i)
      .map(ratingOf)
      .findLast((one) => one !== undefined);
    const protectedBy = before ?? parts.map(ratingOf).find((one) => one !== undefined) ?? rating.value;
    // Where no single cable carries what protects it, several side by side are assumed: typical parts fit together.
    const size = (): { area: Typical; count: Typical } => {
      const one = { value: 1, why: "one" };
      if (part.kind !== "cable") return { area: { value: 0, why: "" }, count: one };
      const floor = run.mains ? MAINS_SMALLEST_MM2 : 0;
      const counts = part.count ? [part.count.value] : part.areaMm2 ? [1] : [1, 2, 3];
      const options = counts.flatMap((count) => sizes.filter((area) => area >= floor).map((area) => ({ area, count })));
      const { area, count } =
        options.find((option) => carries(part, option.area, option.count) >= protectedBy) ??
        options[options.length - 1]!;
      return {
        area: { value: area, why: `${areaWords(rig, area)} is the smallest that its fuse or breaker protects` },
        count: count > 1 ? { value: count, why: "no single one carries it" } : one,
      };
    };
    const cable = size();
    const setting: PartSetting = {
      where: run.where,
      bankVoltage: run.bankVoltage,
      rating,
      areaMm2: cable.area,
      count: cable.count,
      carries: { value: Math.max(protectedBy, run.mains ? 16 : 100), why: "as its fuse or breaker, or more" },
    };
    return resolveGroup<PartKey>(
      PART_FIELDS[part.kind] as Record<PartKey, FieldSpec>,
      part as unknown as Partial<Record<PartKey, Quantity>>,
      `${path}.${i}`,
      partTypicals(part, setting),
    );
  });
}
const MAINS_SMALLEST_MM2 = 2.5;

/** Every resolved quantity of a rig, in the order of its document. */
export function* everyKnown(values: RigValues | object): Generator<Known> {
  for (const value of Object.values(values) as unknown[]) {
    if (!value || typeof value !== "object") continue;
    if ("origin" in value && "path" in value) yield value as Known;
    else yield* everyKnown(value);
  }
}

/** Whether anything in the rig needs mains from the inverter. */
export function usesInverter(rig: Rig): boolean {
  return rig.units.some((unit) => unit.kind !== "dc") || rig.brief.loads.some((load) => load.side === "mains");
}
