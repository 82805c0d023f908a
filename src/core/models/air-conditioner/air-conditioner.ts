import { acFromDc, type InverterModel } from "../inverter/inverter";
import type { Unit } from "../../document/schema";
import type { ResolvedQuantity } from "../../units/known";
import type { RigValues } from "../../document/resolve";
import { constant, given, of, record, type TracedValue, type Trace, type Term } from "../../units/trace";
import { fixedSpeed, onBattery } from "../../document/unit-kinds";

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
  /** Outdoor temperature of the measurement, degC. */
  outdoorC: number;
}

/** One air conditioner's draws: watts on its own supply, which is mains, or the bank for a DC unit. */
export interface UnitDraws {
  index: number;
  direct: boolean;
  running: TracedValue;
  low: TracedValue;
  fan: TracedValue;
  /** What was measured of how hard it works to hold its set point, or null: the cabin's heat load follows from it. */
  holding: MeasuredHolding | null;
  /** VA while running, on mains; W for a DC unit. */
  runningApparent: TracedValue;
  /** Running power as known, and the outdoor temperature that it is known at. */
  knownPower: number;
  knownAtC: number;
  /** W of a sea-water pump that runs beside the compressor and is not in the known power. */
  pump: number;
}

export interface UnitContext {
  mains: number;
  bankVoltage: number;
  /** Rest voltage of the half-charged bank, and what lies between its cells and the far end of the path. */
  restHalf: number;
  sourceResistance: number;
  inverter: InverterModel;
  outdoor: ResolvedQuantity;
}

/** Default of the part-load loss coefficient (AHRI 210/240, older default; memory). */
export const PART_LOAD_LOSS = 0.25;

/** Part-load factor of a cycling unit whose load is `loadShare` (0 to 1) of its capacity. */
export function partLoadFactor(loadShare: number, loss = PART_LOAD_LOSS): number {
  return 1 - loss * (1 - loadShare);
}

/** Power of a variable-speed unit at part load, as a share of full power, at fixed temperatures. */
export function variablePowerShare(loadShare: number): number {
  return 0.05 + 0.55 * loadShare + 0.4 * loadShare * loadShare;
}

/** Below this share of capacity a variable-speed unit cycles. */
export const LOWEST_SPEED = 0.25;
/** Capacity that the lowest fan leaves a variable-speed unit. */
const LOW_FAN_CAPACITY = 0.5;
const RATING_OUTDOOR_C = 35;

/** Factor on a unit's power from the outdoor temperature it is known at to another; never under half. */
export function heatFactor(perKelvin: number, outdoorC: number, knownAtC: number): number {
  return Math.max(
    0.5,
    (1 + perKelvin * (outdoorC - RATING_OUTDOOR_C)) / Math.max(0.5, 1 + perKelvin * (knownAtC - RATING_OUTDOOR_C)),
  );
}

