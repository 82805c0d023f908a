import { CHEMISTRIES, cellsInBlock, shareAtRest } from "../bank/chemistry";
import { AMPACITY_TABLES, routeFactor, tableAmpacity, type AmpacityTable } from "../path/ampacity";
import { FUSE_KINDS, fuseUnder, nextFuseRating } from "../path/fuse";
import { significant } from "../quantity/format";
import type { Rig, Unit } from "./document";
import type { BankKey, BriefKey, InverterKey, LoadKey, PathKey, UnitKey } from "./fields";
import type { Typical } from "./quantity";

/*
 * The value each quantity is assumed to have when nobody entered one, and why. A typical value may follow other
 * quantities of its group through `need`; entered ones among them count, so one reading improves all that hang on it.
 */

export type Need<K extends string> = (key: K) => number;
type Typicals<K extends string> = { [P in K]: (need: Need<K>) => Typical };

export type OptionalUnitKey =
  "measuredAtC" | "dcRunningCurrent" | "dcLowCurrent" | "dcFanCurrent" | "dcAverageCurrent" | "runShare";
export type OptionalInverterKey = "maxDcCurrent";

const is = (value: number, why: string): Typical => ({ value, why });

/** Volts of the mains system. */
export function mainsVoltage(rig: Rig): number {
  return rig.brief.mains === "120V60Hz" ? 120 : 230;
}

/** The table that cable ampacity is read from: the one usual where the mains system is. */
export function ampacityTable(rig: Rig): AmpacityTable {
  return rig.brief.mains === "120V60Hz" ? "abyc-e11" : "iso-10133";
}

export const BRIEF_TYPICALS: Typicals<BriefKey> = {
  hoursWanted: () => is(8 * 3600, "a night"),
  setPointC: () => is(24, "a usual night's setting"),
  outdoorC: () => is(35, "the rating point's outdoor temperature"),
};

export const LOAD_TYPICALS: Typicals<LoadKey> = {
  power: () => is(100, "no power given"),
  share: () => is(1, "on all the time"),
};

/** Watts of cooling per watt of input that a typical unit of the kind gives at 35 degC. */
const COOLING_PER_WATT = { fixed: 2.8, variable: 3.3, dc: 3 } as const;

export function unitTypicals(rig: Rig, unit: Unit, bankVoltage: number): Typicals<Exclude<UnitKey, OptionalUnitKey>> {
  const mains = mainsVoltage(rig);
  const direct = unit.kind === "dc";
  const volts = direct ? bankVoltage : mains;
  const performance = COOLING_PER_WATT[unit.kind];
  return {
    coolingPower: (need) =>
      unit.ratedPower || unit.runningCurrent
        ? is(need("ratedPower") * performance, `${performance} times its input, usual for the kind`)
        : is(13_500 * 0.29307107, "a middling roof unit, 13,500 BTU/h"),
    ratedPower: (need) =>
      unit.runningCurrent && unit.runningCurrent.origin !== "measured"
        ? is(volts * need("runningCurrent") * need("runningPowerFactor"), "volts × running amps × power factor")
        : unit.coolingPower || !unit.runningCurrent
          ? is(need("coolingPower") / performance, `cooling capacity ÷ ${performance}, usual for the kind`)
          : is(volts * unit.runningCurrent.value * need("runningPowerFactor"), "volts × running amps × power factor"),
    runningCurrent: (need) =>
      unit.dcRunningCurrent && !direct
        ? is(
            (0.9 * unit.dcRunningCurrent.value * bankVoltage) / (volts * need("runningPowerFactor")),
            "nine tenths of the battery's watts",
          )
        : is(need("ratedPower") / (volts * need("runningPowerFactor")), "rated input ÷ (volts × power factor)"),
    runningPowerFactor: () =>
      direct
        ? is(1, "DC")
        : unit.kind === "variable"
          ? is(0.98, "electronic input stage")
          : is(0.95, "0.90 to 0.98 is usual"),
    powerPerKelvin: () => is(0.013, "about 1 A more for each 10 °F on a 14 A unit"),
    lockedRotorCurrent: (need) => is(5 * need("runningCurrent"), "five times running; four to six is usual"),
    startPowerFactor: () => is(0.65, "0.5 to 0.8 is usual"),
    startTime: () => is(0.35, "0.15 to 0.6 s is usual"),
    sinceStop: () => is(300, "rested five minutes"),
    softReduction: () => is(0.65, "soft starters take off half to three quarters"),
    softRamp: () => is(1.5, "1 to 2 s is usual"),
    rampTime: () => is(180, "1 to 10 min is usual"),
    fanPower: (need) => {
      if (unit.kind !== "fixed") return is(50, "variable-speed units blow on 30 to 75 W");
      const fan = Math.min(350, Math.max(60, 0.15 * need("ratedPower")));
      return is(fan, "15 % of the input; 60 to 350 W is usual");
    },
    fanLowPower: (need) => is(0.6 * need("fanPower"), "60 % of the high fan"),
  };
}

