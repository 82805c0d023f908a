/* Panels, engine and generator one by one, and the plan laid over local time. */
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { clockFrom } from "../../units/clock";
import { scheduleOf } from "../../simulation/day/prepare";
import { emptyPanel, emptySpan, type Panel, type PlanSpan, type Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import type { Weather } from "../../reference/weather/weather";
import { arrayPower, solarModel, solarPower } from "./solar";
import type { SunTrack } from "../../reference/sun/position";
import { ALTERNATOR_VOLTS, alternatorPower, generatorDerate } from "./supply";

/** The sun in the south, so many radians high. */
const sunAt = (altitude: number): SunTrack => ({
  altitude: Float64Array.of(altitude),
  azimuth: Float64Array.of(Math.PI),
  sinAltitude: Float64Array.of(Math.sin(altitude)),
  cosAltitude: Float64Array.of(Math.cos(altitude)),
});
/** Weather of one step: the sun straight above at noon. */
const noon = (global = 1000, outdoorC = 25): Weather => ({
  stepS: 60,
  steps: 1,
  pressurePa: 101_325,
  outdoorC: Float64Array.of(outdoorC),
  humidity: Float64Array.of(0.01),
  global: Float64Array.of(global),
  diffuse: Float64Array.of(global * 0.15),
  beamTop: Float64Array.of(1361),
  track: sunAt(1.2),
});
const withPanels = (panels: Partial<Panel>[], controllers: Job["sources"]["controllers"] = []): Job => ({
  ...jobOf(),
  sources: { panels: panels.map((panel, i) => ({ ...emptyPanel(`p${i}`), ...panel })), controllers, obstacles: [] },
});
function watts(job: Job, weather = noon(), hour = 12, shade = 0): number {
  const model = solarModel(resolveJob(job), job);
  return solarPower(model, weather, Float64Array.of(hour), Float64Array.of(shade), 14)[0]!;
}

describe("panels", () => {
  it("give rating × factor × heat: 1000 W/m², 25 °C air, NOCT 45 °C on legs", () => {
    const job = withPanels([
      { mount: "portable", power: q(200), tilt: q(0), perKelvin: q(0.004), nominalCellC: q(45) },
    ]);
    expect(watts(job)).toBeCloseTo(200 * 0.86 * (1 - 0.004 * 31.25), 6);
  });
  it("flat on the roof run 5 K hotter at 800 W/m²", () => {
    const on = (mount: Panel["mount"]) =>
      watts(withPanels([{ mount, power: q(200), tilt: q(0), perKelvin: q(0.004) }]));
    expect(on("portable") - on("flat")).toBeCloseTo(200 * 0.86 * 0.004 * 6.25, 6);
  });
  it("add up in number, and nothing comes of no sun", () => {
    const job = withPanels([{ power: q(100), count: q(3) }]);
    expect(watts(job)).toBeCloseTo(3 * watts(withPanels([{ power: q(100) }])), 6);
    expect(watts(job, noon(0))).toBe(0);
  });
  it("tilted to a low sun get more than flat ones", () => {
    const low = { ...noon(450), track: sunAt(0.4) };
    const tilted = withPanels([{ mount: "tilted", power: q(200), tilt: q(40), azimuth: q(180) }]);
    const away = withPanels([{ mount: "tilted", power: q(200), tilt: q(40), azimuth: q(0) }]);
    const flat = withPanels([{ power: q(200) }]);
    expect(watts(tilted, low)).toBeGreaterThan(1.3 * watts(flat, low));
    expect(watts(away, low)).toBeLessThan(0.5 * watts(flat, low));
  });
  it("lose what roof shade takes, what the hour takes, and what a roof over all takes", () => {
    const open = watts(withPanels([{ power: q(200) }]));
    expect(watts(withPanels([{ power: q(200), shaded: q(0.25) }])) / open).toBeCloseTo(0.25, 6);
    const shadeByHour = Array.from({ length: 24 }, (_, hour) => (hour === 12 ? 1 : 0));
    expect(watts(withPanels([{ power: q(200), shadeByHour }]))).toBe(0);
    expect(watts(withPanels([{ power: q(200), shadeByHour }]), noon(), 13)).toBeCloseTo(open, 6);
    expect(watts(withPanels([{ power: q(200) }]), noon(), 12, 1)).toBe(0);
    // What stands on the ground is put where the sun is.
    const portable = withPanels([{ mount: "portable", power: q(200), tilt: q(0) }]);
    expect(watts(portable, noon(), 12, 1)).toBeGreaterThan(0);
  });
  it("in part shade bypass the shaded cells where the rest still charges the battery (common practice, no source)", () => {
    const shaded = (series: number) =>
      watts(withPanels([{ power: q(200), count: q(2), shaded: q(0.1), series: q(series) }]));
    const unshaded = watts(withPanels([{ power: q(200), count: q(2) }]));
    // Two of 36 cells in series pass a 12 V battery's volts with one group bypassed; a single one does not.
    expect(shaded(2) / unshaded).toBeCloseTo(1 - 2 * 0.1, 6);
    expect(shaded(1) / unshaded).toBeCloseTo(1 - 0.75 * 4 * 0.1, 6);
  });
  it("pass no more than each controller's amps", () => {
    const controllers = [
      { id: "a", name: "A", stringFuses: "unsaid" as const, current: q(5) },
      { id: "b", name: "B", stringFuses: "unsaid" as const, current: q(100) },
    ];
    const job = withPanels(
      [
        { power: q(400), controllerId: "a" },
        { power: q(100), controllerId: "b" },
      ],
      controllers,
    );
    const alone = watts(withPanels([{ power: q(100), controllerId: "b" }], controllers));
    expect(watts(job)).toBeCloseTo(5 * 14 + alone, 6);
  });
  it("never give less than nothing, however hot", () => {
    const group = {
      power: 100,
      perKelvin: 0.01,
      nominalCellC: 80,
      facing: null,
      onRoof: true,
      shadeByHour: [],
      controller: 0,
    };
    expect(arrayPower(group, 1000, 60)).toBe(0);
  });
  it("cover the roof with their area, portable ones not", () => {
    const job = withPanels([
      { power: q(200), length: q(1.5), width: q(0.7), count: q(2) },
      { mount: "portable", power: q(200), length: q(1), width: q(1) },
    ]);
    expect(solarModel(resolveJob(job), job).covered).toBeCloseTo(2.1, 9);
  });
});

describe("engine", () => {
  const engine = {
    rated: 120,
    hotFactor: 0.7,
    idleFactor: 0.5,
    vehicle: 30,
    limit: 1000,
    bankVolts: 13.5,
    converter: false,
    idle: false,
  };
  it.each([
    ["on the road: 120 × 0.7 − 30 A", {}, 54],
    ["at idle: 120 × 0.7 × 0.5 − 30 A", { idle: true }, 12],
    ["a small alternator keeps nothing for the battery", { rated: 40 }, 0],
    ["a 200 A alternator", { rated: 200 }, 110],
  ])("%s", (_, rest, amps) => {
    expect(alternatorPower({ ...engine, ...rest })).toBeCloseTo(amps * ALTERNATOR_VOLTS, 6);
  });
  it("a converter loses some and holds to its amps", () => {
    expect(alternatorPower({ ...engine, converter: true })).toBeCloseTo(54 * ALTERNATOR_VOLTS * 0.92, 6);
    expect(alternatorPower({ ...engine, converter: true, limit: 30 })).toBeCloseTo(30 * 13.5, 6);
  });
});

it.each([
  [0, 25, 1],
  [300, 25, 0.97],
  [0, 35, 0.98],
  [3000, 25, 0.7],
  [20_000, 60, 0.2],
])("a generator at %i m and %i °C gives %f of its rating", (altitude, degrees, share) => {
  expect(generatorDerate(altitude, degrees)).toBeCloseTo(share, 9);
});

describe("the plan over local time", () => {
  const clock = clockFrom("UTC", "2026-07-13", 0, 3 * 86_400);
  const spans = (...list: PlanSpan[]): Job => ({
    ...jobOf(),
    plan: { start: null, days: 7, week: [], patterns: [{ id: "d", name: "Day", spans: list }] },
  });
  const scheduled = (job: Job) => scheduleOf(job, resolveJob(job), clock, { steps: 3 * 1440, stepS: 60 });
  const cool = (from: number, minutes: number, rest: object = {}) =>
    ({ ...emptySpan("unit", `u${from}`, from, minutes), ...rest }) as PlanSpan;
  it("a span past midnight runs into the next day, the first day's night before it too", () => {
    const { mode } = scheduled(spans(cool(1380, 120)));
    const on = Array.from(mode[0]!).map((m) => m > 0);
    expect([on[30], on[60], on[1379], on[1380], on[1439], on[1440], on[1499], on[1500]]).toEqual([
      true,
      false,
      false,
      true,
      true,
      true,
      true,
      false,
    ]);
  });
  it("the later span of a unit wins where two overlap", () => {
    const { setPointC, mode } = scheduled(
      spans(cool(600, 240, { setPointC: q(22) }), cool(660, 60, { setPointC: q(27), mode: "low" })),
    );
    expect([setPointC[0]![600], setPointC[0]![660], setPointC[0]![720]]).toEqual([22, 27, 22]);
    expect([mode[0]![600], mode[0]![660]]).toEqual([4, 2]);
  });
  it("a span for one unit leaves the other alone", () => {
    const job = spans(cool(600, 60, { unitId: "b" }));
    job.units = [
      { ...job.units[0]!, id: "a" },
      { ...job.units[0]!, id: "b" },
    ];
    const { mode } = scheduled(job);
    expect([mode[0]![630], mode[1]![630]]).toEqual([0, 4]);
  });
  it("people and loads add up, doors and shade take the most", () => {
    const people = (count: number): PlanSpan =>
      ({ ...emptySpan("people", `p${count}`, 600, 60), people: q(count) }) as PlanSpan;
    const door = (rate: number): PlanSpan =>
      ({ ...emptySpan("open", `o${rate}`, 600, 60), airChanges: q(rate) }) as PlanSpan;
    const load = (power: number): PlanSpan =>
      ({ ...emptySpan("load", `l${power}`, 600, 60), power: q(power) }) as PlanSpan;
    const s = scheduled(spans(people(1), people(2), door(5), door(15), load(100), load(50)));
    expect(s.sensible[600]).toBeCloseTo(3 * 70, 9);
    expect(s.airChanges[600]).toBe(15);
    expect(s.mainsLoad[600]).toBe(150);
    expect(s.sensible[660]).toBe(0);
  });
  it("driving, shore and generator are on or off, idling apart", () => {
    const idling = { ...emptySpan("driving", "i", 700, 10), idle: true } as PlanSpan;
    const s = scheduled(
      spans(
        emptySpan("driving", "d", 600, 60),
        idling,
        emptySpan("shore", "s", 600, 1),
        emptySpan("generator", "g", 601, 1),
      ),
    );
    expect([s.driving[600], s.driving[705], s.driving[720]]).toEqual([1, 2, 0]);
    expect([s.shore[600], s.shore[601], s.generator[600], s.generator[601]]).toEqual([1, 0, 0, 1]);
  });
  it("an awning shades the sides, trees shade panels too", () => {
    const side = { ...emptySpan("shade", "a", 600, 60), over: "side" } as PlanSpan;
    const s = scheduled(spans(side, emptySpan("shade", "t", 720, 60)));
    expect([s.shadeSide[600], s.shadeAll[600], s.shadeSide[720], s.shadeAll[720]]).toEqual([0.8, 0, 0, 0.8]);
  });
});
