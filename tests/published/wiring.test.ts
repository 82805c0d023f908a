/* Published values and worked examples of the path: cables, short circuits, breakers, sharing, vents. "Memory": not read from the page. */
import { describe, expect, it } from "vitest";
import { draught, compartmentRise, ventFor, WALLS } from "@/core/reference/air/compartment";
import { ambientFactor, routeFactor, withstandArea, WITHSTAND_K } from "@/core/reference/conductors/ampacity";
import { cableResistance } from "@/core/reference/conductors/cable";
import { breakerSurvives, letThrough } from "@/core/reference/conductors/fuse";
import { gaugeAreaMm2 } from "@/core/units/gauge";
import { shareAmong } from "@/core/reference/conductors/links";
import { generatorDerate } from "@/core/models/charging/supply";
import { assess } from "@/core/assessment/verdicts/assess";
import { q, jobOf } from "../jobs";

const within = (value: number, expected: number, share: number) =>
  expect(Math.abs(value / expected - 1), `${value} against ${expected}`).toBeLessThanOrEqual(share);

describe("short-circuit withstand, S = I sqrt(t) / k: IEC 60364-5-54", () => {
  it("5 kA for 0.1 s at k 115 asks for 13.7 mm2, so 16 mm2", () => {
    within(withstandArea(5000 * 5000 * 0.1, 115), 13.75, 0.002);
  });
  it.each([
    ["70", 115],
    ["90", 143],
  ] as const)("k of copper in %s °C insulation is %i", (insulation, k) => expect(WITHSTAND_K[insulation]).toBe(k));
  it("1 kA for 1 s at k 143 asks for 7.0 mm2 (memory: table 54)", () => {
    within(withstandArea(1e6, 143), 6.99, 0.002);
  });
});

describe("correction for hot air, root of the rise that is left: IEC 60364-5-52, table B.52.14", () => {
  // The table's own values, which are rounded to hundredths.
  it.each([
    ["70", 35, 0.94],
    ["70", 40, 0.87],
    ["70", 50, 0.71],
    ["90", 40, 0.91],
    ["90", 50, 0.82],
    ["90", 60, 0.71],
  ] as const)("%s °C insulation in %i °C air: %f", (insulation, air, factor) => {
    expect(Math.abs(ambientFactor(insulation, air) - factor)).toBeLessThanOrEqual(0.007);
  });
  it("a bundle of four to six carries seven tenths: ABYC E-11", () => {
    expect(routeFactor("abyc-e11", "105", "bundled")).toBe(0.7);
  });
});

describe("voltage drop, worked examples", () => {
  it("10 A, 30 ft there and back, 3 % of 12 V: 10 AWG by the boat-builder's table (ABYC E-11 table X)", () => {
    const drop = (gauge: number) => 10 * cableResistance(gaugeAreaMm2(gauge), 30 * 0.3048, 1, 30);
    expect(drop(10)).toBeLessThanOrEqual(0.36);
    expect(drop(12)).toBeGreaterThan(0.36);
  });
  it("100 A over 2 m one way of 35 mm2 at 20 °C loses 0.22 V (IEC 60228, by hand)", () => {
    within(100 * 2 * cableResistance(35, 2, 1, 20), 0.2216, 0.001);
  });
});

describe("type C breaker: IEC 60898-1", () => {
  it.each([
    [3600, 1.13],
    [1, 2.55],
    [0.1, 5],
    [0.01, 5],
  ])("is sure to carry for %f s %f times its rating", (_, multiple) => {
    within(breakerSurvives(_), multiple, 1e-9);
  });
});

describe("let-through of a fuse, slow edge: ISO 8820-5", () => {
  it("600 % lasts 1 s at the most, and I2t is constant above", () => {
    expect(letThrough(100, 600, "class-t")).toBeCloseTo(600 * 600, 6);
    expect(letThrough(100, 6000, "class-t")).toBeCloseTo(600 * 600, 6);
  });
  it("200 % lasts 15 s at the most", () => expect(letThrough(100, 200, "bolted-strip")).toBeCloseTo(200 * 200 * 15, 6));
});

