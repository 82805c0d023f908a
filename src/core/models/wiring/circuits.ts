import { isMains, type Branch, type Part, type PartOf, type Rig } from "../../document/schema";
import type { PartKind } from "../../document/fields";
import { usesInverter, type PartValues, type RigValues } from "../../document/resolve";
import { ampacityTable, ruleSetOf } from "../../document/defaults";
import { acAmpacity } from "../../reference/standards/ac-cable";
import type { RuleSet } from "../../reference/standards/rule-set";
import { constant, given, of, record, type TracedValue, type Trace } from "../../units/trace";
import { AMPACITY_TABLES, ambientFactor, routeFactor, tableAmpacity } from "../../reference/conductors/ampacity";
import { cableResistance, cableResistancePerMetre, COPPER_ALPHA } from "../../reference/conductors/cable";
import { FUSE_KINDS } from "../../reference/conductors/fuse";
import { arrayOf, controllerOfBranch, farSideOf, NO_ARRAY, type FarSide, type PanelArray } from "../../document/sides";

/** One part of a run with what follows from it. */
export interface WiringPart {
  part: Part;
  values: PartValues;
  /** Path of the part in the document. */
  path: string;
  /** Designation on the plan: F1, W2. */
  mark: string;
  /** "fuse F1", or its own name with the mark. */
  name: string;
  /** Ohm, there and back where that is how it is counted; of runs side by side, what all of them together have. */
  resistance: number;
  resistanceFigure: TracedValue | null;
  /** A that a cable may carry where it runs. */
  ampacity: TracedValue | null;
}

/** Parts in series, from the bank (or the change-over, or the inverter) outward. */
export interface Circuit {
  key: string;
  title: string;
  path: string;
  mains: boolean;
  branch: Branch | null;
  /** Where the branch stands among those of the document; null without one. */
  branchIndex: number | null;
  /** The other side of the branch's converter, charger or controller, with what feeds it; null on the bank's side. */
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
  /** The bank's side of each branch, in the order of the document. */
  branches: Circuit[];
  /** The far sides of the branches that have one. */
  far: Circuit[];
  rules: RuleSet;
  /** Ohm from the bank's terminals to the far end: measured where it was, else the sum of the parts. */
  resistance: number;
  resistanceFigure: TracedValue;
  /** Ohm that a measurement found over what the parts should be; negative where it found less. */
  excess: number | null;
  /** The fuse of the main run with the lowest rating. */
  fuse: WiringPart | null;
  /** A; zero where there is no fuse. */
  fuseRating: number;
}

export const PART_NAMES: Record<PartKind, string> = {
  cable: "cable",
  fuse: "fuse",
  isolator: "isolator",
  shunt: "shunt",
  busbar: "busbar",
  joints: "terminations",
  breaker: "breaker",
  changeover: "transfer switch",
  rcd: "RCD",
  inlet: "inlet",
  connector: "connector",
};

/** Letters of designations after IEC 81346-2: F protects, Q switches, W conducts, X joins, B senses. */
const LETTERS: Record<PartKind, string> = {
  cable: "W",
  fuse: "F",
  breaker: "F",
  rcd: "F",
  isolator: "Q",
  changeover: "Q",
  busbar: "X",
  joints: "X",
  inlet: "X",
  connector: "X",
  shunt: "B",
};

/** Every run that parts stand in, the mains side only where there is one. */
export const allCircuits = (path: WiringModel, converted = true): Circuit[] => [
  path.main,
  ...(converted ? [path.mains] : []),
  ...path.branches,
  ...path.far,
];

/** Whether a part's kind is the one asked for, for the compiler too. */
export const isKind = <K extends PartKind>(part: Part, kind: K): part is PartOf<K> => part.kind === kind;

