/**
 * The dimensions a job sheet uses and the units people write them in.
 *
 * `factor` turns a number in that unit into the core's unit for the dimension:
 * SI throughout, except charge in Ah, energy in Wh, cross-section in mm2 and
 * temperature in degC, which are what every data sheet of the trade prints.
 */
export const DIMENSIONS = {
  voltage: { core: "V", says: "a voltage", units: { V: 1, mV: 1e-3, kV: 1e3 } },
  current: { core: "A", says: "a current", units: { A: 1, mA: 1e-3, kA: 1e3 } },
  power: { core: "W", says: "a power", units: { W: 1, kW: 1e3, mW: 1e-3, hp: 745.7 } },
  cooling: {
    core: "W",
    says: "a cooling capacity",
    // International-table BTU: 1055.056 J, ISO 31-4 annex.
    units: { W: 1, kW: 1e3, "BTU/h": 0.29307107, kBTU: 293.07107, ton: 3516.8528 },
  },
  apparentPower: {
    core: "VA",
    says: "an apparent power",
    // Inverter labels print "W" for what their surge rating treats as VA.
    units: { VA: 1, kVA: 1e3, W: 1, kW: 1e3 },
  },
  energy: { core: "Wh", says: "an energy", units: { Wh: 1, kWh: 1e3, MJ: 1e6 / 3600 } },
  charge: { core: "Ah", says: "a charge", units: { Ah: 1, mAh: 1e-3, kAh: 1e3 } },
  resistance: { core: "Ω", says: "a resistance", units: { Ω: 1, mΩ: 1e-3, µΩ: 1e-6 } },
  // Of its own, since "M" and "m" are written alike by many: no insulation has milliohms.
  insulation: { core: "MΩ", says: "an insulation resistance", units: { MΩ: 1, kΩ: 1e-3, GΩ: 1e3 } },
  length: {
    core: "m",
    says: "a length",
    units: { m: 1, cm: 0.01, mm: 0.001, ft: 0.3048, in: 0.0254 },
  },
  area: { core: "mm²", says: "a cable size", units: { "mm²": 1, AWG: 1, kcmil: 0.50670748 } },
  temperature: { core: "°C", says: "a temperature", units: { "°C": 1, "°F": 1, K: 1 } },
  duration: {
    core: "s",
    says: "a time",
    units: { s: 1, ms: 1e-3, min: 60, h: 3600, d: 86400 },
  },
  ratio: { core: "", says: "a percentage", units: { "%": 0.01, "×": 1 } },
  opening: {
    core: "m²",
    says: "an opening",
    units: { "m²": 1, "cm²": 1e-4, "in²": 0.0254 * 0.0254 },
  },
  airflow: {
    core: "m³/s",
    says: "an air flow",
    units: { "m³/s": 1, "m³/h": 1 / 3600, CFM: 0.3048 ** 3 / 60 },
  },
  mass: { core: "kg", says: "a mass", units: { kg: 1, g: 1e-3, lb: 0.45359237 } },
  surface: { core: "m²", says: "a surface", units: { "m²": 1, "ft²": 0.3048 ** 2 } },
  angle: { core: "°", says: "an angle", units: { "°": 1, rad: 180 / Math.PI } },
  speed: {
    core: "m/s",
    says: "a wind speed",
    units: { "m/s": 1, "km/h": 1 / 3.6, kn: 1852 / 3600, mph: 0.44704 },
  },
  // A difference, not a reading: a kelvin is 1.8 Fahrenheit degrees.
  kelvin: { core: "K", says: "a temperature difference", units: { K: 1, "°C": 1, "°F": 5 / 9 } },
  transmittance: { core: "W/m²K", says: "a heat transmittance", units: { "W/m²K": 1 } },
  conductance: { core: "W/K", says: "a heat loss", units: { "W/K": 1 } },
  heatCapacity: { core: "J/K", says: "a heat capacity", units: { "J/K": 1, "kJ/K": 1e3, "MJ/K": 1e6 } },
  irradiance: { core: "W/m²", says: "sun on a surface", units: { "W/m²": 1, "kW/m²": 1e3 } },
  volume: { core: "L", says: "a volume", units: { L: 1, gal: 3.785411784, "m³": 1000 } },
  fuelRate: { core: "L/h", says: "a fuel consumption", units: { "L/h": 1, "gal/h": 3.785411784 } },
  // Whatever the job's currency: nothing is converted between them.
  money: { core: "", says: "a price", units: { "€": 1, $: 1, "£": 1 } },
  count: { core: "", says: "a whole number", units: {} },
  number: { core: "", says: "a number", units: {} },
} as const;

