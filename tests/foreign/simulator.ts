import { NOTHING_SAID, type RunConditions } from "@/core/applications/test-run/site/conditions";
import { seeded } from "@/core/units/random";
import type { Job } from "@/core/document/schema";
import { emptyReadings, type Readings } from "@/core/applications/test-run/log/readings";
import { plateDocument } from "./document";
import type { ReserveBy } from "./score";

/*
 * A second simulator of a cooled cabin on a battery, for the forecast to be judged on: other nodes, other thermostats, other
 * part-load, other weather, other battery than the core's. It shares nothing with the core but the file formats, and no
 * prior was ever set by it.
 */

/** Its own dice: xorshift, so that no stream is shared with the core's. */
function dice(first: number) {
  let a = 1;
  const even = () => {
    a ^= a << 13;
    a >>>= 0;
    a ^= a >>> 17;
    a ^= a << 5;
    a >>>= 0;
    return a / 4294967296;
  };
  const seed = (next: number) => {
    a = (next * 747796405 + 2891336453) >>> 0 || 1;
    for (let i = 0; i < 20; i++) even();
  };
  seed(first);
  const normal = () => {
    let sum = 0;
    for (let i = 0; i < 12; i++) sum += even();
    return sum - 6;
  };
  return {
    even,
    normal,
    seed,
    between: (low: number, high: number) => low + (high - low) * even(),
    one: <T>(...options: readonly T[]): T => options[Math.floor(even() * options.length)]!,
    chance: (p: number) => even() < p,
  };
}

export interface ForeignRun {
  seed: number;
  job: Job;
  readings: Readings;
  kind: { fixed: boolean; lead: boolean; sunny: boolean };
  reserveBy: ReserveBy;
  /** True hours from the first reading to the reserve, counted as `reserveBy` says, and to the cut-off. */
  reserveH: number;
  cutoffH: number;
  truth: { bankAh: number; startSoc: number };
  /** What somebody on board could have said as the run began: how many they are, a white van, the day's forecast as it errs. */
  said: RunConditions;
}

/** Error of a forecast of the day's temperatures, K: one and a half on the day before is usual (from memory). */
const FORECAST_ERROR_K = 1.5;

interface ForeignCabin {
  kind: Job["cabin"]["kind"];
  insulation: Job["cabin"]["insulation"];
  l: number;
  w: number;
  h: number;
  glass: number;
  u: number;
  btu: number;
}
const CABINS: ForeignCabin[] = [
  { kind: "van", insulation: "insulated", l: 3.2, w: 1.75, h: 1.85, glass: 1.6, u: 1.0, btu: 8000 },
  { kind: "van", insulation: "lined", l: 3.2, w: 1.75, h: 1.85, glass: 1.6, u: 2.0, btu: 10_000 },
  { kind: "caravan", insulation: "grade2", l: 4.8, w: 2.2, h: 1.95, glass: 3, u: 1.7, btu: 10_500 },
  { kind: "caravan", insulation: "grade3", l: 4.8, w: 2.2, h: 1.95, glass: 3, u: 1.2, btu: 9000 },
  { kind: "motorhome", insulation: "grade2", l: 5.5, w: 2.2, h: 2, glass: 3.2, u: 1.7, btu: 13_500 },
  { kind: "truck", insulation: "insulated", l: 2.9, w: 1.9, h: 1.6, glass: 1.2, u: 1.0, btu: 6000 },
];

const PLACES = [
  { listed: "faro", lat: 37, lon: -7.9, zone: 1, month: 7, max: 29, min: 19.5, dew: 16 },
  { listed: "faro", lat: 37, lon: -7.9, zone: 1, month: 9, max: 27, min: 18, dew: 15.5 },
  { listed: "quartzsite", lat: 33.7, lon: -114.2, zone: -7, month: 6, max: 40, min: 23, dew: 4 },
];

/** LFP cell at rest, by its own formula; AGM by a straight line with a knee. */
function restOf(lead: boolean, s: number): number {
  if (lead) return 6 * (1.94 + 0.2 * s - 0.02 * Math.exp(-18 * Math.max(0, s)));
  const x = Math.min(1, Math.max(0, s));
  return 4 * (3.285 + 0.055 * (x - 0.5) - 0.42 * Math.exp(-22 * x) + 0.045 * Math.exp(-40 * (1 - x)));
}

