import { CHEMISTRIES, cellsInBlock, socAtOpenCircuit } from "../reference/battery/chemistry";
import { AMPACITY_TABLES, type AmpacityTable } from "../reference/conductors/ampacity";
import { compartmentRise } from "../reference/air/compartment";
import { FUSE_KINDS, interruptingAt } from "../reference/conductors/fuse";
import { mainUse } from "./schedule";
import { loadVolts, MAINS_SYSTEMS } from "../reference/standards/mains";
import { leadArea, proposedRuleSet, RULE_SETS, type RuleSet } from "../reference/standards/rule-set";
import { placeOfJob, timeZoneOfJob } from "./place";
import { significant } from "../units/format";
import { AMERICAN, METRIC } from "../units/dimension";
import { formatQuantity } from "../units/format";
import type { Branch, StartAidKey, Part, Job, Unit } from "./schema";
import type {
  BankKey,
  BranchKey,
  BriefKey,
  InverterKey,
  LinkKey,
  LoadKey,
  PartKey,
  WiringKey,
  SupplyKey,
  UnitKey,
} from "./fields";
import type { DefaultValue } from "../units/known";
import { driveOnMains, fixedSpeed, onBattery } from "./unit-kinds";

/*
 * The value each quantity is assumed to have when nobody entered one, and why. A typical value may follow other
 * quantities of its group through `need`; entered ones among them count, so one reading improves all that hang on it.
 */

export type Need<K extends string> = (key: K) => number;
type Typicals<K extends string> = { [P in K]: (need: Need<K>) => DefaultValue };

export type OptionalUnitKey =
  | "maximumPower"
  | "measuredAtC"
  | "dcRunningCurrent"
  | "dcLowCurrent"
  | "dcFanCurrent"
  | "dcAverageCurrent"
  | "dutyCycle"
  | "waterLeavingC"
  | "circuitAmpacity"
  | "largestDevice";
export type OptionalInverterKey = "maxDcCurrent" | "ventArea";
export type OptionalPartKey = "ampacity";

const is = (value: number, why: string): DefaultValue => ({ value, why });

/** Volts of one leg of the mains system to neutral. */
export function mainsVoltage(job: Job): number {
  return MAINS_SYSTEMS[job.brief.mains].legVolts;
}

/** What a proposal was made from: a document in the hands of an editor may change under its identity. */
type Proposal = {
  mains: string;
  kind: string;
  listed: string | null;
  latitude: number | undefined;
  longitude: number | undefined;
  zone: string | null;
  rules: RuleSet;
};
const proposals = new WeakMap<Job["place"], Proposal>();

/** The rule set of a job: the one chosen in the brief, or the one proposed. */
export function ruleSetOf(job: Job): RuleSet {
  const { mains, ruleSet } = job.brief;
  if (ruleSet !== "auto") return RULE_SETS[ruleSet];
  const { kind } = job.cabin;
  const { listed, timeZone } = job.place;
  const [latitude, longitude] = [job.place.latitude?.value, job.place.longitude?.value];
  const known = proposals.get(job.place);
  if (
    known &&
    known.mains === mains &&
    known.kind === kind &&
    known.listed === listed &&
    known.latitude === latitude &&
    known.longitude === longitude &&
    known.zone === timeZone
  )
    return known.rules;
  const zone = MAINS_SYSTEMS[mains].american ? "" : timeZoneOfJob(job);
  const rules = RULE_SETS[proposedRuleSet(mains, kind === "boat", zone)];
  proposals.set(job.place, { mains, kind, listed, latitude, longitude, zone: timeZone, rules });
  return rules;
}

/** The table that DC cable ampacity is read from: the one chosen, or that of the job's rule set. */
export function ampacityTable(job: Job): AmpacityTable {
  if (job.wiring.table !== "auto") return job.wiring.table;
  const { dcTable, dcTableUpToV, dcTableAbove } = ruleSetOf(job);
  return nominalVolts(job) <= dcTableUpToV ? dcTable : dcTableAbove;
}

