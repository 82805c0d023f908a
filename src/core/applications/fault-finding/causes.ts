import { CHEMISTRIES } from "../../reference/battery/chemistry";
import type { Stage } from "../../document/stage";
import type { CautionKey } from "./cautions";
import { afloat, type Bench, type ReadingKey } from "./readings";
import { fixedSpeed, hasSoftStarter } from "../../document/unit-kinds";

/** What a customer says on the telephone; `words.ts` puts the region's terms in, here as in the names of causes. */
export const SYMPTOMS = {
  "trips-at-start": "Trips as the compressor starts",
  "trips-after-minutes": "Trips after minutes or more of running",
  "hums-and-stops": "The unit hums and stops",
  "low-voltage-full-bank": "Low-voltage fault with a full battery",
  "cuts-off-early": "Cuts off early, all at once",
  "shorter-than-promised": "It lasted shorter than promised",
  "percentage-wrong": "The percentage sticks, jumps or is wrong",
  "part-hot": "A breaker, lug or cable is hot, or smells",
  "cabin-warm": "The cabin will not cool",
  "hot-water-alarm": "High-pressure or hot-water alarm afloat",
  "low-at-dawn": "Battery low at sunrise although it was sunny",
  "empties-on-the-road": "Battery discharges while driving",
  "never-full": "Battery never gets full",
  "empties-standing": "Battery discharges with nothing on",
  "earth-leakage": "{residualName} trips",
  "inverter-fan": "The inverter roars or reports heat",
} as const;
export type SymptomKey = keyof typeof SYMPTOMS;
export const SYMPTOM_KEYS = Object.keys(SYMPTOMS) as SymptomKey[];

/** How a cause moves a reading: a ratio to what it should be, or a difference from it, between two bounds; or how often "yes". */
export type Effect = readonly [low: number, high: number] | number;

export interface CauseSpec {
  name: string;
  /** What mends it. */
  repair: string;
  /** Where on the sheet its values stand. */
  stage: Stage | "test-run";
  /** How often each symptom comes of it, against the other causes of that symptom. */
  symptoms: Partial<Record<SymptomKey, number>>;
  /** Readings that it moves; all others are those of a sound job. */
  effects: Partial<Record<ReadingKey, Effect>>;
  caution?: CautionKey;
  /** Whether the system has what can fail so. */
  applies?(bench: Bench): boolean;
}

const fixed = ({ job }: Bench) => job.units.some(fixedSpeed);
const soft = ({ job }: Bench) => job.units.some(hasSoftStarter);
const lithium = ({ job }: Bench) => CHEMISTRIES[job.bank.chemistry].lithium;
const lead = (bench: Bench) => !lithium(bench);
const ashore = (bench: Bench) => !afloat(bench);
const converted = ({ assessment }: Bench) => assessment.compartment !== null;
const sunny = ({ job }: Bench) => job.sources.panels.length > 0;
const engined = ({ job }: Bench) => job.wiring.branches.some(({ role }) => role === "engine");
const charged = ({ job }: Bench) => job.wiring.branches.some(({ role }) => role === "charger");
const wired = ({ assessment }: Bench) =>
  (assessment.currents["wiring.main"] ?? 0) > 5 &&
  assessment.wiring.main.parts.some(({ part }) => part.kind === "cable");
const both =
  (...each: ((bench: Bench) => boolean)[]) =>
  (bench: Bench) =>
    each.every((one) => one(bench));

/*
 * How often and how far are of the trade's telling (common practice, no source); what a reading should be comes from the
 * system itself.
 */
