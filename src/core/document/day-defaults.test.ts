/* What the day is assumed to be where nobody said it: place, cabin, panels, sources, plan; and how the document holds it. */
import { describe, expect, it } from "vitest";
import type { JobPath } from "./path";
import { asVersion7, q, jobOf } from "../../../tests/jobs";
import { cabinModel } from "../models/cabin/cabin";
import { PLACES } from "../reference/weather/places";
import { compareJobs, contest, merge, putAt } from "./compare";
import { monthOfJob, placeOfJob, startDateOfJob, timeZoneOfJob } from "./place";
import { emptyBranch, emptyPanel, emptyJob, emptySpan, readJob, type Job, type SpanKind } from "./schema";
import { fieldAt, labelOfPath } from "./labels";
import { everyKnown, resolveJob } from "./resolve";
import { stageOfPath } from "./stage";

const change = (...puts: [string, unknown][]): Job => {
  const job = structuredClone(emptyJob("Day"));
  for (const [path, value] of puts) putAt(job, path, value);
  return job;
};
const valuesOf = (...puts: [string, unknown][]) => resolveJob(change(...puts));

describe("where a job is taken to be", () => {
  it.each<[string, [string, unknown][], string, RegExp]>([
    ["chosen from the list", [["place.listed", "darwin"]], "Darwin", /^Darwin/],
    [
      "by its coordinates",
      [
        ["place.latitude", q(37.1)],
        ["place.longitude", q(-8)],
      ],
      "Faro, Algarve",
      /^Faro, Algarve \(11 km\), Sagres, Algarve \(84 km\)/,
    ],
    ["by words that nobody looked up", [["brief.place", "a beach near Lisbon"]], "Faro, Algarve", /no place yet/],
    ["not said, 230 V", [], "Faro, Algarve", /no place yet/],
    ["not said, 120 V", [["brief.mains", "120V60Hz"]], "Quartzsite", /no place yet/],
  ])("%s", (_, puts, name, why) => {
    const found = placeOfJob(change(...puts));
    expect(found.place.name).toMatch(new RegExp(`^${name}`));
    expect(found.why).toMatch(why);
  });
  it("a place that is no longer listed falls back on the rest", () => {
    expect(placeOfJob(change(["place.listed", "atlantis"])).why).toBe("no place yet");
  });
  it.each([
    [37, null, 7],
    [-33, null, 1],
    [37, 11, 11],
  ])("at latitude %i with month %s the month is %i", (latitude, month, expected) => {
    expect(monthOfJob(change(["brief.month", month]), latitude)).toBe(expected);
  });
  it("begins in the middle of its month, or on the day that was said", () => {
    expect(startDateOfJob(change(["brief.month", 2]), 37)).toBe("2026-02-15");
    expect(startDateOfJob(change(["plan.start", "2028-02-29"]), 37)).toBe("2028-02-29");
  });
  it("keeps its own time zone over the place's", () => {
    expect(timeZoneOfJob(change(["place.listed", "darwin"]))).toBe("Australia/Darwin");
    expect(timeZoneOfJob(change(["place.listed", "darwin"], ["place.timeZone", "UTC"]))).toBe("UTC");
  });
});

describe("climate that is assumed", () => {
  it.each(PLACES.map(({ id, name }) => [name, id]))("%s is sound in every month", (_, id) => {
    for (let month = 1; month <= 12; month++) {
      const { place } = valuesOf(["place.listed", id], ["brief.month", month]);
      expect(place.maxC.value).toBeGreaterThan(place.minC.value);
      expect(place.dewPointC.value).toBeLessThanOrEqual(place.minC.value + 2);
      expect(place.clearness.value).toBeGreaterThan(0.02);
      expect(place.clearness.value).toBeLessThanOrEqual(0.78);
      expect(place.seaC.value).toBeGreaterThan(-3);
      expect(place.seaC.value).toBeLessThan(36);
    }
  });
  it("says where it comes from, and gives way to what is entered", () => {
    const { place } = valuesOf(["place.listed", "faro"], ["place.maxC", q(33)]);
    expect(place.maxC).toMatchObject({ value: 33, entered: true });
    expect(place.minC).toMatchObject({ entered: false, why: "typical of Faro, Algarve" });
  });
  it("days of the tropics are more alike than those of the north", () => {
    const spread = (id: string) => valuesOf(["place.listed", id]).place.spread.value;
    expect(spread("liberia")).toBeLessThan(spread("faro"));
  });
});

