import type { Rig } from "./document";
import { BANK_FIELDS, BRIEF_FIELDS, INVERTER_FIELDS, LOAD_FIELDS, PATH_FIELDS, UNIT_FIELDS } from "./fields";
import type { FieldSpec } from "./quantity";

const GROUPS: Record<string, Record<string, FieldSpec>> = {
  brief: BRIEF_FIELDS,
  bank: BANK_FIELDS,
  inverter: INVERTER_FIELDS,
  path: PATH_FIELDS,
};

/** The field that a dotted path of the document names, or undefined where it is not a quantity. */
export function fieldAt(path: string): FieldSpec | undefined {
  const steps = path.split(".");
  const key = steps[steps.length - 1]!;
  if (steps[0] === "units") return (UNIT_FIELDS as Record<string, FieldSpec>)[key];
  if (steps[1] === "loads") return (LOAD_FIELDS as Record<string, FieldSpec>)[key];
  return GROUPS[steps[0]!]?.[key];
}

const WORDS: Record<string, string> = {
  name: "Name",
  place: "Place",
  month: "Month",
  mains: "Mains system",
  wording: "Customer's words",
  stance: "Hours judged by",
  loads: "Other loads",
  aboard: "Already on board",
  units: "Air conditioners",
  chemistry: "Chemistry",
  build: "Built from",
  kind: "Kind",
  cure: "Cure",
  learned: "Soft starter learned",
  fanBetween: "Fan between cycles",
  type: "Inverter kind",
  waveform: "Waveform",
  startOrder: "Starting order",
  fuseKind: "Fuse kind",
  insulation: "Insulation",
  route: "Route",
  temperature: "Temperatures in",
  cable: "Cables in",
  length: "Lengths in",
  side: "Fed from",
  atStart: "On at a start",
  fate: "Stays or goes",
};

/** A dotted path in the words of the sheet: "Front roof unit: Running current". */
export function labelOfPath(rig: Rig, path: string): string {
  const steps = path.split(".");
  const own = fieldAt(path)?.label ?? WORDS[steps[steps.length - 1]!] ?? path;
  const owner =
    steps[0] === "units"
      ? rig.units[Number(steps[1])]?.name
      : steps[1] === "loads"
        ? rig.brief.loads[Number(steps[2])]?.name
        : undefined;
  return owner && steps.length > 2 ? `${owner}: ${own}` : own;
}
