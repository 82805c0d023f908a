/** The colours of the sheet by day. All text colours reach 4.5:1 on paper and page. */
export const PALETTE = {
  paper: "#faf8f2",
  page: "#fffefa",
  ink: "#16262f",
  faded: "#55636a",
  rule: "#c9c2b4",
  hair: "#e2dccf",
  cold: "#0b6670",
  heat: "#a5402b",
  sun: "#8a5a00",
  bank: "#424a8c",
  bankWash: "#d9dbee",
  track: "#efe9dc",
} as const;

export type Palette = Record<keyof typeof PALETTE, string>;

function variableOf(name: string): string {
  return `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`;
}

/** The palette as the style sheet's variables: what is drawn with them follows the theme. */
export const THEMED = Object.fromEntries(
  Object.keys(PALETTE).map((name) => [name, `var(${variableOf(name)})`]),
) as Record<keyof typeof PALETTE, string>;

/** The same by night: the same roles, the same contrast. */
export const DARK: Palette = {
  paper: "#121a1e",
  page: "#19242a",
  ink: "#ece7dc",
  faded: "#a6b0b3",
  rule: "#4a565b",
  hair: "#2d393f",
  cold: "#5cc3cb",
  heat: "#f08a70",
  sun: "#e0ab4a",
  bank: "#a3abec",
  bankWash: "#333a63",
  track: "#2a353a",
};

/** Both palettes as a style sheet: by day on paper and screen, by night on a screen where it is chosen or the system's. */
export function paletteSheet(): string {
  const block = (palette: Palette, scheme: string) =>
    [
      ...Object.entries(palette).map(([name, colour]) => `${variableOf(name)}: ${colour};`),
      `color-scheme: ${scheme};`,
    ].join(" ");
  const night = block(DARK, "dark");
  return [
    "/* Written by `npm run theme` from ui/palette.ts: not to be edited by hand. */",
    `:root { ${block(PALETTE, "light")} }`,
    `@media screen { :root[data-theme="dark"] { ${night} } }`,
    `@media screen and (prefers-color-scheme: dark) { :root:not([data-theme="light"]) { ${night} } }`,
    "",
  ].join("\n");
}
