import { ruleSetOf } from "./defaults";
import type { Part, Job } from "./schema";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  START_AID_FIELDS,
  INVERTER_FIELDS,
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  LOAD_FIELDS,
  MEASURED_FIELDS,
  PART_FIELDS,
  WIRING_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type PartKind,
} from "./fields";
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
} from "./day-fields";
import { valueAt } from "./compare";
import {
  ANY,
  fits,
  groupOf,
  isWithin,
  keyOf,
  PART_PLACES,
  stepsOf,
  type JobGroup,
  type JobPath,
  type Pattern,
  type Step,
} from "./path";
import { runsOf } from "./run-titles";
import type { FieldSpec } from "../units/known";

const PARTS = Object.assign({}, ...Object.values(PART_FIELDS)) as Record<string, FieldSpec>;

/** Field tables by where their fields are. */
const TABLES: readonly [place: Pattern, fields: Record<string, FieldSpec>][] = [
  [["units", ANY], UNIT_FIELDS],
  [["brief", "loads", ANY], LOAD_FIELDS],
  [["brief"], BRIEF_FIELDS],
  [["bank"], BANK_FIELDS],
  [["inverter"], INVERTER_FIELDS],
  [["wiring", "links", "paths", ANY], LINK_PATH_FIELDS],
  [["wiring", "links"], LINK_FIELDS],
  [["wiring", "measured"], MEASURED_FIELDS],
  ...PART_PLACES.map((place) => [place, PARTS] as [Pattern, Record<string, FieldSpec>]),
  [["wiring", "branches", ANY], BRANCH_FIELDS],
  [["wiring"], WIRING_FIELDS],
  [["supplies"], SUPPLY_FIELDS],
  [["place"], PLACE_FIELDS],
  [["weather"], WEATHER_FIELDS],
  [["cabin"], CABIN_FIELDS],
  [["sources", "panels", ANY], PANEL_FIELDS],
  [["sources", "controllers", ANY], CONTROLLER_FIELDS],
  [["sources", "obstacles", ANY], OBSTACLE_FIELDS],
  [["sources"], SOURCE_FIELDS],
  [["plan", "patterns", ANY, "spans", ANY], SPAN_FIELDS],
  [["plan"], PLAN_FIELDS],
  [["startAids", ANY], START_AID_FIELDS],
];

/** Tables looked up once for each place, whatever its rows' numbers. */
const tableOf = new Map<string, Record<string, FieldSpec> | null>();
const NUMBERS = /\d+/g;

/**
 * The field that a path of the document names, or undefined where it is not a quantity. A part's key may mean different
 * things by its kind: with the part at hand its own field is given.
 */
export function fieldAt(path: JobPath, part?: Part): FieldSpec | undefined {
  const key = keyOf(path);
  const place = path.slice(0, -String(key).length - 1);
  const pattern = place.replace(NUMBERS, "#");
  let table = tableOf.get(pattern);
  if (table === undefined) {
    const steps = stepsOf(place);
    table = TABLES.find(([fields]) => fits(fields, steps))?.[1] ?? null;
    tableOf.set(pattern, table);
  }
  const own = part && table === PARTS ? (PART_FIELDS[part.kind] as Record<string, FieldSpec>)[key] : undefined;
  return own ?? table?.[key];
}

/** The part that a path leads into, or undefined. */
export function partAt(job: Job, path: JobPath): Part | undefined {
  if (!path.startsWith("wiring.")) return undefined;
  const steps: readonly Step[] = stepsOf(path);
  const place = PART_PLACES.find((pattern) => fits(pattern, steps.slice(0, pattern.length)));
  return place && (valueAt(job, steps.slice(0, place.length)) as Part | undefined);
}

const KIND_WORDS: Record<PartKind, string> = {
  cable: "Cable",
  fuse: "Fuse",
  isolator: "Isolator",
  shunt: "Shunt",
  busbar: "Busbar",
  joints: "Terminations",
  breaker: "Breaker",
  changeover: "Transfer switch",
  rcd: "RCD",
  inlet: "Inlet",
  connector: "Connector",
};

