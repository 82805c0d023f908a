import type { RunPath } from "../../document/path";
import { isMains, type Branch, type Part, type Job } from "../../document/schema";
import type { PartKind } from "../../document/fields";
import type { AmpacityTable } from "../../reference/conductors/ampacity";
import { ampacityTable, ruleSetOf } from "../../document/defaults";
import { Kept } from "../../document/kept";
import type { RuleSet } from "../../reference/standards/rule-set";
import type { ResolvedQuantity } from "../../units/known";
import { constant, of, traced, type TracedValue } from "../../units/trace";
import { arrayOf, controllerOfBranch, farSideOf, NO_ARRAY, type FarSide, type PanelArray } from "../../document/sides";
import { cableAmpacity } from "./ampacity";
import { isKind, LETTERS, partWords, type NamedPart } from "./part";
import { measuredResistance, partResistance } from "./resistance";
import { usesInverter } from "../../document/resolve-wiring";
import { farTitle, mainTitle, MAINS_TITLE } from "../../document/run-titles";
import type { PartValues, JobValues } from "../../document/resolved";

/** One part of a run with what follows from it. */
export interface WiringPart extends NamedPart {
  /** Designation on the plan: F1, W2. */
  mark: string;
  /** Ohm, there and back where that is how it is counted; of runs side by side, what all of them together have. */
  resistance: number;
  resistanceFigure: TracedValue | null;
  /** A that a cable may carry where it runs. */
  ampacity: TracedValue | null;
}

/** Parts in series, from the battery (or the change-over, or the inverter) outward. */
export interface Circuit {
  key: string;
  title: string;
  path: RunPath;
  mains: boolean;
  branch: Branch | null;
  /** Where the branch stands among those of the document; null without one. */
  branchIndex: number | null;
  /** The other side of the branch's converter, charger or controller, with what feeds it; null on the battery's side. */
  far: FarSide | null;
  /** The solar array of the branch. */
  array: PanelArray | null;
  /** Equal runs side by side that share the current: one for each of several inverters. */
  lanes: number;
  parts: WiringPart[];
  resistance: number;
  resistanceFigure: TracedValue;
}

export interface WiringModel {
  main: Circuit;
  mains: Circuit;
  /** The battery's side of each branch, in the order of the document. */
  branches: Circuit[];
  /** The far sides of the branches that have one. */
  far: Circuit[];
  rules: RuleSet;
  /** Ohm from the battery's terminals to the far end: measured where it was, else the sum of the parts. */
  resistance: number;
  resistanceFigure: TracedValue;
  /** Ohm that a measurement found over what the parts should be; negative where it found less. */
  excess: number | null;
  /** The fuse of the main run with the lowest rating. */
  fuse: WiringPart | null;
  /** A; zero where there is no fuse. */
  fuseRating: number;
}

/** Every run that parts stand in, the mains side only where there is one. */
export const allCircuits = (wiring: WiringModel, converted = true): Circuit[] => [
  wiring.main,
  ...(converted ? [wiring.mains] : []),
  ...wiring.branches,
  ...wiring.far,
];

/** What one circuit is made from: where it stands in the document, its parts with their values, and its branch if it has one. */
interface CircuitSource extends Partial<Pick<Circuit, "branch" | "branchIndex" | "far" | "array" | "lanes">> {
  key: string;
  title: string;
  path: RunPath;
  parts: Part[];
  values: PartValues[];
}

interface WiringContext {
  job: Job;
  values: JobValues;
  rules: RuleSet;
  table: AmpacityTable;
  kept: Kept;
  /** The next free designation of a kind of part. */
  nextMark: (kind: PartKind) => string;
}

/** Gives each part of the job the next number of its letter, in the order in which the circuits are made. */
function designations(): (kind: PartKind) => string {
  const counts: Record<string, number> = {};
  return (kind) => {
    const letter = LETTERS[kind];
    counts[letter] = (counts[letter] ?? 0) + 1;
    return `${letter}${counts[letter]}`;
  };
}

/** A part with what follows from it and from where it is. */
function partOfCircuit({ lanes, mark, ambient, table, rules, mains, ...one }: PartSource): WiringPart {
  const resistance = partResistance(one);
  const { part, values, path, name } = one;
  return {
    part,
    values,
    path,
    name,
    mark,
    resistance: (resistance?.value ?? 0) / lanes,
    resistanceFigure: resistance,
    ampacity: isKind(part, "cable") ? cableAmpacity({ ...one, part }, { ambient, table, rules, mains }) : null,
  };
}

interface PartSource extends NamedPart {
  mark: string;
  lanes: number;
  ambient: ResolvedQuantity;
  table: AmpacityTable;
  rules: RuleSet;
  mains: boolean;
}

