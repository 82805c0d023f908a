import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import { emptyPart, type Part, type Job } from "../../document/schema";
import { sizeCircuit } from "../../applications/sizing/size-circuit";
import { assess } from "../../assessment/verdicts/assess";
import { cableCarries } from "../../reference/conductors/ampacity";
import { shareAmong, type LinkLayout } from "../../reference/conductors/links";
import { singleLineDiagram, DIAGRAM_CELL, linesBelow } from "../../applications/diagram/single-line-diagram";

const unread = (job: Job): Job => ({ ...job, wiring: { ...job.wiring, measured: {} } });
const ohms = (job: Job) => assess(job).wiring.resistance;

describe("runs of parts, on random systems", () => {
  it("a part more never has less resistance", () => {
    fc.assert(
      fc.property(
        randomJob(false),
        fc.constantFrom("cable", "isolator", "shunt", "busbar", "joints"),
        (random, kind) => {
          const job = unread(random);
          // Assumed cables share the drop allowed among them, so their sizes are entered.
          const main = job.wiring.main.map((part) => (part.kind === "cable" ? { ...part, areaMm2: q(50) } : part));
          const part = { ...emptyPart(kind, "more"), ...(kind === "cable" ? { areaMm2: q(50) } : {}) } as Part;
          const of = (parts: Part[]) => ohms({ ...job, wiring: { ...job.wiring, main: parts } });
          expect(of([...main, part])).toBeGreaterThan(of(main));
        },
      ),
      { numRuns: 60 },
    );
  });
  it("the order of entered parts changes no resistance", () => {
    fc.assert(
      fc.property(randomJob(false), (random) => {
        const job = unread(random);
        // Assumed sizes follow the fuse before them, so only entered ones stay what they are.
        const entered = job.wiring.main.filter((part): part is Part & { kind: "joints" } => part.kind === "joints");
        const main: Part[] = [...entered, { ...(emptyPart("cable", "c") as Part & { kind: "cable" }), areaMm2: q(50) }];
        const turned = { ...job, wiring: { ...job.wiring, main: [...main].reverse() } };
        expect(ohms(turned)).toBeCloseTo(ohms({ ...job, wiring: { ...job.wiring, main } }), 12);
      }),
      { numRuns: 40 },
    );
  });
  it("the plan draws every part once, none over another, whatever the system", () => {
    fc.assert(
      fc.property(randomJob(true), (job) => {
        const diagram = singleLineDiagram(job, assess(job));
        const parts = job.wiring.branches.reduce((sum, branch) => sum + branch.parts.length, job.wiring.main.length);
        const drawn = diagram.items.filter(({ path }) => /^wiring\.(main|branches\.\d+\.parts)\.\d+$/.test(path));
        expect(drawn).toHaveLength(parts);
        expect(new Set(diagram.items.map(({ key }) => key)).size).toBe(diagram.items.length);
        const boxes = diagram.items.map(({ x, y, ...item }) => [x, y - 19, y + 20 + 14 * linesBelow(item)] as const);
        for (const [i, [x, top, bottom]] of boxes.entries())
          for (const [x2, top2, bottom2] of boxes.slice(i + 1))
            expect(Math.abs(x - x2) >= DIAGRAM_CELL.width - 0.01 || bottom <= top2 || bottom2 <= top).toBe(true);
      }),
      { numRuns: 80 },
    );
  });
});

describe("sharing among batteries", () => {
  const layouts = fc.constantFrom<LinkLayout>("own-leads", "chain-diagonal", "chain-one-end");
  const links = (count: number) =>
    fc.array(fc.double({ min: 0, max: 0.005, noNaN: true }), { minLength: count, maxLength: count });
  it("shares add up to one, and each battery's drop explains the same volts at the terminals", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 8 }).chain((count) => fc.tuple(layouts, fc.constant(count), links(count))),
        fc.double({ min: 0.0005, max: 0.02, noNaN: true }),
        ([layout, count, ohm], inner) => {
          const { shares, resistance } = shareAmong(layout, count, inner, ohm);
          expect(shares.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 9);
          expect(resistance).toBeGreaterThanOrEqual(inner / count - 1e-12);
          if (layout === "own-leads")
            shares.forEach((share, i) => expect(share * (inner + 2 * ohm[i]!)).toBeCloseTo(resistance, 9));
          if (layout === "chain-one-end") {
            // From the first battery on, each gives no more than the one before it.
            shares.slice(1).forEach((share, i) => expect(share).toBeLessThanOrEqual(shares[i]! + 1e-12));
          }
        },
      ),
      { numRuns: 200 },
    );
  });
  it("more resistance in the batteries evens them out", () => {
    const most = (inner: number) => Math.max(...shareAmong("chain-one-end", 4, inner, [0.001, 0.001, 0.001]).shares);
    expect(most(0.02)).toBeLessThan(most(0.005));
    expect(most(10)).toBeCloseTo(0.25, 3);
  });
  it("longer links never raise what the battery may give", () => {
    const limit = (metres: number) => {
      const job = jobOf({ bank: { parallel: q(3), continuousCurrent: q(100) } });
      job.wiring.links = {
        layout: "chain-one-end",
        fuses: "unsaid",
        areaMm2: q(35),
        paths: [{ length: q(metres) }, { length: q(metres) }],
      };
      return assess(job).verdicts.carries.checks.find(({ by }) => by === "bms-discharge")!.has;
    };
    const limits = [0.1, 0.3, 1, 3].map(limit);
    limits.slice(1).forEach((one, i) => expect(one).toBeLessThanOrEqual(limits[i]!));
    expect(limits[0]!).toBeLessThanOrEqual(300);
  });
});

