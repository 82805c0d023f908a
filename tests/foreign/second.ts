import { NOTHING_SAID } from "@/core/applications/test-run/site/conditions";
import { emptyReadings, type Readings } from "@/core/applications/test-run/log/readings";
import { seeded, type Random } from "@/core/units/random";
import { plateDocument } from "./document";
import type { ForeignRun } from "./simulator";

/*
 * Another simulator for forecasts to be judged on, of a different build than the first: nine nodes beside the air, a unit that is
 * worked out from its refrigerant's two temperatures, a proportional-integral control, two kinds of charge in lead-acid (the
 * kinetic battery model), weather by regimes. It shares dice and file formats with the core, and none of its physics; no
 * prior was set by it.
 */

const DT = 10;
const LATENT = 2.45e6;

const pick = <T>(dice: Random, ...options: readonly T[]): T => options[Math.floor(dice.even() * options.length)]!;
const between = (dice: Random, low: number, high: number) => low + (high - low) * dice.even();
const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
/** kg of water a kg of dry air holds at saturation, by Magnus; temperature in degC, sea level. */
function saturated(celsius: number): number {
  const pressure = 610.94 * Math.exp((17.625 * celsius) / (celsius + 243.04));
  return (0.622 * pressure) / (101_325 - pressure);
}

const PLACES = [
  { listed: "faro", latitude: 37, longitude: -7.9, zone: 1, month: 8, high: 31, low: 20, dew: 16 },
  { listed: "faro", latitude: 37, longitude: -7.9, zone: 1, month: 6, high: 27, low: 17, dew: 14 },
  { listed: "quartzsite", latitude: 33.7, longitude: -114.2, zone: -7, month: 7, high: 42, low: 27, dew: 9 },
  { listed: "quartzsite", latitude: 33.7, longitude: -114.2, zone: -7, month: 5, high: 34, low: 18, dew: 2 },
] as const;

/** Length, width and height in m, glass in m2, W/m2K of roof and walls, and the words of the document. */
const CABINS = [
  { kind: "van", insulation: "insulated", size: [3.3, 1.75, 1.85], glass: 1.5, u: 1.3 },
  { kind: "van", insulation: "lined", size: [3.1, 1.7, 1.8], glass: 2, u: 2.6 },
  { kind: "caravan", insulation: "grade2", size: [4.6, 2.2, 1.95], glass: 2.8, u: 1.7 },
  { kind: "motorhome", insulation: "grade3", size: [5.6, 2.2, 2], glass: 3, u: 1.2 },
] as const;

type Place = (typeof PLACES)[number];
type CabinKind = (typeof CABINS)[number];

/** The day as it is: its own high and low, a sky of one regime, and gusts. */
class Weather {
  readonly high: number;
  readonly low: number;
  private readonly dew: number;
  private readonly regime: "clear" | "broken" | "hazy";
  private cloud = 1;
  private drift = 0;
  wind = 2;

  constructor(
    private readonly place: Place,
    private readonly dice: Random,
  ) {
    // Such runs are made on days that are warmer than the month's mean more often than not.
    const warmer = 1.5 + 2.5 * dice.normal();
    const swing = 1 + 0.15 * dice.normal();
    const middle = (place.high + place.low) / 2 + warmer;
    this.high = middle + (swing * (place.high - place.low)) / 2;
    this.low = middle - (swing * (place.high - place.low)) / 2;
    this.dew = place.dew + 2 * dice.normal();
    this.regime = pick(dice, "clear", "clear", "broken", "hazy");
  }

  /** Outdoors in degC at an hour of the day: coolest before sunrise, hottest at half past three, falling as a decay after sunset. */
  outdoor(hour: number): number {
    const h = ((hour % 24) + 24) % 24;
    const span = this.high - this.low;
    const rising = h >= 6 && h < 15.5;
    if (rising) return this.low + span * Math.sin((Math.PI / 2) * ((h - 6) / 9.5)) + this.drift;
    const since = h >= 15.5 ? h - 15.5 : h + 8.5;
    if (since < 4.5) return this.high - span * 0.45 * Math.sin((Math.PI / 2) * (since / 4.5)) + this.drift;
    const atSunset = this.high - 0.45 * span;
    return this.low + (atSunset - this.low) * Math.exp(-(since - 4.5) / 4) + this.drift;
  }