/** Nominal volts of the battery, by what is entered of it. */
function nominalVolts({ bank: { chemistry, build, blockVoltage, series } }: Job): number {
  const { cellVoltage } = CHEMISTRIES[chemistry];
  const cells = build === "cells";
  const block = blockVoltage?.value ?? (cells ? cellVoltage : chemistry === "nmc" ? 14 * cellVoltage : 12.8);
  return block * (series?.value ?? (cells ? SMALL_BATTERY_CELLS[chemistry] : 1));
}

/** Bare cells in series where nobody said how many: a small battery. */
const SMALL_BATTERY_CELLS = { agm: 6, lfp: 4, nmc: 7 } as const;

/** Volts by which direct-current equipment of a battery is sold: 12, 24, 36 or 48; beyond them the battery's own. */
export function voltageClass(bankVoltage: number): number {
  if (bankVoltage < 9) return bankVoltage;
  return bankVoltage <= 18
    ? 12
    : bankVoltage <= 30
      ? 24
      : bankVoltage <= 42
        ? 36
        : bankVoltage <= 60
          ? 48
          : bankVoltage;
}

export const briefDefaults = (job: Job): Typicals<BriefKey> => ({
  hoursWanted: () => {
    const use = job.plan.patterns[0] && mainUse(job.plan.patterns[0]);
    return use ? is(use.minutes * 60, "longest use in the plan of the day") : is(8 * 3600, "a night");
  },
  setPointC: () => is(24, "a typical night's setting"),
});

export const LOAD_DEFAULTS: Typicals<LoadKey> = {
  power: () => is(100, "no power given"),
  dutyCycle: () => is(1, "on all the time"),
};

/**
 * Watts of cooling per watt of input that a typical unit of the kind gives at its rating point: 35 degC outdoors, or a sea of
 * 27 degC. Middles of what efficiency rules and plates show (from memory): roof units EER 8.5 to 10.5, window units 10.5 to
 * 11.5, variable ones 9.5 to 12, wall splits 11.5 to 13.5, sea-water units 11 to 13, variable ones 14 to 18, DC roof units 9
 * to 12.
 */
const COOLING_PER_WATT = { fixed: 2.8, variable: 3.3, dc: 3 } as const;
const SPLIT_COOLING_PER_WATT = { fixed: 3.4, variable: 3.8, dc: 3.6 } as const;
const SEA_COOLING_PER_WATT = { fixed: 3.5, variable: 4.7, dc: 4.2 } as const;
/** A fixed-speed unit of this capacity in W or less is of the window kind, which is more efficient than a roof unit. */
const WINDOW_UNIT = { coolingPower: 2100, coolingPerWatt: 3.2 } as const;

/** Cooling of a unit of which nothing is known: on 120 V 13,500 BTU/h, elsewhere by the vehicle, W (common practice, no source). */
const MIDDLING_AMERICAN_W = 13_500 * 0.29307107;
const MIDDLING_W: Record<Job["cabin"]["kind"], number> = {
  van: 2000,
  truck: 2000,
  caravan: 2300,
  motorhome: 2500,
  bus: 3500,
  boat: 2500,
  room: 2500,
};

function middlingUnit({ brief, cabin }: Job): DefaultValue {
  return MAINS_SYSTEMS[brief.mains].american
    ? is(MIDDLING_AMERICAN_W, "a middling roof unit, 13,500 BTU/h")
    : is(MIDDLING_W[cabin.kind], `usual for a ${cabin.kind} on 230 V`);
}

function coolingPerWatt({ kind, condenser, coolingPower }: Unit): number {
  if (condenser === "sea") return SEA_COOLING_PER_WATT[kind];
  if (condenser === "split") return SPLIT_COOLING_PER_WATT[kind];
  if (kind === "fixed" && coolingPower && coolingPower.value <= WINDOW_UNIT.coolingPower)
    return WINDOW_UNIT.coolingPerWatt;
  return COOLING_PER_WATT[kind];
}

/** Origins of what was found on the running system and not stated of it. */
const isFound = (quantity: Unit["runningCurrent"]): boolean =>
  quantity?.origin === "measured" || quantity?.origin === "fitted";

/** Locked-rotor current over running current at the rating point. */
const LOCKED_ROTOR = 5;

