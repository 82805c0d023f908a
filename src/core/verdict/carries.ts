import { bankRestVoltage } from "../bank/bank";
import { dcInput } from "../inverter/inverter";
import { allowedPathPower } from "../start/start";
import { constant, given, of, record, type Figure, type Term } from "../sum/figure";
import { check, verdictOf, type Check, type Verdict } from "./check";
import { compartmentOf, heatChecks, runChecks, runCurrent, type Compartment } from "./runs";
import { ruleChecks, structureRules, type Rule } from "./structure";
import { lowestShare, recordAllowed, recordBankCurrent, recordCurrent, largestShare, type System } from "./system";

export interface CarriesResult {
  verdict: Verdict;
  rules: Rule[];
  compartment: Compartment | null;
  /** A through each run with everything on, by its path. */
  currents: Record<string, number>;
}

/** Whether every part takes the worst simultaneous running draw for hours, at the reserve; fuses, heat and structure. */
export function assessCarries(system: System): CarriesResult {
  const { figures, values, bank, inverter, path, units, loads, converted, rig } = system;
  const onMains = units.filter((u) => !u.direct);
  const direct = units.filter((u) => u.direct);
  const sum = (list: Figure[]) => list.reduce((total, f) => total + f.value, 0);
  const unitTerms = (list: Figure[], symbol: string): Term[] => list.map((f, i) => of(`${symbol}_${i + 1}`, f));
  const plus = (list: unknown[], symbol: string, more: string) =>
    [...list.map((_, i) => `${symbol}_${i + 1}`), more].join(" + ");

  const apparent = record(
    figures,
    "carries.apparent",
    "All mains loads at once, apparent",
    "apparentPower",
    sum(onMains.map((u) => u.runningApparent)) + loads.mains,
    `S = ${plus(onMains, "S", "P_o")}`,
    [
      ...unitTerms(
        onMains.map((u) => u.runningApparent),
        "S",
      ),
      constant("P_o", "Other mains loads", loads.mains, "power", "brief, all at once"),
    ],
  );
  const real = record(
    figures,
    "carries.real",
    "All mains loads at once",
    "power",
    sum(onMains.map((u) => u.running)) + loads.mains,
    `P = ${plus(onMains, "P", "P_o")}`,
    [
      ...unitTerms(
        onMains.map((u) => u.running),
        "P",
      ),
      constant("P_o", "Other mains loads", loads.mains, "power", "brief, all at once"),
    ],
  );
  const directPower = sum(direct.map((u) => u.running));
  const pathPower = record(
    figures,
    "carries.pathPower",
    "Drawn along the path",
    "power",
    (converted ? dcInput(inverter, real.value) : 0) + directPower,
    converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${directPower > 0 ? " + P_u" : ""}` : "P_d = P_u",
    [
      ...(converted
        ? [
            of("P", real),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
            given("a", values.inverter.lossShare),
            given("b", values.inverter.lossRise),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      constant("P_u", "Units straight from the bank", directPower, "power", "running, in this heat"),
    ],
    "inverter loss curve",
  );
  const rest = bankRestVoltage(bank, lowestShare(system));
  const { figure: current, state } = recordCurrent(
    system,
    "carries.current",
    "Along the path, running",
    pathPower,
    loads.dc,
  );
  const bankCurrent = recordBankCurrent(system, "carries.bankCurrent", "Out of the bank, running", current, state);

  const checks: Check[] = [];
  if (converted) {
    const has = record(
      figures,
      "carries.inverter",
      "Inverter continuous, in its heat",
      "apparentPower",
      inverter.derated,
      "S_c = n × S_1 × (1 − d × max(0, T − T_k))",
      [
        given("n", values.inverter.count),
        given("S_1", values.inverter.rating),
        given("d", values.inverter.deratePerKelvin),
        given("T", values.inverter.compartmentC),
        given("T_k", values.inverter.derateFromC),
      ],
      "full rating up to the knee, derated above it",
    );
    checks.push(check("inverter", "inverter continuous", apparent, has, "hot, with everything on"));
    if (values.inverter.maxDcCurrent) {
      const most = record(
        figures,
        "carries.maxDc",
        "Largest DC input, all inverters",
        "current",
        values.inverter.maxDcCurrent.value * values.inverter.count.value,
        "I_m = n × I_1",
        [given("n", values.inverter.count), given("I_1", values.inverter.maxDcCurrent)],
        "data sheet",
      );
      checks.push(check("maxDc", "inverter DC input", current, most, "at the reserve, when amps are highest"));
    }
  }
  const allowed = allowedPathPower({ ...system, mainsLoad: loads.mains, dcLoad: loads.dc }, rest);
  const { figure: voltage, limit } = recordAllowed(
    system,
    "carries.voltage",
    "What the voltage allows, running",
    allowed,
  );
  checks.push(
    check("voltage", limit, pathPower, voltage, state.collapsed ? "the voltage collapses" : "running at the reserve"),
  );

  const protection = record(
    figures,
    "carries.protection",
    "Battery limit, continuous",
    "current",
    bank.continuousCurrent,
    "I_l = I_1 ÷ q",
    [given("I_1", values.bank.continuousCurrent), largestShare(system)],
    "data sheet; the battery that gives most meets its limit first",
  );
  checks.push(
    check(
      "protection",
      rig.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
      bankCurrent,
      protection,
      "continuous, at the reserve",
    ),
  );

  const currents: Record<string, number> = {};
  for (const run of [path.main, ...(converted ? [path.mains] : []), ...path.branches]) {
    const carried = runCurrent(system, run, current, apparent);
    currents[run.path] = carried.value;
    checks.push(...runChecks(system, run, carried));
  }
  checks.push(...heatChecks(system, current));
  const rules = structureRules(system);
  checks.push(...ruleChecks(system, rules));
  return { verdict: verdictOf("Carries", checks), rules, compartment: compartmentOf(system, real), currents };
}