  humidity(hour: number): number {
    return saturated(Math.min(this.dew, this.outdoor(hour)));
  }

  step(): void {
    const { dice } = this;
    const settles = DT / (this.regime === "broken" ? 420 : 2400);
    const aim = { clear: 1, broken: dice.even() < 0.55 ? 1 : 0.3, hazy: 0.75 }[this.regime];
    if (dice.even() < settles * 3 || this.regime !== "broken") this.cloud += (aim - this.cloud) * settles * 4;
    this.drift += (-this.drift * DT) / 7200 + 0.5 * Math.sqrt((2 * DT) / 7200) * dice.normal();
    this.wind = clamp(this.wind + 0.05 * dice.normal() + (2.5 - this.wind) * 0.002, 0.3, 7);
  }

  /** Sine of the sun's height and W/m2 on the level, from a declination and an hour angle. */
  sun(hour: number): { height: number; level: number; west: number } {
    const { latitude, longitude, zone, month } = this.place;
    const day = 30.4 * (month - 0.5);
    const declination = (23.45 * Math.PI * Math.sin((2 * Math.PI * (284 + day)) / 365)) / 180;
    const solar = hour - zone + longitude / 15;
    const angle = ((solar - 12) * Math.PI) / 12;
    const phi = (latitude * Math.PI) / 180;
    const height = Math.sin(phi) * Math.sin(declination) + Math.cos(phi) * Math.cos(declination) * Math.cos(angle);
    if (height <= 0.02) return { height: 0, level: 0, west: 0 };
    const beam = 1050 * Math.exp(-0.13 / height) * this.cloud;
    const sky = 90 * height + 60 * (1 - this.cloud) * height;
    const across = Math.sqrt(1 - height * height);
    return {
      height,
      level: beam * height + sky,
      west: beam * across * Math.max(0, Math.abs(Math.sin(angle))) + sky / 2,
    };
  }
}

/** The air and nine nodes around it in degC, and the moisture of air and cloth. */
class Cabin {
  air: number;
  private readonly nodes: Float64Array;
  private humid: number;
  private readonly cloth: { held: number; rate: number };
  private clothHumidity: number;
  readonly volume: number;
  private readonly area: { roof: number; wall: number; floor: number };
  private readonly absorbs: number;
  private readonly gain: number;
  private readonly glass: number;
  private readonly tight: number;
  private readonly u: number;
  private readonly heavy: number;

  constructor(kind: CabinKind, weather: Weather, hour: number, dice: Random, colour: string, covered: boolean) {
    const [length, width, height] = kind.size;
    this.volume = length * width * height;
    this.area = { roof: length * width, wall: 2 * (length + width) * height - kind.glass, floor: length * width };
    this.glass = kind.glass;
    this.absorbs = ({ white: 0.35, grey: 0.65, dark: 0.88 } as Record<string, number>)[colour]! + 0.05 * dice.normal();
    this.gain = covered ? between(dice, 0.15, 0.35) : between(dice, 0.45, 0.7);
    this.tight = between(dice, 0.4, 1.4);
    this.u = kind.u * Math.exp(0.18 * dice.normal());
    this.heavy = between(dice, 0.6, 1.5);
    const outdoor = weather.outdoor(hour);
    const sunny = weather.sun(hour).level / 1000;
    this.air = outdoor + between(dice, 0, 5) * sunny + between(dice, -1, 2);
    this.nodes = new Float64Array(9).fill(this.air);
    this.humid = weather.humidity(hour) * between(dice, 1, 1.15);
    this.clothHumidity = this.humid;
    this.cloth = { held: this.volume * between(dice, 4, 9), rate: between(dice, 0.002, 0.006) };
  }

