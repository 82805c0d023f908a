import { bankRestVoltage } from "../bank/bank";
import { restSteps, runDown, type BankLevel, type RunDown } from "../hours/rundown";
import { dcInput } from "../inverter/inverter";
import { constant, given, of, record, type Figure } from "../sum/figure";
import { MODE_LABELS, MODES, type Level, type Mode } from "../unit/unit";
import { check, verdictOf, type Verdict } from "./check";
import { farCutOff } from "../start/start";
import type { System } from "./system";

export interface ModeHours {
  mode: Mode;
  /** Seconds, and the keys of their figures. */
  toReserve: number;
  toCutOff: number;
  reserveFigure: string;
  cutOffFigure: string;
  meanCurrent: number;
  cutOffShare: number;
  cutOffBy: RunDown["cutOffBy"];
}

/** Energies of the bank in Wh, from the top of a full bank down; together the full bank. */
export interface BankColumn {
  full: number;
  segments: {
    key: "uncharged" | "units" | "loads" | "losses" | "left" | "reserve" | "unreachable";
    energy: number;
    figure: string;
  }[];
  /** Wh more than there is above the reserve that the hours wanted would take; 0 where they are met. */
  missing: number;
  /** State of charge after the hours wanted, or at the end of the run. */
  endShare: number;
}

const named = (mode: Mode) => MODE_LABELS[mode].toLowerCase();

/** How long the bank lasts in each mode, and whether that meets the hours wanted under the job's stance. */
export function assessLasts(system: System): { verdict: Verdict; hours: ModeHours[]; column: BankColumn } {
  const { figures, values, rig } = system;
  const rest = restSteps(system.bank);
  const runs = MODES.map((mode) => ({ mode, run: runMode(system, mode, rest), power: recordPower(system, mode) }));
  const hours = runs.map(({ mode, run, power }) => recordHours(system, mode, run, power));
  const stance: Mode = rig.brief.stance === "never-resting" ? "full" : "expected";
  const chosen = runs.find((r) => r.mode === stance)!;
  const decided = hours.find((h) => h.mode === stance)!;

  const wanted = record(
    figures,
    "lasts.wanted",
    "Hours wanted",
    "duration",
    values.brief.hoursWanted.value,
    "t_w = t",
    [given("t", values.brief.hoursWanted)],
    "brief",
  );
  const early = decided.cutOffShare > Math.min(system.bank.reserveShare, system.bank.startShare);
  const name = !early
    ? "reserve"
    : decided.cutOffBy === "inverter"
      ? "inverter cut-off before the reserve"
      : "bank's stop before the reserve";
  const remark = stance === "full" ? "compressor never resting" : "expected draw";
  const verdict = verdictOf("Lasts", [
    check("lasts", "hours", name, wanted, figures[decided.reserveFigure]!, remark, { tightBelow: 1.1 }),
  ]);
  return { verdict, hours, column: bankColumn(system, stance, chosen.run) };
}

/** The draws of all units in a mode, in every combination of their levels, with the other loads at their average. */
function bankLevels(system: System, mode: Mode): BankLevel[] {
  const { units, inverter, loads, converted } = system;
  let combined: { share: number; mains: number; direct: number; side: number }[] = [
    { share: 1, mains: loads.mainsAverage, direct: 0, side: loads.dcAverage },
  ];
  for (const unit of units) {
    combined = combined.flatMap((so) =>
      unit.levels[mode].map((level: Level) => ({
        share: so.share * level.share,
        mains: so.mains + (unit.direct ? 0 : level.power),
        direct: so.direct + (unit.direct && !system.beside[unit.index] ? level.power : 0),
        side: so.side + (system.beside[unit.index] ? level.power : 0),
      })),
    );
  }
  return combined.map(({ share, mains, direct, side }) => ({
    share,
    pathPower: (converted ? dcInput(inverter, mains) : 0) + direct,
    sidePower: side,
  }));
}

function runMode(system: System, mode: Mode, rest: Float64Array): RunDown {
  const { bank, path } = system;
  return runDown(
    { bank, rest, pathResistance: path.resistance, cutOffVoltage: farCutOff(system) },
    bankLevels(system, mode),
  );
}

function meanPower(system: System, mode: Mode): number {
  return bankLevels(system, mode).reduce((sum, level) => sum + level.share * (level.pathPower + level.sidePower), 0);
}