function circuitOf(context: WiringContext, source: CircuitSource): Circuit {
  const { values, rules, table, kept, nextMark } = context;
  const { key, title, path, branch = null, branchIndex = null, far = null, array = null, lanes = 1 } = source;
  const mains = far ? far.mains : key === "mains" || (branch !== null && isMains(branch));
  const parts = source.parts.map((part, i): WiringPart => {
    const mark = nextMark(part.kind);
    const name = `${part.name.trim() || partWords(part, rules)} ${mark}`;
    const named = { values: source.values[i]!, path: `${path}.${i}` as const, name };
    const where = { ambient: values.wiring.ambientC, table, rules, mains };
    return kept.take(named.path, { part, ...named, mark, lanes, ...where }, partOfCircuit);
  });
  const resistanceFigure = resistanceInSeries(path, title, parts, lanes);
  const resistance = resistanceFigure.value;
  return { key, title, path, mains, branch, branchIndex, far, array, lanes, parts, resistance, resistanceFigure };
}

/** The parts of a circuit in series; where equal circuits stand side by side, all of them together. */
function resistanceInSeries(path: RunPath, title: string, parts: WiringPart[], lanes: number): TracedValue {
  const counted = parts.filter((one) => one.resistanceFigure);
  const sum = counted.map((_, i) => `R_${i + 1}`).join(" + ") || "0";
  return traced({
    key: `${path}.resistance`,
    name: `${title}, its parts`,
    dimension: "resistance",
    value: counted.reduce((total, one) => total + one.resistance, 0),
    relation: lanes > 1 ? `R = (${sum}) ÷ m` : `R = ${sum}`,
    terms: () => [
      ...counted.map((one, i) => of(`R_${i + 1}`, one.resistanceFigure!)),
      ...(lanes > 1 ? [constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter")] : []),
    ],
    source: "parts in series",
  });
}

/** The battery's side of each branch, and the far sides of those that have one. */
function branchCircuits(context: WiringContext): { branches: Circuit[]; far: Circuit[] } {
  const { job, values, rules } = context;
  const { panels, lowestC } = values.sources;
  const chargeToVoltage = Math.max(
    values.bank.chargeToVoltage.value,
    values.bank.blockVoltage.value * values.bank.series.value,
  );
  const far: Circuit[] = [];
  const branches = job.wiring.branches.map((branch, branchIndex) => {
    const v = values.wiring.branches[branchIndex]!;
    const array =
      branch.role === "solar" ? arrayOf(job, panels, lowestC.value, controllerOfBranch(job, branchIndex)) : null;
    const side = farSideOf({ job, branch, values: v, chargeToVoltage, rules, array: array ?? NO_ARRAY });
    const path = `wiring.branches.${branchIndex}` as const;
    if (side)
      far.push(
        circuitOf(context, {
          key: `${branch.id}-far`,
          title: farTitle(branch),
          path: `${path}.far`,
          parts: branch.far,
          values: v.far,
          branch,
          branchIndex,
          far: side,
          array,
        }),
      );
    return circuitOf(context, {
      key: branch.id,
      title: branch.name,
      path: `${path}.parts`,
      parts: branch.parts,
      values: v.parts,
      branch,
      branchIndex,
      array,
    });
  });
  return { branches, far };
}

/** The circuits of a job: their resistances, and what their cables may carry. `kept`: what was made for a system that it is like. */
export function wiringModel(job: Job, values: JobValues, kept = new Kept()): WiringModel {
  const shared = { rules: ruleSetOf(job), table: ampacityTable(job), kept };
  const context: WiringContext = { job, values, ...shared, nextMark: designations() };
  const converted = usesInverter(job);
  const lanes = converted && job.inverter.leads === "own" ? Math.max(1, values.inverter.count.value) : 1;
  const main = circuitOf(context, {
    key: "main",
    title: mainTitle(job),
    path: "wiring.main",
    parts: job.wiring.main,
    values: values.wiring.main,
    lanes,
  });
  const mains = circuitOf(context, {
    key: "mains",
    title: MAINS_TITLE,
    path: "wiring.mains",
    parts: job.wiring.mains,
    values: values.wiring.mains,
  });
  const measured = measuredResistance(values.wiring.measured);
  const fuses = main.parts.filter(({ part }) => part.kind === "fuse");
  const fuse = fuses.reduce<WiringPart | null>(
    (least, one) => (!least || one.values.rating!.value < least.values.rating!.value ? one : least),
    null,
  );
  return {
    main,
    mains,
    ...branchCircuits(context),
    rules: context.rules,
    resistance: measured?.value ?? main.resistance,
    resistanceFigure: measured ?? main.resistanceFigure,
    excess: measured ? measured.value - main.resistance : null,
    fuse,
    fuseRating: (fuse?.values.rating!.value ?? 0) * lanes,
  };
}

/** The fuse or breaker that protects the part at `index`: the nearest before it, else the nearest after; null without any. */
export function protectorOf(circuit: Circuit, index: number): WiringPart | null {
  const protects = ({ part }: WiringPart) => part.kind === "fuse" || part.kind === "breaker";
  return circuit.parts.slice(0, index).findLast(protects) ?? circuit.parts.slice(index).find(protects) ?? null;
}

/** Metres of cable, one way, among some parts. */
export function cableLength(parts: WiringPart[]): number {
  return parts.reduce((sum, { values, part }) => sum + (part.kind === "cable" ? values.length!.value : 0), 0);
}
