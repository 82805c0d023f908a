/* One set of conditions: place, month and design day, what stands on them, and what waits for them. */
import { describe, expect, it } from "vitest";
import { asVersion7, demoJob, q, jobOf } from "../../../../tests/jobs";
import { emptyJob, readJob, type Job } from "../../document/schema";
import { placeOfJob, timeZoneOfJob } from "../../document/place";
import { resolveJob } from "../../document/resolve";
import { AMERICAN } from "../../units/dimension";
import { extraterrestrialOverDay } from "../../reference/sun/sky";
import { dewPointFrom, relativeHumidityFrom } from "../../reference/weather/hourly";
import { climateOfPoint, distanceKm, neighboursOf } from "../../reference/weather/stations";
import { placeOf, PLACES } from "../../reference/weather/places";
import { assess } from "./assess";
import { assessDay } from "./day";
import { conditionsOf } from "./conditions";
import { summaryOf } from "./summary";

const at = (place: Partial<Job["place"]>, weather: Partial<Job["weather"]> = {}): Job => {
  const job = jobOf({ brief: { month: 7 } });
  return { ...job, place: { ...job.place, ...place }, weather: { ...job.weather, ...weather } };
};
const conditions = (job: Job) => conditionsOf(job, resolveJob(job));

describe("the line of conditions", () => {
  it.each<[string, Job, string]>([
    [
      "of a station on a typical day",
      at({ listed: "faro" }, { kind: "usual" }),
      "Faro, Algarve, July, typical day: 29 °C at 16:00, 19 °C at night",
    ],
    [
      "of a hot day",
      at({ listed: "faro" }, { kind: "hot" }),
      "Faro, Algarve, July, hot day: 33 °C at 16:00, 22 °C at night",
    ],
    [
      "of a day of the customer's own",
      at({ listed: "faro" }, { kind: "own", highestC: q(36), lowestC: q(22) }),
      "Faro, Algarve, July, design day of your own: 36 °C at 16:00, 22 °C at night",
    ],
    [
      "in degrees Fahrenheit",
      { ...at({ listed: "quartzsite" }, { kind: "usual" }), notation: AMERICAN },
      "Quartzsite, Arizona, July, typical day: 108 °F at 15:00, 82 °F at night",
    ],
    [
      "of coordinates",
      at({ latitude: q(37.13), longitude: q(-7.65) }, { kind: "usual" }),
      "37.13° N 7.65° W, July, typical day: 29 °C at 16:00, 19 °C at night",
    ],
    [
      "of simulated weather, as a span",
      at({ listed: "faro" }, { kind: "generated", seed: 3 }),
      "Faro, Algarve, July, simulated weather: 15 °C to 33 °C",
    ],
    [
      "of a design temperature without a place",
      at({}, { kind: "own", highestC: q(35) }),
      "No place chosen; design day of your own, July: 35 °C at 16:00, 22 °C at night",
    ],
    ["of neither", at({}), "No place chosen: 35 °C outdoors is assumed for Starts and Carries"],
  ])("%s", (_, job, line) => {
    expect(conditions(job).line).toBe(line);
  });
});

describe("everything stands on the design day", () => {
  it("its highest temperature sets the unit's power, the compartment and the cables", () => {
    const { values, figures } = assess(at({ listed: "faro" }, { kind: "own", highestC: q(41) }));
    expect(values.weather.highestC.value).toBe(41);
    expect(figures["unit.0.heat"]!.terms.find(({ symbol }) => symbol === "T")!.value).toBe(41);
    expect(values.inverter.compartmentC.value).toBe(46);
    expect(values.wiring.ambientC.value).toBe(41);
  });
  it.each(["mild", "usual", "hot", "own"] as const)("the %s day of the run peaks where the line says", (kind) => {
    const job = at({ listed: "faro" }, { kind });
    const { simulated, conditions: said } = assessDay(job, { range: false });
    expect(Math.max(...simulated.run.outdoorC)).toBeCloseTo(said.highC, 1);
    expect(Math.min(...simulated.run.outdoorC)).toBeCloseTo(said.lowC, 1);
  });
  it("sun and humidity of a day of one's own go into the run", () => {
    const { simulated } = assessDay(
      at({ listed: "faro" }, { kind: "own", highestC: q(30), lowestC: q(18), humidity: q(0.4), sunHours: q(5 * 3600) }),
      { range: false },
    );
    const day = simulated.weather.global.slice(simulated.warmUpSteps, simulated.warmUpSteps + 1440);
    expect(day.reduce((sum, watts) => sum + watts * 60, 0) / 3.6e6).toBeCloseTo(5, 0);
  });
  it("what was entered of a day of one's own waits while another day is chosen", () => {
    const job = at({ listed: "faro" }, { kind: "usual", highestC: q(44) });
    expect(resolveJob(job).weather.highestC).toMatchObject({ value: 29, entered: false });
  });
});

describe("without a place", () => {
  it("Lasts and Recovers wait, Starts and Carries do not", () => {
    const summary = summaryOf(at({}));
    expect([summary.lasts.word, summary.recovers.word]).toEqual(["Choose a place", "Choose a place"]);
    expect(["Holds", "Tight", "Fails", "Stop"]).toContain(summary.starts.word);
    expect(assessDay(at({})).words.lasts.short).toBe("Choose a place");
  });
  it("a name that nobody looked up is no place", () => {
    const job = { ...at({}), brief: { ...at({}).brief, place: "Atlantis" } };
    expect(summaryOf(job).lasts.word).toBe("Choose a place");
  });
  it("a design temperature is enough", () => {
    expect(summaryOf(at({}, { kind: "own", highestC: q(35) })).lasts.word).not.toBe("Choose a place");
  });
  it("but not for Recovers, which needs the sun", () => {
    const own = { kind: "own", highestC: q(35) } as const;
    expect(summaryOf(at({}, own)).recovers.word).toBe("Choose a place");
    expect(summaryOf(at({}, { ...own, sunHours: q(6 * 3600) })).recovers.word).not.toBe("Choose a place");
  });
  it("a new job has none", () => {
    expect(placeOfJob(emptyJob("New")).known).toBe(false);
  });
});

