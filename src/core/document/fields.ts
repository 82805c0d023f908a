import type { FieldSpec } from "../units/known";

/*
 * Every quantity of the document of a job: its label, dimension, plausible range and hard limits.
 * The document's schema, the worksheet, the working and the command line are all read off these tables.
 * Ranges without a source are common practice; typical values stand in typical.ts.
 */

// oxlint-disable-next-line max-params -- one line of a table: its columns in order
const spec = (
  label: string,
  dimension: FieldSpec["dimension"],
  [low, high]: [number, number],
  [min, max]: [number, number],
  rest: Pick<FieldSpec, "measure" | "note"> = {},
): FieldSpec => ({ label, dimension, low, high, min, max, ...rest });

const HOUR = 3600;

export const BRIEF_FIELDS = {
  hoursWanted: spec("Hours wanted", "duration", [1 * HOUR, 14 * HOUR], [60, 30 * 24 * HOUR], {
    note: "From switching on to switching off.",
  }),
  setPointC: spec("Set point", "temperature", [20, 28], [5, 40]),
} satisfies Record<string, FieldSpec>;

export const LOAD_FIELDS = {
  power: spec("Power", "power", [1, 3500], [0, 100_000], { measure: "Plug-in meter on AC, clamp on DC." }),
  dutyCycle: spec("Duty cycle", "ratio", [0.02, 1], [0, 1]),
} satisfies Record<string, FieldSpec>;

export const UNIT_FIELDS = {
  coolingPower: spec("Cooling capacity", "cooling", [1000, 5300], [100, 60_000]),
  ratedPower: spec("Rated input power", "power", [250, 2200], [20, 30_000], {
    note: "On the plate, at 35 °C outdoors.",
  }),
  maximumPower: spec("Maximum input power", "power", [300, 2600], [20, 30_000], {
    note: "On the plate of a variable-speed unit, at its top speed.",
  }),
  runningCurrent: spec("Running current", "current", [1, 20], [0.1, 500], {
    measure: "Clamp on one AC lead after ten minutes of running.",
    note: "Plate: rated load or full load amps (RLA, FLA).",
  }),
  runningPowerFactor: spec("Power factor, running", "number", [0.9, 0.98], [0.3, 1]),
  measuredAtC: spec("Outdoors when measured", "temperature", [20, 42], [-30, 60]),
  powerPerKelvin: spec("Power rise with outdoor temperature, per K", "ratio", [0.008, 0.02], [0, 0.06]),
  lockedRotorCurrent: spec("Locked-rotor current", "current", [5, 110], [0.1, 3000], {
    measure: "Clamp with inrush hold on one AC lead, unit at rest for five minutes first.",
    note: "Plate: LRA. The clamp's inrush peak is as good.",
  }),
  startPowerFactor: spec("Power factor at start", "number", [0.5, 0.8], [0.1, 1]),
  startTime: spec("Start time", "duration", [0.15, 0.6], [0.02, 5], {
    measure: "Scope or logging clamp: from the first peak to the running level.",
  }),
  sinceStop: spec("Time since last stop", "duration", [180, 600], [0, 86_400]),
  softReduction: spec("Peak reduction", "ratio", [0.5, 0.75], [0, 0.95], {
    measure: "Clamp inrush bare, then with the soft starter after five starts.",
  }),
  softRamp: spec("Soft start ramp", "duration", [1, 2], [0.1, 10]),
  rampTime: spec("Ramp to full speed", "duration", [60, 600], [1, 3600]),
  fanPower: spec("Fan only, high", "power", [30, 350], [0, 3000], { measure: "Plug-in meter, fan only, ten minutes." }),
  fanLowPower: spec("Fan only, low", "power", [20, 220], [0, 3000]),
  dcRunningCurrent: spec("Added battery current, compressor on", "current", [20, 160], [0.1, 3000], {
    measure: "Shunt monitor: reading with the compressor on, less the reading with the unit off.",
  }),
  dcLowCurrent: spec("Added battery current, low fan", "current", [15, 140], [0.1, 3000]),
  dcFanCurrent: spec("Added battery current, fan only", "current", [2, 30], [0.05, 500]),
  dcAverageCurrent: spec("Added battery current, average", "current", [5, 130], [0.05, 3000], {
    measure: "Amp-hours counted over several whole cycles, divided by their hours.",
  }),
  capacityPerKelvin: spec("Capacity loss with outdoor temperature, per K", "ratio", [0.007, 0.01], [0, 0.05]),
  sensibleHeatRatio: spec("Sensible heat ratio", "ratio", [0.7, 0.8], [0.3, 1], {
    note: "At the rating point, 27 °C and 19 °C wet bulb inside.",
  }),
  thermostatBand: spec("Thermostat band", "kelvin", [1, 2], [0.2, 8], { note: "Between on and off." }),
  minimumOff: spec("Minimum off time", "duration", [180, 300], [0, 3600]),
  condenserRise: spec("Condenser air above outdoors", "kelvin", [0, 10], [0, 40], {
    measure: "Thermometer in the air that the condenser draws, at full draw.",
  }),
  waterLeavingC: spec("Cooling water outlet temperature", "temperature", [30, 46], [0, 90], {
    measure: "Thermometer at the overboard outlet after ten minutes at full draw.",
    note: "About 40 °C is healthy; from 43 °C the unit is losing.",
  }),
  dutyCycle: spec("Duty cycle, measured", "ratio", [0.2, 1], [0, 1], {
    measure: "Minutes on over minutes on and off, from switch-on to switch-on.",
    note: "For a variable-speed unit: its cooling as a share of full.",
  }),
  compressorCurrent: spec("Compressor rated load (RLA)", "current", [1, 18], [0.1, 500], {
    note: "On the plate, of the largest compressor alone.",
  }),
  circuitAmpacity: spec("Minimum circuit ampacity (MCA)", "current", [5, 30], [0.1, 1000], { note: "On the plate." }),
  largestDevice: spec("Largest breaker or fuse (MOCP)", "current", [10, 50], [1, 1000], { note: "On the plate." }),
  pumpPower: spec("Sea-water pump power", "power", [25, 120], [0, 2000], {
    measure: "Plug-in meter on the pump alone.",
    note: "Runs while the compressor runs.",
  }),
  supplyVoltage: spec("Supply voltage", "voltage", [12, 48], [5, 400], { note: "Nominal, on the plate of a DC unit." }),
  cutOffVoltage: spec("Low-voltage cut-off", "voltage", [10, 45], [1, 400], { note: "At the unit's own terminals." }),
} satisfies Record<string, FieldSpec>;

