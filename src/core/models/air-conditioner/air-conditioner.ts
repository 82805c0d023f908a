import { acFromDc, type InverterModel } from "../inverter/inverter";
import type { DrawMeaning, DrawnStates, DrawReading } from "../../document/draw-readings";
import type { Unit } from "../../document/schema";
import type { ResolvedQuantity } from "../../units/known";
import { constant, given, of, traced, TracedValue, type Term } from "../../units/trace";
import { fixedSpeed, onBattery, topCooling, topPower } from "../../document/unit-kinds";
import type { JobValues } from "../../document/resolved";

/** The ways a unit is run whose draw does not depend on the cabin. */
export const MODES = ["fan", "low", "full"] as const;
export type Mode = (typeof MODES)[number];

export const MODE_LABELS: Record<Mode, string> = {
  fan: "Fan only",
  low: "Low fan, compressor always on",
  full: "Compressor always on",
};

/** A unit's measured duty while it held its set point. */
export interface MeasuredHolding {
  /** Fixed speed: part of the time that the compressor ran; variable speed: cooling over full cooling. 0 to 1. */
  duty: TracedValue;
  /** Mean power at that duty, W on its own supply. */
  average: TracedValue;
  /** Outdoor temperature of the measurement, degC; null where it was not stated. */
  outdoorC: number | null;
  /** The reading itself, with what was noted of its hour; null where amps or duty were entered. */
  reading: DrawReading | null;
}

/** One air conditioner's draws: watts on its own supply, which is mains, or the battery for a DC unit. */
export interface UnitDraws {
  index: number;
  direct: boolean;
  running: TracedValue;
  low: TracedValue;
  fan: TracedValue;
  /** How its power falls with its speed, as an exponent on the typical curve: by the measured low fan, or 1. */
  bend: number;
  /** W less on the lowest fan than on the highest while the compressor runs, where the low fan was measured. */
  lowFanSaving: number | null;
  /** What was measured of how hard it works to hold its set point, or null: the cabin's heat load follows from it. */
  holding: MeasuredHolding | null;
  /** VA while running, on mains; W for a DC unit. */
  runningApparent: TracedValue;
  /** Running power as known, W, and the outdoor temperature that it is known at. */
  known: TracedValue;
  knownAtC: number;
  /** W of a sea-water pump that runs beside the compressor and is not in the known power. */
  pump: number;
}

export interface UnitContext {
  mains: number;
  bankVoltage: number;
  /** Rest voltage of the half-charged battery, and what lies between its cells and the far end of the path. */
  restHalf: number;
  sourceResistance: number;
  /** Of it, ohm of the path from the battery to the far end. */
  pathResistance: number;
  inverter: InverterModel;
  outdoor: ResolvedQuantity;
  /** Water that a sea-water unit is cooled by. */
  sea: ResolvedQuantity;
}

/** Default of the part-load loss coefficient (AHRI 210/240, older default; memory). */
export const PART_LOAD_LOSS = 0.25;

/** Part-load factor of a cycling unit whose load is `loadShare` (0 to 1) of its capacity. */
export function partLoadFactor(loadShare: number, loss = PART_LOAD_LOSS): number {
  return 1 - loss * (1 - loadShare);
}

/**
 * Power of a variable-speed unit at part load, as a share of that at its top speed, at fixed temperatures. `bend` is the
 * exponent by which a unit's own curve falls faster (over 1) or slower than the typical one.
 */
export function variablePowerShare(loadShare: number, bend = 1): number {
  const typical = 0.05 + 0.55 * loadShare + 0.4 * loadShare * loadShare;
  return bend === 1 ? typical : typical ** bend;
}

/** Below this share of capacity a variable-speed unit cycles. */
export const LOWEST_SPEED = 0.25;
/** Capacity that the lowest fan leaves a variable-speed unit: its draw is then 0.45 to 0.5 of full (common practice, no source). */
export const LOW_FAN_CAPACITY = 0.56;
/** Least and greatest bend that a measured low fan is taken for: beyond them it was not what its reading says. */
const BENDS = [0.5, 2] as const;
/**
 * Bend of a variable-speed wall split: at half its cooling it gives 1.4 times as much a watt as at full, at its lowest speed it
 * draws 15 to 20 % of full (common practice, no source).
 */
