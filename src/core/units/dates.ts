const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/** A date that people write without doubt which number is the month: `15 Jul 2026`, `July 15, 2026`, `2026-07-15`; null else. */
export function parseDate(text: string): string | null {
  const clean = text.trim().toLowerCase().replace(/[.,]/g, " ").replace(/\s+/g, " ");
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(clean);
  const day = /^(\d{1,2}) ([a-z]{3,9}) (\d{4})$/.exec(clean);
  const month = /^([a-z]{3,9}) (\d{1,2}) (\d{4})$/.exec(clean);
  const [y, m, d] = iso
    ? [Number(iso[1]), Number(iso[2]), Number(iso[3])]
    : day
      ? [Number(day[3]), MONTHS.indexOf(day[2]!.slice(0, 3)) + 1, Number(day[1])]
      : month
        ? [Number(month[3]), MONTHS.indexOf(month[1]!.slice(0, 3)) + 1, Number(month[2])]
        : [0, 0, 0];
  const at = new Date(Date.UTC(y!, m! - 1, d));
  const real = at.getUTCFullYear() === y && at.getUTCMonth() === m! - 1 && at.getUTCDate() === d;
  return real && y! >= 1990 && y! <= 2099 ? at.toISOString().slice(0, 10) : null;
}

/** A date YYYY-MM-DD as `15 Jul 2026`. */
export function sayDate(date: string): string {
  const [year, month, day] = date.split("-").map(Number) as [number, number, number];
  const name = MONTHS[month - 1] ?? "";
  return `${day} ${name.charAt(0).toUpperCase()}${name.slice(1)} ${year}`;
}