/** The path from bank to units and the runs beside it: resistances, and what the cables may carry. */
export function wiringModel(figures: Trace, rig: Rig, values: RigValues): WiringModel {
  const counts: Record<string, number> = {};
  const rules = ruleSetOf(rig);
  const make = (
    key: string,
    title: string,
    path: string,
    parts: Part[],
    partValues: PartValues[],
    {
      branch = null,
      branchIndex = null,
      far = null,
      array = null,
      lanes = 1,
    }: Partial<Pick<Circuit, "branch" | "branchIndex" | "far" | "array" | "lanes">> = {},
  ): Circuit => {
    const mains = far ? far.mains : key === "mains" || (branch !== null && isMains(branch));
    const made = parts.map((part, i): WiringPart => {
      const letter = LETTERS[part.kind];
      const mark = `${letter}${(counts[letter] = (counts[letter] ?? 0) + 1)}`;
      const at = `${path}.${i}`;
      const own = part.name.trim();
      const name = own ? `${own} ${mark}` : `${partWords(part, rules)} ${mark}`;
      const known = partValues[i]!;
      const resistance = resistanceOf(figures, part, known, at, name);
      return {
        part,
        values: known,
        path: at,
        mark,
        name,
        resistance: (resistance?.value ?? 0) / lanes,
        resistanceFigure: resistance,
        ampacity: isKind(part, "cable")
          ? recordAmpacity(figures, rig, { values, rules, mains }, part, known, at, name)
          : null,
      };
    });
    const counted = made.filter((one) => one.resistanceFigure);
    const resistance = counted.reduce((sum, one) => sum + one.resistance, 0);
    const resistanceFigure = record(
      figures,
      `${path}.resistance`,
      `${title}, its parts`,
      "resistance",
      resistance,
      lanes > 1
        ? `R = (${counted.map((_, i) => `R_${i + 1}`).join(" + ") || "0"}) ÷ m`
        : `R = ${counted.map((_, i) => `R_${i + 1}`).join(" + ") || "0"}`,
      [
        ...counted.map((one, i) => of(`R_${i + 1}`, one.resistanceFigure!)),
        ...(lanes > 1 ? [constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter")] : []),
      ],
      "parts in series",
    );
    return {
      key,
      title,
      path,
      mains,
      branch,
      branchIndex,
      far,
      array,
      lanes,
      parts: made,
      resistance,
      resistanceFigure,
    };
  };
  const converted = usesInverter(rig);
  const lanes = converted && rig.inverter.leads === "own" ? Math.max(1, values.inverter.count.value) : 1;

  const main = make(
    "main",
    converted ? "Battery to inverter" : "Battery to unit",
    "path.main",
    rig.path.main,
    values.path.main,
    {
      lanes,
    },
  );
  const mains = make("mains", "Inverter to units", "path.mains", rig.path.mains, values.path.mains);
  const far: Circuit[] = [];
  const chargeToVoltage = Math.max(
    values.bank.chargeToVoltage.value,
    values.bank.blockVoltage.value * values.bank.series.value,
  );
  const branches = rig.path.branches.map((branch, i) => {
    const v = values.path.branches[i]!;
    const { panels, lowestC } = values.sources;
    const array = branch.role === "solar" ? arrayOf(rig, panels, lowestC.value, controllerOfBranch(rig, i)) : null;
    const side = farSideOf(rig, branch, v, { chargeToVoltage }, rules, array ?? NO_ARRAY);
    if (side)
      far.push(
        make(`${branch.id}-far`, farTitle(branch), `path.branches.${i}.far`, branch.far, v.far, {
          branch,
          branchIndex: i,
          far: side,
          array,
        }),
      );
    return make(branch.id, branch.name, `path.branches.${i}.parts`, branch.parts, v.parts, {
      branch,
      branchIndex: i,
      array,
    });
  });
  const measured = measuredResistance(figures, values.path.measured);
  const fuses = main.parts.filter(({ part }) => part.kind === "fuse");
  const fuse = fuses.reduce<WiringPart | null>(
    (least, one) => (!least || one.values.rating!.value < least.values.rating!.value ? one : least),
    null,
  );
  return {
    main,
    mains,
    branches,
    far,
    rules,
    resistance: measured?.value ?? main.resistance,
    resistanceFigure: measured ?? main.resistanceFigure,
    excess: measured ? measured.value - main.resistance : null,
    fuse,
    fuseRating: (fuse?.values.rating!.value ?? 0) * lanes,
  };
}

/** What the far side of a branch leads from and to. */
export function farTitle(branch: Branch): string {
  switch (branch.role) {
    case "engine":
      return `${branch.name}: starter battery to converter`;
    case "charger":
      return `${branch.name}: AC side`;
    case "solar":
      return `${branch.name}: array to controller`;
    default:
      return `${branch.name}: converter to loads`;
  }
}

/** In lower case, but for a letter that stands by itself: "class T fuse". */
const lowered = (name: string) => name.replace(/[A-Z](?=[a-z])/g, (letter) => letter.toLowerCase());

/** A part in words, without its mark. */
export function partWords(part: Part, rules?: RuleSet): string {
  if (part.kind === "rcd" && rules) return rules.residualName;
  return isKind(part, "fuse") ? lowered(FUSE_KINDS[part.fuseKind].name) : PART_NAMES[part.kind];
}

/** Resistance of the path by two voltages and a current, where all three were entered and make sense. */
function measuredResistance(figures: Trace, measured: RigValues["path"]["measured"]): TracedValue | null {
  const { bankVoltage, inverterVoltage, current } = measured;
  if (!bankVoltage || !inverterVoltage || !current || bankVoltage.value <= inverterVoltage.value) return null;
  return record(
    figures,
    "path.measured",
    "Wiring, as measured",
    "resistance",
    (bankVoltage.value - inverterVoltage.value) / current.value,
    "R = (V_b − V_i) ÷ I",
    [given("V_b", bankVoltage), given("V_i", inverterVoltage), given("I", current)],
    "Ohm; volts at the battery's posts and at the inverter's, under the same load",
  );
}

function resistanceOf(figures: Trace, part: Part, known: PartValues, path: string, name: string): TracedValue | null {
  const key = `${path}.resistance`;
  if (isKind(part, "cable")) {
    const [area, length, count, conductor] = [known.areaMm2!, known.length!, known.count!, known.conductorC!];
    const ways = part.ways === "both" ? 2 : 1;
    return record(
      figures,
      key,
      `Resistance, ${name}`,
      "resistance",
      ways * cableResistance(area.value, length.value, count.value, conductor.value),
      "R = w × r × L × (1 + α × (T − 20)) ÷ n",
      [
        constant("w", "Ways", ways, "count", ways === 2 ? "there and back" : "one way"),
        constant(
          "r",
          "Copper at 20 °C, per metre",
          cableResistancePerMetre(area.value),
          "resistance",
          "IEC 60228 class 5, or ASTM B258 for AWG sizes",
        ),
        given("L", length),
        constant("α", "Rise with temperature, per K", COPPER_ALPHA, "number", "IEC 60228"),
        given("T", conductor),
        given("n", count),
        given("S", area),
      ],
      "IEC 60228",
    );
  }
  if (isKind(part, "joints")) {
    const [contacts, each] = [known.contacts!, known.resistance!];
    return record(figures, key, `Resistance, ${name}`, "resistance", contacts.value * each.value, "R = n × R_1", [
      given("n", contacts),
      given("R_1", each),
    ]);
  }
  const own = known.resistance;
  return own
    ? record(figures, key, `Resistance, ${name}`, "resistance", own.value, "R = R_1", [given("R_1", own)])
    : null;
}

const ROUTES = { free: "free air", bundled: "bundled with others", engine: "in an engine space" } as const;

/** What a cable may carry: its own table, or that of its side of the rule set, with the factors of where it runs. */
function recordAmpacity(
  figures: Trace,
  rig: Rig,
  { values, rules, mains }: { values: RigValues; rules: RuleSet; mains: boolean },
  part: PartOf<"cable">,
  known: PartValues,
  path: string,
  name: string,
): TracedValue {
  const key = `${path}.ampacity`;
  const title = `Ampacity, ${name}`;
  if (known.ampacity)
    return record(
      figures,
      key,
      title,
      "current",
      known.ampacity.value,
      "I_z = I_1",
      [given("I_1", known.ampacity)],
      "the cable's own table",
    );
  const { insulation, route, method, terminals } = part;
  const [area, count, circuits, ambient] = [known.areaMm2!, known.count!, known.circuits!, values.path.ambientC];
  if (mains) {
    const ac = acAmpacity(
      rules,
      { areaMm2: area.value, insulation, method, route, terminals, circuits: circuits.value },
      ambient.value,
    );
    return record(
      figures,
      key,
      title,
      "current",
      ac.ampacity * count.value,
      "I_z = min(I_t × k_a × k_g × k_r, I_e) × n",
      [
        constant("I_t", "Table value", ac.listed, "current", ac.table),
        given("S", area),
        constant(
          "k_a",
          "Air temperature",
          ac.airFactor,
          "number",
          `1 at 30 °C; taken at ${rules.referenceAmbientC} °C at least`,
        ),
        given("T", ambient),
        constant("k_g", "Circuits run together", ac.groupFactor, "number", rules.standards.ac),
        given("n_c", circuits),
        constant("k_r", "Route", ac.routeFactor, "number", ROUTES[route]),
        constant("I_e", "Terminals", ac.terminals, "current", ac.terminalsWhy),
        given("n", count),
      ],
      rules.standards.ac,
    );
  }
  const tableKey = ampacityTable(rig);
  const table = AMPACITY_TABLES[tableKey];
  const listed = tableAmpacity(tableKey, area.value, insulation);
  const along = routeFactor(tableKey, insulation, route, circuits.value);
  const warm = ambientFactor(insulation, ambient.value);
  return record(
    figures,
    key,
    title,
    "current",
    listed * along * warm * count.value,
    "I_z = I_t × k_r × k_a × n",
    [
      constant(
        "I_t",
        "Table value",
        listed,
        "current",
        `${table.name}, ${insulation} °C insulation, ${table.conditions}`,
      ),
      given("S", area),
      constant("k_r", "Route", along, "number", ROUTES[route]),
      constant("k_a", "Air temperature", warm, "number", `√((${insulation} − T) ÷ (${insulation} − 30)), 1 at 30 °C`),
      given("T", ambient),
      given("n", count),
    ],
    table.name,
  );
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
