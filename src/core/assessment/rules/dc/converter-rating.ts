import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { fridge, q, withBranch } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";
import { TracedValue, constant, given, stated, traced } from "../../../units/trace";

/** A battery this many times over the loads' voltage would break them. */
const LOAD_VOLTAGE_SPARE = 1.35;

/** Amps of the DC loads, all at once, at the voltage of a circuit's loads. */
function loadsAt({ values, job }: System, circuit: Circuit): TracedValue {
  const i = circuit.branchIndex!;
  const v = values.wiring.branches[i]!;
  const dc = job.brief.loads.reduce(
    (sum, load, k) => (load.side === "dc" ? sum + values.loads[k]!.power.value : sum),
    0,
  );
  return traced({
    key: `wiring.branches.${i}.loads`,
    name: `DC loads at once, ${circuit.title}`,
    dimension: "current",
    value: dc / v.loadVoltage.value,
    relation: "I = P ÷ V",
    terms: () => [constant("P", "DC loads of the brief", dc, "power", "all at once"), given("V", v.loadVoltage)],
  });
}

/** A converter against all DC loads at once. */
function forAllLoads(system: System, circuit: Circuit): Finding[] {
  if (!circuit.branch!.converter) return [];
  const i = circuit.branchIndex!;
  return [
    {
      name: `converter, ${circuit.title}`,
      demand: loadsAt(system, circuit),
      limit: stated(
        { key: `wiring.branches.${i}.converter`, name: `Converter rating, ${circuit.title}`, source: "data sheet" },
        "I_n",
        given("I_1", system.values.wiring.branches[i]!.converterRating),
      ),
      remark: "all DC loads at once",
      part: `wiring.branches.${i}`,
    },
  ];
}

/** Loads of less volts than the battery's need one. */
function wanted({ values, bank }: System, circuit: Circuit): Finding[] {
  const i = circuit.branchIndex!;
  const volts = values.wiring.branches[i]!.loadVoltage.value;
  if (bank.nominalVoltage <= volts * LOAD_VOLTAGE_SPARE) return [];
  return [
    presence({
      key: `${circuit.path}.converter`,
      title: `converter for the ${Math.round(volts)} V loads`,
      fault: `no converter for the ${Math.round(volts)} V loads`,
      met: circuit.branch!.converter,
      reason: say("notices.overvoltage", {
        nominalVoltage: Math.round(bank.nominalVoltage),
        wanted: Math.round(volts),
      }),
      fix: say("notices.fitConverter"),
      part: `wiring.branches.${i}`,
      aspect: "own",
    }),
  ];
}

export const converterRating: Rule = {
  id: "converter-rating",
  group: "DC wiring",
  title: "Converter for DC loads",
  asks: "Loads of another voltage than the battery's are fed by a converter rated for all of them at once.",
  clause: PRACTICE,
  broken: "Fails",
  fix: "Fit a converter for all DC loads at once, or fewer loads on it.",
  system: ({ system }) =>
    system.wiring.branches
      .filter(({ branch }) => branch!.role === "loads")
      .flatMap((circuit) => [...forAllLoads(system, circuit), ...wanted(system, circuit)]),
};

export const example: Example = {
  what: "a converter of 10 A for loads of 20 A",
  breaks: () => withBranch("loads", { converter: true, converterRating: q(10) }, fridge()),
  word: "Fails",
  meets: () => withBranch("loads", { converter: true, converterRating: q(30) }, fridge()),
};