const SPLIT_BEND = 1.22;
/** Most of its power that a fixed-speed unit is taken to save by its lowest fan. */
const MOST_SAVED = 0.3;
const RATING_OUTDOOR_C = 35;

/** Factor on a unit's power from the outdoor temperature it is known at to another; never under half. */
export function heatFactor(perKelvin: number, outdoorC: number, knownAtC: number): number {
  return Math.max(
    0.5,
    (1 + perKelvin * (outdoorC - RATING_OUTDOOR_C)) / Math.max(0.5, 1 + perKelvin * (knownAtC - RATING_OUTDOOR_C)),
  );
}

/** A unit and what its draws depend on beside itself. */
interface UnitSource extends UnitContext {
  unit: Unit;
  /** What its readings say by state, where its quantities stand on them. */
  drawn: DrawnStates;
  values: JobValues["units"][number];
  /** Where it stands among the units of the document. */
  index: number;
}

/** The draws of one unit in each mode, with their working. */
export function unitDraws(source: UnitSource): UnitDraws {
  const { unit, values, index } = source;
  const known = knownPower(source);
  const condensing = condensingAir(source);
  const knownAt = knownOutdoor(source, condensing);
  const heat = traced({
    key: `unit.${index}.heat`,
    name: "Power factor of the heat",
    dimension: "number",
    value: heatFactor(values.powerPerKelvin.value, condensing.value, knownAt.value),
    relation: "k = (1 + c × (T − 35)) ÷ (1 + c × (T_0 − 35))",
    terms: () => [given("c", values.powerPerKelvin), condensing, knownAt],
    source: "about one amp more for each 10 °F on a 14 A unit: common practice, no source",
  });
  const pump = unit.condenser === "sea" ? values.pumpPower.value : 0;
  const pumpTerms = () => (pump > 0 ? [given("P_p", values.pumpPower)] : []);
  const running = power(source, {
    part: "running",
    name: pump > 0 ? "Running power on the design day, with its pump" : "Running power on the design day",
    value: known.value * heat.value + pump,
    relation: pump > 0 ? "P = P_0 × k + P_p" : "P = P_0 × k",
    terms: () => [of("P_0", known), of("k", heat), ...pumpTerms()],
  });
  const fan = values.dcFanCurrent
    ? powerByBattery(source, { part: "fan", name: "Fan only" }, values.dcFanCurrent, source.drawn.fan)
    : power(source, {
        part: "fan",
        name: "Fan only",
        value: Math.min(values.fanPower.value, running.value),
        relation: "P_f = P_h",
        terms: () => [given("P_h", values.fanPower)],
      });
  const usualBend = unit.condenser === "split" && !fixedSpeed(unit) ? SPLIT_BEND : 1;
  const low = lowFanPower(source, { running, fan, bend: usualBend });
  // The low fan was measured on the day that the unit was: its draw at full is brought to that day.
  const measuredC = values.measuredAtC?.value ?? knownAt.value;
  const beside = known.value * heatFactor(values.powerPerKelvin.value, measuredC, knownAt.value);
  const measuredLow = values.dcLowCurrent ? Math.max(fan.value, low.value - pump) : null;
  const bend = measuredLow !== null && !fixedSpeed(unit) ? bendOf(measuredLow / beside) : usualBend;
  return {
    index,
    direct: onBattery(unit),
    running,
    low,
    fan,
    bend,
    lowFanSaving: measuredLow === null ? null : Math.min(MOST_SAVED * beside, Math.max(0, beside - measuredLow)),
    holding: measuredHolding(source, { running, fan, bend }),
    runningApparent: apparentPower(source, running, { heat, pump, pumpTerms }),
    known,
    knownAtC: knownAt.value,
    pump,
  };
}

