/* Sun, sky, moist air and cabin against published values and second libraries; each source beside its check. */
import psychrolib from "psychrolib";
import * as suncalc from "suncalc";
import { describe, expect, it } from "vitest";
import {
  enthalpyOf,
  humidityAtDewPoint,
  moistAir,
  pressureAt,
  relativeHumidity,
  saturationRatio,
  wetBulbOf,
} from "@/core/reference/air/moist";
import { outsideCoefficient, PERSON, SKY_CORRECTION, solAir } from "@/core/models/cabin/cabin";
import { nodesAfter } from "@/core/simulation/kernel/cabin";
import { COOLING_LAG_S } from "@/core/simulation/kernel/unit";
import { generatorDerate } from "@/core/models/charging/supply";
import { refraction, sunTrack } from "@/core/reference/sun/position";
import {
  cellTemperature,
  clearSky,
  diffuseShare,
  extraterrestrialOverDay,
  facing,
  onSurface,
  onWallsOfAnyFacing,
} from "@/core/reference/sun/sky";
import { partLoadFactor } from "@/core/models/air-conditioner/air-conditioner";

const RAD = Math.PI / 180;
const close = (value: number, expected: number, by: number) =>
  expect(Math.abs(value - expected), `${value} against ${expected}`).toBeLessThanOrEqual(by);

/** Altitude and azimuth in degrees at a moment. */
function sunAt(ms: number, latitude: number, longitude: number, altitude = 0) {
  const track = sunTrack(ms, { steps: 1, stepS: 60 }, { latitude, longitude, altitude });
  return { altitude: track.altitude[0]! / RAD, azimuth: track.azimuth[0]! / RAD };
}

describe("sun's position", () => {
  it("is that of the worked example of NREL/TP-560-34302: zenith 50.11162°, azimuth 194.34024°", () => {
    const { altitude, azimuth } = sunAt(Date.UTC(2003, 9, 17, 19, 30, 30), 39.742476, -105.1786, 1830.14);
    const apparent = altitude + refraction(altitude * RAD, 82_000, 11) / RAD;
    close(90 - apparent, 50.11162, 0.001);
    close(azimuth, 194.34024, 0.001);
  });

  it.each([
    // Duffie and Beckman, example 1.6.2 (memory): solar time, azimuth from south; the day is the one that has their declination.
    [Date.UTC(2026, 1, 11), -14, 9.5, 66.5, -40],
    [Date.UTC(2026, 6, 1), 23.1, 18.5, 79.6, 112],
  ])(
    "at 43° N on %d, declination %f°, %f h solar: zenith %f°, azimuth %f° by hand",
    (day, _declination, hour, zenith, azimuth) => {
      // Longitude 0 with UTC moved so that the sun is south at solar noon.
      const noon = Array.from({ length: 60 }, (_, i) => day + (11.5 + i / 60) * 3_600_000).reduce((best, ms) =>
        Math.abs(sunAt(ms, 43, 0).azimuth - 180) < Math.abs(sunAt(best, 43, 0).azimuth - 180) ? ms : best,
      );
      const sun = sunAt(noon + (hour - 12) * 3_600_000, 43, 0);
      close(90 - sun.altitude, zenith, 0.5);
      close(sun.azimuth - 180, azimuth, 0.5);
    },
  );

  it.each([
    ["Faro", 37.02, -7.93],
    ["Quartzsite", 33.66, -114.23],
    ["Liberia, Guanacaste", 10.63, -85.44],
    ["Adelaide", -34.93, 138.6],
    ["Tromsø", 69.65, 18.96],
  ])("agrees with a second library over a year at %s", (_, latitude, longitude) => {
    let worst = 0;
    let worstAzimuth = 0;
    for (let day = 0; day < 365; day++) {
      const ms = Date.UTC(2026, 0, 1 + day, (day * 7) % 24, (day * 13) % 60);
      const ours = sunAt(ms, latitude, longitude);
      const theirs = suncalc.getPosition(new Date(ms), latitude, longitude);
      // Theirs is with refraction, which is not certain near the horizon.
      const apparent = ours.altitude + refraction(ours.altitude * RAD) / RAD;
      if (ours.altitude > 1) worst = Math.max(worst, Math.abs(apparent - theirs.altitude));
      if (Math.abs(ours.altitude) < 80) {
        const gap = Math.abs(((ours.azimuth - theirs.azimuth + 540) % 360) - 180);
        worstAzimuth = Math.max(worstAzimuth, gap * Math.cos(ours.altitude * RAD));
      }
    }
    expect(worst).toBeLessThan(0.1);
    expect(worstAzimuth).toBeLessThan(0.1);
  });

  it("joined from six-hourly knots is the one asked minute by minute", () => {
    const start = Date.UTC(2026, 5, 20, 3);
    const track = sunTrack(start, { steps: 2880, stepS: 60 }, { latitude: 37, longitude: -8 });
    for (let i = 0; i < 2880; i += 37) {
      const exact = sunAt(start + i * 60_000, 37, -8);
      close(track.altitude[i]! / RAD, exact.altitude, 0.003);
    }
  });
});