const WORDS: Record<string, string> = {
  name: "Name",
  place: "Place",
  month: "Month",
  mains: "Mains system",
  wording: "Customer's words",
  stance: "Run time based on",
  loads: "Other loads",
  aboard: "Already on board",
  units: "Air conditioners",
  chemistry: "Chemistry",
  build: "Built from",
  kind: "Kind",
  startAid: "Start aid",
  learned: "Soft starter learned",
  fanBetween: "Fan between cycles",
  type: "Inverter kind",
  waveform: "Waveform",
  startOrder: "Starting order",
  fuseKind: "Fuse kind",
  route: "Route",
  temperature: "Temperatures in",
  cable: "Cables in",
  length: "Lengths in",
  side: "Fed from",
  atStart: "On during a start",
  fate: "Stays or goes",
  currency: "Prices in",
  cooling: "Cooling capacity in",
  table: "Ampacity table",
  layout: "Links between batteries",
  paths: "Link lengths",
  main: "Battery to inverter",
  parts: "Parts",
  branches: "Other circuits",
  ways: "Counted",
  role: "Role",
  unitId: "Unit that it feeds",
  coupling: "Coupled by",
  control: "Switched by",
  fedFrom: "Charger fed from",
  converter: "Converter",
  frostBlock: "Charging blocked in frost",
  generatorKind: "Generator kind",
  shelf: "Parts shelf entry",
  capture: "Captured start",
  condenser: "Condenser",
  listed: "Listed place",
  timeZone: "Time zone",
  weather: "Weather",
  seed: "Random seed",
  file: "Weather file",
  hours: "Weather file",
  insulation: "Insulation",
  colour: "Colour",
  glazing: "Glazing",
  blinds: "Blinds",
  cab: "Driver's cab",
  cabCovers: "Covers on the cab's windows",
  inverterInside: "Inverter in the cabin",
  panels: "Panels",
  controllers: "Solar controllers",
  obstacles: "On the roof",
  mount: "Mounted",
  controllerId: "Controller",
  shadeByHour: "Shade by hour",
  start: "First day",
  days: "Days",
  patterns: "Days of the plan",
  week: "Week",
  spans: "Plan of the day",
  from: "From",
  minutes: "Length",
  mode: "Mode",
  ruleSet: "Rule set",
  leg: "Leg",
  output: "Output to the legs",
  neutrals: "Neutrals",
  leads: "Leads of several inverters",
  neutralBond: "Neutral bond",
  above60: "Touch protection above 60 V DC",
  combined: "Inverter-charger",
  assist: "Assist",
  fuses: "Fuse of each battery",
  generatorAuto: "Generator starts by itself",
  generatorBond: "Generator's neutral bond",
  far: "Supply side",
  method: "Installation method",
  terminals: "Terminals",
  curve: "Curve",
  residualType: "Residual current type",
  poles: "Poles",
  stringFuses: "String fuses",
  asleep: "Asleep",
  idle: "At idle",
};

const nameOfPart = (job: Job, part: Part): string =>
  part.name.trim() || (part.kind === "rcd" ? ruleSetOf(job).residualName : KIND_WORDS[part.kind]);

/** A part by its name, and by its run where another run has one of the same name. */
function partInItsRun(job: Job, part: Part, path: JobPath): string {
  const name = nameOfPart(job, part);
  const named = runsOf(job).filter(({ parts }) => parts.some((one) => nameOfPart(job, one) === name));
  const run = named.find((one) => isWithin(path, one.path));
  return run && named.length > 1 ? `${run.title}, ${name}` : name;
}

/** What the row is called that a path leads into, where it is one of several alike. */
function ownerOf(job: Job, path: JobPath): string | undefined {
  const part = partAt(job, path);
  if (part) return partInItsRun(job, part, path);
  const steps = stepsOf(path);
  switch (steps[0]) {
    case "units":
      return steps[1] === undefined ? undefined : job.units[steps[1]]?.name;
    case "brief":
      return steps[1] === "loads" && steps[2] !== undefined ? job.brief.loads[steps[2]]?.name : undefined;
    case "wiring":
      if (steps[1] === "branches") return steps[2] === undefined ? undefined : job.wiring.branches[steps[2]]?.name;
      return steps[1] === "links" && steps[2] === "paths" && steps[3] !== undefined
        ? `Battery ${steps[3] + 1}`
        : undefined;
    case "sources":
      return steps[3] === undefined
        ? undefined
        : (valueAt(job, steps.slice(0, 3)) as { name?: string } | undefined)?.name;
    case "plan":
      return steps[1] === "patterns" && steps[3] !== undefined ? job.plan.patterns[steps[2]]?.name : undefined;
    default:
      return undefined;
  }
}

/** What there is one of: its fields are named with it where their own words do not say whose they are. */
const ONLY_ONE: Partial<Record<JobGroup, string>> = { bank: "Battery", inverter: "Inverter" };

/** A path in the words of the sheet: "Front roof unit: Running current", "Battery: Resistance, each". */
export function labelOfPath(job: Job, path: JobPath): string {
  const own = fieldAt(path, partAt(job, path))?.label ?? WORDS[keyOf(path)] ?? path;
  const only = ONLY_ONE[groupOf(path)];
  if (only) return own.toLowerCase().includes(only.toLowerCase()) ? own : `${only}: ${own}`;
  const owner = ownerOf(job, path);
  return owner && stepsOf(path).length > 2 ? `${owner}: ${own}` : own;
}