/**
 * Locked-rotor amps where nobody entered them: five times the running amps of the plate, else those of the capacity and kind.
 * A running current that was read says nothing of the start: on a mild day a compressor draws a third less and starts as
 * hard as ever. One above the usual for the capacity is of a larger compressor, and counts.
 * `readW`: W that the unit was read to draw at most.
 */
function lockedRotor(
  { runningCurrent, ratedPower }: Unit,
  { amps, byCapacityW, readW }: { amps(watts: number): number; byCapacityW: number; readW: number },
): DefaultValue {
  if (runningCurrent && !isFound(runningCurrent))
    return is(LOCKED_ROTOR * runningCurrent.value, "five times running; four to six is usual");
  if (ratedPower && !isFound(ratedPower))
    return is(LOCKED_ROTOR * amps(ratedPower.value), "five times the running current of its rated input");
  const byCapacity = amps(byCapacityW);
  const read = Math.max(amps(readW), runningCurrent?.value ?? 0, ratedPower ? amps(ratedPower.value) : 0);
  return read > byCapacity
    ? is(LOCKED_ROTOR * read, "five times running as it was read, which is above the usual for the capacity")
    : is(LOCKED_ROTOR * byCapacity, "five times the running current usual for the capacity; four to six is usual");
}

/** Of a battery's watts what reaches the unit through an inverter. */
const THROUGH_INVERTER = 0.9;

/** Typical values of a unit's quantities; `mostDrawnA`: the most that any of its readings adds at the battery, A. */
export function unitDefaults(
  job: Job,
  unit: Unit,
  bankVoltage: number,
  mostDrawnA = 0,
): Typicals<Exclude<UnitKey, OptionalUnitKey>> {
  const mains = loadVolts(job.brief.mains, unit.leg);
  const direct = onBattery(unit);
  const volts = direct ? bankVoltage : mains;
  const { american } = MAINS_SYSTEMS[job.brief.mains];
  const performance = coolingPerWatt(unit);
  const middling = middlingUnit(job);
  const capacityAlone = !unit.ratedPower && !unit.runningCurrent && !unit.dcRunningCurrent;
  return {
    coolingPower: (need) =>
      unit.ratedPower || unit.runningCurrent
        ? is(need("ratedPower") * performance, `${performance} times its input, usual for the kind`)
        : middling,
    ratedPower: (need) =>
      unit.runningCurrent && unit.runningCurrent.origin !== "measured"
        ? is(volts * need("runningCurrent") * need("runningPowerFactor"), "volts × running amps × power factor")
        : unit.coolingPower || !unit.runningCurrent
          ? is(need("coolingPower") / performance, `cooling capacity ÷ ${performance}, usual for the kind`)
          : is(volts * unit.runningCurrent.value * need("runningPowerFactor"), "volts × running amps × power factor"),
    runningCurrent: (need) =>
      unit.dcRunningCurrent && !direct
        ? is(
            (THROUGH_INVERTER * unit.dcRunningCurrent.value * bankVoltage) / (volts * need("runningPowerFactor")),
            "nine tenths of the battery's watts",
          )
        : is(need("ratedPower") / (volts * need("runningPowerFactor")), "rated input ÷ (volts × power factor)"),
    runningPowerFactor: () =>
      direct
        ? is(1, "DC")
        : driveOnMains(unit)
          ? is(0.98, "electronic input stage")
          : is(0.95, "0.90 to 0.98 is usual"),
    powerPerKelvin: () =>
      // What is known by its capacity alone draws a tenth less at 28 degC than at 35.
      capacityAlone && unit.kind === "fixed" && american && unit.condenser !== "sea"
        ? is(0.02, "a roof unit known by its capacity: a seventh less at 28 °C than at 35")
        : is(0.013, "about 1 A more for each 10 °F on a 14 A unit"),
    lockedRotorCurrent: (need) =>
      lockedRotor(unit, {
        amps: (watts) => watts / (volts * need("runningPowerFactor")),
        byCapacityW: (unit.coolingPower?.value ?? middling.value) / performance,
        readW: THROUGH_INVERTER * Math.max(mostDrawnA, unit.dcRunningCurrent?.value ?? 0) * bankVoltage,
      }),
    startPowerFactor: () => is(0.65, "0.5 to 0.8 is usual"),
    startTime: () => is(0.35, "0.15 to 0.6 s is usual"),
    sinceStop: () => is(300, "rested five minutes"),
    softReduction: () => is(0.65, "soft starters take off half to three quarters"),
    softRamp: () => is(1.5, "1 to 2 s is usual"),
    rampTime: () => is(180, "1 to 10 min is usual"),
    fanPower: (need) => {
      if (!fixedSpeed(unit)) return is(50, "variable-speed units blow on 30 to 75 W");
      const fan = Math.min(350, Math.max(60, 0.15 * need("ratedPower")));
      return is(fan, "15 % of the input; 60 to 350 W is usual");
    },
    capacityPerKelvin: () => is(0.0085, "0.7 to 1.0 % is usual"),
    sensibleHeatRatio: () => is(0.75, "0.70 to 0.80 is usual"),
    thermostatBand: () => is(1.5, "1 to 2 K is usual"),
    minimumOff: () => is(180, "three minutes"),
    condenserRise: () =>
      unit.condenser === "sea"
        ? is(8, "sea-water condenser: as air 8 K above the sea")
        : unit.condenser === "boxed"
          ? is(6, "shut in: it draws some of its own hot air")
          : is(0, "breathes freely"),
    fanLowPower: (need) => is(0.6 * need("fanPower"), "60 % of the high fan"),
    compressorCurrent: (need) =>
      is(
        Math.max(0.5 * need("runningCurrent"), need("runningCurrent") - need("fanPower") / volts),
        "running current less the fan's",
      ),
    pumpPower: () => (unit.condenser === "sea" ? is(60, "25 to 90 W is usual") : is(0, "no sea-water condenser")),
    supplyVoltage: () => is(voltageClass(bankVoltage), "as the battery"),
    cutOffVoltage: (need) =>
      direct ? is((11 / 12) * need("supplyVoltage"), "11 V on 12 V, in proportion") : is(0, "not a DC unit"),
  };
}

