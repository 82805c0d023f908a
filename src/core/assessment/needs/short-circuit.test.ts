import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { assess } from "../verdicts/assess";

const carriesOf = (parts: Parameters<typeof jobOf>[0]) => assess(jobOf(parts)).verdicts.carries.checks;
const interrupting = (parts: Parameters<typeof jobOf>[0]) =>
  carriesOf(parts).find(({ by, part }) => by === "dc-interrupting" && part?.startsWith("wiring.main"))!;
const withstand = (parts: Parameters<typeof jobOf>[0]) =>
  carriesOf(parts).find(({ by, part }) => by === "dc-withstand" && part?.startsWith("wiring.main"))!;

describe("the short-circuit current that a fuse has to break", () => {
  const lead = { chemistry: "agm" as const, temperatureC: q(25), parallel: q(1), series: q(1) };
  it("is the battery's volts over its cells and what lies before the fuse", () => {
    // Ohm: a battery of 12.8 V at rest and 4 milliohm gives about 3.2 kA into a bolted short at its posts.
    const { need, demand } = interrupting({ bank: { ...lead, resistance: q(0.004) } });
    const symbols = Object.fromEntries(demand.terms.map(({ symbol, value }) => [symbol, value]));
    expect(need).toBeCloseTo(symbols.E! / (symbols.R_z! + symbols.R!), 6);
    expect(need).toBeGreaterThan(2500);
    expect(need).toBeLessThan(6500);
  });
  it("is twice as large where the battery's resistance is only assumed: the unfavourable half of it is taken", () => {
    const { demand } = interrupting({ bank: lead });
    const cells = demand.terms.find(({ symbol }) => symbol === "R_z")!;
    expect(cells.why).toMatch(/half of the assumed resistance/);
  });
  it("is that of a warm battery, however cold it is today", () => {
    const cold = interrupting({ bank: { ...lead, temperatureC: q(-10) } });
    const warm = interrupting({ bank: { ...lead, temperatureC: q(25) } });
    expect(cold.need).toBeCloseTo(warm.need, 3);
  });
  it("of lithium of unknown resistance is taken as 20 kA at most, which class T breaks and nobody has stated", () => {
    const bank = { chemistry: "lfp" as const, capacityAh: q(300), parallel: q(4) };
    const { need, word } = interrupting({ bank, fuse: { fuseKind: "class-t" } });
    expect(need).toBeLessThanOrEqual(20_000);
    expect(word).toBe("Tight");
  });
  it("is a stop for a fuse that cannot break it", () => {
    const bank = { chemistry: "lfp" as const, capacityAh: q(300), parallel: q(4) };
    expect(interrupting({ bank, fuse: { interrupting: q(1000) } }).word).toBe("Stop");
  });
});

describe("a cable until its fuse has opened", () => {
  // IEC 60364-5-54: S = sqrt(I^2 t) / k, k = 143 for copper in 90 degC insulation.
  it("is thick enough for the heat of the short circuit", () => {
    const { demand, limit } = withstand({ cable: { areaMm2: q(50), count: q(1), insulation: "90" } });
    const symbols = Object.fromEntries(demand.terms.map(({ symbol, value }) => [symbol, value]));
    expect(symbols.k).toBe(143);
    expect(demand.value).toBeCloseTo((symbols.I_k! * Math.sqrt(symbols.t!)) / 143, 6);
    expect(limit.value).toBe(50);
  });
  it("counts all conductors side by side", () => {
    expect(withstand({ cable: { areaMm2: q(50), count: q(2) } }).has).toBe(100);
  });
  it("is a stop where a thin one stands behind a large fuse", () => {
    const thin = withstand({
      bank: { chemistry: "agm", resistance: q(0.001) },
      cable: { areaMm2: q(2.5), count: q(1) },
      fuse: { rating: q(400) },
    });
    expect(thin.word).toBe("Stop");
  });
});