/** A run that is the same up to `atS` and goes on by other dice, its battery and starting charge any that look alike. */
interface Fork {
  atS: number;
  seed: number;
}

/**
 * Hours to the reserve of a run that nobody could have told from run `seed` by its first `minutes`: the same cabin, unit,
 * house and weather so far, all of them known; other luck from there on.
 */
export function twinReserveH(seed: number, minutes: number, luck: number): number {
  return simulate(seed, { atS: Math.round(minutes * 12) * 5, seed: 1000 * seed + luck })!.reserveH;
}

export const foreignRun = (seed: number): ForeignRun | null => simulate(seed, null);

function simulate(seed: number, fork: Fork | null): ForeignRun | null {
  const d = dice(seed);
  const cabin = d.one(...CABINS);
  const place = d.one(...PLACES);
  const fixed = d.chance(0.5);
  const lead = d.chance(0.25);
  const sunny = d.chance(0.4);
  const american = place.listed === "quartzsite";
  const capacity = cabin.btu * 0.2931 * d.between(0.9, 1.1);
  const rated = capacity / (fixed ? d.between(2.5, 3) : d.between(2.9, 3.6));
  const set = d.one(20, 21, 22, 23, 24, 25);
  const startHour = sunny ? d.between(9, 14) : d.between(11, 23);
  const hoursMeant = d.between(3, 10);
  const volts = 12.8;
  const expected = (0.5 * rated) / 0.88 / volts;
  const single = 100;
  const reserve = lead ? 0.5 : 0.2;
  const parallel = Math.max(1, Math.min(8, Math.round((hoursMeant * expected) / (1 - reserve) / single)));
  const panelsW = sunny ? d.one(200, 400, 600) : 0;
  const band = d.between(1, 2);

  const job = plateDocument({
    ...{ name: "Foreign run", american, month: place.month, listed: place.listed, setC: set, houseW: 40 },
    ...{ cabin: { kind: cabin.kind, insulation: cabin.insulation }, fixed, coolingW: capacity, ratedW: rated, band },
    ...{ lead, parallel, singleAh: single, panelsW },
  });

  // What is hidden.
  const floor = cabin.l * cabin.w;
  const walls = 2 * (cabin.l + cabin.w) * cabin.h - cabin.glass;
  const u = cabin.u * Math.exp(0.2 * d.normal());
  const skinUA = u * (walls + 0.7 * floor) + 5.5 * cabin.glass * Math.exp(0.1 * d.normal());
  const roofUA = u * floor;
  const airJ = floor * d.between(9, 16) * 1000;
  const liningJ = floor * d.between(15, 40) * 1000;
  const furnitureJ = floor * d.between(40, 130) * 1000;
  const liningG = floor * d.between(14, 26);
  const furnitureG = floor * d.between(5, 12);
  const roofJ = floor * 9000;
  const absorb = 0.25 * Math.exp(0.25 * d.normal()) + 0.05;
  const shgc = d.between(0.3, 0.75);
  const shaded = d.chance(0.3) ? d.between(0.4, 0.9) : 0;
  const people = d.one(0, 1, 2, 2, 3);
  const doors = d.between(0, 1.6);
  const offset = 2.4 * d.normal();
  const swing = (place.max - place.min) / 2;
  const mean = (place.max + place.min) / 2 + offset;
  const dew = place.dew + 1.5 * d.normal();
  const trueCapacity = capacity * d.between(0.86, 1.08);
  const truePower = rated * d.between(0.92, 1.1);
  const lag = d.between(40, 200);
  const above = d.between(0.3, 1.1);
  const below = d.between(0.2, 1.1);
  const setOff = 0.6 * d.normal();
  const minOff = d.one(180, 180, 300);
  const wakes = d.between(60, 160);
  const fanW = fixed ? Math.min(350, Math.max(60, 0.14 * rated)) * d.between(0.7, 1.2) : d.between(30, 70);
  const least = d.between(0.2, 0.35);
  const gainsP = d.between(0.15, 0.4);
  const speedEvery = d.one(20, 45, 90);
  const idle = d.between(14, 32);
  let bankAh = single * parallel * d.between(0.88, 1.06);
  let startSoc = d.chance(0.65) ? 1 - Math.abs(0.015 * d.normal()) : d.between(0.84, 1);
  if (fork) {
    const other = dice(fork.seed * 7919 + seed);
    bankAh = single * parallel * other.between(0.88, 1.06);
    // What a monitor shows of it, off by as much as that of a run.
    startSoc = Math.min(1, startSoc + 0.02 * other.normal());
  }
  const peukert = lead ? d.between(1.1, 1.28) : 1;
  const R = ((lead ? 0.006 : 0.008) / parallel) * d.between(0.7, 1.6);
  const path = d.between(0.0006, 0.0025);
  const zero = d.between(-0.6, 0.6);
  const houseW = d.between(15, 60);
  const fridgeW = d.between(35, 60);
  const eveningW = d.between(0, 70);
  const laptopW = d.chance(0.4) ? d.between(30, 90) : 0;
  const cloudy = d.between(0.05, 0.6);
  const every = d.one(10, 30, 60, 120, 300);
  const gaps = d.one(0, 0, 1, 2);

  const h = 5;
  const midnight = Date.UTC(2026, place.month - 1, 5 + Math.floor(d.between(0, 20))) - place.zone * 3_600_000;
  const startMs = midnight + Math.round(startHour * 3600) * 1000;
  let drift = 0;
  let clear = 1;
  let cloudLeft = 0;
  let sky = 1;
  const outdoorAt = (hour: number) => {
    // A flat-topped wave, warmest at four in the afternoon.
    const x = Math.cos(((hour - 16) / 24) * 2 * Math.PI);
    return mean + swing * (x + 0.12 * (2 * x * x - 1)) + drift;
  };
  const sunAt = (hour: number) => {
    const dec = 0.409 * Math.sin((2 * Math.PI * (30.4 * place.month - 96)) / 365);
    const lat = (place.lat * Math.PI) / 180;
    const solar = hour - place.zone + place.lon / 15;
    const sin = Math.sin(lat) * Math.sin(dec) + Math.cos(lat) * Math.cos(dec) * Math.cos(((solar - 12) * Math.PI) / 12);
    return sin > 0 ? 1020 * Math.pow(sin, 1.18) : 0;
  };
  const warm = outdoorAt(startHour) + (sunAt(startHour) > 300 ? d.between(2, 9) : d.between(0, 4));
  let air = warm;
  let lining = warm - d.between(-0.5, 2);
  let furniture = warm - d.between(0, 4);
  let roof = warm;
  let sensor = warm;
  const wOut = (0.622 * (611 * Math.exp((17.3 * dew) / (237.3 + dew)))) / 101_325;
  let w = wOut;
  let on = false;
  let since = 900;
  let speed = 0;
  let integral = 0;
  let nextControl = 0;
  let doorLeft = 0;
  let s = startSoc;
  let rc = 0;
  let smoothI = 0;
  let fridgeOn = false;
  let fridgeLeft = 600;
  let laptopOn = false;
  let V = restOf(lead, s);
  let reserveS = -1;
  let cutS = -1;
  const steps = (40 * 3600) / h;
  const record: number[][] = [];
  let cooled = 0;
  let sumI = 0;
  let sumN = 0;
  const instant = d.chance(0.6);
  for (let k = 0; k < steps; k++) {
    const t = k * h;
    if (fork && t === fork.atS) d.seed(fork.seed);
    const hour = (startHour + t / 3600) % 24;
    drift += -drift * (h / 14_400) + 0.9 * Math.sqrt((2 * h) / 14_400) * d.normal();
    if (cloudLeft <= 0) {
      clear = d.chance(cloudy) ? d.between(0.15, 0.7) : d.between(0.9, 1.02);
      cloudLeft = d.between(300, 4200);
    }
    cloudLeft -= h;
    sky += (clear - sky) * (h / 120);
    const outdoor = outdoorAt(hour);
    const G = sunAt(hour) * sky;
    // Cabin.
    if (doorLeft <= 0 && d.chance((doors * h) / 3600) && (hour > 7 || hour < 1)) doorLeft = d.between(20, 240);
    doorLeft -= h;
    const flow =
      (0.004 + 0.0012 * Math.sqrt(Math.abs(outdoor - air)) + 0.002 * sky) * (floor / 10) + (doorLeft > 0 ? 0.11 : 0);
    const asleep = hour > 23 || hour < 7;
    const bodies = people * (asleep ? 42 : 72);
    const roofIn = roofUA * 2 * (roof - air);
    roof +=
      (h / roofJ) *
      (absorb * G * (1 - shaded) * floor + 18 * floor * (outdoor - roof) - 55 * floor - roofUA * 2 * (roof - air));
    const sunIn = shgc * cabin.glass * 0.42 * G * (1 - shaded);
    // Unit.
    sensor += (air - sensor) * (h / lag);
    since += h;
    const wet = 19 + 0.33 * (air - 27) + 600 * (w - 0.011);
    let cooling = 0;
    let electric: number;
    if (fixed) {
      if (on && sensor < set + setOff - below && since > 150) {
        on = false;
        since = 0;
      } else if (!on && sensor > set + setOff + above && since > minOff) {
        on = true;
        since = 0;
      }
      if (on) {
        cooling = trueCapacity * (1 - 0.0085 * (outdoor - 35) + 0.018 * (wet - 19)) * Math.min(1, 0.15 + since / wakes);
        electric = truePower * (1 + 0.0135 * (outdoor - 35) + 0.006 * (wet - 19)) * Math.min(1, 0.8 + since / 300);
      } else electric = fanW;
    } else {
      if (t >= nextControl) {
        nextControl = t + speedEvery;
        const error = sensor - (set + setOff);
        integral = Math.min(1, Math.max(-0.2, integral + (error * gainsP * speedEvery) / 900));
        let want = error * gainsP + integral;
        if (on && error < -1.2 && since > 300) {
          on = false;
          since = 0;
        } else if (!on && error > 0.6 && since > minOff) {
          on = true;
          since = 0;
          want = Math.max(want, least);
        }
        want = on ? Math.min(1.08, Math.max(least, Math.round(want * 12) / 12)) : 0;
        speed += Math.max(-0.25, Math.min((0.4 * speedEvery) / 60, want - speed));
      }
      if (speed > 0.02) {
        const tcap = trueCapacity * (1 - 0.0085 * (outdoor - 35) + 0.015 * (wet - 19));
        cooling = tcap * speed * Math.min(1, 0.3 + since / 200);
        const better = 1 + 0.32 * (1 - speed) - 0.25 * Math.max(0, 0.4 - speed);
        electric = fanW + ((truePower - fanW) * speed * (1 + 0.014 * (outdoor - 35))) / better;
      } else electric = fanW;
    }
    const sensible = cooling * Math.min(0.97, Math.max(0.6, 0.97 - 26 * (w - 0.0065)));
    w +=
      (h / (floor * cabin.h * 1.2 * 7)) *
      (flow * 1.2 * (wOut - w) + (people * (asleep ? 30 : 48)) / 2.45e6 - (cooling - sensible) / 2.45e6);
    w = Math.max(0.004, w);
    const airNet =
      skinUA * (outdoor - air) +
      roofIn +
      flow * 1200 * (outdoor - air) +
      bodies +
      0.45 * sunIn +
      35 -
      sensible +
      liningG * (lining - air) +
      furnitureG * (furniture - air);
    air += (h / airJ) * airNet;
    lining += (h / liningJ) * (liningG * (air - lining) + 0.25 * sunIn);
    furniture += (h / furnitureJ) * (furnitureG * (air - furniture) + 0.3 * sunIn);
    // House.
    if ((fridgeLeft -= h) <= 0) {
      fridgeOn = !fridgeOn;
      fridgeLeft = fridgeOn ? d.between(400, 900) : d.between(700, 1800);
    }
    if (d.chance(h / 5400)) laptopOn = !laptopOn;
    const house =
      houseW +
      (fridgeOn ? fridgeW : 0) +
      (hour > 20 && hour < 23.6 ? eveningW : 0) +
      (laptopOn && !asleep ? laptopW : 0);
    const load = electric / 3000;
    const dc = idle + electric * (1.045 + 0.09 * load) + house;
    const pv = panelsW * (G / 1000) * 0.8 * (1 - 0.0038 * (outdoor + 0.03 * G - 25)) * (s > 0.985 ? 0.4 : 1);
    const net = dc - pv;
    const rest = restOf(lead, s);
    const I = net / V;
    rc += (h / 90) * (I * R * 0.5 - rc);
    V += 0.5 * (rest - rc - I * R - V);
    smoothI += (h / 60) * (I - smoothI);
    const effective =
      smoothI > 0 && lead
        ? I * Math.pow(Math.max(1, smoothI / (bankAh / 20)), peukert - 1)
        : I > 0
          ? I
          : I * (lead ? 0.9 : 0.99);
    s = Math.min(1, s - (effective * h) / 3600 / bankAh);
    if (reserveS < 0 && s <= reserve) reserveS = t;
    if (cutS < 0 && (s <= 0.005 || V - I * path < 10.6)) cutS = t;
    if (reserveS < 0 && cooling > 0) cooled += h;
    sumI += I;
    sumN++;
    if (t % every === 0) {
      const amps = (instant ? I : sumI / sumN) + zero + 0.004 * I * d.normal();
      record.push([
        startMs + t * 1000,
        -amps,
        V + 0.01 * d.normal(),
        s,
        Math.max(0, pv * (1 + 0.01 * d.normal())),
        electric * (1 + 0.01 * d.normal()),
        air + 0.15 * d.normal(),
        outdoor + 0.3 * d.normal(),
      ]);
      sumI = 0;
      sumN = 0;
    }
    if (cutS >= 0 && reserveS >= 0) break;
  }
  if (!fork && cooled < 0.15 * reserveS) return null;
  if (fork && reserveS < 0) reserveS = steps * h;
  if (!fork && (reserveS < 2.6 * 3600 || reserveS > 24 * 3600 || cutS < 0)) return null;
  // Readings up to the reserve, with stretches missing.
  let rows = record.filter((row) => (row[0]! - startMs) / 1000 <= reserveS);
  for (let g = 0; g < gaps; g++) {
    const from = d.between(0.1, 0.8) * reserveS;
    const to = from + d.between(300, 1300);
    rows = rows.filter((row) => {
      const t = (row[0]! - startMs) / 1000;
      return t < from || t > to;
    });
  }
  const readings = emptyReadings(rows.length);
  const plate = single * parallel;
  const shown = Math.min(1, startSoc + 0.02 * d.normal());
  let count = 0;
  // A generator of its own: the runs are the same with what was said of them and without.
  const error = seeded(seed + 900_000);
  rows.forEach((row, i) => {
    if (i > 0) count += ((-row[1]! - rows[i - 1]![1]!) / 2) * ((row[0]! - rows[i - 1]![0]!) / 3_600_000);
    readings.timeMs[i] = row[0]!;
    readings.values.battery_current_a[i] = Math.round(row[1]! * 10) / 10;
    readings.values.battery_voltage_v[i] = Math.round(row[2]! * 100) / 100;
    readings.values.soc_pct[i] = Math.round(1000 * Math.max(0, Math.min(1, shown - count / plate))) / 10;
    readings.values.solar_power_w[i] = Math.round(row[4]!);
    readings.values.ac_power_w[i] = Math.round(row[5]!);
    readings.values.cabin_temp_c[i] = Math.round(row[6]! * 10) / 10;
    readings.values.outdoor_temp_c[i] = Math.round(row[7]! * 10) / 10;
  });
  return {
    seed,
    job,
    readings,
    kind: { fixed, lead, sunny },
    reserveBy: "peukert",
    reserveH: reserveS / 3600,
    cutoffH: cutS / 3600,
    truth: { bankAh, startSoc },
    said: {
      ...NOTHING_SAID,
      people,
      colour: "white",
      forecastHighC: Math.round(mean + swing + FORECAST_ERROR_K * error.normal()),
      forecastLowC: Math.round(mean - swing + FORECAST_ERROR_K * error.normal()),
    },
  };
}

/** The same log with its time and current only, as a plain shunt gives it. */
export function onlyCurrent({ timeMs, values }: Readings): Readings {
  const bare = emptyReadings(timeMs.length);
  bare.timeMs.set(timeMs);
  bare.values.battery_current_a.set(values.battery_current_a);
  return bare;
}
