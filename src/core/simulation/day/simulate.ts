import { buildSystem } from "../../models/system/build";
import type { System } from "../../models/system/system";
import type { Job } from "../../document/schema";
import { assembled, assembledParameters, withSpread, type Assembled, type Question, type Simulation } from "./assemble";
import type { SimulationParameters } from "./input";
import { measuredHeatLoss } from "./measured-load";
import { coupledRun, warmedUp } from "./run";

export { climateOf, siteOf, STEP_S, type Question, type Simulation, type WeatherKind } from "./assemble";

/** What a run holds constant, from a system. */
export const simulationParameters = (system: System, noOverload = false): SimulationParameters =>
  assembledParameters(system, noOverload, measuredHeatLoss(system)?.value);

/** What the coupled run of a question is given. */
export const inputOf = (job: Job, question: Question, system: System = buildSystem(job)): Assembled =>
  assembled(job, question, system, measuredHeatLoss(system)?.value);

const begun = new WeakMap<System, Map<string, Assembled>>();
/** Questions that are kept for a system: what `assessDay` asks, with its searches by mild, hot and own day. */
const KEPT_QUESTIONS = 12;

/**
 * What the run of a question is given, its cabin warmed up. Kept for a system's own job: a search asks the same question with
 * another charge or more energy a hundred times.
 */
function keptInput(system: System, question: Omit<Question, "startSoc" | "extraPerDay">): Assembled {
  let kept = begun.get(system);
  if (!kept) begun.set(system, (kept = new Map()));
  const key = JSON.stringify(question);
  let found = kept.get(key);
  if (!found) {
    found = inputOf(system.job, question, system);
    found.input.warmedUp = warmedUp(found.input);
    if (kept.size >= KEPT_QUESTIONS) kept.clear();
    kept.set(key, found);
  }
  return found;
}

/** Runs a system through its plan and weather. */
export function simulate(job: Job, question: Question, system: System = buildSystem(job)): Simulation {
  if (job !== system.job) {
    const { input, ...rest } = inputOf(job, question, system);
    return { run: coupledRun(input), ...rest };
  }
  const { startSoc = system.bank.startSoc, extraPerDay, ...asked } = question;
  const { input, ...rest } = keptInput(system, asked);
  const solar = extraPerDay ? withSpread(input.solar, input.weather, extraPerDay) : input.solar;
  return { run: coupledRun({ ...input, startSoc, solar }), ...rest };
}
