import { openCircuitVoltage } from "../../models/battery/battery";
import { openCircuitSteps, runDown, type DrawLevel, type RunDown } from "../../simulation/run-down/run-down";
import { dcInput } from "../../models/inverter/inverter";
import { constant, given, of, record, type TracedValue } from "../../units/trace";
import { MODES, type Mode } from "../../models/air-conditioner/air-conditioner";
import { farCutOff } from "../../simulation/start/start";
import type { System } from "../../models/system/system";

export interface ModeHours {
  mode: HandKey;
  /** Seconds, and the keys of their figures. */
  toReserve: number;
  toCutOff: number;
  reserveFigure: string;
  cutOffFigure: string;
  meanCurrent: number;
  cutOffShare: number;
  cutOffBy: RunDown["cutOffBy"];
}

/** Each way of running in words. */
export const HAND_WORDS: Record<HandKey, string> = {
  off: "air conditioner off",
  fan: "fan only",
  low: "low fan, compressor always on",
  full: "compressor always on",
  measured: "measured average",
  holding: "holding the set point",
};
const named = (mode: HandKey) => HAND_WORDS[mode];

/** A way of running that the hand method takes as one constant load: the three modes, off, a measured average, and holding the set point. */
export type HandKey = Mode | "off" | "measured" | "holding";

/** Hours of each mode by the hand method: usable charge over one constant load. */
export function assessHandMethod(system: System): ModeHours[] {
  const rest = openCircuitSteps(system.bank);
  const drawOf = (mode: Mode) => (u: System["units"][number]) => ({ fan: u.fan, low: u.low, full: u.running })[mode];
  return [
    handHours(system, "off", () => null, rest),
    ...MODES.map((mode) => handHours(system, mode, drawOf(mode), rest)),
    ...(system.units.every(({ holding }) => holding !== null)
      ? [handHours(system, "measured", ({ holding }) => holding!.average, rest)]
      : []),
  ];
}

/** Hours at the mean power that holding the set point takes, W of each unit, from the run of the design day. */
export function handHoursHolding(system: System, unitPower: number[]): ModeHours {
  const held = system.units.map((u) =>
    record(
      system.figures,
      `unit.${u.index}.holding`,
      "Average power, holding the set point",
      "power",
      unitPower[u.index]!,
      "P_h = P_m",
      [
        constant(
          "P_m",
          "Mean of the run",
          unitPower[u.index]!,
          "power",
          "design day, from cooled down to the end of the use",
        ),
      ],
      "coupled run of cabin, unit, sun and battery",
    ),
  );
  return handHours(system, "holding", (u) => held[u.index]!, openCircuitSteps(system.bank));
}

function handHours(
  system: System,
  key: HandKey,
  draw: (u: System["units"][number]) => TracedValue | null,
  rest: Float64Array,
): ModeHours {
  const power = recordPower(system, key, draw);
  const { bank, path } = system;
  const run = runDown({ bank, rest, pathResistance: path.resistance, cutOffVoltage: farCutOff(system) }, [
    bankLevel(system, draw),
  ]);
  return recordHours(system, key, run, power);
}

/** What all units and the other loads draw from the bank while each unit draws a constant power. */
function bankLevel(system: System, draw: (u: System["units"][number]) => TracedValue | null): DrawLevel {
  const { units, inverter, loads, converted, beside } = system;
  const sum = (of: (u: (typeof units)[number]) => boolean) =>
    units.reduce((total, u) => total + (of(u) ? (draw(u)?.value ?? 0) : 0), 0);
  const mains = loads.mainsAverage + sum(({ direct }) => !direct);
  const direct = sum(({ direct, index }) => direct && !beside[index]);
  return {
    share: 1,
    pathPower: (converted ? dcInput(inverter, mains) : 0) + direct,
    sidePower: loads.dcAverage + sum(({ direct, index }) => direct && beside[index]!),
  };
}

function recordPower(
  system: System,
  key: HandKey,
  draw: (u: System["units"][number]) => TracedValue | null,
): TracedValue {
  const { figures, units, loads, inverter, converted } = system;
  const [mains, direct] = [units.filter((u) => !u.direct), units.filter((u) => u.direct)];
  const drawn = (list: typeof units) => list.filter((u) => draw(u) !== null).map((u) => `P_${u.index + 1}`);
  const relation = [
    converted ? `P_0 + (1 + a) × (${[...drawn(mains), "P_o"].join(" + ")}) + b × (…)² ÷ S_n` : "",
    ...drawn(direct),
    "P_dc",
  ]
    .filter(Boolean)
    .join(" + ");
  const { pathPower, sidePower } = bankLevel(system, draw);
  return record(
    figures,
    `lasts.${key}.power`,
    `Battery power, ${HAND_WORDS[key]}`,
    "power",
    pathPower + sidePower,
    `P_d = ${relation}`,
    [
      ...units.flatMap((u) => {
        const figure = draw(u);
        return figure ? [of(`P_${u.index + 1}`, figure)] : [];
      }),
      ...(converted
        ? [
            constant("P_o", "Other AC loads, average", loads.mainsAverage, "power", "brief, by their duty cycle"),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
            constant("a", "Loss per watt", inverter.lossShare, "number", "inverter"),
            constant("b", "Additional loss at full load", inverter.lossRise, "number", "inverter"),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      constant("P_dc", "DC loads, average", loads.dcAverage, "power", "brief, by their duty cycle"),
    ],
    "inverter loss curve",
  );
}

function recordHours(system: System, mode: HandKey, run: RunDown, power: TracedValue): ModeHours {
  const { figures, bank, path, values } = system;
  const end = Math.max(run.cutOffSoc, Math.min(bank.startSoc, bank.reserveSoc));
  const usable = record(
    figures,
    `lasts.${mode}.usable`,
    `Usable charge, ${named(mode)}`,
    "charge",
    bank.capacityAh * (bank.startSoc - end),
    "Q = C × max(0, s_0 − s_r)",
    [
      of("C", figures["bank.capacity"]!),
      given("s_0", values.bank.startShare),
      run.cutOffSoc > bank.reserveSoc
        ? constant(
            "s_r",
            "State of charge at the cut-off",
            run.cutOffSoc,
            "ratio",
            run.cutOffBy === "inverter"
              ? "the inverter's cut-off comes before the reserve"
              : "the BMS low-voltage cut-off comes before the reserve",
          )
        : given("s_r", values.bank.reserve),
    ],
  );
  const middle = (bank.startSoc + end) / 2;
  const mean = record(
    figures,
    `lasts.${mode}.current`,
    `Average battery current, ${named(mode)}`,
    "current",
    run.meanCurrent,
    "I = (E − √(E² − 4 × R × P_d)) ÷ (2 × R) × (I ÷ I_h)^(k − 1)",
    [
      constant(
        "E",
        "Open-circuit voltage, middle of the run",
        openCircuitVoltage(bank, middle),
        "voltage",
        "rises and falls with the state of charge",
      ),
      constant("R", "Battery and path", bank.innerResistance + path.resistance, "resistance", "in series"),
      of("P_d", power),
      constant("I_h", "Current the capacity is stated for", bank.ratedCurrent, "current", "capacity over its hours"),
      given("k", values.bank.peukert),
    ],
    "stepped over 200 states of charge and averaged; Peukert, t = H (C / (I H))^k, where the chemistry asks for it",
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
            : "until the BMS low-voltage cut-off",
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
    cutOffShare: run.cutOffSoc,
    cutOffBy: run.cutOffBy,
  };
}