export function bankDefaults(job: Pick<Job, "bank">): Typicals<BankKey> {
  const { chemistry, build } = job.bank;
  const model = CHEMISTRIES[chemistry];
  const cells = build === "cells";
  const bankCells = (need: Need<BankKey>) => cellsInBlock(chemistry, need("blockVoltage")) * need("series");
  const perCell = (need: Need<BankKey>, volts: number) =>
    is(bankCells(need) * volts, `${significant(volts)} V a cell × ${bankCells(need)}`);
  return {
    blockVoltage: () => {
      if (cells) return is(model.cellVoltage, `one ${model.name} cell`);
      if (chemistry === "nmc") return is(14 * model.cellVoltage, "a 14-cell pack");
      return is(chemistry === "agm" ? 12 : 12.8, `a usual ${model.name} battery`);
    },
    series: () => (cells ? is(SMALL_BATTERY_CELLS[chemistry], "a small battery") : is(1, "one battery")),
    parallel: () => is(1, "one path"),
    capacityAh: () => is(cells ? 280 : chemistry === "nmc" ? 60 : chemistry === "agm" ? 100 : 200, "a usual size"),
    condition: () => is(1, "as new"),
    temperatureC: () => is(25, "room temperature"),
    chargeToVoltage: (need) => perCell(need, model.chargeTo),
    startSoc: (need) =>
      is(socAtOpenCircuit(chemistry, need("chargeToVoltage") / bankCells(need)), "what the charge-to voltage reaches"),
    stopVoltage: (need) => perCell(need, model.stopAt),
    reserve: () => (model.lithium ? is(0.2, "usual for lithium") : is(0.5, "usual for lead-acid")),
    resistance: (need) => {
      // 8 mohm for a whole 12.8 V 100 Ah battery, half of it cells; it grows with volts and age and falls with Ah.
      const aged = agedResistance(model.lithium, need("condition"));
      const whole = (aged * (0.008 * need("blockVoltage"))) / 12.8 / (need("capacityAh") / 100);
      const age = aged > 1.01 ? `, ${significant(aged, 2)} times for its age` : "";
      if (chemistry === "agm") return is(0.75 * whole, `6 mΩ for 12 V 100 Ah${age}`);
      return cells
        ? is(whole / 2, `4 mΩ for 12.8 V 100 Ah of bare cells${age}`)
        : is(whole, `8 mΩ for 12.8 V 100 Ah${age}`);
    },
    protectionResistance: () =>
      cells && model.lithium ? is(0.001, "a usual BMS") : is(0, "counted in the batteries, or none"),
    continuousCurrent: (need) => {
      if (chemistry === "agm") return is(0.5 * need("capacityAh"), "half the capacity in amps: hurried lead-acid ages");
      if (cells)
        return is(
          Math.min(300, need("capacityAh") * need("parallel")),
          "a board for the capacity in amps, 300 A at most",
        );
      return is(Math.min(200, need("capacityAh")), "the capacity in amps, 200 A at most");
    },
    peakCurrent: (need) =>
      chemistry === "agm"
        ? is(5 * need("capacityAh"), "five times the capacity in amps")
        : is(2 * need("continuousCurrent"), "twice the continuous"),
    peakTime: () => is(3, "a few seconds"),
    chargeCurrent: (need) =>
      chemistry === "agm"
        ? is(0.25 * need("capacityAh"), "a quarter of the capacity in amps")
        : is(
            Math.min(0.5 * need("capacityAh") * (cells ? need("parallel") : 1), need("continuousCurrent")),
            "half the capacity in amps",
          ),
    highestChargeC: () => (model.lithium ? is(55, "45 to 60 °C is usual") : is(50, "usual")),
    seriesAllowed: (need) =>
      cells
        ? is(Math.max(1, need("series")), "bare cells: by the BMS")
        : is(Math.max(1, Math.floor(51.3 / need("blockVoltage"))), "up to 48 V nominal is usual"),
    peukert: () => (chemistry === "agm" ? is(1.2, "1.10 to 1.30 is usual for AGM") : is(1, "lithium hardly cares")),
    ratedTime: () => is(20 * 3600, "the usual 20-hour rate"),
  };
}

