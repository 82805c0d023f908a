import { openCircuitVoltage } from "../../models/battery/battery";
import type { SymptomKey } from "../fault-finding/causes";
import type { CautionKey } from "../fault-finding/cautions";
import { readingSpec, type Bench, type Field, type ReadingKey } from "../fault-finding/readings";
import type { Dimension } from "../../units/dimension";
import type { StepDone, Branch } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { say } from "../../messages/say";
import { hasSoftStarter, hasStartAid } from "../../document/unit-kinds";

/** What a reading of a step should be: about a value, and what still passes. SI, amp-hours, °C. */
export interface Target {
  value: number;
  low: number | null;
  high: number | null;
  dimension: Dimension;
  /** Where it comes from, in words. */
  source: string;
}

/** One step of the commissioning run sheet. */
export interface Step {
  key: string;
  /** The part of the work, or of the inspection, that it belongs to. */
  part: StepPart;
  title: string;
  how: string;
  caution: CautionKey | null;
  fields: readonly Field[];
  /** Null where it is looked at and not measured. */
  target: Target | null;
  /** The value of the step from its fields. */
  value(fields: readonly number[]): number;
  /** The reading of the fault desk that it is, and what is said there where it fails. */
  reading: ReadingKey | null;
  symptom: SymptomKey | null;
}

export const PARTS = [
  "Before power",
  "Mains side",
  "Settings",
  "Start",
  "Full draw, 40 minutes",
  "Charging",
  "Last",
] as const;

/** Parts of the inspection sheet. */
export const INSPECTION_PARTS = [
  "Earthing",
  "Cables and switches",
  "Battery and inverter",
  "Vehicle or boat",
  "Solar",
  "AC circuits",
  "DC joints at full draw",
] as const;

export type StepPart = (typeof PARTS)[number] | (typeof INSPECTION_PARTS)[number];

type Part = (typeof PARTS)[number];
interface Look {
  title: string;
  how: string;
  caution?: CautionKey;
  symptom?: SymptomKey;
  reading?: ReadingKey;
}

const look = (key: string, part: Part, { title, how, caution, symptom, reading }: Look): Step => ({
  key,
  part,
  title,
  how,
  caution: caution ?? null,
  fields: [],
  target: null,
  value: ([value]) => value ?? 0,
  reading: reading ?? null,
  symptom: symptom ?? null,
});

/** A step that is a reading of the fault desk: `within` is what passes about its value, as a ratio or a difference. */
function read(
  bench: Bench,
  reading: ReadingKey,
  part: Part,
  {
    within,
    symptom,
    source,
  }: { within: readonly [low: number | null, high: number | null]; symptom: SymptomKey; source: string },
): Step[] {
  const spec = readingSpec(reading);
  const value = spec.expected(bench);
  if (value === null) return [];
  const bound = (by: number | null) => (by === null ? null : spec.scale === "ratio" ? value * by : value + by);
  return [
    {
      key: reading,
      part,
      title: spec.label,
      how: spec.how,
      caution: spec.caution ?? null,
      fields: spec.fields,
      target: { value, low: bound(within[0]), high: bound(within[1]), dimension: spec.dimension, source },
      value: (fields) => spec.value(fields),
      reading,
      symptom,
    },
  ];
}

/** Temperature of a joint that ends the full draw, degC: common practice, no source. */
const HOTTEST_C = 70;
/** Water overboard: fine at 40 °C, losing from 43 on (common practice, no source). */
const WATER_HIGH_C = 43;

/**
 * The commissioning run sheet of a job: its steps in a safe order, each with what the core expects. A job that lacks a part
 * has no step for it. Tolerances are of the trade (common practice, no source) unless a step says otherwise.
 */
export function runSheet(bench: Bench): Step[] {
  return [
    ...beforePower(bench),
    ...mainsSide(bench),
    ...settings(bench),
    ...starts(bench),
    ...fullDrawOfWiring(bench),
    ...fullDrawOfUnits(bench),
    ...charging(bench),
    ...last(),
  ];
}

/** A step whose one field is held against a target. */
function measured(key: string, part: Part, what: Look & { label: string; target: Target }): Step {
  return {
    ...look(key, part, what),
    fields: [{ key: "value", label: what.label, dimension: what.target.dimension }],
    target: what.target,
  };
}

const when = <T>(there: boolean, steps: T | T[]): T[] => (there ? ([steps].flat() as T[]) : []);

