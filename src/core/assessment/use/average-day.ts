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

/** The mean of a run's days. */
export function averageDay({ run, clock, warmUpSteps }: Simulation): AverageDay {
  const hours = () => Array<number>(24).fill(0);
  const day: AverageDay = {
    solar: hours(),
    lost: hours(),
    engine: hours(),
    shore: hours(),
    generator: hours(),
    units: hours(),
    loads: hours(),
    losses: hours(),
  };
  const count = hours();
  const lines: [keyof AverageDay, Float32Array][] = [
    ["solar", run.solarUsed],
    ["lost", run.solarLost],
    ["engine", run.enginePower],
    ["shore", run.shorePower],
    ["generator", run.generatorPower],
    ["units", run.unitPower],
    ["loads", run.loadPower],
    ["losses", run.lossPower],
  ];
  for (let k = 0; k < run.steps; k++) {
    const hour = Math.floor((localSecond(clock, (warmUpSteps + k) * run.stepS) % 86_400) / 3600);
    count[hour] = count[hour]! + 1;
    for (const [key, line] of lines) day[key][hour] = day[key][hour]! + line[k]!;
  }
  for (const [key] of lines) day[key] = day[key].map((sum, hour) => (count[hour]! > 0 ? sum / count[hour]! : 0));
  return day;
}
