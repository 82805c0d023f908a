import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { DARK, PALETTE, paletteSheet, type Palette } from "./palette";

/** WCAG 2.2: contrast of two colours by their relative luminance. */
function contrast(one: string, other: string): number {
  const luminance = (colour: string) => {
    const [r, g, b] = [1, 3, 5].map((at) => {
      const c = parseInt(colour.slice(at, at + 2), 16) / 255;
      return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    }) as [number, number, number];
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

describe("the palette", () => {
  it("black on white is 21 to 1, as WCAG has it", () => expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 6));
  // WCAG 2.2, 1.4.3: text of usual size.
  it.each<[string, Palette]>([
    ["day", PALETTE],
    ["night", DARK],
  ])("by %s has every colour of text at 4.5 to 1 or more, on paper and on page", (_, palette) => {
    for (const name of ["ink", "faded", "cold", "heat", "sun", "bank"] as const)
      for (const ground of ["paper", "page"] as const)
        expect(contrast(palette[name], palette[ground]), `${name} on ${ground}`).toBeGreaterThanOrEqual(4.5);
  });
  it("stands in the style sheet as `npm run theme` writes it", () => {
    const bare = (css: string) => css.replace(/\s+/g, "");
    expect(bare(readFileSync("src/ui/styles/palette.css", "utf8"))).toBe(bare(paletteSheet()));
  });
});