describe("cabin that is assumed", () => {
  const KINDS = ["van", "caravan", "motorhome", "bus", "truck", "boat", "room"] as const;
  it.each(KINDS)("a %s loses heat as such a thing does", (kind) => {
    const job = change(["cabin.kind", kind]);
    const { heatLoss, volume } = cabinModel(resolveJob(job), job);
    expect(heatLoss).toBeGreaterThan(30);
    expect(heatLoss).toBeLessThan(260);
    expect(volume).toBeGreaterThan(5);
    expect(volume).toBeLessThan(50);
  });
  it.each<[Job["cabin"]["insulation"], number, number]>([
    // W/m²K: canvas 3 to 5, bare metal 4 to 6, lined 1.5 to 2.5, caravan grades of EN 1645-1 (memory), GRP 2.0 to 3.5.
    ["canvas", 3, 5],
    ["bare", 4, 6],
    ["lined", 1.5, 2.5],
    ["grade2", 1.7, 1.7],
    ["grade3", 1.2, 1.2],
    ["insulated", 0.8, 1.2],
    ["grp", 2, 3.5],
    // Walls of houses: solid brick about 2.1, insulated cavity 0.3 to 0.6 (CIBSE Guide A; from memory).
    ["masonry", 1.2, 2.1],
    ["house", 0.3, 0.7],
  ])("%s walls are between %f and %f W/m²K", (insulation, low, high) => {
    const { cabin } = valuesOf(["cabin.insulation", insulation]);
    expect(cabin.wallU.value).toBeGreaterThanOrEqual(low);
    expect(cabin.wallU.value).toBeLessThanOrEqual(high);
  });
  it.each<[string, string, "absorptance" | "solarGain" | "glassU", number]>([
    ["colour", "white", "absorptance", 0.35],
    ["colour", "grey", "absorptance", 0.6],
    ["colour", "dark", "absorptance", 0.9],
    ["blinds", "none", "solarGain", 0.7],
    ["blinds", "inside", "solarGain", 0.5],
    ["blinds", "outside", "solarGain", 0.3],
    ["glazing", "single", "glassU", 5.7],
    ["glazing", "double", "glassU", 2.8],
  ])("%s %s gives %s %f", (choice, option, key, value) => {
    expect(valuesOf([`cabin.${choice}`, option]).cabin[key].value).toBe(value);
  });
  it("a heat loss that was entered takes the place of the sum and keeps its proportions", () => {
    const job = change(["cabin.heatLoss", q(50)]);
    const whole = cabinModel(resolveJob(job), job);
    const parts = cabinModel(valuesOf(), emptyJob("x"));
    expect(whole.heatLoss).toBeCloseTo(50, 9);
    expect(whole.roofUA / whole.wallUA).toBeCloseTo(parts.roofUA / parts.wallUA, 9);
    expect(whole.roofUA + whole.wallUA + whole.floorUA + whole.glassUA).toBeCloseTo(50, 9);
  });
  it("half a hull lies in the sea, no wheels do", () => {
    const inSea = (kind: string) => {
      const job = change(["cabin.kind", kind]);
      return cabinModel(resolveJob(job), job).inSea;
    };
    expect([inSea("boat"), inSea("van")]).toEqual([0.5, 0]);
  });
  it("follows what is entered: mass with the floor, heat inside with the loads", () => {
    const { cabin } = valuesOf(["cabin.length", q(5)], ["cabin.width", q(2)]);
    expect(cabin.slowMass.value).toBeCloseTo(1_000_000, 3);
    const load = { id: "a", name: "Fridge", side: "dc", atStart: true, power: q(100), dutyCycle: q(0.5) };
    expect(valuesOf(["brief.loads", [load]]).cabin.heatInside.value).toBeCloseTo(35, 9);
  });
});

