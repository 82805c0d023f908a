import { allCircuits, type WiringModel } from "../../models/wiring/circuits";
import type { Job } from "../../document/schema";
import type { StartTrace } from "../../simulation/start/start";
import { TracedValue, type Trace, withFigures } from "../../units/trace";
import type { UnitDraws } from "../../models/air-conditioner/air-conditioner";
import { buildSystem } from "../../models/system/build";
import { assessCarries, type CarriesResult } from "../carries/carries";
import { conditionsOf, type Conditions } from "./conditions";
import { type Verdict, figuresOfChecks } from "../judge/judge";
import type { Compartment } from "../needs/compartment";
import { assessHandMethod, type ModeHours } from "./hand-method";
import { noticesOf, type Notice } from "./notices";
import type { Ladder } from "../starts/ladders";
import { assessStarts } from "../starts/starts";
import type { System } from "../../models/system/system";
import type { JobValues } from "../../document/resolved";

export interface Assessment {
  verdicts: { starts: Verdict; carries: Verdict };
  figures: Trace;
  values: JobValues;
  units: UnitDraws[];
  wiring: WiringModel;
  /** A through each run at the worst simultaneous use, by its path in the document. */
  currents: Record<string, number>;
  /** A through the parts of the main circuit before its busbar, and the last of them; null where no busbar joins other circuits. */
  shared: CarriesResult["shared"];
  /** Share of the current of each battery in parallel; a single entry where they share equally. */
  shares: number[];
  compartment: Compartment | null;
  start: {
    /** The start as the system is: with its start aid, at reserve. */
    own: StartTrace;
    /** The same with no start aid, where the unit has one. */
    bare: StartTrace | null;
    /** What a soft starter would make of it, where it fails without. */
    softStarter: { margin: number; peakApparent: number } | null;
    /** Rest voltage down to the inverter at the start peak, at reserve and as charged. */
    ladders: Ladder[];
  };
  /** The conditions that every figure stands on. */
  conditions: Conditions;
  /** By the hand method: off, fan, low fan and compressor always on. */
  hours: ModeHours[];
  notices: Notice[];
}

/**
 * Assesses a system: the one way from a document to its verdicts, used by the screen, the command line and the tests.
 * Pure and total: a valid document always gives finite figures; what cannot work is a verdict and not an error.
 */
export function assess(job: Job): Assessment {
  const system = buildSystem(job);
  const { verdict: starts, ...start } = assessStarts(system);
  const carrying = assessCarries(system);
  const { verdict: carries, compartment, currents, shared } = carrying;
  const hours = assessHandMethod(system);
  const { values, units, wiring, bank } = system;
  const result = {
    verdicts: { starts, carries },
    values,
    units,
    wiring,
    currents,
    shared,
    shares: bank.shares,
    compartment,
    start,
    conditions: conditionsOf(job, values),
    hours,
    notices: noticesOf(system, {
      start: start.own,
      ladders: start.ladders,
      compartment,
      pathCurrent: carrying.pathCurrent.value,
    }),
  };
  return withFigures(result, () => figuresOf(system, { starts, carries, ladders: start.ladders, hours, carrying }));
}

/** Everything that the sheet shows with its working. */
function* figuresOf(
  { bankFigures, units, wiring }: System,
  parts: {
    starts: Verdict;
    carries: Verdict;
    ladders: Ladder[];
    hours: ModeHours[];
    carrying: CarriesResult;
  },
): Generator<TracedValue | null | undefined> {
  yield* Object.values(bankFigures);
  for (const { running, low, fan, holding, runningApparent } of units)
    yield* [running, low, fan, holding?.duty, holding?.average, runningApparent];
  yield wiring.resistanceFigure;
  for (const circuit of allCircuits(wiring)) {
    yield circuit.resistanceFigure;
    for (const { resistanceFigure, ampacity } of circuit.parts) yield* [resistanceFigure, ampacity];
  }
  yield* figuresOfChecks([...parts.starts.checks, ...parts.carries.checks]);
  for (const { figure, rungs } of parts.ladders) yield* [figure, ...rungs.map((rung) => rung.figure)];
  for (const { reserveFigure, cutOffFigure } of parts.hours) yield* [reserveFigure, cutOffFigure];
  const { pathCurrent, bankCurrent, inverterRating, compartment } = parts.carrying;
  yield* [pathCurrent, bankCurrent, inverterRating, compartment?.heat, compartment?.vent];
}
