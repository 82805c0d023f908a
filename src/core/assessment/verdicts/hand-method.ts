import { openCircuitVoltage } from "../../models/battery/battery";
import { openCircuitSteps, runDown, type DrawLevel, type RunDown } from "../../simulation/run-down/run-down";
import { dcInput } from "../../models/inverter/inverter";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import { MODES, type Mode } from "../../models/air-conditioner/air-conditioner";
import { farCutOff, farEnd } from "../../models/system/allowed";
import type { System } from "../../models/system/system";

export interface ModeHours {
  mode: HandKey;
  /** Seconds, and the same with their working. */
  toReserve: number;
  toCutOff: number;
  reserveFigure: TracedValue;
  cutOffFigure: TracedValue;
  meanCurrent: number;
  cutOffSoc: number;
  cutOffBy: EndedBy;
}

/** What ends a run by the hand method: at the end of the main run the inverter or a DC unit. */
export type EndedBy = "empty" | "inverter" | "unit" | "bank";

const CUT_OFF_WORDS: Record<Exclude<EndedBy, "empty">, string> = {
  inverter: "the inverter's cut-off",
  unit: "the unit's cut-off",
  bank: "the BMS low-voltage cut-off",
};

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
    traced({
      key: `unit.${u.index}.holding`,
      name: "Average power, holding the set point",
      dimension: "power",
      value: unitPower[u.index]!,
      relation: "P_h = P_m",
      terms: () => [
        constant(
          "P_m",
          "Mean of the run",
          unitPower[u.index]!,
          "power",
          "design day, from cooled down to the end of the use",
        ),
      ],
      source: "coupled run of cabin, unit, sun and battery",
    }),
  );
  return handHours(system, "holding", (u) => held[u.index]!, openCircuitSteps(system.bank));
}

/** A run down to its end, and what that was. */
type HandRun = Omit<RunDown, "cutOffBy"> & { cutOffBy: EndedBy };

function handHours(
  system: System,
  key: HandKey,
  draw: (u: System["units"][number]) => TracedValue | null,
  rest: Float64Array,
): ModeHours {
  const power = powerFigure(system, key, draw);
  const { bank, wiring } = system;
  // A DC unit at the end of the path switches off there only while it runs.
  const units = system.units.map((unit) => ({ ...unit, direct: unit.direct && (draw(unit)?.value ?? 0) > 0 }));
  const running = { ...system, units };
  const run = runDown({ bank, rest, pathResistance: wiring.resistance, cutOffVoltage: farCutOff(running) }, [
    bankLevel(system, draw),
  ]);
  const endedBy = run.cutOffBy === "inverter" ? farEnd(running) : run.cutOffBy;
  return hoursFigures(system, key, { ...run, cutOffBy: endedBy }, power);
}

/** What all units and the other loads draw from the battery while each unit draws a constant power. */
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

function powerFigure(
  system: System,
  key: HandKey,
  draw: (u: System["units"][number]) => TracedValue | null,
): TracedValue {
  const { units, loads, inverter, converted } = system;
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
  return traced({
    key: `lasts.${key}.power`,
    name: `Battery power, ${HAND_WORDS[key]}`,
    dimension: "power",
    value: pathPower + sidePower,
    relation: `P_d = ${relation}`,
    terms: () => [
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
    source: "inverter loss curve",
  });
}

function hoursFigures(system: System, mode: HandKey, run: HandRun, power: TracedValue): ModeHours {
  const { bank } = system;
  const end = Math.max(run.cutOffSoc, Math.min(bank.startSoc, bank.reserveSoc));
  const usable = usableCharge(system, mode, run, end);
  const mean = meanCurrent(system, mode, { run, power, end });
  const reserve = traced({
    key: `lasts.${mode}.reserve`,
    name: `To the reserve, ${named(mode)}`,
    dimension: "duration",
    value: run.toReserve,
    relation: "t = Q ÷ I",
    terms: () => [of("Q", usable), of("I", mean)],
    source: "charge over counted current",
  });
  const cutOff = traced({
    key: `lasts.${mode}.cutOff`,
    name: `To the cut-off, ${named(mode)}`,
    dimension: "duration",
    value: run.toCutOff,
    relation: "t = t_r + t_e",
    terms: () => [
      of("t_r", reserve),
      constant(
        "t_e",
        "From the reserve to the end",
        run.toCutOff - run.toReserve,
        "duration",
        run.cutOffBy === "empty" ? "until empty" : `until ${CUT_OFF_WORDS[run.cutOffBy]}`,
      ),
    ],
  });
  return {
    mode,
    toReserve: run.toReserve,
    toCutOff: run.toCutOff,
    reserveFigure: reserve,
    cutOffFigure: cutOff,
    meanCurrent: run.meanCurrent,
    cutOffSoc: run.cutOffSoc,
    cutOffBy: run.cutOffBy,
  };
}

function usableCharge(system: System, mode: HandKey, run: HandRun, end: number): TracedValue {
  const { bank, values } = system;
  return traced({
    key: `lasts.${mode}.usable`,
    name: `Usable charge, ${named(mode)}`,
    dimension: "charge",
    value: bank.capacityAh * (bank.startSoc - end),
    relation: "Q = C × max(0, s_0 − s_r)",
    terms: () => [
      of("C", system.bankFigures.capacity),
      given("s_0", values.bank.startSoc),
      run.cutOffSoc > bank.reserveSoc && run.cutOffBy !== "empty"
        ? constant(
            "s_r",
            "State of charge at the cut-off",
            run.cutOffSoc,
            "ratio",
            `${CUT_OFF_WORDS[run.cutOffBy]} comes before the reserve`,
          )
        : given("s_r", values.bank.reserve),
    ],
  });
}

function meanCurrent(
  { bank, wiring, values }: System,
  mode: HandKey,
  { run, power, end }: { run: HandRun; power: TracedValue; end: number },
): TracedValue {
  const middle = (bank.startSoc + end) / 2;
  return traced({
    key: `lasts.${mode}.current`,
    name: `Average battery current, ${named(mode)}`,
    dimension: "current",
    value: run.meanCurrent,
    relation: "I = (E − √(E² − 4 × R × P_d)) ÷ (2 × R) × (I ÷ I_h)^(k − 1)",
    terms: () => [
      constant(
        "E",
        "Open-circuit voltage, middle of the run",
        openCircuitVoltage(bank, middle),
        "voltage",
        "rises and falls with the state of charge",
      ),
      constant("R", "Battery and path", bank.innerResistance + wiring.resistance, "resistance", "in series"),
      of("P_d", power),
      constant("I_h", "Current the capacity is stated for", bank.ratedCurrent, "current", "capacity over its hours"),
      given("k", values.bank.peukert),
    ],
    source:
      "stepped over 200 states of charge and averaged; Peukert, t = H (C / (I H))^k, where the chemistry asks for it",
  });
}
