import { THEMED } from "../palette";

export const SANS = "'Atkinson Hyperlegible Next Variable', sans-serif";
export const MONO = "'Atkinson Hyperlegible Mono Variable', monospace";

/** Axes as hairlines with the sheet's type. */
export const AXIS = {
  axisLine: { show: true, lineStyle: { color: THEMED.ink, width: 1 } },
  axisTick: { show: true, length: 3, lineStyle: { color: THEMED.ink } },
  axisLabel: { color: THEMED.faded, fontFamily: MONO, fontSize: 12, hideOverlap: true },
  splitLine: { show: true, lineStyle: { color: THEMED.hair, width: 1 } },
  nameTextStyle: { color: THEMED.faded, fontFamily: SANS, fontSize: 12 },
} as const;

export const TOOLTIP = {
  backgroundColor: THEMED.page,
  borderColor: THEMED.rule,
  borderWidth: 1,
  textStyle: { color: THEMED.ink, fontFamily: SANS, fontSize: 12 },
  extraCssText: "border-radius:2px;box-shadow:0 2px 8px rgba(20,36,46,.18)",
} as const;

/** Diagonal hatch in a colour, as a fill for SVG pictures of the chart library. */
export function hatch(colour: string): { image: string; repeat: "repeat" } {
  const svg = `<svg xmlns='http://www.w3.org/2000/svg' width='7' height='7'><path d='M-1 8L8 -1M-1 1L1 -1M6 8L8 6' stroke='${colour}' stroke-width='1.1' opacity='.75'/></svg>`;
  return { image: `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`, repeat: "repeat" };
}
