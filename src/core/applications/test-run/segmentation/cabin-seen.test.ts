import { describe, expect, it } from "vitest";
import { q, testRunVan } from "../../../../../tests/jobs";
import { testRunOf } from "../inference/test-run";
import { heldCabin } from "./cabin-seen";
import { propagate, startOf, trajectoryOf, type Particle } from "../inference/particle";
import { middleOf } from "../inference/prior";
import { fromList } from "../log/readings";

const T0 = Date.UTC(2026, 6, 14, 20);
const van = (kind: "fixed" | "variable") => testRunVan({ kind, ratedPower: q(780), coolingPower: q(2500) }, 22);
/** An hour and a half: twenty minutes at full, then less and less, the cabin as told by `cabinAt`. */
const log = (pace: number, cabinAt: (s: number) => number) =>
  fromList(
    Array.from({ length: Math.floor(5400 / pace) + 1 }, (_, i) => {
      const s = i * pace;
      const mains = s < 1200 ? 780 : 200 + 400 * Math.exp(-(s - 1200) / 1500);
      return {
        timeMs: T0 + s * 1000,
        values: {
          battery_current_a: -(mains * 1.07 + 40) / 13,
          battery_voltage_v: 13,
          ac_power_w: mains,
          cabin_temp_c: cabinAt(s),
          outdoor_temp_c: 27,
        },
      };
    }),
  );
const falling = (s: number) => 30 - s / 900;

describe("the cabin as it was read", () => {
  it.each([10, 60, 120, 300])("is a line where it fell by a line, a reading every %d s", (pace) => {
    const { settings, site, steps } = testRunOf(van("variable"), log(pace, falling)).log;
    const seen = settings.seenC!;
    let count = 0;
    for (let i = 0; i <= steps; i++) {
      if (Number.isNaN(seen[i]!)) continue;
      count++;
      // Every five minutes, a log's last two are a mean: no slope is read off two.
      expect(seen[i]!).toBeCloseTo(falling(i * site.stepS), pace > 200 && i === steps ? 0 : 6);
    }
    expect(count).toBeGreaterThan(30);
    // Nothing is said of what comes after the log, nor of the steep first minutes.
    expect([...seen.subarray(steps + 1)].every(Number.isNaN)).toBe(true);
    expect([...seen.subarray(0, Math.floor(600 / site.stepS))].every(Number.isNaN)).toBe(true);
  });
  it("says nothing for a unit of fixed speed, nor where it was not read", () => {
    expect(testRunOf(van("fixed"), log(60, falling)).log.settings.seenC).toBeNull();
    const blind = log(60, () => NaN);
    expect(testRunOf(van("variable"), blind).log.settings.seenC).toBeNull();
  });
  it("has noise smoothed out of it", () => {
    const noisy = log(10, (s) => 24 + (Math.floor(s / 10) % 2 ? 0.3 : -0.3));
    const { settings } = testRunOf(van("variable"), noisy).log;
    for (const value of settings.seenC!) if (!Number.isNaN(value)) expect(Math.abs(value - 24)).toBeLessThan(0.02);
  });
});

describe("the temperature that was held", () => {
  it("is the mean past the overshoot, surer the longer it was held", () => {
    const short = testRunOf(
      van("variable"),
      log(60, (s) => (s < 2400 ? falling(s) : 21.4)),
    ).segments;
    const held = heldCabin(short)!;
    expect(held.cabinC).toBeCloseTo(21.4, 0);
    expect(held.spread).toBeGreaterThan(0.3);
    expect(held.spread).toBeLessThan(0.7);
  });
  it("is none while the pull-down goes on", () => {
    const { segments } = testRunOf(van("variable"), log(60, falling));
    expect(heldCabin({ ...segments, pullDown: { fromS: 0, toS: null } })).toBeNull();
    expect(heldCabin({ ...segments, pullDown: null })).toBeNull();
  });
});

describe("a particle that is led by the cabin as read", () => {
  const {
    site,
    prior,
    log: read,
  } = testRunOf(
    van("variable"),
    log(60, (s) => Math.max(21, falling(s))),
  );
  const particle: Particle = { ...middleOf(prior), cabinC: 30, massC: 30, gains: 2 };
  const drive = (change: Partial<Particle>) => {
    const track = trajectoryOf(site.steps);
    propagate(site, { ...particle, ...change }, read.settings, startOf(particle), 0, read.steps, track);
    return track;
  };
  it("comes to it whatever its set point and its control's pace", () => {
    const ends = [
      { setShift: 0, settling: 480 },
      { setShift: 3, settling: 480 },
      { setShift: -2, settling: 2000 },
    ].map((change) => drive(change));
    const last = read.steps - 1;
    for (const { cabinC } of ends) expect(cabinC[last]).toBeCloseTo(ends[0]!.cabinC[last]!, 1);
    const [one, two] = ends.map(({ draw }) => draw.subarray(last - 10, last).reduce((sum, w) => sum + w, 0));
    expect(Math.abs(two! / one! - 1)).toBeLessThan(0.1);
  });
  it("draws more for it where the cabin lets in more or holds more heat", () => {
    const mean = (change: Partial<Particle>) =>
      drive(change)
        .draw.subarray(Math.floor(read.steps / 2), read.steps)
        .reduce((sum, w) => sum + w, 0);
    const usual = mean({});
    expect(mean({ heatLoss: 1.5 })).toBeGreaterThan(1.04 * usual);
    expect(mean({ slowMass: 1.5, coupling: 1.5 })).toBeGreaterThan(1.05 * usual);
  });
});