/** Power of one part or mode of the unit, W. */
function power(
  { index }: UnitSource,
  {
    part,
    ...tracing
  }: { part: string; name: string; value: number; relation: string } & Pick<
    ConstructorParameters<typeof TracedValue>[0],
    "terms" | "source"
  >,
): TracedValue {
  return traced({ key: `unit.${index}.${part}`, dimension: "power", ...tracing });
}

const supplyVolts = ({ unit, bankVoltage, mains }: UnitSource) =>
  onBattery(unit)
    ? constant("V", "Battery, nominal", bankVoltage, "voltage", "of the job")
    : constant("V", "Mains", mains, "voltage", "of the job");

/** Volts at the far end of the path while `known` amps are drawn: by the battery's volts as read beside them, or as they are half charged. */
function voltsAtReading(source: UnitSource, part: string, known: ResolvedQuantity, read?: DrawMeaning): TracedValue {
  const { index, restHalf, sourceResistance, pathResistance } = source;
  const shown = read && (read.reading.kind === "battery-current" ? read.reading.volts : undefined);
  if (shown !== undefined)
    return traced({
      key: `unit.${index}.${part}.volts`,
      name: "Voltage at the inverter at that current",
      dimension: "voltage",
      value: Math.max(shown / 2, shown - known.value * pathResistance),
      relation: "V = V_r − I_b × R_w",
      terms: () => [
        constant("V_r", "Battery voltage, as read", shown, "voltage", "beside the reading of the current"),
        given("I_b", known),
        constant("R_w", "Wiring", pathResistance, "resistance", "from the battery to the inverter"),
      ],
      source: "Ohm; half of the reading at the least",
    });
  return traced({
    key: `unit.${index}.${part}.volts`,
    name: "Voltage at the inverter at that current",
    dimension: "voltage",
    value: Math.max(restHalf / 2, restHalf - known.value * sourceResistance),
    relation: "V = E − I_b × R",
    terms: () => [
      constant("E", "Open-circuit voltage, half charged", restHalf, "voltage", "the level of the reading is not known"),
      given("I_b", known),
      constant("R", "Battery and wiring", sourceResistance, "resistance", "in series"),
    ],
    source: "Ohm; half of rest at the least",
  });
}

/**
 * Watts on the unit's supply from battery amps that it adds, at the volts which those amps leave at the far end; a reading of
 * its AC side is these watts itself.
 */
function powerByBattery(
  source: UnitSource,
  { part, name }: { part: string; name: string },
  known: ResolvedQuantity,
  read?: DrawMeaning,
): TracedValue {
  const { unit, inverter } = source;
  if (read && read.supplyW !== null) {
    const { supplyW } = read;
    return power(source, {
      part,
      name,
      value: supplyW,
      relation: "P = P_r",
      terms: () => [constant("P_r", "AC power, as read", supplyW, "power", "a reading on the unit’s own supply")],
    });
  }
  const volts = voltsAtReading(source, part, known, read);
  const drawn = known.value * volts.value;
  const terms = () => [of("V_b", volts), given("I_b", known)];
  if (onBattery(unit)) return power(source, { part, name, value: drawn, relation: "P = V_b × I_b", terms });
  return power(source, {
    part,
    name,
    value: acFromDc(inverter, drawn),
    relation: "P = V_b × I_b ÷ (1 + a + b × P ÷ S)",
    terms: () => [
      ...terms(),
      constant("a", "Loss per watt", inverter.lossShare, "number", "inverter"),
      constant("b", "Additional loss at full load", inverter.lossRise, "number", "inverter"),
      constant("S", "Inverter rating", inverter.rating, "apparentPower", "inverter"),
    ],
    source: "inverter losses P_dc = (1 + a) P + b P² / S, solved for P",
  });
}

/** Of a reading with the sea-water pump in it, the share that is the unit's at the least. */
const LEAST_BESIDE_PUMP = 0.5;

