/* How the unit was set is data: the forecast is fitted with what each span was set to, and goes on from what is set now. */
import { describe, expect, it } from "vitest";
import { testRunVan } from "../../../../../tests/jobs";
import { MODE } from "../../../simulation/kernel/control";
import { viewOf } from "../report/view";
import { NOTHING_SAID, type RunConditions } from "../site/conditions";
import { fromList, type Reading, type Readings } from "../log/readings";
import type { RunSetting, SaidMode } from "../log/settings-said";
import { makeSimulator } from "../simulator/simulator";
import { ahead } from "./forecast";
import { fit, testRunOf } from "./test-run";

const T0 = Date.UTC(2026, 6, 14, 20);
const job = testRunVan({}, 16);
const { readings } = makeSimulator(job, { seed: 3, faults: [], every: 30 }, T0);
/** The first hour and a half of it, without its notes. */
const first: Reading[] = readings
  .filter(({ timeMs }) => timeMs <= T0 + 5_400_000)
  .map(({ timeMs, values }) => ({ timeMs, values }));
const log = fromList(first);
const said = (minute: number, setC: number | null, mode: SaidMode | null): RunSetting => ({
  timeMs: T0 + minute * 60_000,
  setC,
  mode,
  text: "",
});

describe("settings that were said", () => {
  it("take the place of the plan's from their moment on, to the end of what is looked ahead", () => {
    const { log: held, site } = testRunOf(job, log, NOTHING_SAID, [said(20, 21, null), said(60, 22, "low")]);
    const at = (minute: number) => Math.floor((minute * 60) / site.stepS);
    expect([10, 30, 70, 600].map((minute) => held.settings.setC[at(minute)])).toEqual([16, 21, 22, 22]);
    expect([30, 70, 600].map((minute) => held.settings.mode[at(minute)])).toEqual([MODE.auto, MODE.low, MODE.low]);
  });
  it("switch it off, and on again as it was set before", () => {
    const { log: held, site } = testRunOf(job, log, NOTHING_SAID, [
      said(15, null, "low"),
      said(40, null, "off"),
      said(70, null, "on"),
    ]);
    const at = (minute: number) => held.settings.mode[Math.floor((minute * 60) / site.stepS)];
    expect([50, 80, 600].map(at)).toEqual([MODE.off, MODE.low, MODE.low]);
  });
  it("are what the forecast goes on from: warmer lasts longer, off lasts longest", () => {
    const hours = (settings: RunSetting[]) => {
      const testRun = testRunOf(job, log, NOTHING_SAID, settings);
      const { p50 } = ahead(testRun, fit(testRun, { particles: 80 })!).hoursToReserve;
      return p50 ?? 48;
    };
    const [asPlanned, warmer, off] = [[], [said(89, 27, null)], [said(89, null, "off")]].map(hours);
    expect(warmer).toBeGreaterThan(1.2 * asPlanned!);
    expect(off).toBeGreaterThan(warmer!);
  });
});

describe("a log whose notes say settings", () => {
  const noted = fromList([
    ...first,
    { timeMs: T0 + 1_800_000 + 1, values: {}, note: "turned up to 21" },
    { timeMs: T0 + 2_400_000 + 1, values: {}, note: "set it lower" },
  ]);
  const viewed = (conditions = NOTHING_SAID) => {
    const { answer } = viewOf(job, noted, { particles: 30, conditions })!;
    if (!answer.ok) throw new Error(answer.message);
    return answer.view;
  };
  it("shows what was read of them, what was not understood, and how it is set now", () => {
    const view = viewed();
    expect(view.said.map(({ setC, text }) => [setC, text])).toEqual([[21, "turned up to 21"]]);
    expect(view.unclear.map(({ text }) => text)).toEqual(["set it lower"]);
    expect(view.setNow).toEqual({ setC: 21, mode: MODE.auto });
    expect(view.repairs.map(({ what }) => what)).not.toContain("no-current");
  });
  it("goes by the plan where somebody left the note out", () => {
    expect(viewed({ ...NOTHING_SAID, notesLeftOut: [T0 + 1_800_000 + 1] }).setNow.setC).toBe(16);
  });
});

describe("the last full charge", () => {
  const shown: Readings = { ...log, values: { ...log.values, soc_pct: log.values.battery_current_a.map(() => 78) } };
  const said = (lastFull: RunConditions["lastFull"], readings = shown) =>
    testRunOf(job, readings, { ...NOTHING_SAID, lastFull }).prior;
  const startOf = (prior: ReturnType<typeof said>) => prior.particle(new Float64Array(100)).startSoc;
  it("some days ago leaves a monitor's percentage surer than one of weeks ago, which rested volts may correct", () => {
    expect(said("days").widths.startSoc).toBeLessThan(0.035);
    expect(said("weeks").widths.startSoc).toBeGreaterThan(1.5 * said("days").widths.startSoc);
    expect(startOf(said("days"))).toBeCloseTo(0.78, 1);
  });
  it("just before the run is full, whatever the monitor shows that was never told", () => {
    expect(startOf(said("now"))).toBeGreaterThan(0.97);
    expect(startOf(said("now", log))).toBeGreaterThan(0.97);
    expect(said("now", log).widths.startSoc).toBeLessThan(said(null, log).widths.startSoc);
  });
});

describe("the battery's age in words", () => {
  // New lithium gives 1.00 to 1.06 of its plate, some years old 0.75 to 0.95 (common practice, no source).
  it.each([
    ["new", 1, 1.06],
    ["some-years", 0.75, 0.95],
    ["tired", 0.55, 0.85],
  ] as const)("%s: the middle of what is left is between %s and %s of the plate", (batteryAge, low, high) => {
    const { prior, site } = testRunOf(job, log, { ...NOTHING_SAID, batteryAge });
    const plate = site.system.values.bank.capacityAh.value * site.system.values.bank.parallel.value;
    const middle = prior.particle(new Float64Array(100)).bankAh / plate;
    expect(middle).toBeGreaterThan(low);
    expect(middle).toBeLessThan(high);
    expect(middle - 1.3 * prior.widths.bankAh).toBeGreaterThan(low - 0.1);
  });
});

describe("volts that step with the draw", () => {
  const holds = (times: number) => {
    const extra = (times - 1) * testRunOf(job, log).site.system.bank.innerResistance;
    const volts = log.values.battery_voltage_v.map((v, i) => v + extra * log.values.battery_current_a[i]!);
    const read: Readings = { ...log, values: { ...log.values, battery_voltage_v: volts } };
    const { prior } = testRunOf(job, read);
    return { share: prior.particle(new Float64Array(100)).bankAh, width: prior.widths.bankAh };
  };
  it.each([
    [2, 0.01, 0.06],
    [3, 0.02, 0.1],
    [0.5, -1e-9, 1e-9],
  ])("%f times what is taken for granted: a battery that holds less, and never more", (times, least, most) => {
    const lost = 1 - holds(times).share / holds(1).share;
    expect(lost).toBeGreaterThanOrEqual(least);
    expect(lost).toBeLessThanOrEqual(most);
    expect(holds(times).width).toBeLessThan(0.055);
  });
});