export type Dimension = keyof typeof DIMENSIONS;

/** How a job is read and written: switchable at once, never stored in the figures themselves. */
export interface UnitPreferences {
  temperature: "C" | "F";
  cable: "mm2" | "awg";
  length: "m" | "ft";
  currency: "EUR" | "USD" | "GBP" | "AUD";
  /** What cooling capacity is written in. */
  cooling: "kW" | "BTU/h";
}

export const METRIC: UnitPreferences = {
  temperature: "C",
  cable: "mm2",
  length: "m",
  currency: "EUR",
  cooling: "kW",
};
export const AMERICAN: UnitPreferences = {
  temperature: "F",
  cable: "awg",
  length: "ft",
  currency: "USD",
  cooling: "BTU/h",
};

export const CURRENCY_SIGNS = { EUR: "€", USD: "$", GBP: "£", AUD: "$" } as const;

/** Every spelling that is understood, lower case, to the unit's symbol. */
export const SPELLINGS: Record<string, string> = {
  v: "V",
  volt: "V",
  volts: "V",
  vdc: "V",
  vac: "V",
  mv: "mV",
  millivolt: "mV",
  millivolts: "mV",
  kv: "kV",
  a: "A",
  amp: "A",
  amps: "A",
  ampere: "A",
  amperes: "A",
  adc: "A",
  aac: "A",
  ma: "mA",
  ka: "kA",
  w: "W",
  watt: "W",
  watts: "W",
  kw: "kW",
  kilowatt: "kW",
  kilowatts: "kW",
  mw: "mW",
  hp: "hp",
  l: "L",
  litre: "L",
  litres: "L",
  liter: "L",
  liters: "L",
  gal: "gal",
  gallon: "gal",
  gallons: "gal",
  "m³": "m³",
  "l/h": "L/h",
  "gal/h": "gal/h",
  gph: "gal/h",
  btu: "BTU/h",
  btus: "BTU/h",
  "btu/h": "BTU/h",
  "btu/hr": "BTU/h",
  btuh: "BTU/h",
  kbtu: "kBTU",
  "kbtu/h": "kBTU",
  ton: "ton",
  tons: "ton",
  va: "VA",
  kva: "kVA",
  wh: "Wh",
  kwh: "kWh",
  mj: "MJ",
  ah: "Ah",
  mah: "mAh",
  kah: "kAh",
  "amp-hours": "Ah",
  "amp hours": "Ah",
  amphours: "Ah",
  ohm: "Ω",
  ohms: "Ω",
  ω: "Ω",
  mohm: "mΩ",
  mohms: "mΩ",
  milliohm: "mΩ",
  milliohms: "mΩ",
  mω: "mΩ",
  kohm: "kΩ",
  kω: "kΩ",
  megohm: "MΩ",
  megohms: "MΩ",
  gohm: "GΩ",
  gω: "GΩ",
  uohm: "µΩ",
  µohm: "µΩ",
  μohm: "µΩ",
  µω: "µΩ",
  μω: "µΩ",
  microohm: "µΩ",
  m: "m",
  metre: "m",
  metres: "m",
  meter: "m",
  meters: "m",
  cm: "cm",
  mm: "mm",
  ft: "ft",
  foot: "ft",
  feet: "ft",
  "'": "ft",
  "′": "ft",
  in: "in",
  inch: "in",
  inches: "in",
  '"': "in",
  "″": "in",
  mm2: "mm²",
  "mm²": "mm²",
  "mm^2": "mm²",
  sqmm: "mm²",
  "sq mm": "mm²",
  qmm: "mm²",
  awg: "AWG",
  ga: "AWG",
  gauge: "AWG",
  kcmil: "kcmil",
  mcm: "kcmil",
  c: "°C",
  "°c": "°C",
  degc: "°C",
  "deg c": "°C",
  celsius: "°C",
  f: "°F",
  "°f": "°F",
  degf: "°F",
  "deg f": "°F",
  fahrenheit: "°F",
  k: "K",
  kelvin: "K",
  s: "s",
  sec: "s",
  secs: "s",
  second: "s",
  seconds: "s",
  ms: "ms",
  min: "min",
  mins: "min",
  minute: "min",
  minutes: "min",
  h: "h",
  hr: "h",
  hrs: "h",
  hour: "h",
  hours: "h",
  d: "d",
  day: "d",
  days: "d",
  "%": "%",
  percent: "%",
  pct: "%",
  m2: "m²",
  "m²": "m²",
  sqm: "m²",
  cm2: "cm²",
  "cm²": "cm²",
  "cm^2": "cm²",
  sqcm: "cm²",
  in2: "in²",
  "in²": "in²",
  sqin: "in²",
  "sq in": "in²",
  "m3/s": "m³/s",
  "m³/s": "m³/s",
  "m3/h": "m³/h",
  "m³/h": "m³/h",
  "m3/hr": "m³/h",
  cfm: "CFM",
  ft2: "ft²",
  "ft²": "ft²",
  "ft^2": "ft²",
  sqft: "ft²",
  "sq ft": "ft²",
  "m^2": "m²",
  "°": "°",
  deg: "°",
  degree: "°",
  degrees: "°",
  rad: "rad",
  "m/s": "m/s",
  "km/h": "km/h",
  kmh: "km/h",
  kph: "km/h",
  kn: "kn",
  kt: "kn",
  kts: "kn",
  knots: "kn",
  mph: "mph",
  "w/m2k": "W/m²K",
  "w/m²k": "W/m²K",
  "w/k": "W/K",
  "j/k": "J/K",
  "kj/k": "kJ/K",
  "mj/k": "MJ/K",
  "w/m2": "W/m²",
  "w/m²": "W/m²",
  "kw/m2": "kW/m²",
  "kw/m²": "kW/m²",
  kg: "kg",
  kgs: "kg",
  g: "g",
  lb: "lb",
  lbs: "lb",
  pounds: "lb",
  "€": "€",
  eur: "€",
  euro: "€",
  euros: "€",
  $: "$",
  usd: "$",
  aud: "$",
  a$: "$",
  "£": "£",
  gbp: "£",
  x: "×",
  "×": "×",
};

