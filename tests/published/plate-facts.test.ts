/*
 * What an air conditioner of a kind and a capacity draws, as plates and the trade have it (common practice, no source; efficiency
 * rules from memory). The core is told the capacity alone.
 */
import { expect, it } from "vitest";
import { resolveJob } from "@/core/document/resolve";
import type { Job } from "@/core/document/schema";
import { jobOf, q } from "../jobs";

const BTU = 0.29307107;
type Unit = Partial<Job["units"][number]>;

it.each<[string, Job["brief"]["mains"], Unit, number, "ratedPower" | "runningCurrent", number, number]>([
  ["5,000 BTU/h window unit: 440 to 480 W", "120V60Hz", {}, 5000, "ratedPower", 440, 480],
  ["6,000 BTU/h window unit: 520 to 570 W", "120V60Hz", {}, 6000, "ratedPower", 520, 570],
  ["9,200 BTU/h roof unit, 120 V: 8 to 10 A", "120V60Hz", {}, 9200, "runningCurrent", 8, 10],
  ["11,000 BTU/h roof unit, 120 V: 10 to 11.5 A", "120V60Hz", {}, 11_000, "runningCurrent", 10, 11.5],
  ["13,500 BTU/h roof unit, 120 V: 12 to 13 A with its fan", "120V60Hz", {}, 13_500, "runningCurrent", 12, 13],
  ["15,000 BTU/h roof unit, 120 V: 13 to 15 A", "120V60Hz", {}, 15_000, "runningCurrent", 13, 15],
  ["1.7 kW caravan unit, 230 V: 2.4 to 3 A", "230V50Hz", {}, 1700 / BTU, "runningCurrent", 2.3, 3],
  ["2.4 kW caravan unit, 230 V: 3.6 to 4.2 A", "230V50Hz", {}, 2400 / BTU, "runningCurrent", 3.5, 4.3],
  ["9,000 BTU/h wall split, variable: 650 to 850 W", "230V50Hz", { kind: "variable" }, 9000, "ratedPower", 650, 850],
  [
    "12,000 BTU/h wall split, variable: 900 to 1,150 W",
    "230V50Hz",
    { kind: "variable" },
    12_000,
    "ratedPower",
    900,
    1150,
  ],
  [
    "16,000 BTU/h sea-water unit, 120 V: 11 to 13 A",
    "120V60Hz",
    { condenser: "sea" },
    16_000,
    "runningCurrent",
    11,
    13,
  ],
  [
    "12,000 BTU/h sea-water unit, variable: 650 to 850 W",
    "230V50Hz",
    { kind: "variable", condenser: "sea" },
    12_000,
    "ratedPower",
    650,
    850,
  ],
  ["7,000 BTU/h DC roof unit: 580 to 780 W", "230V50Hz", { kind: "dc" }, 7000, "ratedPower", 580, 780],
])("%s", (_, mains, unit, btu, key, low, high) => {
  const job = jobOf({ brief: { mains }, unit: { ...unit, coolingPower: q(btu * BTU) } });
  const { value } = resolveJob(job).units[0]![key];
  expect(value).toBeGreaterThanOrEqual(low);
  expect(value).toBeLessThanOrEqual(high);
});
