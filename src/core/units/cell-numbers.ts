/** Whether numbers of a table are written with a decimal comma: some are, and none with a point and digits behind it. */
export function usesDecimalComma(cells: Iterable<string>): boolean {
  let commas = 0;
  for (const cell of cells) {
    const text = cell.trim();
    if (/^[+-]?\d+\.\d+(e[+-]?\d+)?$/i.test(text)) return false;
    if (/^[+-]?\d+,\d+$/.test(text)) commas++;
  }
  return commas > 0;
}

/** A number of a table's cell, or null where it is none. Grouping is not guessed at. */
export function numberOfCell(cell: string, decimalComma: boolean): number | null {
  const text = decimalComma ? cell.trim().replace(",", ".") : cell.trim();
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/i.test(text)) return null;
  const value = Number(text);
  return Number.isFinite(value) ? value : null;
}