describe("sky", () => {
  it("43° N on 15 April: 33.8 MJ/m² above the air (Duffie and Beckman, example 1.10.1)", () => {
    close(extraterrestrialOverDay(43, 105, 1367) / 1e6, 33.8, 0.05);
  });
  it.each([
    [0.2, 0.982],
    [0.5, 0.659],
    [0.7, 0.244],
    [0.81, 0.165],
  ])("diffuse share at clearness %f: %f (Erbs, Klein and Duffie 1982)", (kt, share) => {
    close(diffuseShare(kt), share, 0.0015);
  });
  it("clear sky overhead 1035 W/m², at zenith 60° 488 W/m² (Haurwitz 1945)", () => {
    close(clearSky(1), 1035, 0.5);
    close(clearSky(0.5), 488, 0.5);
  });
  it("cell at NOCT 45 °C, 1000 W/m², 25 °C air: 56.25 °C (definition of NOCT, IEC 61215)", () => {
    expect(cellTemperature(25, 1000, 45)).toBeCloseTo(56.25, 9);
  });
  it("a level surface gets what the level gets", () => {
    expect(onSurface(facing(0, 0), Math.sin(0.8), Math.cos(0.8), 3, 700, 150, 1350)).toBeCloseTo(700, 9);
  });
  it("walls of any facing get the mean of thirty-six walls", () => {
    const [sin, cos, global, diffuse] = [Math.sin(0.6), Math.cos(0.6), 650, 140];
    const walls = Array.from({ length: 36 }, (_, i) =>
      // Even sky, so that only the beam's mean is compared.
      onSurface(facing(Math.PI / 2, (i * Math.PI) / 18), sin, cos, 0, global, diffuse, 1e9),
    );
    close(onWallsOfAnyFacing(sin, cos, global, diffuse), walls.reduce((a, b) => a + b) / 36, 1);
  });
});

describe("moist air, by ASHRAE's equations through the library psychrolib", () => {
  psychrolib.SetUnitSystem(psychrolib.SI);
  const air = moistAir(101_325);
  it("35 °C and 24 °C wet bulb: humidity ratio, enthalpy, relative humidity", () => {
    const ratio = psychrolib.GetHumRatioFromTWetBulb(35, 24, 101_325);
    close(wetBulbOf(air, 35, ratio), 24, 0.05);
    close(enthalpyOf(35, ratio) / psychrolib.GetMoistAirEnthalpy(35, ratio), 1, 1e-4);
    close(relativeHumidity(air, 35, ratio), psychrolib.GetRelHumFromHumRatio(35, ratio, 101_325), 0.001);
    // ASHRAE's chart reads about 0.0143 here (memory).
    close(ratio, 0.0143, 0.0003);
  });
  it.each([-10, 0, 7.5, 19.5, 30.5, 44.5])("saturation at %f °C", (t) => {
    close(saturationRatio(air, t) / psychrolib.GetSatHumRatio(t, 101_325), 1, 0.0015);
  });
  it("wet bulb over the range of cabins", () => {
    for (let t = 10; t <= 50; t += 5)
      for (const rh of [0.1, 0.3, 0.5, 0.8, 1]) {
        const ratio = psychrolib.GetHumRatioFromRelHum(t, rh, 101_325);
        close(wetBulbOf(air, t, ratio), psychrolib.GetTWetBulbFromHumRatio(t, ratio, 101_325), 0.05);
      }
  });
  it("pressure at 1500 m: 84,556 Pa (ASHRAE's standard atmosphere)", () => {
    close(pressureAt(1500), 84_556, 5);
  });
  it("dew point is where the air is full", () => {
    const ratio = humidityAtDewPoint(15, 101_325);
    close(relativeHumidity(air, 15, ratio), 1, 0.001);
  });
});