/** The draws of one unit in each mode, with their working. */
export function unitDraws(
  figures: Trace,
  unit: Unit,
  values: RigValues["units"][number],
  index: number,
  context: UnitContext,
): UnitDraws {
  const direct = onBattery(unit);
  const fixed = fixedSpeed(unit);
  const volts = direct ? context.bankVoltage : context.mains;
  const key = (name: string) => `unit.${index}.${name}`;
  const fig = (name: string, title: string, value: number, relation: string, terms: Term[], source?: string) =>
    record(figures, key(name), title, "power", value, relation, terms, source);
  const supply = constant("V", direct ? "Battery, nominal" : "Mains", volts, "voltage", "of the job");

  /** Watts on the unit's supply from battery amps that it adds, at the volts which those amps leave at the far end. */
  const fromBattery = (name: string, title: string, known: ResolvedQuantity): TracedValue => {
    const left = Math.max(context.restHalf / 2, context.restHalf - known.value * context.sourceResistance);
    const voltage = record(
      figures,
      key(`${name}.volts`),
      "Voltage at the inverter at that current",
      "voltage",
      left,
      "V = E − I_b × R",
      [
        constant(
          "E",
          "Open-circuit voltage, half charged",
          context.restHalf,
          "voltage",
          "the level of the reading is not known",
        ),
        given("I_b", known),
        constant("R", "Battery and wiring", context.sourceResistance, "resistance", "in series"),
      ],
      "Ohm; half of rest at the least",
    );
    const bankVolts = of("V_b", voltage);
    const drawn = known.value * left;
    if (direct) return fig(name, title, drawn, "P = V_b × I_b", [bankVolts, given("I_b", known)]);
    return fig(
      name,
      title,
      acFromDc(context.inverter, drawn),
      "P = V_b × I_b ÷ (1 + a + b × P ÷ S)",
      [
        bankVolts,
        given("I_b", known),
        constant("a", "Loss per watt", context.inverter.lossShare, "number", "inverter"),
        constant("b", "Additional loss at full load", context.inverter.lossRise, "number", "inverter"),
        constant("S", "Inverter rating", context.inverter.rating, "apparentPower", "inverter"),
      ],
      "inverter losses P_dc = (1 + a) P + b P² / S, solved for P",
    );
  };

  const current = values.runningCurrent;
  const battery = values.dcRunningCurrent;
  // Where both sides were clamped the battery's amps decide: they are what leaves the bank.
  const known = battery
    ? fromBattery("known", "Running power as known", battery)
    : unit.runningCurrent || !unit.ratedPower
      ? fig(
          "known",
          "Running power as known",
          volts * current.value * values.runningPowerFactor.value,
          "P = V × I × pf",
          [supply, given("I", current), given("pf", values.runningPowerFactor)],
        )
      : fig(
          "known",
          "Running power as known",
          values.ratedPower.value,
          "P = P_r",
          [given("P_r", values.ratedPower)],
          "name plate",
        );
  const measured = battery
    ? battery.origin === "measured" || battery.origin === "fitted"
    : current.origin === "measured" || current.origin === "fitted";
  const knownAt =
    values.measuredAtC && measured
      ? given("T_0", values.measuredAtC)
      : measured
        ? constant(
            "T_0",
            "Outdoors when measured",
            context.outdoor.value,
            "temperature",
            "not stated, so taken as the job's outdoor temperature",
          )
        : constant(
            "T_0",
            "Rating point",
            RATING_OUTDOOR_C,
            "temperature",
            "outdoor 35 °C, indoor 27 °C dry and 19 °C wet bulb",
          );
  const factor = heatFactor(values.powerPerKelvin.value, context.outdoor.value, knownAt.value);
  const heat = record(
    figures,
    key("heat"),
    "Power factor of the heat",
    "number",
    factor,
    "k = (1 + c × (T − 35)) ÷ (1 + c × (T_0 − 35))",
    [given("c", values.powerPerKelvin), given("T", context.outdoor), knownAt],
    "about one amp more for each 10 °F on a 14 A unit: common practice, no source",
  );
  // A reading at the battery has the pump in it; a plate, or a clamp on the unit, has not.
  const pump = unit.condenser === "sea" && !battery ? values.pumpPower.value : 0;
  const running = fig(
    "running",
    pump > 0 ? "Running power on the design day, with its pump" : "Running power on the design day",
    known.value * heat.value + pump,
    pump > 0 ? "P = P_0 × k + P_p" : "P = P_0 × k",
    [of("P_0", known), of("k", heat), ...(pump > 0 ? [given("P_p", values.pumpPower)] : [])],
  );

  const runningApparent = direct
    ? record(
        figures,
        key("apparent"),
        "Running, apparent",
        "apparentPower",
        running.value,
        "S = P",
        [of("P", running)],
        "DC has no power factor",
      )
    : battery && !unit.runningCurrent
      ? record(
          figures,
          key("apparent"),
          "Running, apparent",
          "apparentPower",
          running.value / values.runningPowerFactor.value,
          "S = P ÷ pf",
          [of("P", running), given("pf", values.runningPowerFactor)],
        )
      : record(
          figures,
          key("apparent"),
          "Running, apparent",
          "apparentPower",
          volts * current.value * heat.value + pump,
          pump > 0 ? "S = V × I × k + P_p" : "S = V × I × k",
          [supply, given("I", current), of("k", heat), ...(pump > 0 ? [given("P_p", values.pumpPower)] : [])],
        );

  const fan = values.dcFanCurrent
    ? fromBattery("fan", "Fan only", values.dcFanCurrent)
    : fig("fan", "Fan only", Math.min(values.fanPower.value, running.value), "P_f = P_h", [
        given("P_h", values.fanPower),
      ]);
  const low = values.dcLowCurrent
    ? fromBattery("low", "Low fan, compressor always on", values.dcLowCurrent)
    : fixed
      ? fig(
          "low",
          "Low fan, compressor always on",
          Math.max(fan.value, running.value - Math.max(0, values.fanPower.value - values.fanLowPower.value)),
          "P_l = P − (P_h − P_s)",
          [of("P", running), given("P_h", values.fanPower), given("P_s", values.fanLowPower)],
          "the compressor draws on, the fan draws less",
        )
      : fig(
          "low",
          "Low fan, compressor always on",
          Math.max(fan.value, running.value * variablePowerShare(LOW_FAN_CAPACITY)),
          "P_l = P × r",
          [
            of("P", running),
            constant(
              "r",
              "Power share at half capacity",
              variablePowerShare(LOW_FAN_CAPACITY),
              "number",
              "0.05 + 0.55 q + 0.40 q² at q = 0.5",
            ),
          ],
          "low fan caps capacity at about half: common practice, no source",
        );

  const holding = measuredHolding(figures, key, unit, values, running, fan, fromBattery, knownAt.value);
  return {
    index,
    direct,
    running,
    low,
    fan,
    holding,
    runningApparent,
    knownPower: known.value,
    knownAtC: knownAt.value,
    pump,
  };
}

