import { CHEMISTRIES } from "../../reference/battery/chemistry";
import type { Dimension } from "../../units/dimension";
import type { Job } from "../../document/schema";
import { assess, type Assessment } from "../../assessment/verdicts/assess";
import type { CautionKey } from "./cautions";
import { fixedSpeed, hasSoftStarter, onBattery } from "../../document/unit-kinds";

/** A system on the bench: what its readings should be is worked out from this. */
export interface Bench {
  job: Job;
  assessment: Assessment;
}

export const benchOf = (job: Job): Bench => ({ job, assessment: assess(job) });

export interface Field {
  key: string;
  label: string;
  dimension: Dimension;
  /** What a number without a unit is in, where instruments show another than the usual one. */
  unit?: string;
}

/**
 * A reading that tells causes apart. Numbers are read against what they should be on this system, as a ratio to it or as a
 * difference from it; a question is answered yes or no.
 */
export interface ReadingSpec {
  label: string;
  /** How it is taken. */
  how: string;
  /** What is written down; empty for a question. */
  fields: readonly Field[];
  /** Of the value that comes of the fields. */
  dimension: Dimension;
  scale: "ratio" | "difference" | "yes";
  /** Of a sound system about what it should be, with the meter's own: of the log of a ratio, or in SI of a difference. For a question: how often a sound system says yes. */
  spread: number;
  /** What it should be on this system, SI or °C; null where the system has no such thing. */
  expected(bench: Bench): number | null;
  /** The value from the fields, in the order above. */
  value(fields: readonly number[]): number;
  /** Minutes that it takes. */
  minutes: number;
  caution?: CautionKey;
}

const first = ([value]: readonly number[]): number => value!;
const less = ([a, b]: readonly number[]): number => a! - b!;
const field = (key: string, label: string, dimension: Dimension): Field => ({ key, label, dimension });

interface Question {
  label: string;
  how: string;
  minutes: number;
  /** How often a sound system says yes. */
  sound?: number;
  caution?: CautionKey;
  asked?(bench: Bench): boolean;
}
const question = ({ label, how, minutes, sound = 0.05, caution, asked = () => true }: Question): ReadingSpec => ({
  label,
  how,
  fields: [],
  dimension: "count",
  scale: "yes",
  spread: sound,
  expected: (bench) => (asked(bench) ? 0 : null),
  value: first,
  minutes,
  ...(caution ? { caution } : {}),
});

const converted = ({ assessment }: Bench) => assessment.compartment !== null;
const fixed = ({ job }: Bench) => job.units.some(fixedSpeed);
const soft = ({ job }: Bench) => job.units.some(hasSoftStarter);
const lithium = ({ job }: Bench) => CHEMISTRIES[job.bank.chemistry].lithium;
const has = (role: Job["wiring"]["branches"][number]["role"]) => (bench: Bench) =>
  bench.job.wiring.branches.some((branch) => branch.role === role);
const panelWatts = ({ assessment }: Bench) =>
  assessment.values.sources.panels.reduce((sum, { power, count }) => sum + power.value * count.value, 0);
const when = (there: boolean, value: number): number | null => (there ? value : null);
export const afloat = ({ job }: Bench) => job.units.some(({ condenser }) => condenser === "sea");
const mainCurrent = ({ assessment }: Bench) => assessment.currents["wiring.main"] ?? 0;
const nominal = ({ assessment: { values } }: Bench) => values.bank.blockVoltage.value * values.bank.series.value;

/**
 * Ohm of a sound path: its parts in series, or what the drop allows where they are more than that. A path that is too
 * thin on paper is no less a fault for being built as drawn.
 */
export function soundPathOhm({ assessment }: Bench): number {
  const drop = assessment.verdicts.carries.checks.find(({ by, run }) => by === "dc-drop" && run === "wiring.main");
  // What was measured may be the fault itself: the parts say what it should be.
  const allowed = drop ? assessment.wiring.resistance * drop.margin : Infinity;
  return Math.max(1e-4, Math.min(assessment.wiring.main.resistance, allowed));
}

