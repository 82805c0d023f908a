import { moistAir, relativeHumidity } from "../../reference/air/moist";
import type { Clock } from "../../units/clock";
import type { SimulationTotals } from "./result";
import type { StopCause } from "../kernel/supply";
import type { Simulation } from "./simulate";

/**
 * A run's record as screens and files read it, by step; powers in W, means over the step. `clock` begins with the
 * record's first step.
 */
export interface DayRecord {
  stepS: number;
  steps: number;
  clock: Clock;
  /** State of charge at the end of each step. */
  stateOfCharge: Float32Array;
  cabinC: Float32Array;
  outdoorC: Float32Array;
  /** Relative humidity of the cabin, 0 to 1. */
  humidity: Float32Array;
  /** Share of the step that compressors ran, weighed by speed. */
  compressor: Float32Array;
  /** Set point of the first unit that is asked to cool; NaN where none is. */
  setPointC: Float32Array;
  /** Sun on the level, W/m2. */
  sun: Float32Array;
  sunPower: Float32Array;
  lost: Float32Array;
  engine: Float32Array;
  shore: Float32Array;
  generator: Float32Array;
  units: Float32Array;
  loads: Float32Array;
  losses: Float32Array;
  bankVolts: Float32Array;
  inverterVolts: Float32Array;
  bankCurrent: Float32Array;
  totals: SimulationTotals;
  reserveAt: number | null;
  stop: { at: number; cause: StopCause } | null;
  secondsCut: number;
}

/** The record of a run, without the day that primed its cabin. */
export function recordOf({ run, clock, weather, warmUpSteps, schedule }: Simulation): DayRecord {
  const { steps, stepS } = run;
  const air = moistAir(weather.pressurePa);
  const setPointC = new Float32Array(steps).fill(NaN);
  schedule.mode.forEach((mode, u) => {
    for (let k = 0; k < steps; k++)
      if (mode[warmUpSteps + k]! >= 2 && Number.isNaN(setPointC[k]!))
        setPointC[k] = schedule.setPointC[u]![warmUpSteps + k]!;
  });
  return {
    stepS,
    steps,
    clock: {
      timeZone: clock.timeZone,
      startMs: clock.startMs + warmUpSteps * stepS * 1000,
      offsets: clock.offsets.slice(Math.floor((warmUpSteps * stepS) / 3600)),
    },
    stateOfCharge: run.stateOfCharge,
    cabinC: run.cabinC,
    outdoorC: run.outdoorC,
    humidity: run.humidity.map((ratio, k) => relativeHumidity(air, run.cabinC[k]!, ratio)),
    compressor: run.compressor,
    setPointC,
    sun: Float32Array.from(weather.global.subarray(warmUpSteps, warmUpSteps + steps)),
    sunPower: run.solarUsed,
    lost: run.solarLost,
    engine: run.enginePower,
    shore: run.shorePower,
    generator: run.generatorPower,
    units: run.unitPower,
    loads: run.loadPower,
    losses: run.lossPower,
    bankVolts: run.bankVolts,
    inverterVolts: run.inverterVolts,
    bankCurrent: run.bankCurrent,
    totals: run.totals,
    reserveAt: run.reserveAt,
    stop: run.stop,
    secondsCut: run.secondsCut,
  };
}