describe("documents of version 5", () => {
  const fifth = (brief: object, weather: object, listed: string | null = null) => {
    const job = emptyJob("Old");
    const read = readJob({
      ...asVersion7(job),
      format: "chillbank-rig",
      version: 5,
      brief: { ...job.brief, ...brief },
      weather: { ...job.weather, ...weather },
      place: { ...job.place, listed },
    });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return read.job;
  };
  it.each<[string, object, object, Partial<Job["weather"]>, string | null]>([
    [
      "an outdoor temperature becomes the design day's highest",
      { outdoorC: q(34, "measured"), place: "Alte, Algarve" },
      { kind: "usual" },
      { kind: "own", highestC: q(34, "measured") },
      "faro",
    ],
    [
      "a town in the words becomes the place",
      { place: "a beach near Lisbon" },
      { kind: "hot" },
      { kind: "hot" },
      "lisbon",
    ],
    ["words that were not understood stay words", { place: "Atlantis" }, { kind: "mild" }, { kind: "mild" }, null],
    ["simulated weather stays", { outdoorC: q(34) }, { kind: "generated" }, { kind: "generated" }, null],
  ])("%s", (_, brief, weather, wanted, listed) => {
    const job = fifth(brief, weather);
    expect(job.weather).toMatchObject(wanted);
    expect(job.place.listed).toBe(listed);
  });
});

describe("climate of a point", () => {
  it.each([
    // Great-circle distances of two airports' towns, from published tables of distances.
    ["Lisbon to Madrid", 38.72, -9.14, 40.42, -3.7, 503],
    ["Paris to New York", 48.86, 2.35, 40.71, -74.01, 5837],
  ])("%s", (_, latitude, longitude, lat2, lon2, km) => {
    expect(distanceKm(latitude, longitude, { latitude: lat2, longitude: lon2 })).toBeCloseTo(km, -1);
  });
  it("is the station's own within five kilometres of it", () => {
    for (const station of PLACES) {
      const [nearest] = neighboursOf(station.latitude, station.longitude);
      expect(nearest).toMatchObject({ station: { id: station.id }, weight: 1 });
    }
  });
  it("lies between those of its neighbours", () => {
    const here = climateOfPoint(38, -8.2);
    const around = neighboursOf(38, -8.2).map(({ station }) => station.maxC[2]!);
    expect(here.maxC[2]!).toBeGreaterThanOrEqual(Math.min(...around));
    expect(here.maxC[2]!).toBeLessThanOrEqual(Math.max(...around));
  });
  it("cools by 6.5 K for each 1000 m (standard atmosphere, ISO 2533)", () => {
    const [low, high] = [climateOfPoint(37.02, -7.93, 8), climateOfPoint(37.02, -7.93, 1008)];
    expect(low.maxC[2]! - high.maxC[2]!).toBeCloseTo(6.5, 6);
  });
  it.each([
    [37.02, -7.93, "Europe/Lisbon"],
    [9.99, -85.7, "America/Costa_Rica"],
    [39.2, 20.18, "Europe/Athens"],
    [-34.93, 138.6, "Australia/Adelaide"],
  ])("at %f, %f the clock is that of %s", (latitude, longitude, zone) => {
    expect(timeZoneOfJob(at({ latitude: q(latitude), longitude: q(longitude) }))).toBe(zone);
  });
  it("keeps the sea only of stations by the sea", () => {
    expect(climateOfPoint(36.9, -8.1).seaC).not.toBeNull();
    expect(climateOfPoint(40.3, -3.8).seaC).toBeNull();
    expect(placeOf("madrid")!.seaC).toBeNull();
  });
});

describe("sun and humidity", () => {
  it.each([
    // Duffie and Beckman, Solar Engineering of Thermal Processes, example 1.10.1: 43° N, 15 April, 33.8 MJ/m2 (from memory).
    [43, 105, 33.8],
    // The same book's table 1.10.1, rounded: the equator at the equinox and 40° N in midsummer (from memory).
    [0, 80, 37.6],
    [40, 172, 41.8],
  ])("above the air at latitude %f on day %i: %f MJ/m2", (latitude, day, megajoules) => {
    expect(extraterrestrialOverDay(latitude, day) / 1e6 / megajoules).toBeCloseTo(1, 1);
  });
  it("dew point and relative humidity turn into one another", () => {
    for (const [degrees, humidity] of [
      [35, 0.3],
      [20, 0.9],
      [5, 0.5],
    ] as const)
      expect(relativeHumidityFrom(degrees, dewPointFrom(degrees, humidity))).toBeCloseTo(humidity, 9);
  });
  it("20 °C at 50 % has its dew point at 9.3 °C (psychrometric chart, ASHRAE Fundamentals)", () => {
    expect(dewPointFrom(20, 0.5)).toBeCloseTo(9.3, 1);
  });
});

it("the demo's jobs all have their place", () => {
  for (const file of ["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"])
    expect(conditions(demoJob(file)).known).toBe(true);
});