describe("batteries in parallel (Kirchhoff)", () => {
  it("leads of 1 and 2 mohm before 2 mohm batteries share 6 : 4", () => {
    const { shares, resistance } = shareAmong("own-leads", 2, 0.002, [0.001, 0.002]);
    within(shares[0]!, 0.6, 1e-9);
    within(resistance, 1 / (1 / 0.004 + 1 / 0.006), 1e-9);
  });
  it("two batteries taken off diagonally share equally, whatever the link", () => {
    const { shares } = shareAmong("chain-diagonal", 2, 0.002, [0.005]);
    within(shares[0]!, 0.5, 1e-9);
  });
  it("taken off one end, two share as r + 2a to r", () => {
    const { shares } = shareAmong("chain-one-end", 2, 0.004, [0.001]);
    within(shares[0]! / shares[1]!, (0.004 + 0.002) / 0.004, 1e-9);
  });
  it("four taken off diagonally mirror each other, the ends giving most (common practice, no source)", () => {
    const { shares } = shareAmong("chain-diagonal", 4, 0.003, [0.001, 0.001, 0.001]);
    within(shares[0]!, shares[3]!, 1e-9);
    within(shares[1]!, shares[2]!, 1e-9);
    expect(shares[0]!).toBeGreaterThan(shares[1]!);
  });
  it("three in a chain agree with the ladder reduced by hand", () => {
    const [r, a] = [0.004, 0.0005];
    const far = r + 2 * a;
    const middle = (r * far) / (r + far);
    const near = middle + 2 * a;
    const { shares, resistance } = shareAmong("chain-one-end", 3, r, [a, a]);
    within(shares[0]!, near / (near + r), 1e-9);
    within(resistance, (near * r) / (near + r), 1e-9);
  });
});

describe("a compartment's own draught: stack effect, ASHRAE Fundamentals", () => {
  it("two vents of 0.05 m2, 1 m apart, 10 K: 0.017 m3/s carry some 190 W", () => {
    const flow = 0.6 * (0.05 / Math.SQRT2) * Math.sqrt((2 * 9.81 * 1 * 10) / 308);
    within(flow, 0.0169, 0.01);
    within(draught(0.05, 1) * Math.pow(10, 1.5), flow * 1.12 * 1006 * 10, 1e-9);
  });
  it("the rise and the vent that would do are each other's inverse", () => {
    const rise = compartmentRise(250, 0.03, 0.4);
    within(ventFor(250, rise, 0.4), 0.03, 1e-5);
    expect(ventFor(10, 10, 0.4)).toBe(0);
    expect(compartmentRise(30, 0, 0.3)).toBeCloseTo(30 / WALLS, 6);
  });
});

it("a generator loses 3 % for each 300 m and 1 % for each 5 K above 25 °C, one after the other (common practice, no source)", () => {
  within(generatorDerate(1500, 35), (1 - 0.15) * (1 - 0.02), 1e-9);
});

describe("fact 12, the other half: volts at battery and at inverter give the wiring", () => {
  const measured = (bankVoltage: number, inverterVoltage: number) =>
    assess(
      jobOf({
        cable: { areaMm2: q(70), length: q(2) },
        fuse: { rating: q(300) },
        wiring: {
          ...jobOf({ cable: { areaMm2: q(70), length: q(2) }, fuse: { rating: q(300) } }).wiring,
          measured: {
            current: q(200, "measured"),
            bankVoltage: q(bankVoltage, "measured"),
            inverterVoltage: q(inverterVoltage, "measured"),
          },
        },
      }),
    );
  it("half a volt at 200 A is 2.5 mohm: as its parts should be", () => {
    const { wiring } = measured(13.2, 12.7);
    within(wiring.resistance, 0.0025, 1e-9);
    expect(Math.abs(wiring.excess!)).toBeLessThan(0.0006);
  });
  it("two volts are a path problem, and the excess is put down to joints with its heat", () => {
    const { wiring, notices } = measured(13.2, 11.2);
    within(wiring.excess!, 0.01 - wiring.main.resistance, 1e-9);
    expect(notices.find(({ key }) => key === "notices.wiringMeasuresWhereParts")?.values.heat).toMatchObject({
      dimension: "power",
    });
  });
});

describe("fact 8: a battery limited to 100 A cannot run a 200 A load, whatever its energy", () => {
  const protection = (parallel: number, layout: "busbars" | "chain-one-end") => {
    const job = jobOf({
      bank: { capacityAh: q(1000), continuousCurrent: q(100), peakCurrent: q(1000), parallel: q(parallel) },
      unit: { kind: "variable", dcRunningCurrent: q(150, "measured") },
      inverter: { rating: q(4000) },
    });
    job.wiring.links = { layout, fuses: "unsaid", paths: [{ length: q(1) }], areaMm2: q(35) };
    return assess(job).verdicts.carries.checks.find(({ by }) => by === "bms-discharge")!;
  };
  it("one fails, two that share equally hold", () => {
    expect(protection(1, "busbars").word).toBe("Fails");
    expect(protection(2, "busbars").word).toBe("Holds");
  });
  it("two that share unequally give less than twice", () => {
    expect(protection(2, "chain-one-end").has).toBeLessThan(protection(2, "busbars").has * 0.95);
  });
});