/**
 * Multiple of its resistance when new that a battery has at a state of health: at 80 % a lithium battery has about half as
 * much again, a lead-acid one twice (common practice, no source).
 */
export function agedResistance(lithium: boolean, health: number): number {
  return 1 + (lithium ? 2.5 : 5) * Math.min(0.5, Math.max(0, 1 - health));
}

type InverterTypicalKey = Exclude<InverterKey, OptionalInverterKey>;

/** What heats the inverter's compartment: the mains watts it makes, and the charging watts that pass through it. */
export interface CompartmentLoad {
  acPower: number;
  chargingPower: number;
  ventArea: number | undefined;
}

/** Watts of heat in a compartment: the inverter's losses, and a tenth of what chargers and controllers pass. */
export function compartmentHeat(
  load: CompartmentLoad,
  inverter: { idlePower: number; lossShare: number; lossRise: number; rating: number; count: number },
): number {
  const whole = inverter.rating * inverter.count;
  const power = Math.min(load.acPower, whole);
  const losses =
    inverter.idlePower * inverter.count + inverter.lossShare * power + (inverter.lossRise * power * power) / whole;
  return losses + CHARGER_LOSS * load.chargingPower;
}
/** Chargers and controllers turn 5 to 12 % of what they pass into heat: common practice, no source. */
const CHARGER_LOSS = 0.08;

