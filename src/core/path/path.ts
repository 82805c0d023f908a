import { isMains, type Branch, type Part, type PartOf, type Rig } from "../rig/document";
import type { PartKind } from "../rig/fields";
import type { PartValues, RigValues } from "../rig/resolve";
import { ampacityTable } from "../rig/typical";
import { constant, given, of, record, type Figure, type Figures } from "../sum/figure";
import { AMPACITY_TABLES, ambientFactor, routeFactor, tableAmpacity } from "./ampacity";
import { cableResistance, cableResistancePerMetre, COPPER_ALPHA } from "./cable";
import { FUSE_KINDS } from "./fuse";

/** One part of a run with what follows from it. */
export interface PathPart {
  part: Part;
  values: PartValues;
  /** Path of the part in the document. */
  path: string;
  /** Designation on the plan: F1, W2. */
  mark: string;
  /** "fuse F1", or its own name with the mark. */
  name: string;
  /** Ohm, there and back where that is how it is counted. */
  resistance: number;
  resistanceFigure: Figure | null;
  /** A that a cable may carry where it runs. */
  ampacity: Figure | null;
}

/** Parts in series, from the bank (or the change-over, or the inverter) outward. */
export interface Run {
  key: string;
  title: string;
  path: string;
  mains: boolean;
  branch: Branch | null;
  parts: PathPart[];
  resistance: number;
  resistanceFigure: Figure;
}

export interface PathModel {
  main: Run;
  mains: Run;
  branches: Run[];
  /** Ohm from the bank's terminals to the far end: measured where it was, else the sum of the parts. */
  resistance: number;
  resistanceFigure: Figure;
  /** Ohm that a measurement found over what the parts should be; negative where it found less. */
  excess: number | null;
  /** The fuse of the main run with the lowest rating. */
  fuse: PathPart | null;
  /** A; zero where there is no fuse. */
  fuseRating: number;
}

export const PART_NAMES: Record<PartKind, string> = {
  cable: "cable",
  fuse: "fuse",
  isolator: "isolator",
  shunt: "shunt",
  busbar: "busbar",
  joints: "lugs and joints",
  breaker: "breaker",
  changeover: "change-over",
  rcd: "earth-leakage switch",
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
  shunt: "B",
};

/** Whether a part's kind is the one asked for, for the compiler too. */
export const isKind = <K extends PartKind>(part: Part, kind: K): part is PartOf<K> => part.kind === kind;

/** The path from bank to units and the runs beside it: resistances, and what the cables may carry. */
export function pathModel(figures: Figures, rig: Rig, values: RigValues): PathModel {
  const counts: Record<string, number> = {};
  const make = (
    key: string,
    title: string,
    path: string,
    parts: Part[],
    partValues: PartValues[],
    branch: Branch | null = null,
  ): Run => {
    const mains = key === "mains" || (branch !== null && isMains(branch));
    const made = parts.map((part, i): PathPart => {
      const letter = LETTERS[part.kind];
      const mark = `${letter}${(counts[letter] = (counts[letter] ?? 0) + 1)}`;
      const at = `${path}.${i}`;
      const own = part.name.trim();
      const name = own ? `${own} ${mark}` : `${partWords(part)} ${mark}`;
      const known = partValues[i]!;
      const resistance = resistanceOf(figures, part, known, at, name);
      return {
        part,
        values: known,
        path: at,
        mark,
        name,
        resistance: resistance?.value ?? 0,
        resistanceFigure: resistance,
        ampacity: isKind(part, "cable") ? recordAmpacity(figures, rig, values, part, known, at, name) : null,
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
      `R = ${counted.map((_, i) => `R_${i + 1}`).join(" + ") || "0"}`,
      counted.map((one, i) => of(`R_${i + 1}`, one.resistanceFigure!)),
      "parts in series",
    );
    return { key, title, path, mains, branch, parts: made, resistance, resistanceFigure };
  };

  const main = make("main", "Bank to inverter", "path.main", rig.path.main, values.path.main);
  const mains = make("mains", "Inverter to units", "path.mains", rig.path.mains, values.path.mains);
  const branches = rig.path.branches.map((branch, i) =>
    make(branch.id, branch.name, `path.branches.${i}.parts`, branch.parts, values.path.branches[i]!.parts, branch),
  );
  const measured = measuredResistance(figures, values.path.measured);
  const fuses = main.parts.filter(({ part }) => part.kind === "fuse");
  const fuse = fuses.reduce<PathPart | null>(
    (least, one) => (!least || one.values.rating!.value < least.values.rating!.value ? one : least),
    null,
  );
  return {
    main,
    mains,
    branches,
    resistance: measured?.value ?? main.resistance,
    resistanceFigure: measured ?? main.resistanceFigure,
    excess: measured ? measured.value - main.resistance : null,
    fuse,
    fuseRating: fuse?.values.rating!.value ?? 0,
  };
}

/** In lower case, but for a letter that stands by itself: "class T fuse". */
const lowered = (name: string) => name.replace(/[A-Z](?=[a-z])/g, (letter) => letter.toLowerCase());

/** A part in words, without its mark. */
export function partWords(part: Part): string {
  return isKind(part, "fuse") ? lowered(FUSE_KINDS[part.fuseKind].name) : PART_NAMES[part.kind];
}

/** Resistance of the path by two voltages and a current, where all three were entered and make sense. */
function measuredResistance(figures: Figures, measured: RigValues["path"]["measured"]): Figure | null {
  const { bankVoltage, inverterVoltage, current } = measured;
  if (!bankVoltage || !inverterVoltage || !current || bankVoltage.value <= inverterVoltage.value) return null;
  return record(
    figures,
    "path.measured",
    "Path, as measured",
    "resistance",
    (bankVoltage.value - inverterVoltage.value) / current.value,
    "R = (V_b − V_i) ÷ I",
    [given("V_b", bankVoltage), given("V_i", inverterVoltage), given("I", current)],
    "Ohm; volts at the bank's posts and at the inverter's, under the same load",
  );
}

function resistanceOf(figures: Figures, part: Part, known: PartValues, path: string, name: string): Figure | null {
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
          "IEC 60228 class 5 (memory), or ASTM B258 for AWG sizes",
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

function recordAmpacity(
  figures: Figures,
  rig: Rig,
  values: RigValues,
  part: PartOf<"cable">,
  known: PartValues,
  path: string,
  name: string,
): Figure {
  const key = `${path}.ampacity`;
  const title = `What ${name} may carry`;
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
  const tableKey = ampacityTable(rig);
  const table = AMPACITY_TABLES[tableKey];
  const { insulation, route } = part;
  const [area, count, ambient] = [known.areaMm2!, known.count!, values.path.ambientC];
  const listed = tableAmpacity(tableKey, area.value, insulation);
  const along = routeFactor(tableKey, insulation, route);
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
      constant("k_a", "Air about it", warm, "number", `√((${insulation} − T) ÷ (${insulation} − 30)), 1 at 30 °C`),
      given("T", ambient),
      given("n", count),
    ],
    table.name,
  );
}

/** The fuse or breaker that protects the part at `index`: the nearest before it, else the nearest after; null without any. */
export function protectorOf(run: Run, index: number): PathPart | null {
  const protects = ({ part }: PathPart) => part.kind === "fuse" || part.kind === "breaker";
  return run.parts.slice(0, index).findLast(protects) ?? run.parts.slice(index).find(protects) ?? null;
}

/** Metres of cable, one way, among some parts. */
export function cableLength(parts: PathPart[]): number {
  return parts.reduce((sum, { values, part }) => sum + (part.kind === "cable" ? values.length!.value : 0), 0);
}
