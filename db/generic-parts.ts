import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { ShelfEntry } from "../src/core/applications/parts/shelf";
import { entriesOfTable } from "../src/core/applications/parts/table";
import { readTable } from "../src/csv/read";

/** A bundle has no folder of its own; its server is started in the project's. */
const FOLDER = (import.meta.dirname as string | undefined) ?? join(process.cwd(), "db");

/**
 * The shelf a new workshop begins with, in the shelf's own format: typical of each class, from memory of the trade's usual
 * data sheets, without a maker. Throws where the file is not what it should be.
 */
export function genericParts(): ShelfEntry[] {
  const table = readTable(readFileSync(join(FOLDER, "parts-shelf.csv"), "utf8"));
  const read = table.ok ? entriesOfTable(table.table) : table;
  if (!read.ok) throw new Error(`parts-shelf.csv: ${read.message}`);
  const [slip] = read.import.skipped;
  if (slip) throw new Error(`parts-shelf.csv: line ${slip.line}: ${slip.why}`);
  return read.import.entries;
}
