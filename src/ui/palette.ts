/** The colours of the sheet. All text colours reach 4.5:1 on paper and page. */
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
} as const;
