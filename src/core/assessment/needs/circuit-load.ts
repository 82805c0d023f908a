import type { Circuit } from "../../models/wiring/circuits";
import type { System } from "../../models/system/system";
import { converterDraw } from "../../document/sides";
import { controllerRating } from "../../document/defaults";
import { onBattery } from "../../document/unit-kinds";
import { constant, given, of, stated, traced, type Term, type TracedValue } from "../../units/trace";
import { circuitCurrent } from "../../document/resolve-wiring";
import type { ResolvedQuantity } from "../../units/known";
import { ownUnit, type CircuitLoad } from "./checked";

/**
 * What a circuit carries at the worst simultaneous use, and what its cables and breakers are chosen for. `along` is the
 * current along the main circuit, `outputs` the apparent power on each output conductor of the inverter.
 */
export function circuitLoad(
  system: System,
  circuit: Circuit,
  along: TracedValue,
  outputs: readonly TracedValue[],
): CircuitLoad {
  if (circuit.key === "main") return plain(along);
  if (circuit.key === "mains") return mainsLoad(system, outputs);
  return branchLoad(system, circuit);
}

/** What a circuit carries that branches off the main one, or off its mains side. */
export function branchLoad(system: System, circuit: Circuit): CircuitLoad {
  const unit = ownUnit(system, circuit);
  if (unit !== null) return mainsUnitLoad(system, circuit, unit);
  if (circuit.far) return farLoad(system, circuit, circuit.far);
  const direct =
    circuit.branch?.role === "dc-unit"
      ? system.job.units.findIndex((one) => onBattery(one) && one.id === circuit.branch!.unitId)
      : -1;
  if (direct >= 0) return dcUnitLoad(system, circuit, direct);
  if (circuit.branch?.role === "loads" && circuit.branch.converter) return converterLoad(system, circuit);
  return sourceLoad(system, circuit);
}

const plain = (current: TracedValue): CircuitLoad => ({ current, design: current });

function mainsLoad(system: System, outputs: readonly TracedValue[]): CircuitLoad {
  const { mains, legs } = system;
  const worst = outputs.reduce((a, b) => (b.value > a.value ? b : a));
  const current = traced({
    key: "carries.mainsCurrent",
    name: legs.split ? "AC current of the fuller leg, everything on" : "AC current, everything on",
    dimension: "current",
    value: worst.value / mains,
    relation: "I = S ÷ V",
    terms: () => [of("S", worst), constant("V", "AC voltage", mains, "voltage", "of one leg")],
  });
  return { current, design: continuous(system, current) };
}

function mainsUnitLoad(system: System, circuit: Circuit, unit: number): CircuitLoad {
  const volts = system.unitVolts[unit]!;
  const { runningApparent } = system.units[unit]!;
  const current = traced({
    key: `${circuit.path}.current`,
    name: `Running current, ${circuit.title}`,
    dimension: "current",
    value: runningApparent.value / volts,
    relation: "I = S ÷ V",
    terms: () => [of("S", runningApparent), constant("V", "AC voltage", volts, "voltage", "of the unit")],
  });
  return { current, design: circuitDesign(system, circuit, unit, current) };
}

/** The other side of a charger, converter or controller. */
function farLoad(system: System, circuit: Circuit, far: NonNullable<Circuit["far"]>): CircuitLoad {
  const { rules } = system.wiring;
  const { array } = circuit;
  const current = traced({
    key: `${circuit.path}.current`,
    name: `Largest current, ${circuit.title}`,
    dimension: "current",
    value: far.current,
    relation: far.relation,
    terms: () => farTerms(system, circuit, far),
    source: array ? rules.standards.solar : "the same power on both sides but for the loss",
  });
  return { current, design: far.mains ? continuous(system, current) : current };
}

function farTerms({ values, bank, wiring }: System, circuit: Circuit, far: NonNullable<Circuit["far"]>): Term[] {
  const { array, branch, branchIndex } = circuit;
  const { solarFactor, standards } = wiring.rules;
  if (array)
    return [
      constant("k", "Code factor", solarFactor, "number", standards.solar),
      constant("I_sc", "Short-circuit current of all strings", array.shortCurrent, "current", "labels of the panels"),
    ];
  const v = values.wiring.branches[branchIndex!]!;
  if (branch!.role === "loads") return [given("I_c", v.converterRating)];
  const charging = Math.max(bank.chargeToVoltage, bank.nominalVoltage);
  return [
    given("I", v.current),
    constant("V_b", "Charging voltage of the battery", charging, "voltage", "end of charge"),
    constant("V_2", "Voltage of the other side", far.mains ? far.volts : (far.volts * 13) / 12, "voltage", far.source),
    given("η", v.efficiency),
  ];
}

