/** Two ways to cool the same cabin, side by side: what each pair and its sides are called. */
export const PAIRS = [
  { key: "size", name: "Small or large air conditioner", sides: ["two thirds of its size", "half as large again"] },
  { key: "fan", name: "Low or high fan", sides: ["low fan", "automatic"] },
  { key: "set", name: "22 °C or 26 °C", sides: ["22 °C", "26 °C"] },
  { key: "awning", name: "With awning and without", sides: ["awning, ten to seven", "no shade"] },
  { key: "between", name: "Fan between runs", sides: ["stops with the compressor", "goes on between runs"] },
  { key: "panels", name: "Half as many panels again", sides: ["as it is", "half as many again"] },
] as const;
export type PairKey = (typeof PAIRS)[number]["key"];