describe("ampacity", () => {
  it("hot air, bundles and engine spaces only take away; thicker copper and hotter insulation add", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("iso-10133", "abyc-e11"),
        fc.double({ min: 2, max: 120, noNaN: true }),
        fc.double({ min: 30, max: 69, noNaN: true }),
        (table, area, air) => {
          const base = cableCarries(table, { areaMm2: area, insulation: "90", route: "free" }, 30);
          expect(cableCarries(table, { areaMm2: area, insulation: "90", route: "free" }, air)).toBeLessThanOrEqual(
            base + 1e-9,
          );
          expect(cableCarries(table, { areaMm2: area, insulation: "90", route: "bundled" }, air)).toBeLessThan(
            cableCarries(table, { areaMm2: area, insulation: "90", route: "free" }, air),
          );
          expect(cableCarries(table, { areaMm2: area, insulation: "90", route: "engine" }, air)).toBeLessThan(
            cableCarries(table, { areaMm2: area, insulation: "90", route: "free" }, air),
          );
          expect(cableCarries(table, { areaMm2: area * 1.2, insulation: "90", route: "free" }, air)).toBeGreaterThan(
            cableCarries(table, { areaMm2: area, insulation: "90", route: "free" }, air),
          );
          expect(cableCarries(table, { areaMm2: area, insulation: "105", route: "free" }, air)).toBeGreaterThan(
            cableCarries(table, { areaMm2: area, insulation: "70", route: "free" }, air),
          );
        },
      ),
      { numRuns: 100 },
    );
  });
  it("at the insulation's own temperature nothing is left", () => {
    expect(cableCarries("iso-10133", { areaMm2: 35, insulation: "70", route: "free" }, 70)).toBe(0);
    expect(cableCarries("iso-10133", { areaMm2: 35, insulation: "70", route: "free" }, 90)).toBe(0);
  });
});

describe("choose for me", () => {
  const chosen = (amps: number, metres = 1.5) =>
    sizeCircuit(
      jobOf({ unit: { runningCurrent: q(amps) }, cable: { length: q(metres) }, inverter: { rating: q(4000) } }),
      "wiring.main",
    )!;
  it("more current or a longer run never asks for less copper", () => {
    const copper = ({ areaMm2, count }: ReturnType<typeof chosen>) => areaMm2 * count;
    const byAmps = [3, 5, 7, 9].map((amps) => copper(chosen(amps)));
    const byLength = [1, 2, 4, 6].map((metres) => copper(chosen(5, metres)));
    for (const list of [byAmps, byLength])
      list.slice(1).forEach((one, i) => expect(one).toBeGreaterThanOrEqual(list[i]!));
  });
  it("its fuse is over 125 % of the current and under what the cable carries", () => {
    const { job, rating } = chosen(6);
    const { figures, currents } = assess(job);
    expect(rating).toBeGreaterThanOrEqual(1.25 * currents["wiring.main"]!);
    expect(rating).toBeLessThanOrEqual(figures["wiring.main.3.ampacity"]!.value);
  });
  it("is of the system's own table: gauges on 120 V, square millimetres on 230 V", () => {
    expect(sizeCircuit(jobOf({ mains: "120V60Hz", unit: { runningCurrent: q(10) } }), "wiring.main")!.words).toMatch(
      /AWG/,
    );
    expect(chosen(5).words).toMatch(/mm²/);
  });
});