describe("panels that are assumed", () => {
  const panel = (parts: object = {}) => ({ ...emptyPanel("p"), ...parts });
  it.each([
    [100, 23],
    [300, 40],
    [420, 49],
  ])("%i W opens at %i V", (power, volts) => {
    const { sources } = valuesOf(["sources.panels", [panel({ power: q(power) })]]);
    expect(sources.panels[0]!.openVoltage.value).toBe(volts);
  });
  it.each([80, 200, 430])("%i W is as large as it gives, twice as long as wide", (power) => {
    const [one] = valuesOf(["sources.panels", [panel({ power: q(power) })]]).sources.panels;
    expect(power / (one!.length.value * one!.width.value) / 205).toBeCloseTo(1, 6);
    expect(one!.length.value / one!.width.value).toBeCloseTo(2, 6);
  });
  it.each<[string, number, number, number]>([
    ["flat", 37, 0, 180],
    ["tilted", 37, 20, 180],
    ["portable", 37, 35, 180],
    ["tilted", -37, 20, 0],
  ])("%s at latitude %i is tilted by %i° and faces %i°", (mount, latitude, tilt, azimuth) => {
    const { sources } = valuesOf(
      ["sources.panels", [panel({ mount })]],
      ["place.latitude", q(latitude)],
      ["place.longitude", q(0)],
    );
    expect(sources.panels[0]!.tilt.value).toBe(tilt);
    expect(sources.panels[0]!.azimuth.value).toBe(azimuth);
  });
  it("lie beside and behind one another where nobody placed them, none on another", () => {
    const list = Array.from({ length: 5 }, (_, i) => panel({ id: `p${i}`, power: q(150) }));
    const { sources } = valuesOf(["sources.panels", list]);
    const rects = sources.panels.map(
      ({ x, y, length, width }) => [x.value, y.value, length.value, width.value] as const,
    );
    for (const [i, [x, y, l, w]] of rects.entries())
      for (const [x2, y2, l2, w2] of rects.slice(i + 1))
        expect(
          Math.min(x + l, x2 + l2) - Math.max(x, x2) < 0.001 || Math.min(y + w, y2 + w2) - Math.max(y, y2) < 0.001,
        ).toBe(true);
  });
  it("a controller's limit is its circuit's on the Wiring stage, or what its panels could push", () => {
    const controllers = [{ id: "c", name: "C" }];
    const panels = [panel({ power: q(500) })];
    const bare = valuesOf(["sources.panels", panels], ["sources.controllers", controllers]);
    expect(bare.sources.controllers[0]!.current.value).toBeCloseTo((1.1 * 500) / 12.8, 1);
    const run = { ...emptyBranch("solar", "b"), current: q(30) };
    const fed = valuesOf(["sources.panels", panels], ["sources.controllers", controllers], ["wiring.branches", [run]]);
    expect(fed.sources.controllers[0]!.current.value).toBe(30);
  });
});

describe("sources and plan that are assumed", () => {
  it.each<["engine" | "charger", "engineCurrent" | "chargerCurrent"]>([
    ["engine", "engineCurrent"],
    ["charger", "chargerCurrent"],
  ])("%s: none without a run on the Wiring stage, that of the run with one", (role, key) => {
    expect(valuesOf().sources[key].value).toBe(0);
    expect(valuesOf(["wiring.branches", [{ ...emptyBranch(role, "b"), current: q(25) }]]).sources[key].value).toBe(25);
  });
  it.each<[Job["bank"]["chemistry"], number, number]>([
    ["lfp", 0.5, 3500],
    ["nmc", 0.5, 1200],
    ["agm", 0.2, 450],
  ])("%s takes %f of its capacity in amps and lives %i cycles", (chemistry, acceptance, cycles) => {
    const { sources, plan } = valuesOf(["bank.chemistry", chemistry]);
    expect([sources.acceptance.value, plan.cycleLife.value]).toEqual([acceptance, cycles]);
  });
  it("the price of a battery goes with its energy", () => {
    const cost = (amount: number) => valuesOf(["bank.capacityAh", q(amount)]).plan.bankCost.value;
    expect(cost(400) / cost(200)).toBeCloseTo(2, 2);
  });
  it("hours wanted follow the plan once there is one", () => {
    expect(valuesOf().brief.hoursWanted.value).toBe(8 * 3600);
    const patterns = [{ id: "d", name: "Day", spans: [emptySpan("unit", "u", 780, 180)] }];
    expect(valuesOf(["plan.patterns", patterns]).brief.hoursWanted).toMatchObject({ value: 3 * 3600, entered: false });
  });
  it.each<[SpanKind, string | null, number]>([
    ["unit", "setPointC", 24],
    ["people", "people", 2],
    ["open", "airChanges", 12],
    ["shade", "shade", 0.8],
    ["load", "power", 100],
    ["driving", null, 0],
    ["shore", null, 0],
    ["generator", null, 0],
  ])("a span of kind %s assumes %s %f", (kind, key, value) => {
    const patterns = [{ id: "d", name: "Day", spans: [emptySpan(kind, "s", 600, 60)] }];
    const [span] = valuesOf(["plan.patterns", patterns]).plan.patterns[0]!.spans;
    if (key === null) expect(Object.keys(span!)).toEqual([]);
    else expect((span as Record<string, { value: number }>)[key]!.value).toBe(value);
  });
});

