import { localSecond } from "../../units/clock";
import type { Simulation } from "../../simulation/day/simulate";

/** State of charge at a sunrise. */
export interface Sunrise {
  /** Seconds from the run's start. */
  at: number;
  share: number;
}

/** State of charge at each sunrise of a run; at six where the sun does not rise or set. */
export function sunrisesOf({ run, clock, warmUpSteps, weather }: Simulation): Sunrise[] {
  const sunrises: Sunrise[] = [];
  let day = NaN;
  let found = true;
  let six = 0;
  for (let k = 0; k < run.steps; k++) {
    const local = localSecond(clock, (warmUpSteps + k) * run.stepS);
    const here = Math.floor(local / 86_400);
    if (here !== day) {
      if (!found && six > 0) sunrises.push({ at: six * run.stepS, share: run.stateOfCharge[six]! });
      // The first part of a day counts only where the run saw its small hours.
      found = Number.isNaN(day) && local - here * 86_400 > 4 * 3600;
      day = here;
      six = 0;
    }
    if (six === 0 && local - here * 86_400 >= 6 * 3600) six = k;
    const altitude = weather.track.altitude;
    if (!found && altitude[warmUpSteps + k]! > 0 && altitude[warmUpSteps + k - 1]! <= 0) {
      sunrises.push({ at: k * run.stepS, share: run.stateOfCharge[k]! });
      found = true;
    }
  }
  if (!found && six > 0) sunrises.push({ at: six * run.stepS, share: run.stateOfCharge[six]! });
  return sunrises;
}