export function inverterDefaults(
  job: Job,
  bankVoltage: number,
  outdoorC: number,
  load: CompartmentLoad,
): Typicals<InverterTypicalKey> {
  const heavy = job.inverter.type === "transformer";
  const kind = heavy ? "transformer" : "high-frequency";
  const [first, second, third] = heavy
    ? ([
        [2, 5],
        [1.5, 30],
        [1.3, 1800],
      ] as const)
    : ([
        [2, 0.2],
        [1.5, 2],
        [1.2, 30],
      ] as const);
  const point = ([times, seconds]: readonly [number, number]) => ({
    power: (need: Need<InverterTypicalKey>) =>
      is(times * need("rating"), `${times} times continuous, usual for the ${kind} kind`),
    time: () => is(seconds, `usual for the ${kind} kind`),
  });
  return {
    count: () => is(1, "one"),
    rating: () => is(3000, "a usual size"),
    surge1: point(first).power,
    surge1Time: point(first).time,
    surge2: point(second).power,
    surge2Time: point(second).time,
    surge3: point(third).power,
    surge3Time: point(third).time,
    ventHeight: () => is(0.3, "low inlet, high outlet"),
    compartmentC: (need) => {
      if (load.ventArea === undefined)
        return is(Math.max(25, outdoorC + 5), "well vented: outdoor temperature + 5 K, 25 °C at least");
      const heat = compartmentHeat(load, {
        idlePower: need("idlePower"),
        lossShare: need("lossShare"),
        lossRise: need("lossRise"),
        rating: need("rating"),
        count: need("count"),
      });
      const rise = compartmentRise(heat, load.ventArea, need("ventHeight"));
      return is(
        Math.min(80, Math.max(25, outdoorC + rise)),
        `${significant(heat, 2)} W through its vents: ${significant(rise, 2)} K over outdoors`,
      );
    },
    derateFromC: () => is(40, "usual"),
    deratePerKelvin: () => is(0.015, "usual"),
    idlePower: (need) =>
      heavy
        ? is(Math.max(12, 0.009 * need("rating")), "0.9 % of rating: a transformer stays magnetised")
        : is(Math.max(8, 0.006 * need("rating")), "0.6 % of rating, 8 W at least"),
    lossShare: () => is(0.05, "about 91 % at half load"),
    lossRise: () => is(0.05, "about 91 % at half load"),
    inletLimit: () => {
      const shore = job.wiring.branches.find(({ role }) => role === "shore");
      return shore?.current ? is(shore.current.value, "as the shore inlet") : is(usualInlet(job), "a usual inlet");
    },
    chargeCurrent: (need) =>
      job.inverter.combined
        ? is((0.5 * need("rating")) / bankVoltage, "half its rating at the battery's volts")
        : is(0, "no inverter-charger"),
    transferTime: () => is(0.02, "one cycle is usual"),
    alarmVoltage: () => is((11.5 / 12) * voltageClass(bankVoltage), "11.5 V on 12 V, in proportion"),
    alarmDelay: () => is(5, "a few seconds"),
    cutOffVoltage: () => is((11 / 12) * voltageClass(bankVoltage), "11 V on 12 V, 22 on 24, 44 on 48"),
    cutOffDelay: () => is(0, "none counted on"),
  };
}

export function wiringDefaults(outdoorC: number): Typicals<WiringKey> {
  return {
    ambientC: () => is(Math.max(30, outdoorC), "outdoor temperature, 30 °C at least"),
    dropLimit: () => is(0.03, "3 % for the inverter's circuit"),
    branchDropLimit: () => is(0.05, "5 % for other circuits"),
  };
}

export function linkDefaults(areaMm2: DefaultValue, fuse: DefaultValue): Typicals<LinkKey> {
  return {
    areaMm2: () => areaMm2,
    fuseRating: () => fuse,
    jointResistance: () => is(0.0003, "a lug and post at each end of both"),
  };
}

export const LINK_LENGTH_DEFAULT = () => is(0.3, "battery beside battery");

/** What a part's typical values follow from: settled for its run before its parts are. */
export interface PartSetting {
  where: "main" | "mains" | Branch["role"];
  /** DC: nominal volts, and the highest that the parts see. */
  bankVoltage: number;
  highestVoltage: number;
  mains: boolean;
  american: boolean;
  /** Equal runs side by side that a busbar joins. */
  lanes: number;
  /** A that a device for current to earth trips at. */
  residualA: number;
  /** A that such devices are sold for. */
  residualRatings: readonly number[];
  /** Fuse or breaker rating, cable size, and other ratings of the run, each with its reason. */
  rating: DefaultValue;
  areaMm2: DefaultValue;
  count: DefaultValue;
  carries: DefaultValue;
}

/** Metres of cable, one way, that a run is taken to have. */
export const TYPICAL_LENGTH = (where: PartSetting["where"]): number =>
  where === "main" ? 1.5 : where === "mains" ? 5 : 3;

