import { numberOfCell, usesDecimalComma } from "../../units/cell-numbers";
import { readEntry, SHELF_KIND_KEYS, SHELF_KINDS, shelfKind, type ShelfEntry, type ShelfKindKey } from "./shelf";
import { say } from "../../messages/say";

/*
 * The shelf as a table: one row a part. Columns `kind`, `name`, `note`, `cost`, `mass_kg`, the choices, then every
 * quantity by its key, in the core's units (SI, but Ah, mm2 and degC). Empty cells are not known.
 */

const FIXED = ["kind", "name", "note", "cost", "mass_kg"] as const;
const all = <T>(of: (kind: ShelfKindKey) => T[]): T[] => [...new Set(SHELF_KIND_KEYS.flatMap(of))];
const CHOICES = all((kind) => Object.keys(SHELF_KINDS[kind].choices));
const QUANTITIES = all((kind) => Object.keys(SHELF_KINDS[kind].fields));
/** A unit's own kind would share its name with the part's. */
const columnOfChoice = (choice: string) => (choice === "kind" ? "unit_kind" : choice);

export const SHELF_COLUMNS: string[] = [...FIXED, ...CHOICES.map(columnOfChoice), ...QUANTITIES];

/** A row of an entry, in the order of the columns. */
export function rowOfEntry(entry: ShelfEntry): (string | number)[] {
  return [
    entry.kind,
    entry.name,
    entry.note,
    entry.cost ?? "",
    entry.mass ?? "",
    ...CHOICES.map((choice) => entry.choices[choice] ?? ""),
    ...QUANTITIES.map((key) => entry.values[key] ?? ""),
  ];
}

export interface ShelfImport {
  entries: ShelfEntry[];
  skipped: { line: number; why: string }[];
  /** All that were passed over; `skipped` names the first hundred. */
  skippedCount: number;
  /** Columns of the file that the shelf does not know. */
  unknownColumns: string[];
}

export type ReadShelfTable = { ok: true; import: ShelfImport } | { ok: false; message: string };

const NAMED = 100;

/**
 * Reads a table as shelf entries. Rows that are no part are passed over, each with its line and the reason; a table
 * without the columns `kind` and `name`, or without one good row, is refused whole.
 */
// oxlint-disable-next-line max-lines-per-function -- one column after another, each with what is said of a bad cell
export function entriesOfTable(table: { header: string[]; rows: { line: number; cells: string[] }[] }): ReadShelfTable {
  const header = table.header.map((name) => name.trim());
  const lower = header.map((name) => name.toLowerCase());
  const at = (name: string) => lower.indexOf(name.toLowerCase());
  const [kindAt, nameAt] = [at("kind"), at("name")];
  if (kindAt < 0 || nameAt < 0)
    return { ok: false, message: say("input.column.missing", { column: kindAt < 0 ? "kind" : "name" }) };
  const twice = lower.find((name, i) => name !== "" && lower.indexOf(name) !== i);
  if (twice) return { ok: false, message: say("input.column.twice", { twice }) };
  const known = new Set(SHELF_COLUMNS.map((name) => name.toLowerCase()));
  const numeric = ["cost", "mass_kg", ...QUANTITIES]
    .map((name) => ({ name, index: at(name) }))
    .filter(({ index }) => index >= 0);
  const comma = usesDecimalComma(
    (function* () {
      for (const { cells } of table.rows) for (const { index } of numeric) yield cells[index] ?? "";
    })(),
  );
  const result: ShelfImport = {
    entries: [],
    skipped: [],
    skippedCount: 0,
    unknownColumns: header.filter((name) => name !== "" && !known.has(name.toLowerCase())),
  };
  const skip = (line: number, why: string) => {
    result.skippedCount++;
    if (result.skipped.length < NAMED) result.skipped.push({ line, why });
  };
  for (const { line, cells } of table.rows) {
    const cell = (index: number) => (index < 0 ? "" : (cells[index] ?? "").trim());
    const kind = cell(kindAt).toLowerCase();
    if (!(kind in SHELF_KINDS)) {
      skip(line, `kind “${cell(kindAt).slice(0, 30)}” is none of ${SHELF_KIND_KEYS.join(", ")}`);
      continue;
    }
    const { fields, choices } = shelfKind(kind as ShelfKindKey);
    const values: Record<string, number> = {};
    let wrong = "";
    const number = (name: string): number | undefined => {
      const text = cell(at(name));
      if (text === "") return undefined;
      const value = numberOfCell(text, comma);
      if (value === null && wrong === "") wrong = `${name}: “${text.slice(0, 30)}” is not a number`;
      return value ?? undefined;
    };
    for (const key of Object.keys(fields)) {
      const value = number(key);
      if (value !== undefined) values[key] = value;
    }
    const chosen: Record<string, string> = {};
    for (const choice of Object.keys(choices)) {
      const text = cell(at(columnOfChoice(choice)));
      if (text !== "") chosen[choice] = text;
    }
    const [cost, mass] = [number("cost"), number("mass_kg")];
    if (wrong !== "") {
      skip(line, wrong);
      continue;
    }
    const read = readEntry({
      kind,
      // A leading quote keeps spreadsheets from running a cell; it is not part of the name.
      name: cell(nameAt).replace(/^'(?=[=+\-@])/, ""),
      note: cell(at("note")).replace(/^'(?=[=+\-@])/, ""),
      choices: chosen,
      values,
      ...(cost === undefined ? {} : { cost }),
      ...(mass === undefined ? {} : { mass }),
    });
    if (read.ok) result.entries.push(read.entry);
    else
      skip(
        line,
        read.faults[0]!.message.includes(":")
          ? read.faults[0]!.message
          : `${read.faults[0]!.path}: ${read.faults[0]!.message}`,
      );
  }
  if (result.entries.length === 0)
    return {
      ok: false,
      message: result.skipped[0]
        ? say("input.row.none", { line: result.skipped[0].line, why: result.skipped[0].why })
        : say("input.rows.none"),
    };
  return { ok: true, import: result };
}