/** Running power at the temperature that it is known at: by the battery's amps, the unit's own amps, or its plate. */
function knownPower(source: UnitSource): TracedValue {
  const { unit, values } = source;
  const titled = { part: "known", name: "Running power as known" };
  // A reading has the sea-water pump in it, which the unit feeds; a plate has not.
  if (values.dcRunningCurrent && unit.condenser === "sea") {
    const whole = powerByBattery(
      source,
      { part: "known.whole", name: "Running power with its pump" },
      values.dcRunningCurrent,
      source.drawn.full,
    );
    return power(source, {
      value: Math.max(LEAST_BESIDE_PUMP * whole.value, whole.value - values.pumpPower.value),
      relation: "P_0 = P − P_p",
      terms: () => [of("P", whole), given("P_p", values.pumpPower)],
      source: "half of it at the least",
      ...titled,
    });
  }
  // Where both sides were clamped the battery's amps decide: they are what leaves the bank.
  if (values.dcRunningCurrent) return powerByBattery(source, titled, values.dcRunningCurrent, source.drawn.full);
  const { factor, times, terms } = topSpeed(source);
  if (!unit.runningCurrent && unit.ratedPower)
    return power(source, {
      value: values.ratedPower.value * factor,
      relation: `P = P_r${times}`,
      terms: () => [given("P_r", values.ratedPower), ...terms()],
      source: "name plate",
      ...titled,
    });
  const volts = supplyVolts(source);
  return power(source, {
    value: volts.value * values.runningCurrent.value * values.runningPowerFactor.value * factor,
    relation: `P = V × I × pf${times}`,
    terms: () => [volts, given("I", values.runningCurrent), given("pf", values.runningPowerFactor), ...terms()],
    ...titled,
  });
}

/** Factor from the rated point of a variable-speed unit to its top speed, as a relation and its term say it. */
function topSpeed({ unit, values }: UnitSource): { factor: number; times: string; terms: () => Term[] } {
  const factor = topPower(unit, values);
  if (factor === 1) return { factor, times: "", terms: () => [] };
  const why = values.maximumPower
    ? "maximum over rated input, by the plate"
    : `a variable-speed unit goes to ${100 * topCooling(unit, values)} % of its rated cooling: common practice`;
  return { factor, times: " × s", terms: () => [constant("s", "Top speed over the plate", factor, "number", why)] };
}

/** Temperature that the condenser gives its heat off to, as air: outdoors, or for a sea-water unit the sea and its rise. */
function condensingAir({ unit, values, outdoor, sea }: UnitSource): Term {
  if (unit.condenser !== "sea") return given("T", outdoor);
  return constant(
    "T",
    "Condenser, as air",
    sea.value + values.condenserRise.value,
    "temperature",
    "the sea and the condenser’s rise over it: a sea-water unit does not follow the air",
  );
}

/** Temperature, as air at the condenser, that the running power is known at. */
function knownOutdoor(source: UnitSource, condensing: Term): Term {
  const { unit, values, outdoor } = source;
  const { origin } = values.dcRunningCurrent ?? values.runningCurrent;
  if (origin !== "measured" && origin !== "fitted")
    return constant(
      "T_0",
      "Rating point",
      RATING_OUTDOOR_C,
      "temperature",
      "outdoor 35 °C, indoor 27 °C dry and 19 °C wet bulb",
    );
  if (unit.condenser === "sea") {
    const seaC = source.drawn.full?.reading.seaC;
    return seaC === undefined
      ? constant("T_0", "Condenser, as air, when measured", condensing.value, "temperature", "the sea is as it was")
      : constant(
          "T_0",
          "Condenser, as air, when measured",
          seaC + values.condenserRise.value,
          "temperature",
          "the sea as it was read, and the condenser’s rise over it",
        );
  }
  return values.measuredAtC
    ? given("T_0", values.measuredAtC)
    : constant(
        "T_0",
        "Outdoors when measured",
        outdoor.value,
        "temperature",
        "not stated, so taken as the job's outdoor temperature",
      );
}

