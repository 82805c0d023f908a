import type { System } from "../../models/system/system";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { traced, type TracedValue, constant, given, of } from "../../units/trace";
import { check, type Check } from "./check";
import { type CircuitLoad, ownUnit, type CheckedPart } from "./checked-part";
import { breakerChecks, fuseChecks, seriesChecks } from "./device-checks";
import { cableChecks } from "./cable-checks";
import { isKind } from "../../models/wiring/part";
import { placeChecks } from "./place-checks";
import { shoreChecks, unitBreakerChecks } from "./supply-checks";

/** Every part of a run against its load: ampacity, protection, ratings, short circuits and the volts lost. */
export function circuitChecks(system: System, circuit: Circuit, load: CircuitLoad): Check[] {
  const own = shareOfLane(circuit, load.current);
  const design = shareOfLane(circuit, load.design);
  const checks = circuit.parts.flatMap((one, index) =>
    partChecks({ system, circuit, one, index, load: { current: own, design } }),
  );
  const drop = dropCheck(system, circuit, load.current);
  if (drop) checks.push(drop);
  if (!circuit.mains && !circuit.far?.limited) checks.push(...placeChecks(system, circuit));
  if (circuit.branch?.role === "shore") checks.push(...shoreChecks(system, circuit));
  if (circuit.branch?.role === "circuit") checks.push(...unitBreakerChecks(system, circuit));
  return checks;
}

/** Of runs side by side, what one of them carries. */
function shareOfLane(circuit: Circuit, whole: TracedValue): TracedValue {
  if (circuit.lanes < 2) return whole;
  return traced({
    key: `${whole.key}.each`,
    name: `${whole.name}, each run`,
    dimension: "current",
    value: whole.value / circuit.lanes,
    relation: "I_1 = I ÷ m",
    terms: () => [
      of("I", whole),
      constant("m", "Equal circuits in parallel", circuit.lanes, "count", "one for each inverter"),
    ],
  });
}

function partChecks(at: CheckedPart): Check[] {
  const { part } = at.one;
  if (isKind(part, "cable")) return cableChecks(at);
  if (isKind(part, "fuse")) return fuseChecks(at);
  if (isKind(part, "joints")) return [];
  if (isKind(part, "breaker")) return breakerChecks(at);
  return seriesChecks(at);
}

function dropCheck(system: System, circuit: Circuit, current: TracedValue): Check | null {
  const { values, wiring } = system;
  if (circuit.key !== "main" && !circuit.parts.some(({ part }) => part.kind === "cable")) return null;
  const main = circuit.key === "main";
  const resistance = main ? wiring.resistanceFigure : circuit.resistanceFigure;
  const nominal = nominalVolts(system, circuit);
  const limit = main ? values.wiring.dropLimit : values.wiring.branchDropLimit;
  const drop = traced({
    key: `${circuit.path}:drop`,
    name: `Voltage drop, ${circuit.title}`,
    dimension: "voltage",
    value: current.value * resistance.value,
    relation: "ΔV = I × R",
    terms: () => [of("I", current), of("R", resistance)],
    source: "Ohm",
  });
  const allowed = traced({
    key: `${circuit.path}:dropLimit`,
    name: `Voltage drop allowed, ${circuit.title}`,
    dimension: "voltage",
    value: limit.value * nominal,
    relation: "ΔV_m = d × V_n",
    terms: () => [
      given("d", limit),
      constant(
        "V_n",
        "Nominal",
        nominal,
        "voltage",
        circuit.far ? circuit.far.source : circuit.mains ? "AC" : "the battery's",
      ),
    ],
    source: main
      ? "3 % for an inverter's circuit: common practice, no source"
      : "5 % where nothing is critical: common practice, no source",
  });
  const culprit = worstDropPart(circuit);
  const mostly = culprit && culprit.resistance > 0.5 * circuit.resistance ? `, mostly ${culprit.name}` : "";
  const name = `${main ? "voltage drop" : `voltage drop, ${circuit.title}`}${mostly}`;
  return check({
    by: circuit.mains ? "ac-drop" : "dc-drop",
    key: `${circuit.path}:voltsLost`,
    topic: "voltsLost",
    name,
    demand: drop,
    limit: allowed,
    remark: main ? "battery to far end, running" : "at its largest current",
    tightBelow: 1.05,
    part: culprit?.path,
    run: circuit.path,
  });
}

/** Nominal volts that the drop of a run is a share of. */
function nominalVolts(system: System, circuit: Circuit): number {
  if (circuit.far) return Math.max(1, circuit.far.volts);
  if (!circuit.mains) return system.bank.nominalVoltage;
  const unit = ownUnit(system, circuit);
  return unit === null ? system.mains : system.unitVolts[unit]!;
}

const worstDropPart = (circuit: Circuit) =>
  circuit.parts.reduce<WiringPart | null>(
    (worst, one) => (!worst || one.resistance > worst.resistance ? one : worst),
    null,
  );
