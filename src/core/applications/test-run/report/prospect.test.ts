import { describe, expect, it } from "vitest";
import { roofPanels, testRunVan } from "../../../../../tests/jobs";
import type { Job } from "../../../document/schema";
import { ahead, type Forecast } from "../inference/forecast";
import { fit, testRunOf } from "../inference/test-run";
import { emptyReadings, type Readings } from "../log/readings";
import { NOTHING_SAID, type RunConditions } from "../site/conditions";
import { prospectOf } from "./prospect";

/** A log of a steady draw: an hour from a moment of a July day, a reading a minute. */
function steady(hour: number, amps: number): Readings {
  const log = emptyReadings(60);
  for (let i = 0; i < 60; i++) {
    log.timeMs[i] = Date.UTC(2026, 6, 14, hour, i);
    log.values.battery_current_a[i] = -amps;
    log.values.battery_voltage_v[i] = 13.2;
  }
  return log;
}
const panels = (count: number): Job => {
  const job = testRunVan();
  return { ...job, sources: { ...job.sources, panels: [roofPanels(200, count)] } };
};
function asked(job: Job, log: Readings, conditions: RunConditions = NOTHING_SAID) {
  const testRun = testRunOf(job, log, conditions);
  const forecast = ahead(testRun, fit(testRun, { particles: 60 })!);
  return { testRun, forecast, prospect: prospectOf(testRun, forecast) };
}
/** The same forecast with other hours. */
const hours = (forecast: Forecast, list: number[], p50: number | null): Forecast => ({
  ...forecast,
  reserveHours: list,
  hoursToReserve: { ...forecast.hoursToReserve, p50 },
});

describe("what a forecast hangs on", () => {
  const evening = asked(panels(3), steady(20, 30));
  it("says in one sentence what the battery gives, with its amps", () => {
    expect(evening.prospect.decides).toMatch(/\d+ A/);
  });
  it("says until when the panels carry a part of it, where they do", () => {
    const { prospect } = asked(panels(6), steady(13, 20));
    expect(prospect.decides).toMatch(/^The panels carry part of the draw/);
  });
  it("says nothing of hours that are over", () => {
    const { testRun, forecast } = evening;
    expect(prospectOf(testRun, hours(forecast, new Array<number>(60).fill(0), 0)).decides).toBeNull();
  });
  const HALF = [...new Array<number>(30).fill(6), ...new Array<number>(30).fill(Infinity)];
  it("tells the chance of the next day's sun where the hours hang on it", () => {
    const { testRun, forecast } = evening;
    const { chance } = prospectOf(testRun, hours(forecast, HALF, null));
    expect(chance!.inTen).toBe(5);
    expect(chance!.at).toMatch(/^0[6-9]:\d\d$/);
    expect(chance!.untilS).toBeGreaterThan(testRun.log.lastS + 8 * 3600);
  });
  it.each<[string, number[], number | null]>([
    ["the reserve comes long before it", HALF, 3],
    ["it lasts for certain", new Array<number>(60).fill(Infinity), null],
    ["it does not last", new Array<number>(60).fill(11), 11],
  ])("tells no chance where %s", (_, list, p50) => {
    const { testRun, forecast } = evening;
    expect(prospectOf(testRun, hours(forecast, list, p50)).chance).toBeNull();
  });
  it("tells none without panels", () => {
    const { testRun, forecast } = asked(testRunVan(), steady(20, 30));
    expect(prospectOf(testRun, hours(forecast, HALF, null)).chance).toBeNull();
  });
});

describe("what would help most", () => {
  it("names one of what was neither read nor said, and by how much the range would narrow", () => {
    const { help } = asked(testRunVan(), steady(20, 30)).prospect;
    expect(help!.what).toMatch(/^(Read|State) .*\.$/);
    expect(help!.narrows).toBeGreaterThan(0.08);
    expect(help!.narrows).toBeLessThan(0.8);
  });
  it("asks for nothing that was said", () => {
    const all: RunConditions = {
      people: 2,
      colour: "white",
      blinds: "inside",
      shade: "sun",
      forecastHighC: 34,
      forecastLowC: 20,
      startSoc: 0.9,
      batteryAge: "some-years",
      lastFull: "days",
      notesLeftOut: [],
    };
    const { help } = asked(testRunVan(), steady(20, 30), all).prospect;
    expect(help?.what ?? "").not.toMatch(/people|colour|charge|forecast/);
  });
});
