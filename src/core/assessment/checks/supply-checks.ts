import type { System } from "../../models/system/system";
import { cableLength, type Circuit, type WiringPart } from "../../models/wiring/circuits";
import { constant, given, of, TracedValue, stated, traced } from "../../units/trace";
import { check, type Check } from "./check";
import type { ResolvedQuantity } from "../../units/known";
import { guardOf } from "./guards";
import { leadArea } from "../../reference/standards/rule-set";
import { maximumOvercurrent } from "../../reference/standards/ac-cable";
import { ownUnit, ratingFigure } from "./checked-part";
import { circuitCurrent } from "../../document/resolve-wiring";

/** The supply lead by its rating and length, and the inlet's breaker. */
export function shoreChecks(system: System, circuit: Circuit): Check[] {
  const { values, wiring } = system;
  const { rules } = wiring;
  const at = circuit.branchIndex!;
  const v = values.wiring.branches[at]!;
  const branchPath = `wiring.branches.${at}` as const;
  const needed = traced({
    key: `${branchPath}.lead`,
    name: `Supply lead needs, ${circuit.title}`,
    dimension: "area",
    value: leadArea(rules, v.current.value, v.leadLength.value) * 0.99,
    relation: "S = 0.99 × S_t × max(1, L ÷ L_t)",
    terms: () => [
      constant("S_t", "Table size at its rating", leadArea(rules, v.current.value, 0), "area", rules.standards.supply),
      given("L", v.leadLength),
      constant("L_t", "Longest lead of the table", rules.leadLength, "length", rules.standards.supply),
      given("I", v.current),
    ],
    source: rules.standards.supply,
  });
  const there = stated(
    { key: `${branchPath}.leadArea`, name: `Supply lead, ${circuit.title}` },
    "S",
    given("S_1", v.leadAreaMm2),
  );
  const checks = [
    check({
      by: "supply-lead",
      key: `${branchPath}:lead`,
      name: `supply lead, ${circuit.title}`,
      demand: needed,
      limit: there,
      remark: "by its rating and length",
      rule: true,
      part: branchPath,
    }),
  ];
  const first = circuit.parts.findIndex(({ part }) => part.kind === "breaker");
  const breaker = circuit.parts[first];
  if (breaker && system.job.cabin.kind === "boat")
    checks.push(inletBreakerPlace(circuit, circuit.parts.slice(0, first), breaker.path));
  if (breaker) {
    // Where no breaker is made at the inlet's rating the next size is usual: 16 A behind a 15 A inlet.
    const next = rules.breakers.find((one) => one >= v.current.value - 1e-9) ?? v.current.value;
    const inlet = traced({
      key: `${branchPath}.inlet`,
      name: `Largest breaker behind the inlet, ${circuit.title}`,
      dimension: "current",
      value: next,
      relation: "I_m = I_s",
      terms: () => [
        given("I_1", v.current),
        constant("I_s", "Breaker made for it", next, "current", "its rating, or the next size made"),
      ],
      source: rules.standards.supply,
    });
    checks.push(
      check({
        by: "supply-inlet",
        key: `${branchPath}:inlet`,
        name: `inlet behind ${breaker.name}`,
        demand: ratingFigure(breaker, `${branchPath}.inletBreaker`),
        limit: inlet,
        remark: "the breaker protects the inlet",
        rule: true,
        part: breaker.path,
      }),
    );
  }
  return checks;
}

/** Cable that may lie between a boat's inlet and its main breaker, m (ABYC E-11, 10 ft; ISO 13297, 3 m). */
const INLET_TO_BREAKER_M = 3.05;

/** How far behind the inlet of a boat its main breaker stands. */
function inletBreakerPlace(circuit: Circuit, before: WiringPart[], part: WiringPart["path"]): Check {
  const cables = before.filter((one) => one.part.kind === "cable");
  const length = traced({
    key: `${circuit.path}:inletCable`,
    name: `Cable between inlet and breaker, ${circuit.title}`,
    dimension: "length",
    value: cableLength(before),
    relation: "L = Σ L_i",
    terms: () => cables.map((one, i) => given(`L_${i + 1}`, one.values.length!)),
  });
  const most = traced({
    key: `${circuit.path}:inletCableMost`,
    name: "Cable allowed between them",
    dimension: "length",
    value: INLET_TO_BREAKER_M,
    relation: "L = L_m",
    terms: () => [constant("L_m", "By the rules", INLET_TO_BREAKER_M, "length", "10 ft, 3 m")],
  });
  return check({
    by: "inlet-breaker",
    key: `${circuit.path}:inletBreaker`,
    name: `breaker behind the inlet, ${circuit.title}`,
    demand: length,
    limit: most,
    remark: { met: "near the inlet", broken: "the cable before it has nothing on board that switches it off" },
    rule: true,
    part,
  });
}

/** A unit's breaker against the largest device that its plate, or the code, allows. */
export function unitBreakerChecks(system: System, circuit: Circuit): Check[] {
  const { values, wiring } = system;
  const unit = ownUnit(system, circuit);
  const guard = guardOf(wiring, circuit, circuit.parts.length);
  if (unit === null || !guard) return [];
  const v = values.units[unit]!;
  if (!v.largestDevice && wiring.rules.continuous === 1) return [];
  const running = system.units[unit]!.runningApparent.value / system.unitVolts[unit]!;
  const compressor = Math.min(v.compressorCurrent.value, running);
  const plate = v.largestDevice;
  const most = plate
    ? stated(
        { key: `${circuit.path}.mocp`, name: `Largest breaker, ${circuit.title}`, source: "plate of the unit" },
        "I_m",
        given("I_1", plate),
      )
    : traced({
        key: `${circuit.path}.mocp`,
        name: `Largest breaker, ${circuit.title}`,
        dimension: "current",
        value: maximumOvercurrent(compressor, running - compressor),
        relation: "I_m = I_s",
        terms: () => [
          constant(
            "I_s",
            "2.25 × compressor + the rest, rounded down",
            maximumOvercurrent(compressor, running - compressor),
            "current",
            "to a standard rating",
          ),
          constant("I_c", "Compressor", compressor, "current", "rated load"),
          constant("I_o", "Fan and the rest", running - compressor, "current", "running current less the compressor's"),
        ],
        source: "NEC 440.22",
      });
  return [
    check({
      by: "unit-mocp",
      key: `${circuit.path}:mocp`,
      name: `${guard.name} for ${system.job.units[unit]!.name}`,
      demand: ratingFigure(guard, `${circuit.path}.mocpDevice`),
      limit: most,
      remark: "the largest that the unit allows",
      rule: true,
      part: guard.path,
    }),
  ];
}

/** A that a unit's own circuit is chosen for, as a figure: MCA on the plate, computed, or the running current. */
export function circuitDesign(system: System, circuit: Circuit, unit: number, running: TracedValue): TracedValue {
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
