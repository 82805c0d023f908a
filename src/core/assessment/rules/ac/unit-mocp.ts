import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { american, awg, breaker, circuit, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { ownUnit, ratingFigure } from "../../needs/checked";
import { guardOf } from "../../needs/guards";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";
import { maximumOvercurrent } from "../../../reference/standards/ac-cable";
import { constant, given, stated, traced } from "../../../units/trace";

/** A unit's breaker against the largest device that its plate, or the code, allows. */
function largestForUnit(system: System, circuit: Circuit): Finding[] {
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
    {
      name: `${guard.name} for ${system.job.units[unit]!.name}`,
      demand: ratingFigure(guard, `${circuit.path}.mocpDevice`),
      limit: most,
      remark: "the largest that the unit allows",
      part: guard.path,
    },
  ];
}

export const unitMocp: Rule = {
  id: "unit-mocp",
  group: "AC wiring",
  title: "Unit's breaker not over the largest device",
  asks: "The breaker of a circuit that feeds one air conditioner is at most the MOCP on its plate, or 2.25 × compressor RLA + other loads, rounded down to a standard size.",
  clause: by("NEC 440.22(A)", "NEC 440.22(A)", "plate of the unit", "plate of the unit", "plate of the unit"),
  broken: "Fails",
  fix: "Fit a breaker no larger than the plate of the unit allows.",
  circuit: ({ system, circuit }) => (circuit.branch?.role === "circuit" ? largestForUnit(system, circuit) : []),
};

export const example: Example = {
  what: "a 30 A breaker for a unit whose plate allows 25 A",
  breaks: () => circuit(american({ unit: { runningCurrent: q(14), largestDevice: q(25) } }), [breaker(30), awg(10)]),
  word: "Fails",
  meets: () => circuit(american({ unit: { runningCurrent: q(14), largestDevice: q(25) } }), [breaker(25), awg(10)]),
};
