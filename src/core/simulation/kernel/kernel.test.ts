/* The step functions one by one. What a run makes of them together is tested beside the run. */
import fc from "fast-check";
import psychrolib from "psychrolib";
import { describe, expect, it } from "vitest";
import { moistAir, saturationRatio } from "@/core/reference/air/moist";
import { bankModel } from "@/core/models/battery/battery";
import { resolveJob } from "@/core/document/resolve";
import { q, jobOf } from "../../../../tests/jobs";
import {
  acceptedCurrent,
  batteryOf,
  chargeAfter,
  countedCurrent,
  openCircuitAt,
  solveBus,
  storedBetween,
  taper,
} from "./battery";
import { moistureAfter } from "./cabin";
import {
  fanCap,
  MODE,
  restingDraw,
  runningDraw,
  SENSOR_LAG_S,
  sensedAfter,
  sensorKept,
  summedUp,
  thermostat,
  turnsOverAt,
  unitAtRest,
  variableSpeed,
} from "./control";
import type { UnitParameters } from "./control";
import {
  comeBack,
  CUT,
  decideFeed,
  endOfSupply,
  fuelBurnt,
  inverterLoss,
  noteStop,
  shareSources,
  supplyStanding,
  type Feed,
  type SupplyParameters,
} from "./supply";
import { coolingReached, hotCapacity, latentPart, wetBulbNearRating, wetCapacity } from "./unit";

const UNIT: UnitParameters = {
  direct: false,
  beside: false,
  cutOffVoltage: 0,
  fixed: true,
  capacity: 3000,
  capacityPerKelvin: 0.01,
  sensibleHeatRatio: 0.75,
  power: 1000,
  knownAtC: 35,
  powerPerKelvin: 0.02,
  foulingPower: 1,
  foulingCapacity: 1,
  fan: 100,
  bend: 1,
  lowFanSaving: 60,
  fanLow: 40,
  pump: 0,
  fanBetween: true,
  band: 1,
  minimumOff: 180,
  rampTime: 120,
  condenserRise: 0,
  sea: false,
  thrownHeat: 0,
  thrownFlow: 0,
};

describe("unit", () => {
  it("cools over a start as the mean of 1 - exp(-t / lag)", () => {
    const [since, seconds, lag] = [30, 120, 75];
    const pieces = 24_000;
    let sum = 0;
    for (let i = 0; i < pieces; i++) sum += 1 - Math.exp(-(since + ((i + 0.5) * seconds) / pieces) / lag);
    expect(coolingReached(since, seconds, lag)).toBeCloseTo(sum / pieces, 8);
    expect(coolingReached(3600, 60, lag)).toBe(1);
  });
  it("is as its plate says at the rating point", () => {
    expect(hotCapacity(0.01, 35)).toBe(1);
    expect(wetCapacity(19)).toBe(1);
    expect(latentPart(0.75, 0.0111)).toBeCloseTo(0.25, 9);
  });
  it.each([
    ["is whole", 12, 1],
    ["is halved half way to closed", 7.5, 0.5],
    ["is gone", 4, 0],
  ])("cooling %s with a coil in a room of %f °C wet bulb, beside what a drier room takes off", (_, wetBulbC, left) => {
    expect(wetCapacity(wetBulbC) / (1 + 0.015 * (wetBulbC - 19))).toBeCloseTo(left, 9);
  });
  it("dries nothing where the air is no wetter than its coil", () => {
    expect(latentPart(0.75, 0.0072)).toBe(0);
    expect(latentPart(0.75, 0.004)).toBe(0);
  });
  it("has a straight wet bulb within 0.9 K of the library's in the air of a cooled cabin", () => {
    psychrolib.SetUnitSystem(psychrolib.SI);
    for (const airC of [20, 23, 26, 29, 32])
      for (const humidity of [0.45, 0.55, 0.7]) {
        const ratio = psychrolib.GetHumRatioFromRelHum(airC, humidity, 101_325);
        const exact = psychrolib.GetTWetBulbFromHumRatio(airC, ratio, 101_325);
        expect(Math.abs(wetBulbNearRating(airC, ratio) - exact)).toBeLessThan(0.9);
      }
  });
});