export const CAUSES = {
  "thin-cable": {
    name: "Cable from battery to inverter too thin or too long",
    repair: "Thicker or shorter cable by the Wiring stage’s choice, its fuse with it.",
    stage: "wiring",
    symptoms: { "trips-at-start": 3, "trips-after-minutes": 2, "low-voltage-full-bank": 5, "part-hot": 2 },
    effects: { path: [1.7, 8], cableRise: [12, 45], resistive: 0.75, onShore: 0.03 },
    caution: "bank",
    applies: wired,
  },
  "bad-lug": {
    name: "A lug or joint with resistance",
    repair: "Cut back, crimp a new lug with the right die, clean and torque; note the torque for the re-check.",
    stage: "wiring",
    symptoms: { "trips-at-start": 2, "trips-after-minutes": 3, "low-voltage-full-bank": 4, "part-hot": 5 },
    effects: { path: [1.3, 7], lugRise: [15, 90], resistive: 0.7, breakerRise: [-12, 10] },
    caution: "isolate",
    applies: wired,
  },
  "hot-breaker": {
    name: "A tired breaker, fuse or switch in the main circuit",
    repair: "Replace it, a fuse for a breaker where its heat does not pass.",
    stage: "wiring",
    symptoms: { "trips-at-start": 1, "trips-after-minutes": 4, "low-voltage-full-bank": 2, "part-hot": 5 },
    effects: { path: [1.15, 6], breakerRise: [18, 70], resistive: 0.6, lugRise: [-3, 12] },
    caution: "isolate",
    applies: wired,
  },
  "unlearned-soft-starter": {
    name: "Soft starter that has not learned",
    repair: "About five starts on shore or generator, any economy mode off, five minutes’ rest between.",
    stage: "start",
    symptoms: { "trips-at-start": 5, "hums-and-stops": 1 },
    effects: { peak: [1.25, 1.6], peakFalls: 0.9, resistive: 0.02 },
    caution: "carbon",
    applies: soft,
  },
  "soft-starter-dead": {
    name: "Soft starter failed or bypassed",
    repair: "Check its wiring against the maker’s diagram, isolated and discharged; replace it.",
    stage: "start",
    symptoms: { "trips-at-start": 3, "hums-and-stops": 2 },
    effects: { peak: [1.9, 4], peakFalls: 0.03, resistive: 0.02 },
    caution: "capacitor",
    applies: soft,
  },
  "economy-mode": {
    name: "Inverter in an economy or search mode",
    repair: "Switch the mode off: it does not see a soft start, and starves it.",
    stage: "start",
    symptoms: { "trips-at-start": 2, "hums-and-stops": 3 },
    effects: { economy: 0.96, onShore: 0.02, resistive: 0.05 },
    applies: converted,
  },
  "restart-too-soon": {
    name: "Restarted against pressure",
    repair: "Three to five minutes’ rest before a restart; set the thermostat’s delay.",
    stage: "start",
    symptoms: { "trips-at-start": 4, "hums-and-stops": 4 },
    effects: { sinceStop: [0.02, 0.2], peak: [0.95, 1.15], onShore: 0.25 },
    applies: fixed,
  },
  "weak-capacitor": {
    name: "Run or start capacitor weak",
    repair: "Replace it by one of its stamped value, after discharge.",
    stage: "unit",
    symptoms: { "trips-at-start": 2, "hums-and-stops": 5, "cabin-warm": 1 },
    effects: { capacitor: [0.35, 0.82], peak: [1, 1.2], running: [1.03, 1.2], onShore: 0.55 },
    caution: "capacitor",
    applies: fixed,
  },
  "tight-compressor": {
    name: "Compressor tight or worn",
    repair: "The refrigeration trade’s judgement: usually a new unit.",
    stage: "unit",
    symptoms: { "trips-at-start": 1, "hums-and-stops": 3, "trips-after-minutes": 1 },
    effects: { peak: [1.05, 1.35], running: [1.15, 1.5], onShore: 0.7, airSplit: [-5, -1] },
    caution: "refrigerant",
    applies: fixed,
  },
  "inverter-small": {
    name: "Inverter too small for the start",
    repair: "A start aid of the Start stage: soft starter, larger or transformer-type inverter, variable-speed unit.",
    stage: "start",
    symptoms: { "trips-at-start": 4, "hums-and-stops": 1 },
    effects: { onShore: 0.02, resistive: 0.04 },
    applies: both(fixed, converted),
  },
  "others-on": {
    name: "Too much on at once",
    repair: "An order of use on the customer’s card; a larger inverter where that will not do.",
    stage: "brief",
    symptoms: { "trips-at-start": 2, "trips-after-minutes": 3 },
    effects: { others: 0.95, onShore: 0.06 },
    applies: converted,
  },
  "inverter-hot": {
    name: "Inverter not ventilated",
    repair: "Vents low and high of the Wiring stage’s size, or another place.",
    stage: "wiring",
    symptoms: { "trips-after-minutes": 4, "inverter-fan": 6 },
    effects: { inverterAir: [10, 30], resistive: 0.5 },
    applies: converted,
  },
  "unequal-batteries": {
    name: "Batteries in parallel share unevenly",
    repair: "Busbars or leads of equal length, taken from opposite ends; clean every joint.",
    stage: "bank",
    symptoms: { "trips-at-start": 1, "cuts-off-early": 3, "shorter-than-promised": 1, "trips-after-minutes": 1 },
    effects: { share: [1.3, 2.2] },
    caution: "bank",
    applies: ({ assessment }) => assessment.values.bank.parallel.value > 1.5,
  },
  "weak-cell": {
    name: "A weak or unbalanced cell",
    repair: "Balance at full by the maker’s way; replace the battery if it comes back.",
    stage: "bank",
    symptoms: { "cuts-off-early": 5, "low-voltage-full-bank": 1, "shorter-than-promised": 2, "never-full": 2 },
    effects: { cellSpread: [5, 30], capacity: [0.5, 0.88] },
    caution: "bank",
    applies: lithium,
  },
  "tired-bank": {
    name: "Battery aged",
    repair: "Enter its counted capacity; replace it, or promise less.",
    stage: "bank",
    symptoms: { "shorter-than-promised": 4, "cuts-off-early": 2, "low-voltage-full-bank": 1 },
    effects: { capacity: [0.4, 0.82] },
    caution: "bank",
  },
  "cold-bank": {
    name: "Battery cold",
    repair: "A warmer place, a heater; the battery’s own block against charging in frost stays.",
    stage: "bank",
    symptoms: { "trips-at-start": 1, "cuts-off-early": 2, "low-voltage-full-bank": 2, "never-full": 1 },
    effects: { bankC: [-35, -16], capacity: [0.8, 0.95] },
    caution: "frost",
  },
  "cut-off-high": {
    name: "Low-voltage cut-off set too high",
    repair: "Set it to the system’s own value: read under load, not at rest.",
    stage: "start",
    symptoms: { "low-voltage-full-bank": 4, "cuts-off-early": 4, "shorter-than-promised": 1 },
    effects: { cutOff: [1.05, 1.2] },
    applies: converted,
  },
  "wrong-monitor": {
    name: "Monitor set to the wrong capacity",
    repair: "Set it to the true capacity, charge to full, synchronise.",
    stage: "bank",
    symptoms: { "percentage-wrong": 5, "shorter-than-promised": 3 },
    effects: { monitorSetting: [1.2, 2] },
  },
  "monitor-adrift": {
    name: "Monitor never synchronised to full",
    repair: "Charge to full until it synchronises; once a week in use.",
    stage: "bank",
    symptoms: { "percentage-wrong": 5, "shorter-than-promised": 2, "cuts-off-early": 1 },
    effects: { lastFull: [5, 40] },
  },
  "shunt-bypassed": {
    name: "A negative that does not go through the shunt, or the wrong shunt set",
    repair: "Every negative but the shunt’s own to its load side; set the shunt’s rating.",
    stage: "wiring",
    symptoms: { "percentage-wrong": 4, "empties-standing": 1, "shorter-than-promised": 1 },
    effects: { monitorClamp: [0.4, 0.86] },
    caution: "bank",
  },
  "hidden-load": {
    name: "Unknown load",
    repair: "Find it by pulling fuses one by one; list it in the Brief, or switch it.",
    stage: "brief",
    symptoms: { "empties-standing": 6, "low-at-dawn": 2, "shorter-than-promised": 2, "empties-on-the-road": 1 },
    effects: { standby: [2.2, 7] },
  },
  "charger-loop": {
    name: "Charger fed by its own inverter",
    repair: "Charger to the shore side of the transfer switch.",
    stage: "wiring",
    symptoms: { "empties-standing": 3, "shorter-than-promised": 2, "low-at-dawn": 1 },
    effects: { chargerOn: 0.97, standby: [3, 12] },
    caution: "bypass",
    applies: both(converted, charged),
  },
  "shaded-panel": {
    name: "A panel in shadow for much of the day",
    repair: "Move it or what shades it; its own controller.",
    stage: "charging",
    symptoms: { "low-at-dawn": 3, "never-full": 3 },
    effects: { shadow: 0.93, solarBest: [0.35, 0.85], controllerCap: [0.35, 0.85] },
    caution: "roof",
    applies: sunny,
  },
  "dirty-panels": {
    name: "Panels dirty",
    repair: "Wash them in the cool of the morning; again every few weeks.",
    stage: "charging",
    symptoms: { "low-at-dawn": 2, "never-full": 2 },
    effects: { wiped: 0.93, solarBest: [0.6, 0.85], controllerCap: [0.6, 0.88] },
    caution: "roof",
    applies: sunny,
  },
  "panel-dead": {
    name: "A panel or its connector dead",
    repair: "Renew the connector or the panel; no mixed connectors.",
    stage: "charging",
    symptoms: { "low-at-dawn": 3, "never-full": 3 },
    effects: { weakPanel: [0.02, 0.7], solarBest: [0.2, 0.8], controllerCap: [0.2, 0.8] },
    caution: "roof",
    applies: sunny,
  },
  "controller-volts": {
    name: "Charging voltage set too low",
    repair: "The battery maker’s charge settings into controller and charger.",
    stage: "charging",
    symptoms: { "never-full": 5, "percentage-wrong": 1, "low-at-dawn": 2 },
    effects: { controllerVolts: [0.9, 0.965] },
    applies: (bench) => sunny(bench) || charged(bench),
  },
  "controller-small": {
    name: "Charge controller at its limit",
    repair: "A controller that passes what the panels give, its circuit by the rules of the Wiring stage.",
    stage: "charging",
    symptoms: { "low-at-dawn": 2, "never-full": 2 },
    effects: { controllerCap: [0.3, 0.7], solarBest: [0.3, 0.7] },
    applies: sunny,
  },
  "engine-off": {
    name: "Engine charging does not switch on",
    repair: "Its signal from the running engine, not the ignition; fuses at both ends.",
    stage: "wiring",
    symptoms: { "empties-on-the-road": 5, "never-full": 1 },
    effects: { engineSignal: 0.95, engineAmps: [0.005, 0.05] },
    applies: engined,
  },
  "engine-drop": {
    name: "Thin cable or bad {earth} from engine to battery",
    repair: "Cable of the Wiring stage’s choice, return by cable and not by the chassis.",
    stage: "wiring",
    symptoms: { "empties-on-the-road": 4, "never-full": 1 },
    effects: { engineAmps: [0.15, 0.6] },
    caution: "bank",
    applies: engined,
  },
  "alternator-weak": {
    name: "Alternator weak, hot or held back by the vehicle",
    repair: "A converter that raises the voltage; less current; the alternator’s own trade.",
    stage: "charging",
    symptoms: { "empties-on-the-road": 4, "never-full": 1 },
    effects: { engineVolts: [-1.9, -0.7], engineAmps: [0.1, 0.65] },
    applies: engined,
  },
  "filter-blocked": {
    name: "Air filter or cold coil blocked or iced",
    repair: "Wash the filter, let the ice go on fan only; not below its lowest set point.",
    stage: "unit",
    symptoms: { "cabin-warm": 5, "shorter-than-promised": 1 },
    effects: { filter: 0.95, airSplit: [3, 9], running: [0.85, 0.97] },
  },
  "condenser-blocked": {
    name: "Condenser matted or its fan slow",
    repair: "Clean the fins with the grain, free or renew the fan.",
    stage: "unit",
    symptoms: { "cabin-warm": 4, "trips-after-minutes": 2, "shorter-than-promised": 1 },
    effects: { condenserLook: 0.92, running: [1.12, 1.4], airSplit: [-5, -1.5] },
    caution: "isolate",
    applies: ashore,
  },
  recirculation: {
    name: "Condenser draws its own hot air",
    repair: "Duct intake and outlet apart; a baffle; free the air about it.",
    stage: "unit",
    symptoms: { "cabin-warm": 3, "trips-after-minutes": 2, "shorter-than-promised": 2 },
    effects: { intakeRise: [6, 18], running: [1.06, 1.3], airSplit: [-4, -0.5] },
    applies: ashore,
  },
  "cabin-air": {
    name: "Condenser draws its air from the cabin",
    repair: "Give it outdoor air: the system sucks hot air through every gap.",
    stage: "unit",
    symptoms: { "cabin-warm": 3, "shorter-than-promised": 2 },
    effects: { sucked: 0.94, intakeRise: [-9, -3] },
    applies: ashore,
  },
  "low-refrigerant": {
    name: "Refrigerant low",
    repair: "A certified person finds the leak, repairs and weighs in.",
    stage: "unit",
    symptoms: { "cabin-warm": 3, "shorter-than-promised": 1 },
    effects: { airSplit: [-9, -4], running: [0.6, 0.88] },
    caution: "refrigerant",
  },
  "open-cabin": {
    name: "Hatch, vent or hole open",
    repair: "Shut and seal; vents that must stay open stay open.",
    stage: "day",
    symptoms: { "cabin-warm": 3, "shorter-than-promised": 2 },
    effects: { openings: 0.95 },
  },
  "clogged-strainer": {
    name: "Strainer clogged",
    repair: "Clean it; look at the intake; a date in the follow-up.",
    stage: "unit",
    symptoms: { "hot-water-alarm": 6, "cabin-warm": 2 },
    effects: { strainer: 0.95, waterRise: [6, 20], stream: 0.85, running: [1.08, 1.35] },
    caution: "afloat",
    applies: afloat,
  },
  "pump-dead": {
    name: "Cooling-water pump weak, airlocked or dead",
    repair: "Bleed it, free or renew its rotor; pump below the waterline.",
    stage: "unit",
    symptoms: { "hot-water-alarm": 4, "cabin-warm": 1 },
    effects: { waterRise: [10, 32], stream: 0.96, running: [1.12, 1.5] },
    caution: "afloat",
    applies: afloat,
  },
  "coil-scaled": {
    name: "Water side of the condenser scaled or grown over",
    repair: "Descale by the maker’s way; anodes looked at.",
    stage: "unit",
    symptoms: { "hot-water-alarm": 3, "cabin-warm": 1 },
    effects: { running: [1.12, 1.45], waterRise: [-6, -3], airSplit: [-5, -1] },
    caution: "afloat",
    applies: afloat,
  },
  "unit-leaks": {
    name: "Leakage to {earth} inside the unit",
    repair: "An insulation test by a licensed person; heater or wet terminals are usual.",
    stage: "unit",
    symptoms: { "earth-leakage": 5 },
    effects: { unplugged: 0.03, onShore: 0.92 },
    caution: "mains",
    applies: converted,
  },
  "two-bonds": {
    name: "Neutral and {earth} joined twice",
    repair: "One bond, by the source in use, as local rules say: a licensed person’s work.",
    stage: "wiring",
    symptoms: { "earth-leakage": 4 },
    effects: { unplugged: 0.9, onShore: 0.3 },
    caution: "mains",
    applies: converted,
  },
  "hotter-than-promised": {
    name: "Hotter than what was promised",
    repair: "Nothing is broken: show the run-time map, promise for such days.",
    stage: "day",
    symptoms: { "shorter-than-promised": 4, "cabin-warm": 2 },
    effects: { outdoorOver: [4.5, 14], running: [1.03, 1.15] },
    caution: "heat",
  },
  "set-too-cold": {
    name: "Set colder than what was promised",
    repair: "Two degrees up, low fan; it stands on the customer’s card.",
    stage: "day",
    symptoms: { "shorter-than-promised": 4 },
    effects: { setPointUnder: [2, 8] },
  },
  sulphated: {
    name: "Lead-acid battery undercharged and sulphated",
    repair: "A long charge to its true end, an equalising one where the maker allows; else replace.",
    stage: "bank",
    symptoms: { "shorter-than-promised": 3, "never-full": 2, "percentage-wrong": 1 },
    effects: { capacity: [0.35, 0.75], lastFull: [3, 20] },
    caution: "hydrogen",
    applies: lead,
  },
} satisfies Record<string, CauseSpec>;

export type CauseKey = keyof typeof CAUSES;
export const CAUSE_KEYS = Object.keys(CAUSES) as CauseKey[];
export const causeSpec = (key: CauseKey): CauseSpec => CAUSES[key];

/** Causes that a system can have. */
export const causesOf = (bench: Bench): CauseKey[] =>
  CAUSE_KEYS.filter((key) => causeSpec(key).applies?.(bench) ?? true);