export function bankTypicals(rig: Rig): Typicals<BankKey> {
  const { chemistry, build } = rig.bank;
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
    series: () =>
      cells ? is(chemistry === "agm" ? 6 : chemistry === "lfp" ? 4 : 7, "a small bank") : is(1, "one battery"),
    parallel: () => is(1, "one path"),
    capacityAh: () => is(cells ? 280 : chemistry === "nmc" ? 60 : chemistry === "agm" ? 100 : 200, "a usual size"),
    condition: () => is(1, "as new"),
    temperatureC: () => is(25, "room temperature"),
    chargeToVoltage: (need) => perCell(need, model.chargeTo),
    startShare: (need) =>
      is(shareAtRest(chemistry, need("chargeToVoltage") / bankCells(need)), "what the charge-to voltage reaches"),
    stopVoltage: (need) => perCell(need, model.stopAt),
    reserve: () => (model.lithium ? is(0.2, "usual for lithium") : is(0.5, "usual for lead-acid")),
    resistance: (need) => {
      // 8 mohm for a whole 12.8 V 100 Ah battery, half of it cells; it grows with volts and falls with Ah.
      const whole = (0.008 * need("blockVoltage")) / 12.8 / (need("capacityAh") / 100);
      if (chemistry === "agm") return is(0.75 * whole, "6 mΩ for 12 V 100 Ah");
      return cells ? is(whole / 2, "4 mΩ for 12.8 V 100 Ah of bare cells") : is(whole, "8 mΩ for 12.8 V 100 Ah");
    },
    protectionResistance: () =>
      cells && model.lithium ? is(0.001, "a usual protection board") : is(0, "counted in the batteries, or none"),
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
    peukert: () => (chemistry === "agm" ? is(1.2, "1.10 to 1.30 is usual for AGM") : is(1, "lithium hardly cares")),
    ratedTime: () => is(20 * 3600, "the usual 20-hour rate"),
  };
}

type InverterTypicalKey = Exclude<InverterKey, OptionalInverterKey>;

export function inverterTypicals(rig: Rig, bankVoltage: number, outdoorC: number): Typicals<InverterTypicalKey> {
  const heavy = rig.inverter.type === "transformer";
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
    compartmentC: () => is(Math.max(25, outdoorC + 5), "outdoor temperature + 5 K, 25 °C at least"),
    derateFromC: () => is(40, "usual"),
    deratePerKelvin: () => is(0.015, "usual"),
    idlePower: (need) => is(Math.min(35, Math.max(10, 0.008 * need("rating"))), "0.8 % of rating, 10 to 35 W"),
    lossShare: () => is(0.05, "about 91 % at half load"),
    lossRise: () => is(0.05, "about 91 % at half load"),
    alarmVoltage: () => is(0.9 * bankVoltage, "90 % of nominal"),
    alarmDelay: () => is(5, "a few seconds"),
    cutOffVoltage: () => is(0.86 * bankVoltage, "86 % of nominal: 11.0 V on a 12.8 V bank"),
    cutOffDelay: () => is(0, "none counted on"),
  };
}

export function pathTypicals(rig: Rig, bankVoltage: number, pathPower: number): Typicals<PathKey> {
  const kind = rig.path.fuseKind;
  const fuse = FUSE_KINDS[kind === "none" ? "class-t" : kind];
  const table = ampacityTable(rig);
  const { insulation, route } = rig.path;
  const carried = (area: number) => tableAmpacity(table, area, insulation) * routeFactor(table, insulation, route);
  return {
    cableAreaMm2: (need) => {
      const { sizesMm2 } = AMPACITY_TABLES[table];
      const fits = sizesMm2.find((area) => carried(area) * need("cableCount") >= need("fuseRating"));
      return is(fits ?? sizesMm2[sizesMm2.length - 1]!, "the smallest that the fuse protects");
    },
    cableCount: () => is(1, "one"),
    cableLength: () => is(1.5, "a usual run"),
    conductorC: () => is(60, "warm at work"),
    dropLimit: () => is(0.03, "3 % for the inverter's path"),
    fuseRating: (need) => {
      const wanted = nextFuseRating((1.25 * pathPower) / (0.9 * bankVoltage));
      const protects = rig.path.cableAreaMm2 ? fuseUnder(carried(need("cableAreaMm2")) * need("cableCount")) : wanted;
      return protects < wanted
        ? is(protects, "the largest that protects the cable")
        : is(wanted, "125 % of the full input current, next size up");
    },
    fuseVoltage: () => is(fuse.voltage, `usual for the kind: ${fuse.name.toLowerCase()}`),
    fuseInterrupting: () => is(fuse.interrupting, `usual for the kind: ${fuse.name.toLowerCase()}`),
    fuseResistance: (need) =>
      kind === "none"
        ? is(0, "no fuse")
        : is(fuse.voltsAtRating / need("fuseRating"), `${fuse.voltsAtRating * 1000} mV at its rating`),
    switchResistance: () => is(0.0002, "an isolator and a shunt in good order"),
    contacts: () => is(8, "four joints each way"),
    contactResistance: () => is(0.0001, "0.05 to 0.3 mΩ each"),
  };
}