describe("control", () => {
  const standing = { lowest: 23.5, highest: 24.5 };
  it.each([
    ["off at the low end of its band", true, 23.5, 3600, false],
    ["stays on within its band", true, 24, 3600, true],
    ["on at the high end of its band", false, 24.5, 3600, true],
    ["stays off within its band", false, 24, 3600, false],
    ["rests its minimum off-time", false, 25, 60, false],
    ["runs its least time", true, 23, 100, true],
  ])("thermostat: %s", (_, on, airC, sinceSwitch, after) => {
    const state = { ...unitAtRest(), ...standing, on, sinceSwitch };
    thermostat(state, 180, airC, 60);
    expect(state.on).toBe(after);
  });
  it("ends the piece where the minimum off-time ends", () => {
    const state = { ...unitAtRest(), ...standing, sinceSwitch: 150 };
    expect(thermostat(state, 180, 26, 60)).toBe(30);
    expect(state.on).toBe(false);
    const running = { ...state, on: true };
    expect(thermostat(running, 180, 22, 60)).toBe(30);
    expect(running.on).toBe(true);
  });
  it("has a sensor that follows the air by first order, however a ramp is cut into pieces", () => {
    // Behind a ramp of r K/s by r τ (1 - exp(-t / τ)): the step response's integral.
    const [r, t] = [0.005, 240];
    const whole = sensedAfter(20, { fromC: 20, toC: 20 + r * t }, t, sensorKept(t));
    expect(20 + r * t - whole).toBeCloseTo(r * SENSOR_LAG_S * (1 - Math.exp(-t / SENSOR_LAG_S)), 9);
    let sensedC = 20;
    for (let s = 0; s < t; s += 60)
      sensedC = sensedAfter(sensedC, { fromC: 20 + r * s, toC: 20 + r * (s + 60) }, 60, sensorKept(60));
    expect(sensedC).toBeCloseTo(whole, 9);
  });
  it("turns over where a straight line meets its level", () => {
    expect(turnsOverAt({ ...unitAtRest(), ...standing, on: true }, 24.5, 22.5)).toBeCloseTo(0.5, 9);
    expect(turnsOverAt({ ...unitAtRest(), ...standing }, 24, 24.4)).toBe(Infinity);
  });
  // Of a proportional-integral control on its own: gain times what is over, and the sum's growth by gain and time.
  it.each([
    ["by the air over the set point", 0.3, 0.8, 0.5, 0.3 + 0.5 * 0.8],
    ["at full within its fan from 2 K over", 0.6, 2, 0.75, 0.75],
    ["no lower than a quarter below the set point", 0.1, -0.5, 1, 0.25],
  ])("a variable-speed unit goes %s", (_, integral, overAtRest, cap, speed) => {
    const state = { ...unitAtRest(), ...standing, integral, cap, speed: 1 };
    const found = variableSpeed(state, UNIT, { overAtRest, perSpeed: 0 }, 60);
    expect(found).toBeCloseTo(Math.min(cap, speed), 9);
  });
  it("a variable-speed unit speeds up no faster than its ramp", () => {
    const state = { ...unitAtRest(), ...standing, integral: 0.6, cap: 1 };
    expect(variableSpeed(state, UNIT, { overAtRest: 5, perSpeed: 0 }, 60)).toBeCloseTo(60 / 120, 9);
  });
  it("a control sums up what is over, and nothing more than lets it come down from 1 K on", () => {
    expect(summedUp(0.3, { over: 0.4, seconds: 90, cap: 1 })).toBeCloseTo(0.3 + (0.5 * 0.4 * 90) / 900, 9);
    expect(summedUp(1, { over: 3, seconds: 60, cap: 1 })).toBeCloseTo(0.5, 9);
  });
  it("draws less on a lower fan, and its fan alone at rest", () => {
    const state = { ...unitAtRest(), on: true, speed: 1, power: 1000 };
    expect(runningDraw(state, UNIT, MODE.auto)).toBe(1000);
    expect(runningDraw(state, UNIT, MODE.low)).toBe(940);
    expect(restingDraw(UNIT, MODE.low)).toBe(40);
    expect(restingDraw({ ...UNIT, fanBetween: false }, MODE.auto)).toBe(0);
    expect(fanCap(true, MODE.auto)).toBe(1);
  });
  // What Starts and Carries allow for, and what the screen calls always on.
  it.each([MODE.low, MODE.medium, MODE.auto])(
    "a variable-speed unit draws no more than at full, in mode %i",
    (mode) => {
      const unit = { ...UNIT, fixed: false };
      const state = { ...unitAtRest(), on: true, speed: fanCap(false, mode), power: 1000 };
      expect(runningDraw(state, unit, mode)).toBeLessThanOrEqual(1000);
    },
  );
});

describe("moisture", () => {
  const air = moistAir(101_325);
  const flows = { flow: 0.02, outdoor: 0.012, water: 0, drying: 0 };
  it("comes to the outdoor air's", () => {
    expect(moistureAfter(0.008, 1e7, 200, flows, air, 30)).toBeCloseTo(0.012, 5);
  });
  it("is no more than the air can hold, and never none", () => {
    expect(moistureAfter(0.02, 60, 200, flows, air, 10)).toBeCloseTo(saturationRatio(air, 10), 9);
    expect(moistureAfter(0.001, 600, 200, { ...flows, flow: 0, drying: 5000 }, air, 20)).toBe(0.0005);
  });
});