/**
 * A unit's duty as it was measured: entered, or from the battery's average amps over whole cycles between what it draws
 * with the compressor on and off. Null where neither was measured.
 */
function measuredHolding(
  figures: Trace,
  key: (name: string) => string,
  unit: Unit,
  values: RigValues["units"][number],
  running: TracedValue,
  fan: TracedValue,
  fromBattery: (name: string, title: string, known: ResolvedQuantity) => TracedValue,
  outdoorC: number,
): MeasuredHolding | null {
  const rest = unit.fanBetween
    ? of("P_f", fan)
    : constant("P_f", "Between cycles", 0, "power", "fan stops with the compressor");
  const fixed = fixedSpeed(unit);
  const ratio = (value: number, relation: string, terms: Term[], source: string) =>
    record(figures, key("duty"), "Duty cycle, measured", "ratio", value, relation, terms, source);
  if (values.dcAverageCurrent) {
    const average = fromBattery("average", "Average power, measured", values.dcAverageCurrent);
    if (!fixed) {
      const part = Math.min(1, average.value / running.value);
      return {
        duty: ratio(
          speedAtPower(part),
          "P_a ÷ P = 0.05 + 0.55 × q + 0.40 × q²",
          [of("P_a", average), of("P", running)],
          "variable-speed part load, solved for q",
        ),
        average,
        outdoorC,
      };
    }
    const span = running.value - rest.value;
    const duty = span > 0 ? Math.min(1, Math.max(0, (average.value - rest.value) / span)) : 1;
    return {
      duty: ratio(
        duty,
        span > 0 ? "r = min(1, max(0, (P_a − P_f) ÷ (P − P_f)))" : "r = 1",
        [of("P_a", average), rest, of("P", running)],
        "measured average between the draw at rest and running",
      ),
      average,
      outdoorC,
    };
  }
  if (!values.runShare) return null;
  const duty = ratio(values.runShare.value, "r = q", [given("q", values.runShare)], "entered");
  const speed = Math.max(LOWEST_SPEED, duty.value);
  const on = Math.min(1, duty.value / LOWEST_SPEED);
  const average = fixed
    ? record(
        figures,
        key("average"),
        "Average power, measured",
        "power",
        duty.value * running.value + (1 - duty.value) * rest.value,
        "P_a = r × P + (1 − r) × P_f",
        [of("r", duty), of("P", running), rest],
        "a unit that cycles",
      )
    : record(
        figures,
        key("average"),
        "Average power, measured",
        "power",
        Math.max(fan.value, on * running.value * variablePowerShare(speed) + (1 - on) * rest.value),
        "P_a = max(P_f, r × P × (0.05 + 0.55 × q′ + 0.40 × q′²) + (1 − r) × P_b)",
        [
          constant(
            "r",
            "Part of the time on",
            on,
            "number",
            "throttles down to a quarter of capacity, cycles below that",
          ),
          of("P", running),
          constant("q′", "Speed", speed, "number", "cooling over full cooling, 0.25 at least"),
          constant("P_b", "Between cycles", rest.value, "power", "fan, where it runs on"),
          of("P_f", fan),
        ],
        "variable-speed part load: typical curve",
      );
  return { duty, average, outdoorC };
}

/** Cooling over full cooling of a variable-speed unit that draws a part of its full power: below its lowest speed it cycles. */
export function speedAtPower(part: number): number {
  const lowest = variablePowerShare(LOWEST_SPEED);
  if (part <= lowest) return (LOWEST_SPEED * part) / lowest;
  return Math.min(1, (-0.55 + Math.sqrt(0.55 ** 2 + 4 * 0.4 * (part - 0.05))) / (2 * 0.4));
}