/** The dimensions that a unit symbol belongs to, for saying what a wrong unit is. */
export function dimensionsOfUnit(unit: string): Dimension[] {
  return (Object.keys(DIMENSIONS) as Dimension[]).filter((d) => unit in DIMENSIONS[d].units);
}

/** The unit that a bare number takes in a field of this dimension under these preferences. */
export function bareUnit(dimension: Dimension, preferences: UnitPreferences): string {
  switch (dimension) {
    case "temperature":
      return preferences.temperature === "F" ? "°F" : "°C";
    case "length":
      return preferences.length === "ft" ? "ft" : "m";
    case "area":
      return preferences.cable === "awg" ? "AWG" : "mm²";
    case "cooling":
      return preferences.cooling;
    case "volume":
      return preferences.length === "ft" ? "gal" : "L";
    case "fuelRate":
      return preferences.length === "ft" ? "gal/h" : "L/h";
    case "ratio":
      return "%";
    case "opening":
      return preferences.length === "ft" ? "in²" : "cm²";
    case "surface":
      return preferences.length === "ft" ? "ft²" : "m²";
    case "kelvin":
      return preferences.temperature === "F" ? "°F" : "K";
    case "heatCapacity":
      return "kJ/K";
    case "airflow":
      return preferences.length === "ft" ? "CFM" : "m³/h";
    case "mass":
      return preferences.length === "ft" ? "lb" : "kg";
    case "money":
      return CURRENCY_SIGNS[preferences.currency];
    default:
      return DIMENSIONS[dimension].core;
  }
}
