import { gaugeAreaMm2 } from "../../units/gauge";
import type { RuleSetKey } from "./rule-set";

/** Protective conductor of copper by the device before its circuit: A and AWG (NEC table 250.122; from memory). */
const BY_DEVICE: readonly (readonly [amps: number, gauge: number])[] = [
  [15, 14],
  [20, 12],
  [60, 10],
  [100, 8],
  [200, 6],
  [300, 4],
];

/**
 * mm2 of copper that a protective conductor has at least. In the US by the device before its circuit, never thicker than the
 * conductors that it runs with (NEC 250.122); elsewhere by the line conductor: as thick up to 16 mm2, 16 mm2 up to 35, half
 * of it above (IEC 60364-5-54, table 54.2; AS/NZS 3000 is near it).
 */
export function protectiveArea(rules: RuleSetKey, { deviceA, lineMm2 }: { deviceA: number; lineMm2: number }): number {
  if (rules.startsWith("us")) {
    const row = BY_DEVICE.find(([amps]) => deviceA <= amps) ?? BY_DEVICE.at(-1)!;
    return Math.min(lineMm2, gaugeAreaMm2(row[1]));
  }
  return lineMm2 <= 16 ? lineMm2 : lineMm2 <= 35 ? 16 : lineMm2 / 2;
}