export const BANK_FIELDS = {
  blockVoltage: spec("Nominal voltage, each", "voltage", [3.2, 51.2], [1, 400]),
  series: spec("In series", "count", [1, 16], [1, 200]),
  parallel: spec("In parallel", "count", [1, 6], [1, 200]),
  capacityAh: spec("Capacity, each", "charge", [50, 560], [0.5, 5000], {
    measure: "Counted discharge from full to the cut-off voltage.",
  }),
  condition: spec("State of health", "ratio", [0.7, 1], [0.05, 1.2], {
    measure: "Counted capacity divided by nameplate capacity.",
    note: "Capacity left, % of nameplate.",
  }),
  temperatureC: spec("Battery temperature", "temperature", [5, 40], [-30, 60]),
  chargeToVoltage: spec("Charge voltage", "voltage", [13.4, 58.4], [1, 1000], {
    note: "Of the whole battery, at the end of absorption.",
  }),
  startSoc: spec("SoC at start", "ratio", [0.5, 1], [0, 1]),
  stopVoltage: spec("BMS low-voltage cut-off", "voltage", [10, 46], [0.5, 1000], {
    note: "Of the whole battery, under load; for lead-acid the lowest voltage allowed.",
  }),
  reserve: spec("Reserve", "ratio", [0.1, 0.5], [0, 0.95]),
  resistance: spec("Resistance, each", "resistance", [0.0003, 0.015], [0.000001, 1], {
    measure: "Volts at the terminals before and ten seconds after a known load, over the amps.",
  }),
  protectionResistance: spec("BMS resistance", "resistance", [0.0003, 0.002], [0, 0.1]),
  continuousCurrent: spec("Continuous current", "current", [50, 300], [0.5, 5000], {
    note: "Of each battery; of the one BMS where the battery is built from cells.",
  }),
  peakCurrent: spec("Peak current", "current", [100, 600], [0.5, 20_000]),
  peakTime: spec("Peak current duration", "duration", [0.5, 10], [0.001, 3600]),
  chargeCurrent: spec("Max charge current", "current", [20, 200], [0.1, 5000], {
    note: "Of each battery; of the one BMS where the battery is built from cells.",
  }),
  highestChargeC: spec("Max charging temperature", "temperature", [45, 60], [20, 90]),
  seriesAllowed: spec("Max in series", "count", [1, 4], [1, 200], {
    note: "How many of these batteries the maker allows in series.",
  }),
  peukert: spec("Peukert exponent", "number", [1, 1.3], [1, 1.6]),
  ratedTime: spec("Capacity rated at", "duration", [5 * HOUR, 20 * HOUR], [0.2 * HOUR, 120 * HOUR]),
} satisfies Record<string, FieldSpec>;