  get humidity(): number {
    return this.humid;
  }

  /** One step: `cooling` W sensible, `drying` W of water, `inside` W and kg/s from people and things. */
  step(weather: Weather, hour: number, flows: { cooling: number; drying: number; heat: number; water: number }): void {
    const { nodes: n, area, u, heavy } = this;
    const outdoor = weather.outdoor(hour);
    const sun = weather.sun(hour);
    const film = 8 + 4 * weather.wind;
    const sky = weather.sun(hour).height > 0 ? 45 : 70;
    const roof = area.roof * u * 1.5;
    const wall = area.wall * u * 1.5;
    // Skin, foam and lining of roof and walls; floor; cushions outside and in; cupboards; glass.
    const [skin, foam, lining, side, core, panel, floor, cushion, deep] = n as unknown as number[] as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const inner = 5;
    const air = this.air;
    const heat = new Float64Array(9);
    heat[0] = area.roof * (film * (outdoor - skin) + this.absorbs * sun.level - 0.9 * sky) + roof * 2 * (foam - skin);
    heat[1] = roof * 2 * (skin - foam) + roof * 2 * (lining - foam);
    heat[2] = roof * 2 * (foam - lining) + area.roof * inner * (air - lining);
    heat[3] = area.wall * (film * (outdoor - side) + this.absorbs * 0.3 * sun.west) + wall * 2 * (core - side);
    heat[4] = wall * 2 * (side - core) + wall * 2 * (panel - core);
    heat[5] = wall * 2 * (core - panel) + area.wall * inner * (air - panel);
    const through1 = this.glass * this.gain * (0.4 * sun.level + 0.35 * sun.west);
    heat[6] = area.floor * 0.9 * u * (outdoor - floor) + area.floor * inner * (air - floor) + 0.5 * through1;
    heat[7] = area.floor * 9 * (air - cushion) + area.floor * 4 * (deep - cushion) + 0.3 * through1;
    heat[8] = area.floor * 4 * (cushion - deep);
    const capacity = [
      area.roof * 6e3,
      area.roof * 4e3,
      area.roof * 9e3,
      area.wall * 6e3,
      area.wall * 4e3,
      area.wall * 8e3,
      area.floor * 22e3,
      area.floor * 20e3 * heavy,
      area.floor * 45e3 * heavy,
    ];
    const changes = (this.tight * (0.5 + 0.25 * weather.wind) * this.volume * 1200) / 3600;
    let airHeat =
      changes * (outdoor - air) + this.glass * 5 * (outdoor - air) + 0.2 * through1 + flows.heat - flows.cooling;
    airHeat +=
      area.roof * inner * (lining - air) + area.wall * inner * (panel - air) + area.floor * inner * (floor - air);
    airHeat += area.floor * 9 * (cushion - air);
    for (let i = 0; i < 9; i++) n[i]! += (heat[i]! * DT) / capacity[i]!;
    this.air += (airHeat * DT) / (this.volume * 1200 * 4);
    const flow = changes / 1006;
    const own = this.volume * 1.2;
    const sorbed = this.cloth.rate * (this.clothHumidity - this.humid);
    this.humid +=
      (DT * (flow * (weather.humidity(hour) - this.humid) + flows.water - flows.drying / LATENT)) / own +
      DT * sorbed * 0.5;
    this.clothHumidity -= (DT * sorbed * 0.5 * own) / this.cloth.held;
    this.humid = clamp(this.humid, 0.003, saturated(this.air));
  }
}

/** A unit by the two temperatures of its refrigerant: capacity by the suction's density, power by a share of Carnot's. */
class Unit {
  private readonly carnot: number;
  private readonly coil: number;
  private readonly condenser: number;
  private readonly displacement: number;
  private readonly fan: number;
  private readonly bypass: number;
  speed = 0;
  private integral = 0;
  private since = 1e4;
  private on = false;
  private sensed: number;
  draw = 0;

