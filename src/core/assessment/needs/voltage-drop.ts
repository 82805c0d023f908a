import type { System } from "../../models/system/system";
import type { Circuit, WiringPart } from "../../models/wiring/circuits";
import { constant, given, of, traced } from "../../units/trace";
import type { Finding } from "../judge/finding";
import { has, ownUnit, type CheckedCircuit } from "./checked";

/** The volts that a circuit loses there and back at its largest current, against the share allowed. */
export function voltsLost({ system, circuit, load: { current } }: CheckedCircuit): Finding[] {
  const { values, wiring } = system;
  if (circuit.key !== "main" && !has(circuit, "cable")) return [];
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
  return [
    {
      topic: "voltsLost",
      name,
      demand: drop,
      limit: allowed,
      remark: main ? "battery to far end, running" : "at its largest current",
      holdsFrom: 1.05,
      part: culprit?.path,
      run: circuit.path,
    },
  ];
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