describe("cabin", () => {
  it("sol-air roof: 35 °C, dark, 1000 W/m², 17 W/m²K, less 4 K to the sky (ASHRAE Fundamentals)", () => {
    expect(solAir(35, 0.9, 1000, 17, SKY_CORRECTION)).toBeCloseTo(35 + 52.94 - 4, 2);
    expect([outsideCoefficient(0), outsideCoefficient(20)]).toEqual([17, 23]);
  });
  it("people: seated 70 W and 45 W, asleep 40 W and 30 W (ASHRAE Fundamentals)", () => {
    expect(PERSON).toEqual({ awake: { sensible: 70, latent: 45 }, asleep: { sensible: 40, latent: 30 } });
  });
  it("two nodes follow their analytic solution: small steps of the equations end where one exact step does", () => {
    const at = {
      conductance: 60,
      outsideC: 34,
      coupling: 100,
      airCapacity: 1.2e5,
      massCapacity: 6e5,
      airHeat: -900,
      massHeat: 120,
    };
    let [air, mass] = [36, 33];
    const h = 0.25;
    for (let i = 0; i < 7200 / h; i++) {
      // Heun's rule.
      const slope = (a: number, m: number) => [
        (at.conductance * (at.outsideC - a) + at.coupling * (m - a) + at.airHeat) / at.airCapacity,
        (at.coupling * (a - m) + at.massHeat) / at.massCapacity,
      ];
      const [a1, m1] = slope(air, mass) as [number, number];
      const [a2, m2] = slope(air + h * a1, mass + h * m1) as [number, number];
      air += (h * (a1 + a2)) / 2;
      mass += (h * (m1 + m2)) / 2;
    }
    const exact = nodesAfter({ airC: 36, massC: 33 }, 7200, at);
    close(exact.airC, air, 1e-4);
    close(exact.massC, mass, 1e-4);
  });
  it("two nodes at rest stay, and come to rest at outdoors plus heat over conductance", () => {
    const at = {
      conductance: 50,
      outsideC: 20,
      coupling: 80,
      airCapacity: 1e5,
      massCapacity: 5e5,
      airHeat: 500,
      massHeat: 0,
    };
    const end = nodesAfter({ airC: 10, massC: 10 }, 3e6, at);
    close(end.airC, 30, 1e-6);
    expect(nodesAfter(end, 3600, at).massC).toBeCloseTo(30, 6);
  });
});

describe("unit and generator", () => {
  it("part load: Cd 0.25, run share 0.5 gives 0.875 (AHRI 210/240, older default)", () => {
    expect(partLoadFactor(0.5)).toBeCloseTo(0.875, 9);
  });
  it("cooling that lags by a time constant costs as much as that factor says, at three starts an hour and half load", () => {
    // Half an hour of running in each hour's three cycles is 600 s on; the lag loses tau of each start's cooling.
    const on = 600;
    const cooled = on - COOLING_LAG_S * (1 - Math.exp(-on / COOLING_LAG_S));
    close(cooled / on, 0.875, 0.003);
  });
  it("generator: 3 % less for each 300 m, 1 % for each 5 K over 25 °C", () => {
    expect(generatorDerate(1500, 35)).toBeCloseTo(0.85 * 0.98, 9);
    expect(generatorDerate(0, 10)).toBe(1);
  });
});