  constructor(
    private readonly fixed: boolean,
    rated: { cooling: number; power: number },
    private readonly set: number,
    private readonly band: number,
    airC: number,
    dice: Random,
  ) {
    this.coil = rated.cooling / between(dice, 14, 19);
    this.condenser = (rated.cooling + rated.power) / between(dice, 11, 16);
    this.fan = fixed ? 0.1 * rated.power : 45;
    this.bypass = between(dice, 0.1, 0.25);
    // Made to meet its plate at the rating point, but for what making and fitting cost.
    const evaporating = 19 + 3 - rated.cooling / this.coil;
    const condensing = 35 + (rated.cooling + rated.power) / this.condenser;
    this.displacement = (rated.cooling / Math.exp(0.033 * evaporating)) * (0.96 + 0.06 * dice.normal());
    const ideal = (evaporating + 273.15) / Math.max(5, condensing - evaporating);
    this.carnot = rated.cooling / (rated.power - this.fan) / ideal / Math.exp(0.05 * dice.normal());
    this.sensed = airC;
  }

  get resting(): number {
    return this.fan;
  }

  step(cabin: Cabin, outdoor: number): { cooling: number; drying: number; power: number } {
    this.sensed += ((cabin.air - 0.4 - this.sensed) * DT) / 70;
    this.since += DT;
    this.control();
    if (this.speed === 0) return { cooling: 0, drying: 0, power: this.fan };
    const enthalpy = cabin.air + (LATENT * cabin.humidity) / 1006;
    // Two rounds bring coil and condenser to the capacity they pass.
    let capacity = this.displacement * this.speed;
    let evaporating = 5;
    let power = 0;
    for (let round = 0; round < 3; round++) {
      const wet = 0.33 * enthalpy + 5;
      evaporating = clamp(wet - capacity / this.coil / (0.7 + 0.3 / this.speed), -4, 18);
      const lift = outdoor + (capacity + power) / this.condenser - evaporating;
      const effective = this.carnot * (this.fixed ? 1 : 1.05 - 0.1 * Math.abs(this.speed - 0.6));
      capacity = this.displacement * this.speed * Math.exp(0.033 * evaporating) * (1 - 0.004 * (outdoor - 35));
      power = capacity / (effective * ((evaporating + 273.15) / Math.max(8, lift)));
    }
    const started = this.fixed ? 1 - Math.exp(-this.since / 45) : 1;
    const dewpoint = saturated(evaporating + 3);
    const dries = Math.max(0, cabin.humidity - dewpoint) * (1 - this.bypass) * LATENT;
    const cools = Math.max(1, (cabin.air - evaporating - 3) * (1 - this.bypass) * 1006);
    const wetShare = Math.min(0.55, dries / (dries + cools));
    const total = capacity * started;
    return { cooling: total * (1 - wetShare), drying: total * wetShare, power: power + this.fan };
  }

  private control(): void {
    const error = this.sensed - this.set;
    if (this.fixed) {
      if (this.on && error < -this.band / 2) {
        this.on = false;
        this.since = 0;
      } else if (!this.on && error > this.band / 2 && this.since > 180) {
        this.on = true;
        this.since = 0;
      }
      this.speed = this.on ? 1 : 0;
      return;
    }
    // Proportional and integral, held while it is at its end, slewed by a hundredth a step; rests under its least speed.
    const asked = 0.45 * error + this.integral;
    if (asked > 0 && asked < 1) this.integral += (0.45 * error * DT) / 500;
    this.integral = clamp(this.integral, -0.3, 1);
    const aim = clamp(asked, 0, 1);
    if (this.speed === 0) {
      if (aim > 0.3 && this.since > 180) {
        this.speed = 0.3;
        this.since = 0;
      }
      return;
    }
    this.speed = clamp(this.speed + clamp(aim - this.speed, -0.01, 0.015), 0.2, 1);
    if (aim < 0.05 && error < -0.6) {
      this.speed = 0;
      this.since = 0;
    }
  }
}