const job = jobOf({ bank: { capacityAh: q(200) } });
const model = bankModel(resolveJob(job), job);
const battery = batteryOf(model, { lithium: true, pathResistance: 0.003, bulkCurrent: 100 });
const busOf = (loads: { onPath: number; atTerminals: number; sources: number; takes: number }) => {
  const bus = { current: 0, volts: 0, pathCurrent: 0, farVolts: 0, used: 0, collapsed: false, sunk: false };
  solveBus(battery, 13.2, loads, 13.2, bus);
  return bus;
};

describe("battery", () => {
  it("gives each load its power: what leaves the cells is what arrives and what the resistances take", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2000, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (far, near) => {
          const bus = busOf({ onPath: far, atTerminals: near, sources: 0, takes: 100 });
          expect(bus.farVolts * bus.pathCurrent).toBeCloseTo(far, 1);
          expect(bus.volts * bus.current).toBeCloseTo(far + near + bus.pathCurrent ** 2 * battery.pathResistance, 1);
          expect(bus.volts).toBeCloseTo(13.2 - bus.current * battery.resistance, 4);
        },
      ),
    );
  });
  it("takes no more than it may, and cuts the sources back to it", () => {
    const bus = busOf({ onPath: 0, atTerminals: 50, sources: 2000, takes: 40 });
    expect(bus.current).toBe(-40);
    expect(bus.used).toBeCloseTo(40 * bus.volts + 50, 6);
  });
  it("says where no voltage solves the load", () => {
    expect(busOf({ onPath: 1e6, atTerminals: 0, sources: 0, takes: 0 }).collapsed).toBe(true);
  });
  it.each([
    [true, 0.5, 1],
    [true, 0.985, 0.5],
    [true, 1, 0.02],
    [false, 0.8, 1],
    [false, 0.9, Math.exp(-1.4)],
  ])("tapers its charge (lithium %s, at %f)", (lithium, soc, part) => {
    expect(taper(lithium, soc)).toBeCloseTo(part, 9);
  });
  it("takes nothing once it is full, nor past its charging volts", () => {
    expect(acceptedCurrent(battery, 1, 13.4, 60)).toBe(0);
    expect(acceptedCurrent(battery, 0.5, model.chargeToVoltage + 0.1, 60)).toBe(0);
  });
  it("counts charge by Peukert where it goes out and by its efficiency where it comes in", () => {
    expect(countedCurrent({ ...model, peukert: 1.2, ratedCurrent: 10 }, 0.9, 40)).toBeCloseTo(40 * 4 ** 0.2, 9);
    expect(countedCurrent(model, 0.9, -40)).toBe(-36);
    expect(chargeAfter(battery, 0.5, 20, 3600)).toBeCloseTo(0.5 - 20 / model.capacityAh, 9);
    expect(chargeAfter(battery, 0.001, 200, 3600)).toBe(0);
  });
  it("stores what the open-circuit volts and the charge come to", () => {
    const volts = (openCircuitAt(battery, 0.5) + openCircuitAt(battery, 0.52)) / 2;
    expect(storedBetween(battery, 0.52, 0.5)).toBeCloseTo(volts * 0.02 * battery.coulombs, -2);
  });
});

const PARAMS: SupplyParameters = {
  converted: true,
  inverter: {
    idlePower: 20,
    lossShare: 0.05,
    lossRise: 0.05,
    rating: 2000,
    overload: 2500,
    cutOffVoltage: 10.5,
    inside: false,
  },
  assist: false,
  chargerCurrent: 40,
  dischargeLimit: 200,
  directCutOff: 11,
  besideCutOff: 11,
};
const noFeed = (): Feed => ({ limit: 0, demand: 0, fed: false, helped: 0 });