export const INVERTER_FIELDS = {
  count: spec("Inverters in parallel", "count", [1, 3], [1, 24]),
  rating: spec("Continuous power, each", "apparentPower", [1000, 5000], [50, 100_000], { note: "At 25 °C." }),
  surge1: spec("Surge 1", "apparentPower", [1500, 12_000], [50, 400_000]),
  surge1Time: spec("Surge 1 duration", "duration", [0.01, 5], [0.001, 3600]),
  surge2: spec("Surge 2", "apparentPower", [1200, 9000], [50, 400_000]),
  surge2Time: spec("Surge 2 duration", "duration", [1, 30], [0.001, 3600]),
  surge3: spec("Surge 3", "apparentPower", [1000, 7000], [50, 400_000]),
  surge3Time: spec("Surge 3 duration", "duration", [10, 1800], [0.001, 7200]),
  ventArea: spec("Vent area, inlet and outlet each", "opening", [0.005, 0.08], [0, 5], {
    note: "Free area: a louvre or mesh leaves about half of its frame.",
  }),
  ventHeight: spec("Height between the vents", "length", [0.1, 1], [0.01, 5]),
  compartmentC: spec("Compartment temperature", "temperature", [25, 55], [-20, 80], {
    measure: "Thermometer beside the air inlet after an hour at full draw.",
  }),
  derateFromC: spec("Derating starts at", "temperature", [25, 50], [0, 80]),
  deratePerKelvin: spec("Derating, per K", "ratio", [0.005, 0.03], [0, 0.2]),
  idlePower: spec("Idle draw, each", "power", [5, 40], [0, 500], {
    measure: "Battery amps with the inverter on and nothing plugged in.",
  }),
  lossShare: spec("Loss per watt", "ratio", [0.02, 0.1], [0, 0.5]),
  lossRise: spec("Additional loss at full load", "ratio", [0.02, 0.1], [0, 0.5]),
  alarmVoltage: spec("Low-voltage alarm", "voltage", [11, 47], [0.5, 1000]),
  alarmDelay: spec("Alarm delay", "duration", [0, 60], [0, 3600]),
  cutOffVoltage: spec("Low-voltage cut-off", "voltage", [10, 45], [0.5, 1000]),
  cutOffDelay: spec("Cut-off delay", "duration", [0, 10], [0, 600]),
  maxDcCurrent: spec("Max DC input current", "current", [80, 400], [1, 5000]),
  inletLimit: spec("Supply limit", "current", [3, 50], [0.5, 400], {
    note: "What an inverter-charger takes from shore or generator at most.",
  }),
  chargeCurrent: spec("Charging current", "current", [20, 150], [1, 2000], {
    note: "Of an inverter-charger, into the battery.",
  }),
  transferTime: spec("Transfer time", "duration", [0.01, 0.05], [0.001, 10]),
} satisfies Record<string, FieldSpec>;

export const WIRING_FIELDS = {
  ambientC: spec("Air temperature around cables", "temperature", [20, 55], [-30, 90], {
    measure: "Thermometer where the cable runs, on a hot afternoon.",
    note: "Tables are stated for 30 °C; hotter air takes ampacity away.",
  }),
  dropLimit: spec("Voltage drop allowed", "ratio", [0.03, 0.1], [0.001, 0.5], { note: "Battery to inverter." }),
  branchDropLimit: spec("Voltage drop allowed, other circuits", "ratio", [0.03, 0.1], [0.001, 0.5]),
} satisfies Record<string, FieldSpec>;

