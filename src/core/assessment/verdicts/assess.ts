import type { WiringModel } from "../../models/wiring/circuits";
import type { Rig } from "../../document/schema";
import type { RigValues } from "../../document/resolve";
import type { StartTrace } from "../../simulation/start/start";
import type { Trace } from "../../units/trace";
import type { UnitDraws } from "../../models/air-conditioner/air-conditioner";
import { buildSystem } from "../../models/system/build";
import { assessCarries } from "../carries/carries";
import { conditionsOf, type Conditions } from "./conditions";
import type { Verdict } from "../checks/check";
import { assessHandMethod, type ModeHours } from "./hand-method";
import { noticesOf, type Notice } from "./notices";
import type { Compartment } from "../checks/loads-and-heat";
import { assessStarts, type Ladder } from "../starts/starts";
import type { Rule } from "../checks/layout-checks";

export interface Assessment {
  verdicts: { starts: Verdict; carries: Verdict };
  figures: Trace;
  values: RigValues;
  units: UnitDraws[];
  path: WiringModel;
  /** A through each run at the worst simultaneous use, by its path in the document. */
  currents: Record<string, number>;
  /** Share of the current of each battery in parallel; a single entry where they share equally. */
  shares: number[];
  rules: Rule[];
  compartment: Compartment | null;
  start: {
    /** The start as the rig is: with its cure, at reserve. */
    own: StartTrace;
    /** The same with no cure, where the unit has one. */
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
 * Assesses a rig: the one way from a document to its verdicts, used by the screen, the command line and the tests.
 * Pure and total: a valid document always gives finite figures; what cannot work is a verdict and not an error.
 */
export function assess(rig: Rig): Assessment {
  const system = buildSystem(rig);
  const { verdict: starts, ...start } = assessStarts(system);
  const { verdict: carries, rules, compartment, currents } = assessCarries(system);
  const hours = assessHandMethod(system);
  const { figures, values, units, path, bank } = system;
  return {
    verdicts: { starts, carries },
    figures,
    values,
    units,
    path,
    currents,
    shares: bank.shares,
    rules,
    compartment,
    start,
    conditions: conditionsOf(rig, values),
    hours,
    notices: noticesOf(system, start, compartment),
  };
}
