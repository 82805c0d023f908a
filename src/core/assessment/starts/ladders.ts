import { openCircuitVoltage, coldFactor } from "../../models/battery/battery";
import { bankUnderLoad, type BankUnderLoad } from "../../models/battery/under-load";
import { lowestSoc, type System } from "../../models/system/system";
import { PART_NAMES } from "../../models/wiring/part";
import { farCutOff, farEnd } from "../../models/system/allowed";
import type { StartTrace } from "../../simulation/start/start";
import { constant, of, traced, type TracedValue } from "../../units/trace";

/** The state of the battery that a ladder of voltages is made for. */
export type LadderState = "reserve" | "charged" | "cold";

export interface Rung {
  name: string;
  /** Ohm. */
  resistance: number;
  /** The volts lost in this part, with their working. */
  figure: TracedValue;
  /** Volts lost in this part, and those left after it. */
  drop: number;
  left: number;
  /** W turned to heat in it while the peak lasts. */
  heat: number;
}

export interface Ladder {
  /** The state that it stands for, its state of charge and its name. */
  state: LadderState;
  share: number;
  title: string;
  rest: number;
  current: number;
  rungs: Rung[];
  /** What is at the far end, the volts there, and the cut-off there (0 where there is none). */
  farEnd: "inverter" | "unit";
  end: number;
  cutOff: number;
  collapsed: boolean;
  /** The volts at the far end, with their working. */
  figure: TracedValue;
}

interface Level {
  state: LadderState;
  share: number;
  title: string;
  /** Ohm of the cells. */
  cells: number;
}

/** Degrees Celsius of the cold that the third ladder stands for. */
const COLD_C = 0;

/** The voltage ladder at the start's largest draw: at the reserve, as charged, and at the reserve in the cold. */
export function laddersOf(system: System, own: StartTrace): Ladder[] {
  return levelsOf(system).map((level, index) => ladderOf(system, own, level, index));
}

function levelsOf(system: System): Level[] {
  const { bank, values } = system;
  const low = lowestSoc(system);
  const bankC = values.bank.temperatureC.value;
  const levels: Level[] = [{ state: "reserve", share: low, title: "at the reserve", cells: bank.cellResistance }];
  if (low < bank.startSoc)
    levels.push({ state: "charged", share: bank.startSoc, title: "as charged", cells: bank.cellResistance });
  if (bankC > COLD_C)
    levels.push({
      state: "cold",
      share: low,
      title: "reserve, at 0 °C",
      cells: (bank.cellResistance * coldFactor(COLD_C)) / coldFactor(bankC),
    });
  return levels;
}

function ladderOf(system: System, own: StartTrace, level: Level, index: number): Ladder {
  const { bank, wiring } = system;
  const { share, title, cells } = level;
  const rest = openCircuitVoltage(bank, share);
  const inner = bank.innerResistance - bank.cellResistance + cells;
  const state = bankUnderLoad(rest, inner, wiring.resistance, own.peakPathPower, own.peakSide);
  let left = rest;
  const rungs = resistancesOf(system, state, cells)
    .filter(({ ohms }) => ohms !== 0)
    .map(({ name, ohms, current, from }): Rung => {
      const figure = traced({
        key: `starts.ladder.${index}.${name}`,
        name: `Lost in ${name}, ${title}`,
        dimension: "voltage",
        value: ohms * current,
        relation: "ΔV = I × R",
        terms: () => [
          constant("I", "Current at the peak", current, "current", "constant power behind the resistances"),
          constant("R", "Resistance", ohms, "resistance", from),
        ],
        source: "Ohm",
      });
      const drop = figure.value;
      left -= drop;
      return { name, resistance: ohms, figure, drop, left, heat: drop * current };
    });
  const figure = traced({
    key: `starts.ladder.${index}`,
    name: `Volts at the ${farEnd(system)}, start peak, ${title}`,
    dimension: "voltage",
    value: left,
    relation: "V = E − I_b × R_b − I × R",
    terms: () => [
      constant("E", "Open-circuit voltage", rest, "voltage", title),
      constant("I", "Current at the peak", state.pathCurrent, "current", "constant power behind the resistances"),
      constant("I_b", "Battery current at that moment", state.bankCurrent, "current", "with the DC loads beside it"),
      constant("R_b", "Battery resistance", inner, "resistance", title),
      of("R", wiring.resistanceFigure),
    ],
    source: "constant power behind a resistance",
  });
  return {
    state: level.state,
    share,
    title,
    rest,
    current: state.pathCurrent,
    rungs,
    farEnd: farEnd(system),
    end: left,
    cutOff: farCutOff(system),
    collapsed: state.collapsed,
    figure,
  };
}

interface Resistance {
  name: string;
  ohms: number;
  /** A through it. */
  current: number;
  from: string;
}

/** What the current passes, from the cells to the far end. */
function resistancesOf({ bank, wiring }: System, state: BankUnderLoad, cells: number): Resistance[] {
  const inBank = (name: string, ohms: number, from: string) => ({ name, ohms, current: state.bankCurrent, from });
  return [
    inBank("cells", cells, "of the battery, in the cold if it is cold"),
    inBank("BMS", bank.protectionResistance, "half of a battery's own, or the board's"),
    inBank("links", bank.linkResistance, "between the batteries, by their layout"),
    ...wiring.main.parts.map(({ part, mark, resistance }) => ({
      name: part.kind === "joints" ? `terminations ${mark}` : `${part.name.trim() || PART_NAMES[part.kind]} ${mark}`,
      ohms: resistance,
      current: state.pathCurrent,
      from: part.kind === "cable" ? "size, length, conductor temperature" : "entered, or typical of its kind",
    })),
    {
      name: "unaccounted",
      // What a measurement found beside the parts: shared out to none of them.
      ohms: wiring.excess ?? 0,
      current: state.pathCurrent,
      from: "measured wiring, less its parts",
    },
  ];
}