function dcUnitLoad({ values, units }: System, circuit: Circuit, unit: number): CircuitLoad {
  const { running } = units[unit]!;
  const { cutOffVoltage } = values.units[unit]!;
  return plain(
    traced({
      key: `${circuit.path}.current`,
      name: `Running current at its cut-off, ${circuit.title}`,
      dimension: "current",
      value: running.value / Math.max(1, cutOffVoltage.value),
      relation: "I = P ÷ V_c",
      terms: () => [of("P", running), given("V_c", cutOffVoltage)],
    }),
  );
}

function converterLoad({ values, bank }: System, circuit: Circuit): CircuitLoad {
  const v = values.wiring.branches[circuit.branchIndex!]!;
  return plain(
    traced({
      key: `${circuit.path}.current`,
      name: `Largest current, ${circuit.title}`,
      dimension: "current",
      value: Math.max(v.current.value, converterDraw(v, bank.nominalVoltage)),
      relation: "I = max(I_1, I_c × V_2 ÷ (V_b × η))",
      terms: () => [
        given("I_1", v.current),
        given("I_c", v.converterRating),
        given("V_2", v.loadVoltage),
        constant("V_b", "Battery, nominal", bank.nominalVoltage, "voltage", "of the battery"),
        given("η", v.efficiency),
      ],
      source: "what the converter draws at its rating, or more where that is entered",
    }),
  );
}

function sourceLoad({ values, job }: System, circuit: Circuit): CircuitLoad {
  const { current } = values.wiring.branches[circuit.branchIndex!]!;
  const rated = circuit.branch!.role === "solar" ? controllerRating(job, circuit.branch!.id) : null;
  if (rated !== null && rated > current.value)
    return plain(
      traced({
        key: `${circuit.path}.current`,
        name: `Largest current, ${circuit.title}`,
        dimension: "current",
        value: rated,
        relation: "I = max(I_1, I_n)",
        terms: () => [
          given("I_1", current),
          constant("I_n", "Rated output of its controller", rated, "current", "data sheet"),
        ],
        source: "its controller can pass it",
      }),
    );
  return plain(
    stated(
      {
        key: `${circuit.path}.current`,
        name: `Largest current, ${circuit.title}`,
        source: "what its source or its loads can pass",
      },
      "I",
      given("I_1", current),
    ),
  );
}

/** 125 % of a continuous AC load where the code asks for it; else the load itself. */
function continuous({ wiring }: System, current: TracedValue): TracedValue {
  const { continuous: factor, standards } = wiring.rules;
  if (factor === 1) return current;
  return traced({
    key: `${current.key}.design`,
    name: `${current.name}, 125 %`,
    dimension: "current",
    value: factor * current.value,
    relation: "I_d = 1.25 × I",
    terms: () => [of("I", current)],
    source: `${standards.ac}: continuous load`,
  });
}

/** A that a unit's own circuit is chosen for, as a figure: MCA on the plate, computed, or the running current. */
function circuitDesign(system: System, circuit: Circuit, unit: number, running: TracedValue): TracedValue {
  const { values, wiring } = system;
  const v = values.units[unit]!;
  const known: ResolvedQuantity | undefined = v.circuitAmpacity;
  if (!known && wiring.rules.continuous === 1) return running;
  const compressor = Math.min(v.compressorCurrent.value, running.value);
  return traced({
    key: `${circuit.path}.mca`,
    name: `Minimum circuit ampacity, ${circuit.title}`,
    dimension: "current",
    value: circuitCurrent(wiring.rules, v, running.value),
    relation: known ? "I = max(I_1, I_r)" : "I = 1.25 × I_c + I_o",
    terms: () =>
      known
        ? [given("I_1", known), of("I_r", running)]
        : [
            constant("I_c", "Compressor", compressor, "current", "rated load"),
            constant(
              "I_o",
              "Fan and the rest",
              running.value - compressor,
              "current",
              "running current less the compressor's",
            ),
          ],
    source: known ? "plate of the unit" : "NEC 440.33",
  });
}

/** Of runs side by side, what one of them carries. */
export function shareOfLane(circuit: Circuit, whole: TracedValue): TracedValue {
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
