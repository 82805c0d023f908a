import { bankRestVoltage } from "../bank/bank";
import { dcInput } from "../inverter/inverter";
import { FUSE_KINDS } from "../path/fuse";
import { allowedPathPower } from "../start/start";
import { constant, given, of, record, type Figure, type Term } from "../sum/figure";
import { check, verdictOf, type Check, type Verdict } from "./check";
import { lowestShare, recordAllowed, recordBankCurrent, recordCurrent, type System } from "./system";

/** Continuous current through a fuse as a share of its rating: at most 1 / 1.25 (common practice of the marine and caravan rules). */
const FUSE_SPARE = 1.25;

/** Whether every part takes the worst simultaneous running draw for hours, at the reserve; and the rules of its fuse. */
export function assessCarries(system: System): Verdict {
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
  const inner = bank.cellResistance + bank.protectionResistance;
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
      "S_c = n × S_1 × (1 − d × (T − T_k))",
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

  const shared = rig.bank.build === "cells" && rig.bank.chemistry !== "agm";
  const protection = record(
    figures,
    "carries.protection",
    "Battery limit, continuous",
    "current",
    bank.continuousCurrent,
    "I_l = n × I_1",
    [
      constant(
        "n",
        "Paths that share it",
        shared ? 1 : values.bank.parallel.value,
        "count",
        shared ? "one protection board" : "in parallel, taken as equal",
      ),
      given("I_1", values.bank.continuousCurrent),
    ],
    "data sheet",
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

  checks.push(check("cable", "cable ampacity", current, path.ampacity, "continuous"));
  const drop = record(
    figures,
    "carries.drop",
    "Lost between bank and far end",
    "voltage",
    current.value * path.resistance,
    "ΔV = I × R",
    [of("I", current), of("R", path.resistanceFigure)],
    "Ohm",
  );
  const dropLimit = record(
    figures,
    "carries.dropLimit",
    "Voltage drop allowed",
    "voltage",
    values.path.dropLimit.value * bank.nominalVoltage,
    "ΔV_m = d × V_n",
    [
      given("d", values.path.dropLimit),
      constant("V_n", "Bank, nominal", bank.nominalVoltage, "voltage", "series × nominal of each"),
    ],
    "3 % for an inverter's path: common practice, no source",
  );
  checks.push(check("drop", "voltage drop", drop, dropLimit, "bank to far end, running", { tightBelow: 1.05 }));
  checks.push(...fuseChecks(system, current, inner));
  return verdictOf("Carries", checks);
}

function fuseChecks(system: System, current: Figure, inner: number): Check[] {
  const { figures, values, bank, path, rig } = system;
  const kind = rig.path.fuseKind;
  if (kind === "none") {
    const one = record(
      figures,
      "carries.fuseWanted",
      "Fuses wanted at the bank",
      "count",
      1,
      "n = 1",
      [],
      "every source needs protection at the source",
    );
    const none = record(figures, "carries.fuseThere", "Fuses there", "count", 0, "n = 0", [], "path");
    return [
      check("fuse.missing", "no fuse at the bank", one, none, "a short circuit would have nothing to stop it", {
        stop: true,
      }),
    ];
  }
  const kindName = FUSE_KINDS[kind].name.toLowerCase();
  const rating = record(
    figures,
    "carries.fuse",
    "Fuse rating",
    "current",
    path.fuseRating,
    "I_n = I_f",
    [given("I_f", values.path.fuseRating)],
    "stamped on the fuse",
  );
  const least = record(
    figures,
    "carries.fuseLeast",
    "125 % of the running current",
    "current",
    FUSE_SPARE * current.value,
    "I_m = 1.25 × I",
    [of("I", current)],
    "fuse at 125 % of continuous current: common practice, no source",
  );
  const charged = record(
    figures,
    "carries.highest",
    "Highest voltage of the bank",
    "voltage",
    Math.max(bank.chargeToVoltage, bankRestVoltage(bank, 1)),
    "V = V_h",
    [given("V_h", values.bank.chargeToVoltage)],
  );
  const volts = record(
    figures,
    "carries.fuseVoltage",
    "Fuse voltage",
    "voltage",
    values.path.fuseVoltage.value,
    "V_f = V_1",
    [given("V_1", values.path.fuseVoltage)],
    kindName,
  );
  const fault = record(
    figures,
    "carries.fault",
    "Prospective short-circuit current",
    "current",
    bankRestVoltage(bank, bank.startShare) / Math.max(inner, 1e-6),
    "I_k = E ÷ R_b",
    [
      constant("E", "Rest voltage as charged", bankRestVoltage(bank, bank.startShare), "voltage", "at the terminals"),
      of("R_b", figures["bank.resistance"]!),
    ],
    "bolted short at the fuse; cable to it left out",
  );
  const breaks = record(
    figures,
    "carries.interrupting",
    "Interrupting rating",
    "current",
    values.path.fuseInterrupting.value,
    "I_b = I_1",
    [given("I_1", values.path.fuseInterrupting)],
    kindName,
  );
  return [
    check("fuse.size", "bank fuse", least, rating, "125 % of the running current", { tightBelow: 1 }),
    check("fuse.cable", "fuse above its cable", rating, path.ampacity, "it would let the cable burn", {
      rule: true,
      stop: true,
    }),
    check("fuse.voltage", "fuse voltage", charged, volts, "an arc would not go out", {
      rule: true,
      stop: true,
    }),
    check("fuse.interrupting", "fuse interrupting rating", fault, breaks, "the bank’s short circuit is larger", {
      rule: true,
      stop: true,
    }),
  ];
}
