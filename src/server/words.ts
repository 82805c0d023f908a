/** A name as the stem of a file's name: plain letters, digits and hyphens. */
export function fileStem(name: string, otherwise = "job"): string {
  return (
    name
      .normalize("NFKD")
      .replace(/[^A-Za-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase() || otherwise
  );
}

/** The moment that is written to parts of a ZIP, local as the format has it: the same bytes whenever it is made. */
export const ZIP_MOMENT = new Date(2000, 0, 1);
