import { localSecond } from "../../units/clock";
import type { Simulation } from "../../simulation/day/simulate";

/** An average day of a run by local hour, W: what comes in and where it goes. */
export interface AverageDay {
  solar: number[];
  lost: number[];
  engine: number[];
  shore: number[];
  generator: number[];
  units: number[];
  loads: number[];
  losses: number[];
}

const HOURS = 24;

/** The mean of a run's days. */
export function averageDay({ run, clock, warmUpSteps }: Simulation): AverageDay {
  const hour = new Uint8Array(run.steps);
  const count = Array<number>(HOURS).fill(0);
  for (let k = 0; k < run.steps; k++) {
    const here = Math.floor((localSecond(clock, (warmUpSteps + k) * run.stepS) % 86_400) / 3600);
    hour[k] = here;
    count[here] = count[here]! + 1;
  }
  const mean = (line: Float32Array): number[] => {
    const sum = new Float64Array(HOURS);
    for (let k = 0; k < hour.length; k++) sum[hour[k]!] = sum[hour[k]!]! + line[k]!;
    return count.map((steps, at) => (steps > 0 ? sum[at]! / steps : 0));
  };
  return {
    solar: mean(run.solarUsed),
    lost: mean(run.solarLost),
    engine: mean(run.enginePower),
    shore: mean(run.shorePower),
    generator: mean(run.generatorPower),
    units: mean(run.unitPower),
    loads: mean(run.loadPower),
    losses: mean(run.lossPower),
  };
}
