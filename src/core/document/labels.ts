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
import { segmentsOf } from "./path";
import type { FieldSpec } from "../units/known";

const PARTS = Object.assign({}, ...Object.values(PART_FIELDS)) as Record<string, FieldSpec>;

/** Field tables by the form of the path, `*` for a number or id; the first that fits holds the field. */
const TABLES: [pattern: RegExp, fields: Record<string, FieldSpec>][] = [
  [/^units\.\d+\.\w+$/, UNIT_FIELDS],
  [/^brief\.loads\.\d+\.\w+$/, LOAD_FIELDS],
  [/^brief\.\w+$/, BRIEF_FIELDS],
  [/^bank\.\w+$/, BANK_FIELDS],
  [/^inverter\.\w+$/, INVERTER_FIELDS],
  [/^wiring\.links\.paths\.\d+\.\w+$/, LINK_PATH_FIELDS],
  [/^wiring\.links\.\w+$/, LINK_FIELDS],
  [/^wiring\.measured\.\w+$/, MEASURED_FIELDS],
  [/^wiring\.(?:main|mains|branches\.\d+\.(?:parts|far))\.\d+\.\w+$/, PARTS],
  [/^wiring\.branches\.\d+\.\w+$/, BRANCH_FIELDS],
  [/^wiring\.\w+$/, WIRING_FIELDS],
  [/^supplies\.\w+$/, SUPPLY_FIELDS],
  [/^place\.\w+$/, PLACE_FIELDS],
  [/^weather\.\w+$/, WEATHER_FIELDS],
  [/^cabin\.\w+$/, CABIN_FIELDS],
  [/^sources\.panels\.\d+\.\w+$/, PANEL_FIELDS],
  [/^sources\.controllers\.\d+\.\w+$/, CONTROLLER_FIELDS],
  [/^sources\.obstacles\.\d+\.\w+$/, OBSTACLE_FIELDS],
  [/^sources\.\w+$/, SOURCE_FIELDS],
  [/^plan\.patterns\.\d+\.spans\.\d+\.\w+$/, SPAN_FIELDS],
  [/^plan\.\w+$/, PLAN_FIELDS],
  [/^startAids\.[\w-]+\.\w+$/, START_AID_FIELDS],
];

/**
 * The field that a dotted path of the document names, or undefined where it is not a quantity. A part's key may mean
 * different things by its kind: with the part at hand its own field is given.
 */
export function fieldAt(path: string, part?: Part): FieldSpec | undefined {
  const key = path.slice(path.lastIndexOf(".") + 1);
  const table = TABLES.find(([pattern]) => pattern.test(path))?.[1];
  const own = part && table === PARTS ? (PART_FIELDS[part.kind] as Record<string, FieldSpec>)[key] : undefined;
  return own ?? table?.[key];
}

/** The part that a path leads into, or undefined. */
export function partAt(job: Job, path: string): Part | undefined {
  const found = /^wiring\.(?:main|mains|branches\.\d+\.(?:parts|far))\.\d+/.exec(path);
  return found ? (valueAt(job, found[0]) as Part | undefined) : undefined;
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

/** A dotted path in the words of the sheet: "Front roof unit: Running current". */
export function labelOfPath(job: Job, path: string): string {
  const steps = segmentsOf(path);
  const part = partAt(job, path);
  const own = fieldAt(path, part)?.label ?? WORDS[steps[steps.length - 1]!] ?? path;
  const owner = part
    ? part.name.trim() || (part.kind === "rcd" ? ruleSetOf(job).residualName : KIND_WORDS[part.kind])
    : steps[0] === "units"
      ? job.units[Number(steps[1])]?.name
      : steps[1] === "loads"
        ? job.brief.loads[Number(steps[2])]?.name
        : steps[1] === "branches"
          ? job.wiring.branches[Number(steps[2])]?.name
          : (steps[1] === "paths" || steps[2] === "paths") && steps.length > 3
            ? `Battery ${Number(steps[3]) + 1}`
            : steps[0] === "sources" && steps.length > 3
              ? (valueAt(job, steps.slice(0, 3).join(".")) as { name?: string } | undefined)?.name
              : steps[1] === "patterns" && steps.length > 3
                ? job.plan.patterns[Number(steps[2])]?.name
                : undefined;
  return owner && steps.length > 2 ? `${owner}: ${own}` : own;
}
