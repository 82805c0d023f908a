import { describe, expect, it } from "vitest";
import { emptyJob } from "../../../document/schema";
import { emptyReadings, type Readings } from "../log/readings";
import { testRunOf } from "../inference/test-run";
import { jobOnTheDay, NOTHING_SAID, runConditionsSchema, SUN_THROUGH, type RunConditions } from "./conditions";
import { siteOf } from "./site";

const job = emptyJob("Van");
const said = (part: Partial<RunConditions>): RunConditions => ({ ...NOTHING_SAID, ...part });
const NOON = { startMs: Date.UTC(2026, 6, 14, 12), seconds: 6 * 3600 };
const siteWith = (part: Partial<RunConditions>) => siteOf(job, { ...NOON, conditions: said(part) });
const sum = (line: Float64Array) => line.reduce((all, one) => all + one, 0);

describe("conditions of a run", () => {
  it("change nothing where nothing was said", () => {
    expect(jobOnTheDay(job, NOTHING_SAID)).toEqual(job);
  });
  it("are put where the document has a place for them", () => {
    const on = jobOnTheDay(job, said({ colour: "dark", blinds: "outside", startSoc: 1, forecastHighC: 36 }));
    expect(on.cabin).toMatchObject({ colour: "dark", blinds: "outside" });
    expect(on.bank.startSoc).toEqual({ value: 1, origin: "plate" });
    expect(on.place.maxC!.value - on.place.minC!.value).toBe(10);
  });
  it.each<[string, Record<string, unknown>, string]>([
    ["more people than a bus holds", { people: 60 }, "people"],
    ["half a person", { people: 1.5 }, "people"],
    ["a colour that is none", { colour: "plaid" }, "colour"],
    ["a high that no weather has", { forecastHighC: 80 }, "forecastHighC"],
    ["a low above the high", { forecastHighC: 20, forecastLowC: 25 }, "forecastLowC"],
    ["an empty battery", { startSoc: 0 }, "startSoc"],
  ])("refuse %s, by its field", (_, part, path) => {
    const read = runConditionsSchema.safeParse({ ...NOTHING_SAID, ...part });
    expect(!read.success && read.error.issues[0]!.path).toEqual([path]);
  });
});

describe("the site of a run", () => {
  it("is as hot by day and as cool by night as the forecast says", () => {
    const day = siteOf(job, { ...NOON, seconds: 24 * 3600, conditions: said({ forecastHighC: 39, forecastLowC: 24 }) });
    expect(Math.max(...day.outdoorC)).toBeCloseTo(39, 0);
    expect(Math.min(...day.outdoorC)).toBeCloseTo(24, 0);
  });
  it("is warmed by as many as are on board: 70 W and 45 W of moisture each (ASHRAE; from memory)", () => {
    const [none, three] = [siteWith({ people: 0 }), siteWith({ people: 3 })];
    expect(three.gains[0]! - none.gains[0]!).toBeCloseTo(210, 6);
    expect((three.moisture[0]! - none.moisture[0]!) * 2.45e6).toBeCloseTo(135, -1);
  });
  it.each(["part", "shade"] as const)("sees less sun where it stands in the %s", (shade) => {
    const [open, under] = [siteWith({ shade: "sun" }), siteWith({ shade })];
    expect(sum(under.glassAir) / sum(open.glassAir)).toBeCloseTo(SUN_THROUGH[shade], 6);
    expect(sum(under.skinSun)).toBeLessThan(sum(open.skinSun));
  });
  it("is warmer at its skin where that is dark", () => {
    expect(sum(siteWith({ colour: "dark" }).skinSun)).toBeGreaterThan(2 * sum(siteWith({ colour: "white" }).skinSun));
  });
});

describe("what is known before a log is read", () => {
  const log: Readings = emptyReadings(5);
  for (let i = 0; i < 5; i++) {
    log.timeMs[i] = NOON.startMs + i * 60_000;
    log.values.battery_current_a[i] = -40;
    log.values.battery_voltage_v[i] = 13;
  }
  const widths = (part: Partial<RunConditions>) => testRunOf(job, log, said(part)).prior.widths;
  it.each<[keyof ReturnType<typeof widths>, Partial<RunConditions>]>([
    ["gains", { people: 2 }],
    ["outdoor", { forecastHighC: 33 }],
    ["sun", { colour: "white", blinds: "inside", shade: "sun" }],
    ["startSoc", { startSoc: 1 }],
  ])("of %s is narrower once it was said", (parameter, part) => {
    expect(widths(part)[parameter]).toBeLessThan(widths({})[parameter]);
  });
  it("takes the day to be warmer than the month's usual one until a forecast or a thermometer says", () => {
    const middle = (part: Partial<RunConditions>, read = log) => {
      const { prior } = testRunOf(job, read, said(part));
      return prior.particle(new Float64Array(40)).outdoor;
    };
    const withOutdoor = { ...log, values: { ...log.values, outdoor_temp_c: new Float64Array(5).fill(31) } };
    expect(middle({})).toBeGreaterThan(1);
    expect(middle({ forecastHighC: 33 })).toBe(0);
    expect(middle({}, withOutdoor)).toBe(0);
  });
  describe("of the charge", () => {
    const shareWith = (percent: number, part: Partial<RunConditions>) => {
      const read = { ...log, values: { ...log.values, soc_pct: new Float64Array(5).fill(percent) } };
      return testRunOf(job, read, said(part)).prior.particle(new Float64Array(40)).startSoc;
    };
    it.each<[string, number, Partial<RunConditions>, number, number]>([
      [
        "a monitor's 95 % beside a bank that was said to be full counts less than what was said",
        95,
        { startSoc: 1 },
        0.97,
        0.99,
      ],
      ["a monitor's 40 % stands before a full bank that the job takes for granted", 40, {}, 0.38, 0.41],
      ["what was said as the run began stands before a monitor that cannot be right", 95, { startSoc: 0.5 }, 0.47, 0.5],
    ])("%s", (_, percent, part, low, high) => {
      expect(shareWith(percent, part)).toBeGreaterThan(low);
      expect(shareWith(percent, part)).toBeLessThan(high);
    });
  });
});