/** VA while running, on mains; W for a DC unit. */
function apparentPower(
  source: UnitSource,
  running: TracedValue,
  { heat, pump, pumpTerms }: { heat: TracedValue; pump: number; pumpTerms: () => Term[] },
): TracedValue {
  const { unit, values, index } = source;
  const titled = { key: `unit.${index}.apparent`, name: "Running, apparent", dimension: "apparentPower" as const };
  if (onBattery(unit))
    return traced({
      value: running.value,
      relation: "S = P",
      terms: () => [of("P", running)],
      source: "DC has no power factor",
      ...titled,
    });
  if (values.dcRunningCurrent && !unit.runningCurrent)
    return traced({
      value: running.value / values.runningPowerFactor.value,
      relation: "S = P ÷ pf",
      terms: () => [of("P", running), given("pf", values.runningPowerFactor)],
      ...titled,
    });
  const volts = supplyVolts(source);
  const { factor, times, terms } = topSpeed(source);
  return traced({
    value: volts.value * values.runningCurrent.value * factor * heat.value + pump,
    relation: pump > 0 ? `S = V × I${times} × k + P_p` : `S = V × I${times} × k`,
    terms: () => [volts, given("I", values.runningCurrent), ...terms(), of("k", heat), ...pumpTerms()],
    ...titled,
  });
}

/** Power with the compressor always on and the fan at its lowest. */
function lowFanPower(
  source: UnitSource,
  { running, fan, bend }: { running: TracedValue; fan: TracedValue; bend: number },
): TracedValue {
  const { unit, values } = source;
  const titled = { part: "low", name: MODE_LABELS.low };
  if (values.dcLowCurrent) return powerByBattery(source, titled, values.dcLowCurrent, source.drawn.low);
  if (fixedSpeed(unit))
    return power(source, {
      value: Math.max(fan.value, running.value - Math.max(0, values.fanPower.value - values.fanLowPower.value)),
      relation: "P_l = P − (P_h − P_s)",
      terms: () => [of("P", running), given("P_h", values.fanPower), given("P_s", values.fanLowPower)],
      source: "the compressor draws on, the fan draws less",
      ...titled,
    });
  const share = variablePowerShare(LOW_FAN_CAPACITY, bend);
  return power(source, {
    value: Math.max(fan.value, running.value * share),
    relation: "P_l = P × r",
    terms: () => [
      of("P", running),
      constant(
        "r",
        "Power share at low fan",
        share,
        "number",
        `${bend === 1 ? "" : "("}0.05 + 0.55 q + 0.40 q²${bend === 1 ? "" : `) ^ ${bend}`} at q = 0.56`,
      ),
    ],
    source: "low fan caps capacity a little over half: common practice, no source",
    ...titled,
  });
}

/** The bend by which a variable-speed unit draws such a share of its full power on its lowest fan. */
function bendOf(share: number): number {
  if (!(share > 0 && share < 1)) return 1;
  const bend = Math.log(share) / Math.log(variablePowerShare(LOW_FAN_CAPACITY));
  return Math.min(BENDS[1], Math.max(BENDS[0], bend));
}

const bendTerm = (bend: number): Term[] =>
  bend === 1
    ? []
    : [
        constant(
          "b",
          "Bend of its curve",
          bend,
          "number",
          bend === SPLIT_BEND
            ? "usual for a wall split"
            : "by the low fan as measured, at a little over half its cooling",
        ),
      ];

/**
 * A unit's duty as it was measured: entered, or from the battery's average amps over whole cycles between what it draws
 * with the compressor on and off. Null where neither was measured.
 */
function measuredHolding(
  source: UnitSource,
  { running, fan, bend }: { running: TracedValue; fan: TracedValue; bend: number },
): MeasuredHolding | null {
  const { unit, values, index } = source;
  const rest = unit.fanBetween
    ? of("P_f", fan)
    : constant("P_f", "Between cycles", 0, "power", "fan stops with the compressor");
  const titled = {
    key: `unit.${index}.duty`,
    name: "Duty cycle, measured",
    dimension: "ratio" as const,
  };
  if (values.dcAverageCurrent) {
    const average = powerByBattery(
      source,
      { part: "average", name: "Average power, measured" },
      values.dcAverageCurrent,
      source.drawn.holding,
    );
    const reading = source.drawn.holding?.reading ?? null;
    return {
      duty: dutyOfAverage(fixedSpeed(unit), titled, { average, running, rest, bend }),
      average,
      outdoorC: (reading ? reading.outdoorC : values.measuredAtC?.value) ?? null,
      reading,
    };
  }
  if (!values.dutyCycle) return null;
  const entered = values.dutyCycle;
  const duty = traced({
    value: entered.value,
    relation: "r = q",
    terms: () => [given("q", entered)],
    source: "entered",
    ...titled,
  });
  return {
    duty,
    average: averageOfDuty(source, duty, { running, fan, rest, bend }),
    outdoorC: values.measuredAtC?.value ?? null,
    reading: null,
  };
}

