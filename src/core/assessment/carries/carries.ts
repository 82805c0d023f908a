import type { System } from "../../models/system/system";
import { allCircuits } from "../../models/wiring/circuits";
import type { RunPath } from "../../document/path";
import type { TracedValue } from "../../units/trace";
import { verdictOf, type Check, type Verdict } from "../judge/judge";
import { circuitLoad } from "../needs/circuit-load";
import { compartmentOf, type Compartment } from "../needs/compartment";
import { sharedOf } from "../needs/shared-parts";
import { everythingOn, outputLegs, ratingOfInverters, type Carrying } from "../needs/everything-on";
import { checksOfCircuit, checksOfSystem, type Asked } from "../rules/walk";

export interface CarriesResult {
  verdict: Verdict;
  /** The checks of each circuit, by its path. */
  ofCircuits: ReadonlyMap<RunPath, Check[]>;
  compartment: Compartment | null;
  /** A through each circuit with everything on, by its path. */
  currents: Record<string, number>;
  /** A through the parts of the main circuit before its busbar, and the last of them; null where no busbar joins other circuits. */
  shared: { current: number; upTo: number } | null;
  /** A along the main circuit and out of the battery with everything on. */
  pathCurrent: TracedValue;
  bankCurrent: TracedValue;
  /** VA that the inverters carry for hours at their temperature; null without one. */
  inverterRating: TracedValue | null;
}

interface Asking {
  which?: Asked;
  /** Of another system that differs in the parts of some circuits alone: what was found of the others, which is taken over. */
  found?: ReadonlyMap<RunPath, Check[]>;
}

/** Whether every part takes the worst simultaneous running draw for hours, at the reserve; fuses, heat and structure. `which` for margins alone. */
export function assessCarries(system: System, { which = "all", found }: Asking = {}): CarriesResult {
  const { wiring, converted } = system;
  const draw = everythingOn(system);
  const carrying: Carrying = {
    system,
    draw,
    inverterRating: converted ? ratingOfInverters(system) : null,
    outputs: converted ? outputLegs(system, draw.apparent) : [draw.apparent],
  };
  const ofCircuits = new Map<RunPath, Check[]>();
  let joined: CarriesResult["shared"] = null;
  const currents: Record<string, number> = {};
  for (const circuit of allCircuits(wiring, converted)) {
    const load = circuitLoad(system, circuit, draw.current, carrying.outputs);
    currents[circuit.path] = load.current.value;
    const shared = circuit.key === "main" ? sharedOf(system, load.current) : null;
    if (shared) joined = { current: shared.load.current.value, upTo: shared.upTo };
    ofCircuits.set(circuit.path, found?.get(circuit.path) ?? checksOfCircuit({ system, circuit, load, shared }, which));
  }
  return {
    verdict: verdictOf("Carries", [...[...ofCircuits.values()].flat(), ...checksOfSystem(carrying, which)]),
    ofCircuits,
    compartment: compartmentOf(system, draw.real),
    currents,
    shared: joined,
    pathCurrent: draw.current,
    bankCurrent: draw.bankCurrent,
    inverterRating: carrying.inverterRating,
  };
}