function recordPower(system: System, mode: Mode): Figure {
  const { figures, units, loads, inverter, converted } = system;
  const draw = (i: number) => {
    const u = units[i]!;
    return { fan: u.fan, low: u.low, expected: u.average, full: u.running }[mode];
  };
  const [mains, direct] = [units.filter((u) => !u.direct), units.filter((u) => u.direct)];
  const sumOf = (list: typeof units) =>
    list
      .map((u) => `P_${u.index + 1}`)
      .concat(list === mains ? ["P_o"] : [])
      .join(" + ");
  const relation = [
    converted ? `P_0 + (1 + a) × (${sumOf(mains)}) + b × (…)² ÷ S_n` : "",
    direct.length > 0 ? sumOf(direct) : "",
    "P_dc",
  ]
    .filter(Boolean)
    .join(" + ");
  return record(
    figures,
    `lasts.${mode}.power`,
    `Drawn from the bank, ${named(mode)}`,
    "power",
    meanPower(system, mode),
    `P_d = ${relation}`,
    [
      ...units.map((u) => of(`P_${u.index + 1}`, draw(u.index))),
      ...(converted
        ? [
            constant(
              "P_o",
              "Other mains loads, average",
              loads.mainsAverage,
              "power",
              "brief, by their share of the time",
            ),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters, all hours"),
            constant("a", "Loss per watt", inverter.lossShare, "number", "inverter"),
            constant("b", "Further loss at full load", inverter.lossRise, "number", "inverter"),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      constant("P_dc", "DC loads, average", loads.dcAverage, "power", "brief, by their share of the time"),
    ],
    "inverter loss curve, weighed over running and resting",
  );
}

function recordHours(system: System, mode: Mode, run: RunDown, power: Figure): ModeHours {
  const { figures, bank, path, values } = system;
  const end = Math.max(run.cutOffShare, Math.min(bank.startShare, bank.reserveShare));
  const usable = record(
    figures,
    `lasts.${mode}.usable`,
    `Usable charge, ${named(mode)}`,
    "charge",
    bank.capacityAh * (bank.startShare - end),
    "Q = C × max(0, s_0 − s_r)",
    [
      of("C", figures["bank.capacity"]!),
      given("s_0", values.bank.startShare),
      run.cutOffShare > bank.reserveShare
        ? constant(
            "s_r",
            "Level at which it cuts off",
            run.cutOffShare,
            "ratio",
            run.cutOffBy === "inverter"
              ? "the inverter's cut-off comes before the reserve"
              : "the bank's stop comes before the reserve",
          )
        : given("s_r", values.bank.reserve),
    ],
  );
  const middle = (bank.startShare + end) / 2;
  const mean = record(
    figures,
    `lasts.${mode}.current`,
    `Mean counted current, ${named(mode)}`,
    "current",
    run.meanCurrent,
    "I = (E − √(E² − 4 × R × P_d)) ÷ (2 × R) × (I ÷ I_h)^(k − 1)",
    [
      constant(
        "E",
        "Rest voltage, middle of the run",
        bankRestVoltage(bank, middle),
        "voltage",
        "rises and falls with the level",
      ),
      constant("R", "Bank and path", bank.innerResistance + path.resistance, "resistance", "in series"),
      of("P_d", power),
      constant("I_h", "Current the capacity is stated for", bank.ratedCurrent, "current", "capacity over its hours"),
      given("k", values.bank.peukert),
    ],
    "stepped over 200 levels of charge and averaged; Peukert, t = H (C / (I H))^k, where the chemistry asks for it",
  );
  const reserve = record(
    figures,
    `lasts.${mode}.reserve`,
    `To the reserve, ${named(mode)}`,
    "duration",
    run.toReserve,
    "t = Q ÷ I",
    [of("Q", usable), of("I", mean)],
    "charge over counted current",
  );
  const cutOff = record(
    figures,
    `lasts.${mode}.cutOff`,
    `To the cut-off, ${named(mode)}`,
    "duration",
    run.toCutOff,
    "t = t_r + t_e",
    [
      of("t_r", reserve),
      constant(
        "t_e",
        "From the reserve to the end",
        run.toCutOff - run.toReserve,
        "duration",
        run.cutOffBy === "empty"
          ? "until empty"
          : run.cutOffBy === "inverter"
            ? "until the inverter's cut-off"
            : "until the bank's stop",
      ),
    ],
  );
  return {
    mode,
    toReserve: run.toReserve,
    toCutOff: run.toCutOff,
    reserveFigure: reserve.key,
    cutOffFigure: cutOff.key,
    meanCurrent: run.meanCurrent,
    cutOffShare: run.cutOffShare,
    cutOffBy: run.cutOffBy,
  };
}

function bankColumn(system: System, stance: Mode, run: RunDown): BankColumn {
  const { bank, figures, units, loads, values } = system;
  const wanted = values.brief.hoursWanted.value;
  const reserve = Math.max(run.cutOffShare, Math.min(bank.startShare, bank.reserveShare));
  const time = Math.min(wanted, run.toReserve);
  const endShare = time >= run.toReserve ? reserve : Math.max(reserve, run.shareAfter(time));
  const hours = time / 3600;
  const mean = (u: (typeof units)[number]) =>
    u.levels[stance].reduce((sum, level) => sum + level.share * level.power, 0);
  const drawn = run.energyBetween(bank.startShare, endShare);
  const toUnits = units.reduce((sum, u) => sum + mean(u), 0) * hours;
  const toLoads = (loads.mainsAverage + loads.dcAverage) * hours;
  const wh = (
    key: string,
    name: string,
    value: number,
    relation: string,
    terms: Parameters<typeof record>[6],
    source: string,
  ) => record(figures, `column.${key}`, name, "energy", Math.max(0, value), relation, terms, source).key;
  const between = (upper: number, lower: number) => [
    constant("s_1", "From level", upper, "ratio", "state of charge"),
    constant("s_2", "To level", lower, "ratio", "state of charge"),
    of("C", figures["bank.capacity"]!),
  ];
  const rest = "rest voltage times charge, stepped";
  const time_ = constant("t", "For", time, "duration", time < wanted ? "until the reserve" : "hours wanted");
  const column: BankColumn["segments"] = [];
  const add = (key: BankColumn["segments"][number]["key"], energy: number, figure: string) =>
    column.push({ key, energy: Math.max(0, energy), figure });
  const span = (key: BankColumn["segments"][number]["key"], name: string, upper: number, lower: number) =>
    add(
      key,
      run.energyBetween(upper, lower),
      wh(key, name, run.energyBetween(upper, lower), "E = ∫ V × C ds", between(upper, lower), rest),
    );

  span("uncharged", "Never charged", 1, bank.startShare);
  add(
    "units",
    toUnits,
    wh(
      "units",
      "To the air conditioner",
      toUnits,
      "E = P × t",
      [
        constant(
          "P",
          "Average draw",
          units.reduce((sum, u) => sum + mean(u), 0),
          "power",
          named(stance),
        ),
        time_,
      ],
      "average draw over the run",
    ),
  );
  add(
    "loads",
    toLoads,
    wh(
      "loads",
      "To other loads",
      toLoads,
      "E = P × t",
      [constant("P", "Average of other loads", loads.mainsAverage + loads.dcAverage, "power", "brief"), time_],
      "average draw over the run",
    ),
  );
  add(
    "losses",
    drawn - toUnits - toLoads,
    wh(
      "losses",
      "Lost on the way",
      drawn - toUnits - toLoads,
      "E = E_b − E_u − E_o",
      [
        constant("E_b", "Out of the cells", drawn, "energy", rest),
        constant("E_u", "To the air conditioner", toUnits, "energy", "above"),
        constant("E_o", "To other loads", toLoads, "energy", "above"),
      ],
      "inverter, its idling, cables, the cells themselves; Peukert where lead-acid",
    ),
  );
  span("left", "Left above the reserve", endShare, reserve);
  span("reserve", "Reserve", reserve, Math.min(reserve, run.cutOffShare));
  span("unreachable", "Below the cut-off", Math.min(reserve, run.cutOffShare), 0);
  return {
    full: run.energyBetween(1, 0),
    segments: column,
    missing: wanted > run.toReserve ? ((wanted - run.toReserve) / 3600) * figures[`lasts.${stance}.power`]!.value : 0,
    endShare,
  };
}
