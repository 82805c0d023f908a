import { unzipSync, zipSync } from "fflate";
import Papa from "papaparse";
import writeXlsxFile from "write-excel-file/node";
import { partRows, PARTS_HEADER, type PartLine } from "@/core/applications/handover/parts-list";
import { ZIP_MOMENT } from "../words";

const WIDTHS = [22, 46, 10, 8, 36];

/** A parts list as CSV: text that a spreadsheet would run is written as text. */
export const partsCsv = (lines: readonly PartLine[]): string =>
  `${Papa.unparse([PARTS_HEADER, ...partRows(lines)], { escapeFormulae: true, newline: "\n" })}\n`;

/** A parts list as a workbook of one sheet, quantities as numbers, text as text; the same bytes for the same list. */
export async function partsXlsx(lines: readonly PartLine[]): Promise<Uint8Array<ArrayBuffer>> {
  const head = PARTS_HEADER.map((value) => ({ value, fontWeight: "bold" as const }));
  const rows = partRows(lines).map((row) =>
    row.map((value) => (typeof value === "number" ? { value, type: Number } : { value, type: String })),
  );
  const file = writeXlsxFile([head, ...rows], {
    sheet: "Parts",
    columns: WIDTHS.map((width) => ({ width })),
    stickyRowsCount: 1,
  });
  // Packed again with one moment for every part: the library writes the hour into it.
  const parts = unzipSync(new Uint8Array(await file.toBuffer()));
  return new Uint8Array(zipSync(parts, { mtime: ZIP_MOMENT }));
}
