import type { JobValues } from "../../document/resolved";

export interface Place {
  x: number;
  y: number;
  /** Along the roof's length and across it. */
  length: number;
  width: number;
}

/** Air between panels and around obstacles, m. */
const GAP = 0.02;
const STEP = 0.05;

const apart = (a: Place, b: Place) =>
  a.x + a.length + GAP <= b.x + 1e-9 ||
  b.x + b.length + GAP <= a.x + 1e-9 ||
  a.y + a.width + GAP <= b.y + 1e-9 ||
  b.y + b.width + GAP <= a.y + 1e-9;

/** Panels placed from the front, row by row, all lying one way. */
function laid(
  roof: { length: number; width: number },
  taken: Place[],
  { length, width }: { length: number; width: number },
  most: number,
): Place[] {
  const found: Place[] = [];
  for (let x = 0; x + length <= roof.length + 1e-9 && found.length < most; x += STEP)
    for (let y = 0; y + width <= roof.width + 1e-9 && found.length < most; y += STEP) {
      const place = { x, y, length, width };
      if (taken.every((other) => apart(place, other)) && found.every((other) => apart(place, other))) found.push(place);
    }
  return found;
}

/**
 * Places for panels of `length` by `width` m on a system's roof beside its obstacles, at most `most`: the better of lying
 * along and across. A first fit, so a patient hand may place one more.
 */
export function panelPlaces(values: JobValues, panel: { length: number; width: number }, most = 30): Place[] {
  const { roofLength, roofWidth, obstacles } = values.sources;
  const roof = { length: roofLength.value, width: roofWidth.value };
  const taken = obstacles.map((one) => ({
    x: one.x.value,
    y: one.y.value,
    length: one.length.value,
    width: one.width.value,
  }));
  const along = laid(roof, taken, panel, most);
  const across = laid(roof, taken, { length: panel.width, width: panel.length }, most);
  return across.length > along.length ? across : along;
}