export const LINK_FIELDS = {
  areaMm2: spec("Link size", "area", [16, 120], [0.05, 1000]),
  fuseRating: spec("Fuse of each battery", "current", [100, 400], [1, 5000]),
  jointResistance: spec("Termination resistance of each link", "resistance", [0.0001, 0.0006], [0, 0.1], {
    measure: "Millivolts from post to post over the amps through the link, less the cable's own.",
  }),
} satisfies Record<string, FieldSpec>;

export const LINK_PATH_FIELDS = {
  length: spec("Link length, one way", "length", [0.15, 2], [0, 50], { measure: "Tape, lug to lug." }),
} satisfies Record<string, FieldSpec>;

const resistance = (low: number, high: number) =>
  spec("Resistance", "resistance", [low, high], [0, 0.1], {
    measure: "Millivolts across it over the amps through it.",
  });

/** The parts that runs are made of, each with its quantities. */
export const PART_FIELDS = {
  cable: {
    areaMm2: spec("Cable size", "area", [2.5, 120], [0.05, 1000]),
    length: spec("Length, one way", "length", [0.2, 10], [0.02, 200], { measure: "Tape along the run, lug to lug." }),
    count: spec("Cables in parallel, per pole", "count", [1, 3], [1, 12]),
    conductorC: spec("Conductor temperature", "temperature", [30, 90], [-20, 150], {
      measure: "Thermometer on the lug after 40 minutes.",
    }),
    circuits: spec("Circuits run together", "count", [1, 4], [1, 40], {
      note: "Circuits bunched with this one, itself among them; of single DC cables, the conductors in the bundle.",
    }),
    ampacity: spec("Ampacity, own table", "current", [15, 450], [0.5, 5000], {
      note: "From the cable's data sheet, with its corrections; it takes the place of the table.",
    }),
  },
  fuse: {
    rating: spec("Rating", "current", [15, 500], [1, 5000], { note: "Stamped on it." }),
    voltage: spec("Voltage rating", "voltage", [32, 160], [1, 1500]),
    interrupting: spec("Interrupting rating", "current", [2000, 50_000], [10, 300_000]),
    resistance: resistance(0.0001, 0.0015),
  },
  isolator: {
    rating: spec("Rating", "current", [100, 500], [1, 5000]),
    voltage: spec("Voltage rating", "voltage", [32, 1000], [1, 1500]),
    resistance: resistance(0.00005, 0.0003),
  },
  connector: {
    rating: spec("Rating", "current", [30, 350], [1, 5000]),
    resistance: resistance(0.00005, 0.0005),
  },
  inlet: { rating: spec("Rating", "current", [6, 63], [1, 1000], { note: "Moulded on it." }) },
  shunt: {
    rating: spec("Rating", "current", [100, 1000], [1, 10_000]),
    resistance: resistance(0.00005, 0.0005),
  },
  busbar: {
    rating: spec("Rating", "current", [100, 1000], [1, 10_000]),
    resistance: resistance(0.00001, 0.0002),
  },
  joints: {
    contacts: spec("Terminations", "count", [2, 14], [0, 100], { note: "There and back together." }),
    resistance: spec("Each termination", "resistance", [0.00005, 0.0003], [0, 0.1], {
      measure: "Millivolts across the joint over the amps through it.",
    }),
  },
  breaker: {
    rating: spec("Rating", "current", [6, 63], [1, 1000], { note: "Stamped on it." }),
    interrupting: spec("Interrupting rating", "current", [3000, 10_000], [10, 100_000]),
  },
  changeover: { rating: spec("Rating", "current", [10, 63], [1, 1000]) },
  rcd: {
    rating: spec("Rating", "current", [16, 63], [1, 1000]),
    residual: spec("Trips at", "current", [0.004, 0.03], [0.001, 1], { note: "Earth-leakage current." }),
  },
} satisfies Record<string, Record<string, FieldSpec>>;