/** Before anything is switched on. */
function beforePower({ job }: Bench): Step[] {
  const { bank } = buildSystem(job);
  const full = openCircuitVoltage(bank, 1);
  const low = openCircuitVoltage(bank, Math.min(bank.startSoc, bank.reserveSoc));
  const capacitors = job.units.some(hasStartAid);
  return [
    look("as-drawn", "Before power", {
      title: "Everything is where the single-line diagram has it",
      how: say("handover.partPartBatteryOutward"),
    }),
    look("isolated", "Before power", {
      title: "Isolated and locked off",
      how: say("handover.inverterOffSwitchBattery"),
      caution: "isolate",
    }),
    measured("dead", "Before power", {
      title: "Proved dead at the inverter",
      how: say("handover.voltsInverterSDc"),
      caution: "isolate",
      label: "Volts there",
      target: {
        value: 0,
        low: -1,
        high: 2,
        dimension: "voltage",
        source: "nothing may be left but a capacitor’s rest",
      },
    }),
    ...when(
      capacitors,
      look("discharged", "Before power", {
        title: "Run capacitor discharged before its leads were touched",
        how: say("handover.throughResistorRatedThen"),
        caution: "capacitor",
      }),
    ),
    look("earths", "Before power", {
      title: "Continuity of earths and insulation tested",
      how: say("handover.licensedPersonUnderLocal"),
      caution: "mains",
    }),
    look("polarity", "Before power", {
      title: "Polarity of every circuit",
      how: say("handover.polarityHow"),
      caution: "mains",
    }),
    measured("bank-volts", "Before power", {
      title: "Battery at rest",
      how: say("handover.voltsTerminalsHourAfter"),
      caution: "bank",
      label: "Volts",
      target: {
        value: openCircuitVoltage(bank, bank.startSoc),
        low: 0.98 * low,
        high: 1.04 * full,
        dimension: "voltage",
        source: "open-circuit voltage from its reserve to full",
      },
    }),
  ];
}

/** What is set on the monitor, the inverter and the chargers. */
function settings(bench: Bench): Step[] {
  return [
    ...read(bench, "monitorSetting", "Settings", {
      within: [0.97, 1.03],
      symptom: "percentage-wrong",
      source: "plate of the battery",
    }),
    look("synchronised", "Settings", {
      title: "Charged to full and synchronised",
      how: say("handover.untilTailCurrentHas"),
      symptom: "percentage-wrong",
    }),
    ...read(bench, "cutOff", "Settings", {
      within: [0.98, 1.03],
      symptom: "cuts-off-early",
      source: "as the Start stage counts with it",
    }),
    ...read(bench, "controllerVolts", "Settings", {
      within: [0.985, 1.02],
      symptom: "never-full",
      source: "usual for the chemistry; the maker’s own settings win",
    }),
  ];
}

/** The mains side, where there is one. */
function mainsSide({ job, assessment }: Bench): Step[] {
  const converted = assessment.compartment !== null;
  const { residual } = assessment.wiring.rules;
  const has = (role: Branch["role"]) => job.wiring.branches.some((one) => one.role === role);
  return [
    ...when(converted, [
      measured("leakage", "Mains side", {
        title: `${assessment.wiring.rules.residualName} of each source, by a tester`,
        how: say("handover.ratedCurrentShoreInverter"),
        caution: "mains",
        symptom: "earth-leakage",
        label: "Trip time",
        target: {
          value: Math.min(0.03, 0.1 * residual.opensWithinS),
          low: 0,
          high: residual.opensWithinS,
          dimension: "duration",
          source: residual.opensBy,
        },
      }),
      look("change-over", "Mains side", {
        title: "Shore and inverter can never meet",
        how: say("handover.switchOverBothWays"),
        caution: "mains",
      }),
      look("bond", "Mains side", {
        title: `One bond of neutral and ${assessment.wiring.rules.earth}, by the source in use`,
        how: say("handover.localRulesSayTested"),
        caution: "mains",
        symptom: "earth-leakage",
      }),
    ]),
    ...when(
      converted && has("charger"),
      look("charger-apart", "Mains side", {
        title: "The charger stays dark while only the inverter feeds",
        how: say("handover.shoreGeneratorOffInverter"),
        caution: "bypass",
        symptom: "empties-standing",
        reading: "chargerOn",
      }),
    ),
  ];
}

/** The start. */
function starts(bench: Bench): Step[] {
  const { job } = bench;
  const soft = job.units.some(hasSoftStarter);
  return [
    ...when(
      soft,
      look("learned", "Start", {
        title: "Soft starter has learned",
        how: say("handover.fiveStartsShoreGenerator"),
        caution: "carbon",
        symptom: "trips-at-start",
      }),
    ),
    ...read(bench, "peak", "Start", {
      within: [0.5, 1.15],
      symptom: "trips-at-start",
      source: "locked-rotor amps, less what a soft starter takes off",
    }),
    look("starts-at-reserve", "Start", {
      title: "Starts three times running, battery at its reserve",
      how: say("handover.fiveMinutesRestBetween"),
      symptom: "trips-at-start",
    }),
  ];
}

