/** Coordinates as charts write them, to a hundredth of a degree: `37.02° N, 7.93° W`. */
export function coordinatesInWords(latitude: number, longitude: number): string {
  const half = (degrees: number, sides: string) =>
    `${Math.abs(degrees).toFixed(2)}° ${degrees < 0 ? sides[1] : sides[0]}`;
  return `${half(latitude, "NS")}, ${half(longitude, "EW")}`;
}

/** Coordinates typed as people write them: `37.02, -7.93`, `37.02N 7.93W`, `37°01'N 7°56'W`; null where it is none. */
export function parseCoordinates(text: string): { latitude: number; longitude: number } | null {
  const clean = text.trim().replace(/[−–]/g, "-").toUpperCase();
  const half = `([+-]?\\d{1,3}(?:\\.\\d+)?)(?:°\\s*(?:(\\d{1,2}(?:\\.\\d+)?)['′])?)?\\s*([NSEW])?`;
  const found = new RegExp(`^${half}[\\s,;]+${half}$`).exec(clean);
  if (!found) return null;
  const value = (degrees: string, minutes: string | undefined, side: string | undefined) => {
    const size = Math.abs(Number(degrees)) + Number(minutes ?? 0) / 60;
    return degrees.startsWith("-") || side === "S" || side === "W" ? -size : size;
  };
  const [first, second] = [value(found[1]!, found[2], found[3]), value(found[4]!, found[5], found[6])];
  const turned = found[3] === "E" || found[3] === "W";
  const [latitude, longitude] = turned ? [second, first] : [first, second];
  if (Math.abs(latitude) > 90 || Math.abs(longitude) > 180) return null;
  return { latitude, longitude };
}
