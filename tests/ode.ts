import { Solver } from "./odex";
import { LATENT_HEAT, moistAir, wetBulbOf } from "@/core/reference/air/moist";
import { openCircuitVoltage } from "@/core/models/battery/battery";
import { COOLING_LAG_S } from "@/core/simulation/kernel/unit";
import { LEAST_RUN_S, SENSOR_LAG_S } from "@/core/simulation/kernel/control";
import type { SimulationInput } from "@/core/simulation/day/input";
import { heatFactor } from "@/core/models/air-conditioner/air-conditioner";

/**
 * The coupled run's equations for one fixed-speed unit behind an inverter, as differential equations for the package
 * odex: inputs constant within a step as the run has them, everything else continuous. Thermostat and minimum off time
 * are found by halving, to a hundredth of a second. State: air, mass (degC), humidity ratio, share of charge, slow
 * volts, joules out of the battery's terminals, the thermostat's sensor (degC). Battery never full and never cut: choose systems for which that is so.
 */
export function odeRun(input: SimulationInput, tolerance: number) {
  const { job, weather, schedule, surroundings, warmUpSteps } = input;
  const { cabin, bank, inverter } = job;
  const unit = job.units[0]!;
  const air = moistAir(weather.pressurePa);
  const holds = ((cabin.volume * weather.pressurePa) / (287.055 * 298)) * 8;
  const slowR = 0.5 * bank.cellResistance;
  const rest = Float64Array.from({ length: 1002 }, (_, p) => openCircuitVoltage(bank, Math.min(1, p / 1000)));
  let i = 0;
  let on = false;
  let since = 3600;
  let segmentAt = 0;
  let evaluations = 0;
  let secondsOn = 0;
  const right = (x: number, [Ta, Tm, w, s, v, , sensed]: number[]): number[] => {
    evaluations++;
    const mode = i < warmUpSteps ? 0 : schedule.mode[0]![i]!;
    const at = weather.outdoorC[i]! + unit.condenserRise;
    let cooling = 0;
    let drying = 0;
    let draw = 0;
    if (on) {
      const wetBulb = wetBulbOf(air, Ta!, w!);
      const wet = Math.min(1.3, Math.max(0.6, 1 + 0.015 * (wetBulb - 19)));
      const full = unit.capacity * Math.max(0.3, 1 - unit.capacityPerKelvin * (at - 35)) * wet;
      const q = full * (1 - Math.exp(-(since + x - segmentAt) / COOLING_LAG_S));
      const dry = (1 - unit.sensibleHeatRatio) * Math.min(1.6, Math.max(0, (w! - 0.0072) / (0.0111 - 0.0072)));
      cooling = q * (1 - dry);
      drying = q * dry;
      draw =
        unit.power *
        heatFactor(unit.powerPerKelvin, at, unit.knownAtC) *
        Math.min(1.1, Math.max(0.9, 1 + 0.005 * (wetBulb - 19)));
    } else if (mode === 1 || (mode > 1 && unit.fanBetween)) draw = unit.fan;
    const demand = draw + job.mainsLoad;
    const onPath =
      demand +
      inverter.idlePower +
      inverter.lossShare * demand +
      (inverter.lossRise * demand * demand) / inverter.rating;
    const cell = Math.floor(s! * 1000);
    const E = rest[cell]! + (rest[cell + 1]! - rest[cell]!) * (s! * 1000 - cell) - v!;
    let current = 0;
    let bus = E;
    for (let round = 0; round < 3; round++) {
      const side: number = (job.dcLoad - input.solar[i]!) / bus;
      const seen = E - side * bank.innerResistance;
      const path =
        (2 * onPath) / (seen + Math.sqrt(seen * seen - 4 * (bank.innerResistance + job.pathResistance) * onPath));
      current = path + side;
      bus = E - current * bank.innerResistance;
    }
    const changes = surroundings.changes[i]!;
    const G = cabin.heatLoss + changes;
    return [
      (surroundings.skin[i]! +
        changes * weather.outdoorC[i]! -
        G * Ta! +
        cabin.coupling * (Tm! - Ta!) +
        surroundings.airHeat[i]! -
        cooling) /
        cabin.airHeatCapacity,
      (cabin.coupling * (Ta! - Tm!) + surroundings.massHeat[i]!) / cabin.massHeatCapacity,
      (surroundings.changesFlow[i]! * (weather.humidity[i]! - w!) + schedule.moisture[i]! - drying / LATENT_HEAT) /
        holds,
      i < warmUpSteps ? 0 : -(current * (current < 0 ? 0.99 : 1)) / (bank.capacityAh * 3600),
      i < warmUpSteps ? 0 : (current * slowR - v!) / 300,
      i < warmUpSteps ? 0 : bus * current,
      (Ta! - sensed!) / SENSOR_LAG_S,
    ];
  };
  const solver = new Solver(7);
  solver.absoluteTolerance = [1, 1, 1e-3, 1e-2, 1, 1e5, 1].map((size) => size * tolerance);
  solver.relativeTolerance = [0, 0, 0, 0, 0, 0, 0];
  solver.initialStepSize = 30;
  const step = (state: number[], seconds: number) => solver.solve(right, segmentAt, state, segmentAt + seconds).y;
  const firstC = weather.outdoorC[0]!;
  let state = [firstC, firstC, weather.humidity[0]!, input.startSoc, 0, 0, firstC];
  const cabinC: number[] = [];
  const share: number[] = [];
  for (; i < weather.steps; i++) {
    const asked = i >= warmUpSteps && schedule.mode[0]![i]! >= 2;
    const level = schedule.setPointC[0]![i]!;
    let left = weather.stepS;
    while (left > 1e-6) {
      if (!asked) on = false;
      else if (input.neverResting) {
        if (!on) since = 0;
        on = true;
      }
      const cycles = asked && !input.neverResting;
      const beyond = (sensed: number) => (on ? sensed <= level - unit.band / 2 : sensed >= level + unit.band / 2);
      const least = on ? LEAST_RUN_S : unit.minimumOff;
      if (cycles && beyond(state[6]!) && since >= least - 1e-6) {
        on = !on;
        since = 0;
      }
      let h = left;
      const due = (on ? LEAST_RUN_S : unit.minimumOff) - since;
      if (cycles && due > 0) h = Math.min(h, due);
      let next = step(state, h);
      if (cycles && beyond(next[6]!) && !beyond(state[6]!)) {
        let [low, high] = [0, h];
        while (high - low > 0.01) {
          const middle = (low + high) / 2;
          if (beyond(step(state, middle)[6]!)) high = middle;
          else low = middle;
        }
        h = high;
        next = step(state, h);
      }
      state = next;
      since += h;
      if (on && i >= warmUpSteps) secondsOn += h;
      segmentAt += h;
      left -= h;
    }
    if (i >= warmUpSteps) {
      cabinC.push(state[0]!);
      share.push(state[3]!);
    }
  }
  return { cabinC, share, joules: state[5]!, state, evaluations, secondsOn };
}