/** The wiring, the inverter and the batteries under full draw. */
function fullDrawOfWiring(bench: Bench): Step[] {
  return [
    look("extinguisher", "Full draw, 40 minutes", {
      title: "Extinguisher at hand; the run ends at 70 °C",
      how: say("handover.extinguisherHow"),
      caution: "bank",
    }),
    measured("hottest", "Full draw, 40 minutes", {
      title: "Hottest joint, by a probe or on dull tape",
      how: say("handover.hottestHow"),
      caution: "bank",
      symptom: "part-hot",
      label: "Temperature",
      target: { value: HOTTEST_C, low: null, high: HOTTEST_C, dimension: "temperature", source: "the draw ends there" },
    }),
    ...read(bench, "path", "Full draw, 40 minutes", {
      within: [null, 1.4],
      symptom: "low-voltage-full-bank",
      source: "the parts of the wiring, or what the drop allows",
    }),
    ...read(bench, "running", "Full draw, 40 minutes", {
      within: [0.8, 1.15],
      symptom: "trips-after-minutes",
      source: "running amps as the Unit stage has them",
    }),
    ...read(bench, "lugRise", "Full draw, 40 minutes", {
      within: [null, 10],
      symptom: "part-hot",
      source: "a sound lug is as warm as its cable",
    }),
    ...read(bench, "breakerRise", "Full draw, 40 minutes", {
      within: [null, 20],
      symptom: "part-hot",
      source: "fuses and breakers run warmer than their cable",
    }),
    ...read(bench, "cableRise", "Full draw, 40 minutes", {
      within: [null, 12],
      symptom: "part-hot",
      source: "share of its ampacity, squared",
    }),
    ...read(bench, "inverterAir", "Full draw, 40 minutes", {
      within: [null, 8],
      symptom: "inverter-fan",
      source: "heat of the inverter over its vents",
    }),
    ...read(bench, "share", "Full draw, 40 minutes", {
      within: [null, 1.2],
      symptom: "cuts-off-early",
      source: "the links between the batteries",
    }),
  ];
}

/** The units under full draw. */
function fullDrawOfUnits(bench: Bench): Step[] {
  const { job, assessment } = bench;
  const sea = job.units.some(({ condenser }) => condenser === "sea");
  const air = job.units.some(({ condenser }) => condenser !== "sea");
  return [
    ...when(
      air,
      read(bench, "intakeRise", "Full draw, 40 minutes", {
        within: [null, 5],
        symptom: "cabin-warm",
        source: "free air at the condenser",
      }),
    ),
    ...when(
      sea,
      measured("water-out", "Full draw, 40 minutes", {
        title: "Cooling water overboard",
        how: say("handover.tenMinutesIntoRun"),
        caution: "afloat",
        symptom: "hot-water-alarm",
        label: "Water",
        target: {
          value: assessment.values.place.seaC.value + 10,
          low: null,
          high: WATER_HIGH_C,
          dimension: "temperature",
          source: "fine at 40 °C, losing from 43 on",
        },
      }),
    ),
    ...read(bench, "airSplit", "Full draw, 40 minutes", {
      within: [-3, 5],
      symptom: "cabin-warm",
      source: "a sound unit at middling moisture",
    }),
    look("condensate", "Full draw, 40 minutes", {
      title: "Condensate falls outside, none inside",
      how: say("handover.afterHalfHourCooling"),
    }),
    look("strain", "Full draw, 40 minutes", {
      title: "No vibration on pipes, no strain on lines",
      how: say("handover.handPipesWhileStarts"),
      caution: "refrigerant",
    }),
    look("cut-off", "Full draw, 40 minutes", {
      title: "Low-voltage cut-off does what it should",
      how: say("handover.raiseMomentOverRunning"),
      symptom: "cuts-off-early",
    }),
  ];
}

/** What charges. */
function charging(bench: Bench): Step[] {
  const { job } = bench;
  const has = (role: Branch["role"]) => job.wiring.branches.some((one) => one.role === role);
  return [
    ...read(bench, "solarBest", "Charging", {
      within: [0.7, null],
      symptom: "never-full",
      source: "three quarters of the rating under a clear noon",
    }),
    ...read(bench, "engineAmps", "Charging", {
      within: [0.75, 1.3],
      symptom: "empties-on-the-road",
      source: "what the engine’s circuit can pass",
    }),
    ...when(
      has("engine"),
      look("engine-stops", "Charging", {
        title: "Engine charging stops with the engine",
        how: say("handover.ignitionEngineOffNothing"),
        symptom: "empties-on-the-road",
      }),
    ),
  ];
}

/** What is done last. */
function last(): Step[] {
  return [
    look("timed-run", "Last", {
      title: "A timed run with notes",
      how: say("handover.testRunHourLeast"),
      symptom: "shorter-than-promised",
    }),
    look("alarms", "Last", {
      title: "Alarms tried, cautions told",
      how: say("handover.smokeCarbonMonoxideWho"),
      caution: "heat",
    }),
  ];
}

/** Whether a value passes a step's target; null where there is none to say so. */
export function passes(step: Step, fields: readonly (number | null)[]): boolean | null {
  const { target } = step;
  if (!target || fields.length < step.fields.length || fields.some((field) => field === null)) return null;
  const value = step.value(fields as number[]);
  return (target.low === null || value >= target.low) && (target.high === null || value <= target.high);
}

/** How far a run sheet is. */
export function progressOf(steps: readonly Step[], done: readonly StepDone[]) {
  const state = new Map(done.map((one) => [one.step, one.passed]));
  const count = (wanted: boolean) => steps.filter(({ key }) => state.get(key) === wanted).length;
  const [passed, failed] = [count(true), count(false)];
  return { steps: steps.length, passed, failed, open: steps.length - passed - failed };
}
