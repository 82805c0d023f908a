/** A name as the stem of a file's name: plain letters, digits and hyphens. */
export function fileStem(name: string, otherwise = "rig"): string {
  return (
    name
      .normalize("NFKD")
      .replace(/[^A-Za-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase() || otherwise
  );
}