describe("supply", () => {
  it.each([
    [
      "shore serves what is within its limit",
      { limit: 3000, units: 1200, loads: 100 },
      PARAMS,
      { fed: true, demand: 1300 },
    ],
    ["the battery serves what shore cannot", { limit: 1000, units: 1200, loads: 0 }, PARAMS, { fed: false, helped: 0 }],
    [
      "an inverter-charger adds the rest",
      { limit: 1000, units: 1200, loads: 0 },
      { ...PARAMS, assist: true },
      { fed: false, helped: 1000 },
    ],
  ])("%s", (_, asked, params, feed) => {
    const found = noFeed();
    expect(decideFeed(found, supplyStanding(), params, asked)).toBe(true);
    expect(found).toMatchObject(feed);
  });
  it("refuses units that are more than the inverter gives, and any on a cut supply", () => {
    expect(decideFeed(noFeed(), supplyStanding(), PARAMS, { limit: 0, units: 2600, loads: 0 })).toBe(false);
    const cut = { ...supplyStanding(), cut: CUT.main };
    expect(decideFeed(noFeed(), cut, PARAMS, { limit: 0, units: 500, loads: 0 })).toBe(false);
  });
  it("loses in the inverter what its idle draw and both losses come to", () => {
    expect(inverterLoss(PARAMS.inverter, 1000)).toBe(20 + 50 + 25);
  });
  it("uses solar first, then the engine, then the charger", () => {
    const flows = {
      ...{ solar: 300, engine: 500, made: 0, inverterLoss: 0, direct: 0, atTerminals: 0 },
      ...{ solarUsed: 0, engineUsed: 0, chargerUsed: 0, chargerDrawn: 0 },
    };
    shareSources(flows, 900);
    expect(flows).toMatchObject({ solarUsed: 300, engineUsed: 500, chargerUsed: 100 });
    expect(flows.chargerDrawn).toBeCloseTo(100 / 0.9, 9);
  });
  const bus = { current: 100, volts: 12.5, pathCurrent: 100, farVolts: 12, used: 0, collapsed: false, sunk: false };
  const flows = {
    ...{ solar: 0, engine: 0, made: 1000, inverterLoss: 50, direct: 0, atTerminals: 0 },
    ...{ solarUsed: 0, engineUsed: 0, chargerUsed: 0, chargerDrawn: 0 },
  };
  const at = {
    loads: { onPath: 1050, atTerminals: 0, sources: 0, takes: 0 },
    flows,
    stateOfCharge: 0.4,
    stopVoltage: 11,
  };
  it.each([
    ["nothing at good volts", {}, {}, null],
    ["the inverter, below its cut-off", { farVolts: 10.4 }, {}, "inverter"],
    ["the battery, below its own", { volts: 10.9 }, {}, "bank"],
    ["the battery, once it is empty", {}, { stateOfCharge: 0 }, "empty"],
    ["the inverter, where no voltage solves its load", { collapsed: true }, {}, "inverter"],
    ["the battery, where its terminals sink", { sunk: true, current: -1 }, {}, "bank"],
  ] as const)("is ended by %s", (_, seen, more, cause) => {
    expect(endOfSupply(supplyStanding(), PARAMS, { ...bus, ...seen }, { ...at, ...more })).toBe(cause);
  });
  it("comes back once the battery has a tenth more than when it was cut", () => {
    const supply = { ...supplyStanding(), cut: CUT.battery as number, cutAt: 0.1 };
    comeBack(supply, 0.13, -20, 60);
    expect(supply).toMatchObject({ cut: CUT.main, secondsCut: 60 });
    comeBack(supply, 0.2, -20, 60);
    expect(supply).toMatchObject({ cut: CUT.none, secondsCut: 120 });
  });
  it("keeps the first end of supply, but for an overload that gives way to one for good", () => {
    const supply = supplyStanding();
    noteStop(supply, 60, "overload");
    noteStop(supply, 120, "protection");
    expect(supply).toMatchObject({ stopAt: 60, stopCause: "overload" });
    noteStop(supply, 180, "empty", true);
    noteStop(supply, 240, "inverter", true);
    expect(supply).toMatchObject({ stopAt: 180, stopCause: "empty" });
  });
  it("burns three tenths of its fuel at no load", () => {
    const fuel = { atFull: 1, full: 2000 };
    for (const [watts, litres] of [
      [0, 0.3],
      [1000, 0.65],
      [2000, 1],
      [4000, 1],
    ] as const)
      expect(fuelBurnt(fuel, watts, 3600)).toBeCloseTo(litres, 9);
  });
});

describe("the taper near full", () => {
  // Lithium takes its bulk current to about 97 % and little at the end; lead-acid tapers from 80 % on (common practice, no source).
  it.each([
    [true, 0.9, 1, 1],
    [true, 0.97, 1, 1],
    [true, 0.985, 0.45, 0.55],
    [true, 0.999, 0.01, 0.05],
    [false, 0.8, 1, 1],
    [false, 0.9, 0.2, 0.3],
    [false, 1, 0.02, 0.1],
  ])(
    "of a battery that is lithium: %s, at %s of its charge is between %s and %s of bulk",
    (lithium, charge, least, most) => {
      expect(taper(lithium, charge)).toBeGreaterThanOrEqual(least);
      expect(taper(lithium, charge)).toBeLessThanOrEqual(most);
    },
  );
  it("never takes more the fuller it is", () => {
    for (const lithium of [true, false])
      for (let share = 0; share < 1; share += 0.01)
        expect(taper(lithium, share + 0.01)).toBeLessThanOrEqual(taper(lithium, share) + 1e-12);
  });
});