/** Volts a battery is charged to, over its nominal ones: 14.2 of 12.8, 4.1 of 3.65, 14.4 of 12 (common practice, no source). */
const ABSORPTION = { lfp: 14.2 / 12.8, nmc: 4.1 / 3.65, agm: 14.4 / 12 };
/** What a panel of a roof gives at best of its rating (common practice, no source). */
const BEST_OF_PANELS = 0.75;

/** Kelvin a cable takes over the air at its current: the square of its share of what it may carry. */
export function cableRiseK({ assessment }: Bench): number {
  const current = mainCurrent({ assessment } as Bench);
  const rises = assessment.wiring.main.parts.flatMap(({ part, ampacity }) =>
    part.kind === "cable" && ampacity ? (Number(part.insulation) - 30) * (current / ampacity.value) ** 2 : [],
  );
  return rises.length > 0 ? Math.max(...rises) : 5;
}

/** Amps or volt-amperes of the running unit, mains; null for a unit straight from the bank. */
const mainsRunning = ({ job, assessment }: Bench) =>
  onBattery(job.units[0]!) ? null : assessment.values.units[0]!.runningCurrent.value;

const heldPeak = ({ job, assessment }: Bench): number | null => {
  const at = job.units.findIndex(fixedSpeed);
  if (at < 0) return null;
  const { lockedRotorCurrent, softReduction } = assessment.values.units[at]!;
  return lockedRotorCurrent.value * (job.units[at]!.startAid === "soft-starter" ? 1 - softReduction.value : 1);
};