describe("the document of a day", () => {
  it.each<[string, string, unknown, RegExp]>([
    ["a span from beyond the day", "plan.patterns.0.spans.0.from", 1440, /1439/],
    ["a span without length", "plan.patterns.0.spans.0.minutes", 0, /1/],
    ["a kind of span that is none", "plan.patterns.0.spans.0.kind", "dance", /./],
    ["a set point of a kiln", "plan.patterns.0.spans.0.setPointC", q(400), /at most/],
    ["half a person", "plan.patterns.0.spans.1.people", q(0.5), /whole/],
    ["a day that is none", "plan.start", "2026-02-30", /no such date/],
    ["a year out of the almanac", "plan.start", "1899-01-01", /between 1990 and 2099/],
    ["fifteen days", "plan.days", 15, /14/],
    ["a clock that nobody keeps", "place.timeZone", "Mars/Olympus", /time zone/],
    ["a latitude beyond the pole", "place.latitude", q(91), /at most/],
    ["shade of more than all", "sources.panels.0.shadeByHour", [1.5], /1/],
    ["a seed that is no whole number", "weather.seed", 1.5, /./],
    ["weather of ninety hours", "weather.file", { name: "x", offsetHours: 0, hours: [[20, 10, 0, 0, 2]] }, /24/],
    ["a house for a cabin", "cabin.kind", "house", /./],
  ])("refuses %s with its path", (_, path, value, message) => {
    const job = change(
      [
        "plan.patterns",
        [{ id: "d", name: "Day", spans: [emptySpan("unit", "u", 0, 60), emptySpan("people", "p", 0, 60)] }],
      ],
      ["sources.panels", [emptyPanel("p")]],
      [path, value],
    );
    const read = readJob(job);
    expect(read.ok).toBe(false);
    if (read.ok) return;
    expect(read.faults[0]!.path.startsWith(path.split(".").slice(0, 2).join("."))).toBe(true);
    expect(read.faults[0]!.message).toMatch(message);
  });
  it("of version 2 reads as one with nothing said of its day", () => {
    const { place, weather, cabin, sources, plan, ...rest } = asVersion7(emptyJob("Old"));
    void [place, weather, cabin, sources, plan];
    const units = rest.units.map(({ condenser, ...unit }) => unit);
    const read = readJob({ ...rest, format: "chillbank-rig", version: 2, units });
    const old = emptyJob("Old");
    expect(read).toEqual({ ok: true, job: { ...old, weather: { ...old.weather, kind: "usual" } } });
  });
  it.each<[JobPath, string]>([
    ["plan.patterns.0.spans.0.setPointC", "day"],
    ["sources.panels.0.power", "charging"],
    ["place.maxC", "day"],
    ["cabin.length", "day"],
    ["units.0.condenserRise", "unit"],
  ])("%s is entered on the stage %s", (path, stage) => {
    expect(stageOfPath(path)).toBe(stage);
    expect(fieldAt(path)).toBeDefined();
  });
  it("has a field and a label for every quantity of a full day", () => {
    const job = change(
      ["sources.panels", [emptyPanel("p", "Roof panel")]],
      ["sources.controllers", [{ id: "c", name: "Controller" }]],
      ["sources.obstacles", [{ id: "o", name: "Vent" }]],
      ["plan.patterns", [{ id: "d", name: "Day", spans: [emptySpan("unit", "u", 0, 60)] }]],
    );
    for (const { path } of everyKnown(resolveJob(job))) {
      expect(fieldAt(path), path).toBeDefined();
      expect(labelOfPath(job, path), path).not.toBe("");
    }
    expect(labelOfPath(job, "sources.panels.0.power")).toBe("Roof panel: Rating, each");
  });
  it("merges two people's plans list by list, and shade by the hour as one thing", () => {
    const base = change(["sources.panels", [{ ...emptyPanel("p"), shadeByHour: [0, 0.5] }]]);
    const theirs = structuredClone(base);
    const mine = structuredClone(base);
    theirs.sources.panels[0]!.shadeByHour = [1];
    mine.plan.patterns = [{ id: "d", name: "Mine", spans: [] }];
    expect(compareJobs(base, theirs).map(({ path }) => path)).toEqual(["sources.panels.0.shadeByHour"]);
    const merged = merge(theirs, contest(base, theirs, mine), ({ length }) => (length ? "mine" : "mine"));
    expect(merged.plan.patterns[0]!.name).toBe("Mine");
  });
});

