import type { StopCause } from "../kernel/supply";

/** A run's record by step, and its totals. Arrays begin after the priming steps; powers are means over the step. */
export interface SimulationResult {
  stepS: number;
  steps: number;
  /** State of charge at the end of each step, cabin and slow-mass temperature, humidity ratio. */
  stateOfCharge: Float32Array;
  cabinC: Float32Array;
  massC: Float32Array;
  humidity: Float32Array;
  outdoorC: Float32Array;
  /** Share of the step that compressors ran, weighed by speed. */
  compressor: Float32Array;
  bankVolts: Float32Array;
  inverterVolts: Float32Array;
  bankCurrent: Float32Array;
  unitPower: Float32Array;
  loadPower: Float32Array;
  lossPower: Float32Array;
  solarUsed: Float32Array;
  solarLost: Float32Array;
  enginePower: Float32Array;
  shorePower: Float32Array;
  generatorPower: Float32Array;
  totals: SimulationTotals;
  /** Seconds from the first counted step. */
  reserveAt: number | null;
  stop: { at: number; cause: StopCause } | null;
  /** Seconds of each supply cut: from the first cut to the last. */
  secondsCut: number;
}

/** Sums of a run: J unless said. */
export interface SimulationTotals {
  solarUsed: number;
  solarLost: number;
  engine: number;
  shore: number;
  generator: number;
  units: number;
  loads: number;
  inverterLoss: number;
  pathLoss: number;
  bankLoss: number;
  chargerLoss: number;
  /** Out of the battery's store over the run; negative where it filled. */
  fromStore: number;
  /** Heat taken out of the cabin's air and out of its moisture. */
  cooledSensible: number;
  cooledLatent: number;
  /** Heat that came in, and what air and mass hold more than at the start. */
  heatIn: number;
  heatStored: number;
  /** Seconds that a unit was asked to cool, that the cabin was at its set point meanwhile, K h that it was missed by. */
  secondsAsked: number;
  secondsMet: number;
  degreeHoursMissed: number;
  secondsCompressor: number;
  /** Seconds that the generator ran, and litres that it burnt. */
  secondsGenerator: number;
  fuelLitres: number;
  /** A h through the battery, out. */
  ampHoursOut: number;
}

const noTotals = (): SimulationTotals => ({
  solarUsed: 0,
  solarLost: 0,
  engine: 0,
  shore: 0,
  generator: 0,
  units: 0,
  loads: 0,
  inverterLoss: 0,
  pathLoss: 0,
  bankLoss: 0,
  chargerLoss: 0,
  fromStore: 0,
  cooledSensible: 0,
  cooledLatent: 0,
  heatIn: 0,
  heatStored: 0,
  secondsAsked: 0,
  secondsMet: 0,
  degreeHoursMissed: 0,
  secondsCompressor: 0,
  secondsGenerator: 0,
  fuelLitres: 0,
  ampHoursOut: 0,
});

/** A record of so many steps, with nothing in it yet. */
export function emptyResult(stepS: number, steps: number): SimulationResult {
  const series = () => new Float32Array(steps);
  return {
    stepS,
    steps,
    stateOfCharge: series(),
    cabinC: series(),
    massC: series(),
    humidity: series(),
    outdoorC: series(),
    compressor: series(),
    bankVolts: series(),
    inverterVolts: series(),
    bankCurrent: series(),
    unitPower: series(),
    loadPower: series(),
    lossPower: series(),
    solarUsed: series(),
    solarLost: series(),
    enginePower: series(),
    shorePower: series(),
    generatorPower: series(),
    totals: noTotals(),
    reserveAt: null,
    stop: null,
    secondsCut: 0,
  };
}

/** Sums over one step, J; A s of current and s of compressor. */
export interface StepSums {
  units: number;
  loads: number;
  losses: number;
  solarUsed: number;
  solarLost: number;
  engine: number;
  shore: number;
  generator: number;
  compressor: number;
  current: number;
}

export const noSums = (): StepSums => ({
  units: 0,
  loads: 0,
  losses: 0,
  solarUsed: 0,
  solarLost: 0,
  engine: 0,
  shore: 0,
  generator: 0,
  compressor: 0,
  current: 0,
});

export function clearSums(sums: StepSums): void {
  sums.units = 0;
  sums.loads = 0;
  sums.losses = 0;
  sums.solarUsed = 0;
  sums.solarLost = 0;
  sums.engine = 0;
  sums.shore = 0;
  sums.generator = 0;
  sums.compressor = 0;
  sums.current = 0;
}