/** A battery: lithium as one well, lead-acid as two between which charge passes slowly. */
class Battery {
  private free: number;
  private bound: number;
  private readonly share: number;
  readonly resistance: number;

  constructor(
    readonly amphours: number,
    private readonly lead: boolean,
    start: number,
    dice: Random,
  ) {
    this.share = lead ? between(dice, 0.45, 0.65) : 1;
    this.free = start * amphours * this.share;
    this.bound = start * amphours * (1 - this.share);
    this.resistance = (lead ? 0.007 : 0.005) / (amphours / 100);
  }

  /** The charge that it shows once it has rested. */
  get level(): number {
    return (this.free + this.bound) / this.amphours;
  }
  get empty(): boolean {
    return this.free <= 0.01 * this.amphours;
  }
  get open(): number {
    const s = clamp(this.level, 0, 1);
    if (this.lead) return 11.75 + 1.05 * s;
    return 12.9 + 0.5 * s - 1.4 * Math.exp(-s / 0.05) + (s > 0.97 ? 4 * (s - 0.97) : 0);
  }

  step(amps: number): void {
    const taken = ((amps > 0 ? amps : amps * (this.lead ? 0.88 : 0.99)) * DT) / 3600;
    if (!this.lead) this.free -= taken;
    else {
      const flow = ((this.bound / (1 - this.share) - this.free / this.share) * 0.35 * DT) / 3600;
      this.free += flow - taken;
      this.bound -= flow;
    }
    const over = this.free + this.bound - this.amphours;
    if (over > 0) this.free -= over;
  }
}

/** Hours at which people begin such a run. */
const BEGINS = [9, 11, 13, 14, 16, 18, 20, 22] as const;
const LONGEST_H = 40;

