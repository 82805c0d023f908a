/* Writes the palette, and the dark theme's variables of Ant Design, as style sheets from `ui/palette.ts`: `npm run theme`. */
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { theme } from "antd";
import { DARK, paletteSheet } from "../src/ui/palette";

const tokens: Record<string, unknown> = theme.getDesignToken({
  algorithm: theme.darkAlgorithm,
  token: {
    colorPrimary: DARK.cold,
    colorInfo: DARK.cold,
    colorLink: DARK.cold,
    colorSuccess: DARK.cold,
    colorWarning: DARK.sun,
    colorError: DARK.heat,
    colorTextBase: DARK.ink,
    colorBgBase: DARK.paper,
  },
}) as unknown as Record<string, unknown>;

/** What the palette decides whatever the algorithm makes of it. */
const OWN: Record<string, string> = {
  colorSuccess: DARK.cold,
  colorWarning: DARK.sun,
  colorError: DARK.heat,
  colorErrorText: DARK.heat,
  colorPrimary: DARK.cold,
  colorPrimaryHover: DARK.cold,
  colorPrimaryActive: DARK.cold,
  colorLink: DARK.cold,
  colorLinkHover: DARK.cold,
  colorText: DARK.ink,
  colorTextHeading: DARK.ink,
  colorTextSecondary: DARK.faded,
  colorTextTertiary: DARK.faded,
  colorTextPlaceholder: DARK.faded,
  colorTextDescription: DARK.faded,
  colorTextLabel: DARK.faded,
  colorIcon: DARK.faded,
  colorBgContainer: DARK.page,
  colorBgElevated: DARK.page,
  colorBgLayout: DARK.paper,
  colorBorder: DARK.rule,
  colorBorderSecondary: DARK.hair,
  colorTextLightSolid: DARK.paper,
};
const kebab = (name: string) => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
const lines = Object.entries({ ...tokens, ...OWN })
  .filter(([name, value]) => /^(color|controlItemBg|boxShadow)/.test(name) && typeof value === "string")
  .map(([name, value]) => `  --ant-${kebab(name)}: ${String(value).replace(/\s+/g, " ").trim()};`);
const block = lines.join("\n");
writeFileSync(
  join(import.meta.dirname, "../src/ui/styles/antd-dark.css"),
  `/* Written by \`npm run theme\` from the dark palette: not to be edited by hand. */
@media screen {
  :root[data-theme="dark"] .chillbank {
${block.replace(/^/gm, "  ")}
  }
}
@media screen and (prefers-color-scheme: dark) {
  :root:not([data-theme="light"]) .chillbank {
${block.replace(/^/gm, "  ")}
  }
}
`,
);
writeFileSync(join(import.meta.dirname, "../src/ui/styles/palette.css"), paletteSheet());