/** Typical values of one part's quantities. */
export function partDefaults(part: Part, setting: PartSetting): Partial<Typicals<PartKey>> {
  const main = setting.where === "main";
  switch (part.kind) {
    case "cable":
      return {
        areaMm2: () => setting.areaMm2,
        length: () => is(TYPICAL_LENGTH(setting.where), "a usual run"),
        count: () => setting.count,
        conductorC: () => is(main ? 60 : 45, "warm at work"),
        circuits: () => (part.route === "bundled" && !setting.mains ? is(3, "a bundle of three") : is(1, "by itself")),
      };
    case "fuse": {
      const kind = FUSE_KINDS[part.fuseKind];
      const usual = `usual for the kind: ${kind.name.toLowerCase()}`;
      return {
        rating: () => setting.rating,
        voltage: () => is(kind.voltage, usual),
        interrupting: () => is(interruptingAt(part.fuseKind, setting.bankVoltage), `${usual} at these volts`),
        resistance: (need) => is(kind.voltsAtRating / need("rating"), `${kind.voltsAtRating * 1000} mV at its rating`),
      };
    }
    case "isolator":
      return {
        rating: () => setting.carries,
        voltage: () =>
          is(
            [32, 60, 80, 150, 250, 600, 1000].find((volts) => volts >= setting.highestVoltage) ?? 1500,
            "one made for these volts: see its label",
          ),
        resistance: () => is(0.0001, "contacts in good order"),
      };
    case "connector":
      return { rating: () => setting.carries, resistance: () => is(0.0002, "plug and socket in good order") };
    case "inlet":
      return { rating: () => setting.carries };
    case "shunt":
      return {
        rating: () => (setting.carries.value > 500 ? setting.carries : is(500, "a usual shunt")),
        resistance: (need) => is(0.05 / need("rating"), "50 mV at its rating"),
      };
    case "busbar":
      return {
        rating: () =>
          setting.lanes > 1 ? is(setting.lanes * setting.carries.value, "all that it joins") : setting.carries,
        resistance: () => is(0.00002, "solid copper and its studs"),
      };
    case "joints":
      return {
        contacts: () => (main ? is(8, "four joints each way") : is(4, "two joints each way")),
        resistance: () => is(0.0001, "0.05 to 0.3 mΩ each"),
      };
    case "breaker":
      return {
        rating: () => setting.rating,
        interrupting: () => is(setting.american ? 10_000 : 6000, "usual for the kind"),
      };
    case "changeover":
      return { rating: () => setting.carries };
    case "rcd":
      return {
        rating: () =>
          is(
            setting.residualRatings.find((amps) => amps >= setting.carries.value) ?? setting.carries.value,
            setting.carries.why,
          ),
        residual: () => is(setting.residualA, `${significant(1000 * setting.residualA)} mA protects people`),
      };
  }
}

/** Inlet that a job is taken to have until somebody says: the usual one where it is. */
export function usualInlet(job: Job): number {
  const rules = ruleSetOf(job);
  if (job.brief.mains === "120V240V60Hz") return 50;
  return rules.key === "au-nz" ? 15 : MAINS_SYSTEMS[job.brief.mains].american ? 30 : 16;
}

/** Rated output that somebody entered of the controller of a solar circuit, A: the nth circuit has the nth; else null. */
export function controllerRating({ wiring, sources }: Job, branchId: string): number | null {
  const at = wiring.branches.filter(({ role }) => role === "solar").findIndex(({ id }) => id === branchId);
  return sources.controllers[at]?.current?.value ?? null;
}

/** Nominal volts below their charging volts by which a vehicle's system is drawn from while it charges: 13 on 12. */
export const VEHICLE_CHARGES_AT = 13 / 12;

/** What typical values of a circuit follow from. */
export interface BranchSetting {
  branch: Branch;
  rules: RuleSet;
  table: AmpacityTable;
  bankVoltage: number;
  /** W of the brief's DC loads. */
  dcPower: number;
  /** A of the unit that it feeds. */
  unitCurrent: number;
  /** A of a usual inlet, and of the controller of a solar circuit where it was entered. */
  inlet: number;
  controller: number | null;
}