describe("the usual system", () => {
  it("needs nothing entered: a whole day follows from an empty document", () => {
    const values = resolveJob(jobOf());
    expect(values.plan.patterns[0]!.spans.length).toBeGreaterThan(1);
    expect(values.sources.panels).toEqual([]);
  });
});

describe("a driver's cab and a vehicle's length", () => {
  const cabinOf = (cabin: Partial<Job["cabin"]>) => {
    const job = { ...emptyJob("Cab"), cabin: { ...emptyJob("Cab").cabin, ...cabin } };
    return cabinModel(resolveJob(job), job);
  };
  it("an open cab loses as much as single windows and bare doors do, and a parted one nothing", () => {
    const parted = cabinOf({ cab: "parted" });
    expect(cabinOf({})).toEqual(parted);
    // 2 m² of single glass at 5.7 and 3 m² of bare metal at 4 W/m²K (from memory; ranges are common practice).
    expect(cabinOf({ cab: "open" }).heatLoss - parted.heatLoss).toBeCloseTo(2 * 5.7 + 3 * 4, 6);
    expect(cabinOf({ cab: "open" }).volume).toBeGreaterThan(parted.volume + 2);
  });
  it("covers on its windows keep sun out, outside ones most", () => {
    const sun = (["none", "inside", "outside"] as const).map((cabCovers) => {
      const { glassArea, solarGain } = cabinOf({ cab: "open", cabCovers });
      return glassArea * solarGain;
    });
    expect(sun[0]).toBeGreaterThan(1.2 * sun[1]!);
    expect(sun[1]).toBeGreaterThan(1.1 * sun[2]!);
  });
  it("is of vans and motorhomes alone", () => {
    expect(cabinOf({ kind: "caravan", cab: "open" })).toEqual(cabinOf({ kind: "caravan" }));
  });
  it.each([
    ["van", 6, 4.2],
    ["motorhome", 7, 5.8],
    ["caravan", 5.5, 5.5],
    ["boat", 10, 5],
  ] as const)("a %s of %s m has some %s m inside (common practice, no source)", (kind, vehicle, inside) => {
    const job = emptyJob("Length");
    const { length } = resolveJob({ ...job, cabin: { ...job.cabin, kind, vehicleLength: q(vehicle) } }).cabin;
    expect(length.value).toBeCloseTo(inside, 6);
  });
});

it("a hot day of one's own is a clear day for its place and month, and a cool one is as the month has it", () => {
  const sunOf = (highestC: number) => {
    const job = emptyJob("Own");
    const place = { listed: "guanacaste", timeZone: null };
    const brief = { ...job.brief, month: 7 };
    return resolveJob({ ...job, brief, place, weather: { ...job.weather, kind: "own", highestC: q(highestC) } }).weather
      .sunHours;
  };
  // A clear day near the equator gives 6.5 to 8 peak sun hours (common practice, no source).
  expect(sunOf(40).value / 3600).toBeGreaterThan(6.5);
  expect(sunOf(40).value / 3600).toBeLessThan(8.1);
  expect(sunOf(40).value).toBeGreaterThan(sunOf(24).value);
  expect(sunOf(40).why).toMatch(/clear day/);
});