export const READINGS = {
  path: {
    label: "Wiring from battery to inverter",
    how: "Full draw. Volts at the battery’s terminals, volts at the inverter’s, amps, all at one moment.",
    fields: [
      field("bank", "Volts at the battery", "voltage"),
      field("inverter", "Volts at the inverter", "voltage"),
      field("amps", "Amps from the battery", "current"),
    ],
    dimension: "resistance",
    scale: "ratio",
    spread: 0.18,
    expected: (bench) => when(mainCurrent(bench) > 5, soundPathOhm(bench)),
    value: ([bank, inverter, amps]) => Math.max(1e-5, (bank! - inverter!) / Math.max(0.1, Math.abs(amps!))),
    minutes: 8,
    caution: "bank",
  },
  lugRise: {
    label: "Hottest lug over its cable",
    how: "After 40 minutes at full draw, a thermometer without touching on every lug and on the cable a hand away.",
    fields: [field("lug", "Hottest termination", "temperature"), field("cable", "Cable beside it", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 3,
    expected: (bench) => when(mainCurrent(bench) > 5, 2),
    value: less,
    minutes: 45,
    caution: "hot",
  },
  breakerRise: {
    label: "Fuse, breaker or switch over its cable",
    how: "After 40 minutes at full draw: the hottest fuse, breaker, isolator or shunt, and the cable beside it.",
    fields: [field("breaker", "Hottest of them", "temperature"), field("cable", "Cable beside it", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 5,
    expected: (bench) => when(mainCurrent(bench) > 5, 9),
    value: less,
    minutes: 45,
    caution: "hot",
  },
  cableRise: {
    label: "Cable rise above ambient",
    how: "After 40 minutes at full draw: the middle of the thickest run, and the air beside it.",
    fields: [field("cable", "Cable", "temperature"), field("air", "Air", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 4,
    expected: (bench) => when(mainCurrent(bench) > 5, cableRiseK(bench)),
    value: less,
    minutes: 45,
    caution: "hot",
  },
  peak: {
    label: "Start peak on AC",
    how: "Clamp meter on the live conductor, inrush or peak hold, the unit at rest for five minutes before.",
    fields: [field("peak", "Peak", "current")],
    dimension: "current",
    scale: "ratio",
    spread: 0.1,
    expected: heldPeak,
    value: first,
    minutes: 8,
    caution: "mains",
  },
  sinceStop: {
    label: "Minutes since the last stop when it failed",
    how: "Ask, or watch: how long had the compressor stood still before the start that failed?",
    fields: [field("pause", "Pause", "duration")],
    dimension: "duration",
    scale: "ratio",
    spread: 0.8,
    expected: (bench) => when(fixed(bench), 900),
    value: (values) => Math.max(5, first(values)),
    minutes: 2,
  },
  resistive: question({
    label: "Does a plain heater of the same watts trip it too?",
    how: "Unit off. A resistive load of about the unit’s running watts on the same inverter for five minutes.",
    minutes: 8,
    asked: converted,
  }),
  capacity: {
    label: "Amp-hours counted from full to empty",
    how: "From a synchronised full to the low cut-off at a usual draw, counted by a clamp or a trusted shunt.",
    fields: [field("counted", "Counted", "charge")],
    dimension: "charge",
    scale: "ratio",
    spread: 0.06,
    expected: ({ assessment: { values } }) =>
      values.bank.capacityAh.value * values.bank.parallel.value * values.bank.condition.value,
    value: (values) => Math.max(0.1, first(values)),
    minutes: 600,
  },
  monitorSetting: {
    label: "Capacity set in the monitor",
    how: "Read it from the monitor’s settings.",
    fields: [field("set", "Set to", "charge")],
    dimension: "charge",
    scale: "ratio",
    spread: 0.04,
    expected: ({ assessment: { values } }) => values.bank.capacityAh.value * values.bank.parallel.value,
    value: (values) => Math.max(0.1, first(values)),
    minutes: 2,
  },
  lastFull: {
    label: "Days since the monitor last saw the battery full",
    how: "Read “last full” or “synchronised” from its history, or ask.",
    fields: [field("days", "Days", "duration")],
    dimension: "duration",
    scale: "ratio",
    spread: 0.7,
    expected: () => 3 * 86_400,
    value: (values) => Math.max(3600, first(values)),
    minutes: 2,
  },
  monitorClamp: {
    label: "Monitor’s amps against a clamp",
    how: "One steady draw; a DC clamp around every cable on the battery’s negative post at once.",
    fields: [field("monitor", "Monitor says", "current"), field("clamp", "Clamp says", "current")],
    dimension: "ratio",
    scale: "ratio",
    spread: 0.04,
    expected: () => 1,
    value: ([monitor, clamp]) => Math.max(0.01, Math.abs(monitor! / Math.max(0.1, Math.abs(clamp!)))),
    minutes: 6,
    caution: "bank",
  },
  standby: {
    label: "Amps with the unit off",
    how: "Everything as it usually is, the unit off: amps from the battery after two minutes.",
    fields: [field("amps", "Amps", "current")],
    dimension: "current",
    scale: "ratio",
    spread: 0.3,
    expected: (bench) => {
      const { assessment } = bench;
      const loads = assessment.values.loads.reduce(
        (sum, { power, dutyCycle }) => sum + power.value * dutyCycle.value,
        0,
      );
      const idle = converted(bench) ? assessment.values.inverter.idlePower.value : 0;
      return Math.max(0.3, (loads + idle) / nominal(bench));
    },
    value: (values) => Math.max(0.05, Math.abs(first(values))),
    minutes: 3,
  },
  chargerOn: question({
    label: "Does the charger charge while only the inverter feeds?",
    how: "Shore and generator off, inverter on: look at the charger’s lamp and at the monitor.",
    minutes: 3,
    asked: (bench) => converted(bench) && has("charger")(bench),
  }),
  solarBest: {
    label: "Best watts of the panels",
    how: "Clear sky about noon, the battery not full: the most the controller shows.",
    fields: [field("best", "Best", "power")],
    dimension: "power",
    scale: "ratio",
    spread: 0.14,
    expected: (bench) => when(panelWatts(bench) > 0, BEST_OF_PANELS * panelWatts(bench)),
    value: (values) => Math.max(1, first(values)),
    minutes: 5,
  },
  weakPanel: {
    label: "Weakest panel against its like",
    how: "Each panel by itself at the same sun: short-circuit amps of the weakest over those of its like.",
    fields: [field("weak", "Weakest", "current"), field("like", "Its like", "current")],
    dimension: "ratio",
    scale: "ratio",
    spread: 0.05,
    expected: (bench) => when(panelWatts(bench) > 0, 0.97),
    value: ([weak, like]) => Math.max(0.01, weak! / Math.max(0.1, like!)),
    minutes: 25,
    caution: "roof",
  },
  shadow: question({
    label: "Does a shadow cross a panel between ten and four?",
    how: "Look from the roof’s level: air conditioner, aerial, mast, rail, tree.",
    minutes: 3,
    sound: 0.1,
    caution: "roof",
    asked: (bench) => panelWatts(bench) > 0,
  }),
  wiped: question({
    label: "Does a wet hand leave a clean track on a panel?",
    how: "Wipe once and look: dust, salt, pollen, birds.",
    minutes: 3,
    sound: 0.15,
    caution: "roof",
    asked: (bench) => panelWatts(bench) > 0,
  }),
  controllerVolts: {
    label: "Charging volts set in the controller",
    how: "Read the absorption voltage from the controller’s or charger’s settings.",
    fields: [field("set", "Set to", "voltage")],
    dimension: "voltage",
    scale: "ratio",
    spread: 0.012,
    expected: (bench) =>
      when(panelWatts(bench) > 0 || has("charger")(bench), nominal(bench) * ABSORPTION[bench.job.bank.chemistry]),
    value: (values) => Math.max(1, first(values)),
    minutes: 4,
  },
  controllerCap: {
    label: "Most amps the controller gives",
    how: "Clear noon, battery not full: does it stop at one figure and stay there for minutes? That figure.",
    fields: [field("amps", "Amps", "current")],
    dimension: "current",
    scale: "ratio",
    spread: 0.15,
    expected: (bench) => when(panelWatts(bench) > 0, (BEST_OF_PANELS * panelWatts(bench)) / nominal(bench)),
    value: (values) => Math.max(0.1, first(values)),
    minutes: 6,
  },
  engineAmps: {
    label: "Amps into the battery with the engine running",
    how: "Battery half full, engine at a fast idle, unit off, five minutes.",
    fields: [field("amps", "Amps", "current")],
    dimension: "current",
    scale: "ratio",
    spread: 0.18,
    expected: (bench) => when(has("engine")(bench), bench.assessment.values.sources.engineCurrent.value),
    value: (values) => Math.max(0.1, first(values)),
    minutes: 8,
  },
  engineVolts: {
    label: "Volts at the starter battery, engine running",
    how: "At its posts, fast idle, the converter or isolator on.",
    fields: [field("volts", "Volts", "voltage")],
    dimension: "voltage",
    scale: "difference",
    spread: 0.25,
    expected: (bench) => when(has("engine")(bench), 14.2),
    value: first,
    minutes: 4,
  },
  engineSignal: question({
    label: "Does the engine’s charging stay off while the engine runs?",
    how: "Look at the converter’s or isolator’s lamp a minute after the engine was started.",
    minutes: 3,
    asked: has("engine"),
  }),
  running: {
    label: "Running amps on AC after ten minutes",
    how: "Clamp on the live conductor, full cooling, ten minutes after the start.",
    fields: [field("amps", "Amps", "current")],
    dimension: "current",
    scale: "ratio",
    spread: 0.08,
    expected: mainsRunning,
    value: (values) => Math.max(0.1, first(values)),
    minutes: 12,
    caution: "mains",
  },
  airSplit: {
    label: "Return minus supply air temperature",
    how: "After ten minutes of full cooling: the air it draws from the cabin, and the air at the nearest outlet.",
    fields: [field("in", "Air in", "temperature"), field("out", "Air out", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 1.6,
    // Ten to twelve kelvin of a sound unit at middling moisture (common practice, no source).
    expected: () => 11,
    value: less,
    minutes: 12,
  },
  filter: question({
    label: "Is the air filter or the cold coil blocked, or iced?",
    how: "Take the filter out and look through it; look at the coil behind.",
    minutes: 3,
    sound: 0.08,
  }),
  intakeRise: {
    label: "Air at the condenser over outdoors",
    how: "Ten minutes into a run: the air that the condenser draws in, and the air in the shade well away.",
    fields: [field("intake", "At the condenser", "temperature"), field("away", "Away", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 1.6,
    expected: (bench) => when(!afloat(bench), bench.assessment.values.units[0]!.condenserRise.value),
    value: less,
    minutes: 11,
    caution: "roof",
  },
  condenserLook: question({
    label: "Is the condenser’s coil matted, or its fan slow?",
    how: "Unit off and isolated: light through the fins, turn the fan by a stick.",
    minutes: 6,
    sound: 0.06,
    caution: "isolate",
    asked: (bench) => !afloat(bench),
  }),
  sucked: question({
    label: "Is a strip of paper drawn in at a closed window while it runs?",
    how: "Everything shut, the unit on full: hold a strip at a gap.",
    minutes: 3,
    asked: (bench) => !afloat(bench),
  }),
  openings: question({
    label: "Is a hatch, vent or door open, or a pipe hole unsealed?",
    how: "Go round with a light: roof vents, fridge vents, floor drops, holes of the fitting.",
    minutes: 6,
    sound: 0.15,
  }),
  waterRise: {
    label: "Cooling water out less sea",
    how: "Ten minutes into a run: the stream overboard and the sea beside.",
    fields: [field("out", "Overboard", "temperature"), field("sea", "Sea", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 2,
    // Leaving at about 40 °C of a sea of 25 to 30 is fine (common practice, no source).
    expected: (bench) => when(afloat(bench), 10),
    value: less,
    minutes: 11,
    caution: "afloat",
  },
  stream: question({
    label: "Is the stream overboard weak or broken?",
    how: "Look at it beside its usual: a full, steady stream?",
    minutes: 2,
    sound: 0.06,
    caution: "afloat",
    asked: afloat,
  }),
  strainer: question({
    label: "Is there weed or shell in the strainer?",
    how: "Sea-cock shut, lid off, look.",
    minutes: 6,
    sound: 0.1,
    caution: "afloat",
    asked: afloat,
  }),
  inverterAir: {
    label: "Air about the inverter over outdoors",
    how: "After 40 minutes at full draw: the air in its compartment, and outdoors.",
    fields: [field("inside", "In its compartment", "temperature"), field("outdoors", "Outdoors", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 3,
    expected: (bench) => {
      const { inverter, weather } = bench.assessment.values;
      return when(converted(bench), Math.max(0, inverter.compartmentC.value - weather.highestC.value));
    },
    value: less,
    minutes: 42,
  },
  others: question({
    label: "Was something else on at that moment?",
    how: "Ask: kettle, microwave, induction plate, water heater, hair dryer.",
    minutes: 1,
    sound: 0.15,
    asked: converted,
  }),
  economy: question({
    label: "Is an economy or search mode on?",
    how: "Look in the inverter’s settings or at its switch.",
    minutes: 2,
    sound: 0.05,
    asked: converted,
  }),
  share: {
    label: "Hardest-working battery against its share",
    how: "Full draw: a DC clamp on each battery’s lead; the largest, times their number, over all of it.",
    fields: [field("largest", "Largest", "current"), field("even", "Even share", "current")],
    dimension: "ratio",
    scale: "ratio",
    spread: 0.09,
    expected: ({ assessment: { values, shares } }) => {
      const n = Math.round(values.bank.parallel.value);
      return when(n > 1, shares.length > 1 ? Math.max(...shares) * n : 1);
    },
    value: ([largest, even]) => Math.max(0.1, Math.abs(largest! / Math.max(0.1, Math.abs(even!)))),
    minutes: 10,
    caution: "bank",
  },
  cellSpread: {
    label: "Highest less lowest cell near empty or full",
    how: "From the battery’s own display at the moment that it cut off, or as near to it as can be.",
    fields: [field("spread", "Between cells", "voltage")],
    dimension: "voltage",
    scale: "ratio",
    spread: 0.6,
    expected: (bench) => when(lithium(bench), 0.03),
    value: (values) => Math.max(0.001, first(values)),
    minutes: 4,
  },
  bankC: {
    label: "Temperature of the battery",
    how: "On the case, out of the sun.",
    fields: [field("case", "Case", "temperature")],
    dimension: "temperature",
    scale: "difference",
    spread: 4,
    expected: ({ assessment: { values } }) => values.bank.temperatureC.value,
    value: first,
    minutes: 2,
  },
  cutOff: {
    label: "Inverter’s low-voltage cut-off",
    how: "Read it from the inverter’s settings.",
    fields: [field("set", "Set to", "voltage")],
    dimension: "voltage",
    scale: "ratio",
    spread: 0.012,
    expected: (bench) => when(converted(bench), bench.assessment.values.inverter.cutOffVoltage.value),
    value: (values) => Math.max(0.5, first(values)),
    minutes: 3,
  },
  capacitor: {
    label: "Run capacitor against its plate",
    how: "Isolated and discharged: a capacitance meter over its terminals; measured over stamped.",
    fields: [field("measured", "Measured, µF", "number"), field("stamped", "Stamped, µF", "number")],
    dimension: "ratio",
    scale: "ratio",
    spread: 0.04,
    expected: (bench) => when(fixed(bench), 0.99),
    value: ([measured, stamped]) => Math.max(0.01, measured! / Math.max(0.1, stamped!)),
    minutes: 25,
    caution: "capacitor",
  },
  peakFalls: question({
    label: "Does the peak fall from start to start?",
    how: "Shore or generator, economy off: clamp peaks of three starts, five minutes apart.",
    minutes: 16,
    sound: 0.1,
    caution: "mains",
    asked: soft,
  }),
  unplugged: question({
    label: "Does the {residualName} still trip with the unit isolated?",
    how: "Unit’s own breaker off, both poles if it has two; everything else as before.",
    minutes: 4,
    sound: 0.03,
    caution: "mains",
    asked: converted,
  }),
  onShore: question({
    label: "Does it trip on shore too?",
    how: "The same unit on a sound shore supply, five minutes after its last stop.",
    minutes: 8,
    sound: 0.03,
    asked: converted,
  }),
  outdoorOver: {
    label: "Outdoors then, over what was promised",
    how: "The warmest hour of the day complained of, less the outdoor temperature on the customer’s card.",
    fields: [field("then", "Outdoors then", "temperature"), field("promised", "Promised for", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 2,
    expected: () => 0,
    value: less,
    minutes: 2,
  },
  setPointUnder: {
    label: "Set point promised, less the one used",
    how: "Ask what the unit was set to.",
    fields: [field("promised", "Promised for", "temperature"), field("used", "Used", "temperature")],
    dimension: "kelvin",
    scale: "difference",
    spread: 0.8,
    expected: () => 0,
    value: less,
    minutes: 1,
  },
} satisfies Record<string, ReadingSpec>;

export type ReadingKey = keyof typeof READINGS;
export const READING_KEYS = Object.keys(READINGS) as ReadingKey[];
export const readingSpec = (key: ReadingKey): ReadingSpec => READINGS[key];