export function branchDefaults({
  branch,
  rules,
  table,
  bankVoltage,
  dcPower,
  unitCurrent,
  inlet,
  controller,
}: BranchSetting): Typicals<BranchKey> {
  const loads = branch.role === "loads";
  const converted = loads && branch.converter;
  return {
    current: (need) => {
      switch (branch.role) {
        case "solar":
          return controller === null ? is(30, "a usual controller") : is(controller, "the rating of its controller");
        case "engine":
          return branch.coupling === "dc-dc" ? is(30, "a usual converter") : is(80, "what a usual alternator pushes");
        case "charger":
          return is(30, "a usual charger");
        case "loads":
          return converted
            ? is(
                (need("converterRating") * need("loadVoltage")) / (bankVoltage * need("efficiency")),
                "what the converter draws at its rating",
              )
            : is(Math.max(10, dcPower / bankVoltage), "the brief's DC loads all at once, 10 A at least");
        case "circuit":
          return is(unitCurrent, "the unit's running current");
        case "dc-unit":
          return is(unitCurrent, "the unit's running current");
        case "shore":
          return is(inlet, "a usual inlet");
      }
    },
    loadVoltage: () => is(12, "usual"),
    efficiency: () =>
      branch.role === "engine"
        ? is(0.93, "0.90 to 0.95 is usual")
        : branch.role === "solar"
          ? is(0.97, "usual")
          : is(0.9, "0.85 to 0.94 is usual"),
    converterRating: (need) =>
      is(
        [10, 20, 30, 40, 60, 100].find((amps) => amps >= dcPower / need("loadVoltage")) ?? 200,
        "the next size that carries the brief's DC loads",
      ),
    vehicleVoltage: () => is(12, "usual"),
    starterShortCircuit: () => is(5000, "an upper bound: several thousand amps"),
    leadLength: () => is(rules.leadLength, "a usual lead"),
    leadAreaMm2: (need) => {
      const wanted = leadArea(rules, need("current"), need("leadLength"));
      return is(
        AMPACITY_TABLES[table].sizesMm2.find((size) => size >= wanted * 0.99) ?? wanted,
        "what its rating and length ask for",
      );
    },
  };
}

export function supplyDefaults(job: Job): Typicals<SupplyKey> {
  const american = MAINS_SYSTEMS[job.brief.mains].american;
  return {
    generatorRating: () => is(2000, "a usual suitcase generator"),
    generatorContinuous: () => is(0.9, "the plate often states the maximum"),
    startAt: () => is(0.3, "a little over the usual reserve"),
    stopAt: () => is(0.8, "beyond it charging slows"),
    tankVolume: (need) => is(2 * (need("generatorRating") / 1000), "2 L for each kVA is usual"),
    fuelAtFull: (need) => is(0.55 * (need("generatorRating") / 1000), "0.55 L/h for each kVA is usual"),
    altitude: () => {
      const { place, known, why } = placeOfJob(job);
      return known ? is(Math.max(0, Math.round(place.altitude)), why) : is(0, "sea level");
    },
    inletResistance: () =>
      american ? is(0.15, "a site supply and a 25 ft lead") : is(0.6, "a site supply and a 25 m lead"),
  };
}

/*
 * Cost and mass of the start aids: middling prices and masses of the trade, from memory, in the job's currency; the
 * workshop's own take their place.
 */
const START_AID_TYPICALS: Record<StartAidKey, [cost: number, mass: number]> = {
  "soft-starter": [280, 0.6],
  "start-capacitor": [35, 0.3],
  "bigger-inverter": [650, 9],
  "transformer-inverter": [1300, 22],
  "thicker-cable": [90, 3],
  "second-battery": [700, 22],
  "variable-unit": [1900, 5],
  generator: [1100, 21],
};

export function startAidDefaults(key: StartAidKey): Typicals<"cost" | "mass"> {
  const [cost, mass] = START_AID_TYPICALS[key];
  return { cost: () => is(cost, "typical, with fitting parts"), mass: () => is(mass, "typical") };
}

/** A size of cable in words, in both systems' names. */
export const areaWords = (job: Job, areaMm2: number): string => areaInTable(ampacityTable(job), areaMm2);

/** The same, by the table itself. */
export const areaInTable = (table: AmpacityTable, areaMm2: number): string =>
  formatQuantity(areaMm2, "area", table === "iso-10133" ? METRIC : AMERICAN);

/** Sizes on sale for the system's table. */
export const sizesOf = (job: Job): readonly number[] => AMPACITY_TABLES[ampacityTable(job)].sizesMm2;