export const BRANCH_FIELDS = {
  current: spec("Max current", "current", [5, 60], [0.1, 2000], {
    note: "What the charger, converter or inlet can pass at most.",
  }),
  loadVoltage: spec("Load voltage", "voltage", [12, 24], [1, 100]),
  efficiency: spec("Efficiency", "ratio", [0.85, 0.96], [0.3, 1], { note: "Of the converter, charger or controller." }),
  converterRating: spec("Converter output rating", "current", [10, 100], [0.5, 2000]),
  vehicleVoltage: spec("Vehicle voltage", "voltage", [12, 24], [6, 100], {
    note: "Nominal voltage of the starter battery.",
  }),
  starterShortCircuit: spec("Short-circuit current of the starter battery", "current", [2000, 5000], [100, 50_000]),
  leadLength: spec("Supply lead, length", "length", [5, 25], [0.1, 200]),
  leadAreaMm2: spec("Supply lead, size", "area", [1.5, 16], [0.5, 150]),
} satisfies Record<string, FieldSpec>;

export const MEASURED_FIELDS = {
  current: spec("Test current", "current", [30, 300], [0.5, 5000], {
    measure: "Shunt monitor or DC clamp, a steady load such as a heater.",
  }),
  bankVoltage: spec("Battery terminal voltage", "voltage", [11, 58], [0.5, 1000], {
    measure: "Multimeter on the battery's posts, not on the lugs, under the load.",
  }),
  inverterVoltage: spec("Inverter terminal voltage", "voltage", [10, 58], [0.5, 1000], {
    measure: "Multimeter on the inverter's posts, at the same time.",
  }),
  hotCurrent: spec("Current for 40 minutes", "current", [30, 300], [0.5, 5000]),
  airC: spec("Air temperature at the test", "temperature", [10, 45], [-30, 80]),
  cableC: spec("Cable", "temperature", [20, 70], [-20, 200], { measure: "Thermal camera or contact probe, mid-run." }),
  lugC: spec("Hottest termination", "temperature", [20, 70], [-20, 200]),
  protectionC: spec("Breaker or fuse", "temperature", [20, 70], [-20, 200]),
} satisfies Record<string, FieldSpec>;

export const SUPPLY_FIELDS = {
  generatorRating: spec("Generator rating", "apparentPower", [900, 6000], [100, 100_000], {
    note: "Continuous, at sea level and 25 °C.",
  }),
  altitude: spec("Altitude", "length", [0, 2500], [0, 6000]),
  generatorContinuous: spec("Continuous output, % of nameplate", "ratio", [0.8, 1], [0.3, 1], {
    note: "What it gives for hours; the plate often states its maximum.",
  }),
  startAt: spec("Generator starts at", "ratio", [0.2, 0.5], [0.01, 0.95]),
  stopAt: spec("Generator stops at", "ratio", [0.6, 0.95], [0.05, 1]),
  tankVolume: spec("Fuel tank", "volume", [2, 20], [0.1, 1000]),
  fuelAtFull: spec("Fuel at full load", "fuelRate", [0.5, 3], [0.05, 100]),
  inletResistance: spec("Supply and lead resistance", "resistance", [0.1, 1], [0, 10], {
    measure: "Volts at the inlet without and with a known load, over its amps.",
  }),
} satisfies Record<string, FieldSpec>;

export const START_AID_FIELDS = {
  cost: spec("Cost", "money", [20, 3000], [0, 1_000_000]),
  mass: spec("Mass", "mass", [0.1, 60], [-500, 5000]),
} satisfies Record<string, FieldSpec>;

export type PartKind = keyof typeof PART_FIELDS;
/** Names of the quantities that a part of any kind may have. */
export type PartKey = { [K in PartKind]: keyof (typeof PART_FIELDS)[K] }[PartKind];
export type LinkKey = keyof typeof LINK_FIELDS;
export type BranchKey = keyof typeof BRANCH_FIELDS;
export type MeasuredKey = keyof typeof MEASURED_FIELDS;
export type SupplyKey = keyof typeof SUPPLY_FIELDS;
export type BriefKey = keyof typeof BRIEF_FIELDS;
export type LoadKey = keyof typeof LOAD_FIELDS;
export type UnitKey = keyof typeof UNIT_FIELDS;
export type BankKey = keyof typeof BANK_FIELDS;
export type InverterKey = keyof typeof INVERTER_FIELDS;
export type WiringKey = keyof typeof WIRING_FIELDS;