/** One run of its own physics, or null where its reserve does not come within forty hours or comes at once. */
export function secondRun(seed: number): ForeignRun | null {
  const dice = seeded(seed * 7919 + 17);
  const place = pick<Place>(dice, ...PLACES);
  const kind = pick<CabinKind>(dice, ...CABINS);
  const fixed = dice.even() < 0.5;
  const lead = dice.even() < 0.2;
  const sunny = dice.even() < 0.45;
  const people = pick(dice, 1, 1, 2, 2, 3, 4);
  const colour = pick(dice, "white", "white", "white", "grey");
  const blinds = pick(dice, "none", "inside", "inside", "outside");
  const begins = pick(dice, ...BEGINS) + between(dice, 0, 1);
  const set = pick(dice, 21, 22, 23, 24, 25);
  const cooling = pick(dice, 1800, 2200, 2900, 3500);
  const power = cooling / (fixed ? between(dice, 2.6, 3.2) : between(dice, 2.9, 3.8));
  const band = between(dice, 0.8, 1.8);
  const weather = new Weather(place, dice);
  const plate = lead ? pick(dice, 200, 400) : pick(dice, 200, 280, 400, 560);
  const amphours = plate * (1 + 0.04 * dice.normal()) * (lead ? 0.95 : 1.02);
  const start = between(dice, 0.75, 1);
  const panelsW = sunny ? pick(dice, 200, 400, 600) : 0;
  const job = plateDocument({
    ...{ name: "Second foreign run", american: place.zone < 0, month: place.month, listed: place.listed },
    ...{ cabin: { kind: kind.kind, insulation: kind.insulation }, setC: set, houseW: 60 },
    ...{ fixed, coolingW: cooling, ratedW: power, band, lead, parallel: 1, singleAh: plate, panelsW },
  });
  const cabin = new Cabin(kind, weather, begins, dice, colour, blinds !== "none");
  // Nobody tests a cold cabin.
  if (cabin.air < set + 2) return null;
  const unit = new Unit(fixed, { cooling, power }, set, band, cabin.air, dice);
  const battery = new Battery(amphours, lead, start, dice);
  const reserve = lead ? 0.5 : 0.2;
  const house = { base: between(dice, 20, 60), idle: between(dice, 12, 28), loss: between(dice, 0.08, 0.14) };
  const zero = 0.15 * dice.normal();
  const shown = clamp(start + 0.02 * dice.normal(), 0.3, 1);
  const startMs = Date.UTC(2026, place.month - 1, 15) + (begins - place.zone) * 3_600_000;
  const rows: number[][] = [];
  let reserveH = Infinity;
  let cutoffH = Infinity;
  let fridge = false;
  let volts = battery.open;
  for (let s = 0; s < LONGEST_H * 3600; s += DT) {
    const hour = begins + s / 3600;
    const ofDay = hour % 24;
    weather.step();
    const asleep = ofDay > 23 || ofDay < 7;
    const given = unit.step(cabin, weather.outdoor(hour));
    cabin.step(weather, hour, {
      ...{ cooling: given.cooling, drying: given.drying },
      heat: people * (asleep ? 45 : 75) + 0.8 * house.base + (fixed ? 0 : 10),
      water: (people * (asleep ? 30 : 50)) / LATENT,
    });
    if (dice.even() < DT / 900) fridge = !fridge;
    const lights = ofDay > 20 && ofDay < 23.5 ? 25 : 0;
    const inverter = given.power * (1 + house.loss) + house.idle;
    const panels = panelsW * 0.78 * Math.min(1, weather.sun(hour).level / 1000);
    const watts = inverter + house.base + (fridge ? 45 : 0) + lights - panels;
    const amps = watts / Math.max(10, volts);
    volts = battery.open - amps * battery.resistance;
    battery.step(amps);
    if (s % 30 === 0)
      rows.push([startMs + s * 1000, -amps + zero, volts, panels, given.power, cabin.air, weather.outdoor(hour)]);
    if (reserveH === Infinity && battery.level <= reserve) reserveH = s / 3600;
    if (battery.empty || volts < 10.6) {
      cutoffH = s / 3600;
      break;
    }
    if (reserveH < Infinity && s / 3600 > reserveH + 1) break;
  }
  const hours = Math.min(reserveH, cutoffH);
  if (!Number.isFinite(hours) || hours < 1) return null;
  return {
    seed,
    job,
    readings: readingsOf(rows, shown, plate),
    kind: { fixed, lead, sunny },
    reserveBy: "rest",
    reserveH: hours,
    cutoffH,
    truth: { bankAh: amphours, startSoc: start },
    said: {
      ...NOTHING_SAID,
      people,
      colour: colour as "white" | "grey",
      blinds: blinds as "none" | "inside" | "outside",
      shade: "sun",
      forecastHighC: Math.round(weather.high + 1.5 * dice.normal()),
      forecastLowC: Math.round(weather.low + 1.5 * dice.normal()),
    },
  };
}

function readingsOf(rows: number[][], shown: number, plate: number): Readings {
  const readings = emptyReadings(rows.length);
  let counted = 0;
  rows.forEach(([ms, amps, volts, sun, mains, airC, outdoorC], i) => {
    if (i > 0) counted -= (amps! * (ms! - rows[i - 1]![0]!)) / 3_600_000;
    const { values } = readings;
    readings.timeMs[i] = ms!;
    values.battery_current_a[i] = Math.round(amps! * 10) / 10;
    values.battery_voltage_v[i] = Math.round(volts! * 100) / 100;
    values.soc_pct[i] = Math.round(1000 * clamp(shown - counted / plate, 0, 1)) / 10;
    values.solar_power_w[i] = Math.round(sun!);
    values.ac_power_w[i] = Math.round(mains!);
    values.cabin_temp_c[i] = Math.round(airC! * 10) / 10;
    values.outdoor_temp_c[i] = Math.round(outdoorC! * 10) / 10;
  });
  return readings;
}