/** Duty of a unit whose average power was measured. */
function dutyOfAverage(
  fixed: boolean,
  titled: { key: string; name: string; dimension: "ratio" },
  { average, running, rest, bend }: { average: TracedValue; running: TracedValue; rest: Term; bend: number },
): TracedValue {
  if (!fixed)
    return traced({
      value: speedAtPower(Math.min(1, average.value / running.value), bend),
      relation: bend === 1 ? "P_a ÷ P = 0.05 + 0.55 × q + 0.40 × q²" : "P_a ÷ P = (0.05 + 0.55 × q + 0.40 × q²) ^ b",
      terms: () => [of("P_a", average), of("P", running), ...bendTerm(bend)],
      source: "variable-speed part load, solved for q",
      ...titled,
    });
  const span = running.value - rest.value;
  return traced({
    value: span > 0 ? Math.min(1, Math.max(0, (average.value - rest.value) / span)) : 1,
    relation: span > 0 ? "r = min(1, max(0, (P_a − P_f) ÷ (P − P_f)))" : "r = 1",
    terms: () => [of("P_a", average), rest, of("P", running)],
    source: "measured average between the draw at rest and running",
    ...titled,
  });
}

/** Average power of a unit whose duty was entered, W. */
function averageOfDuty(
  source: UnitSource,
  duty: TracedValue,
  { running, fan, rest, bend }: { running: TracedValue; fan: TracedValue; rest: Term; bend: number },
): TracedValue {
  const titled = { part: "average", name: "Average power, measured" };
  if (fixedSpeed(source.unit))
    return power(source, {
      value: duty.value * running.value + (1 - duty.value) * rest.value,
      relation: "P_a = r × P + (1 − r) × P_f",
      terms: () => [of("r", duty), of("P", running), rest],
      source: "a unit that cycles",
      ...titled,
    });
  const speed = Math.max(LOWEST_SPEED, duty.value);
  const on = Math.min(1, duty.value / LOWEST_SPEED);
  return power(source, {
    value: Math.max(fan.value, on * running.value * variablePowerShare(speed, bend) + (1 - on) * rest.value),
    relation:
      bend === 1
        ? "P_a = max(P_f, r × P × (0.05 + 0.55 × q′ + 0.40 × q′²) + (1 − r) × P_b)"
        : "P_a = max(P_f, r × P × (0.05 + 0.55 × q′ + 0.40 × q′²) ^ b + (1 − r) × P_b)",
    terms: () => [
      constant("r", "Part of the time on", on, "number", "throttles down to a quarter of capacity, cycles below that"),
      of("P", running),
      constant("q′", "Speed", speed, "number", "cooling over full cooling, 0.25 at least"),
      constant("P_b", "Between cycles", rest.value, "power", "fan, where it runs on"),
      of("P_f", fan),
      ...bendTerm(bend),
    ],
    source:
      bend === 1 ? "variable-speed part load: typical curve" : "variable-speed part load, by the measured low fan",
    ...titled,
  });
}

/** Cooling over full cooling of a variable-speed unit that draws a part of its full power: below its lowest speed it cycles. */
export function speedAtPower(share: number, bend = 1): number {
  const part = bend === 1 ? share : share ** (1 / bend);
  const lowest = variablePowerShare(LOWEST_SPEED);
  if (part <= lowest) return (LOWEST_SPEED * part) / lowest;
  return Math.min(1, (-0.55 + Math.sqrt(0.55 ** 2 + 4 * 0.4 * (part - 0.05))) / (2 * 0.4));
}
