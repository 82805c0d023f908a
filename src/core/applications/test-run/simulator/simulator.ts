import { coupledRun } from "../../../simulation/day/run";
import { inputOf } from "../../../simulation/day/simulate";
import { seeded } from "../../../units/random";
import { offsetAt } from "../../../units/clock";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { cabinModel } from "../../../models/cabin/cabin";
import type { Job } from "../../../document/schema";
import { timeZoneOfJob } from "../../../document/place";
import { buildSystem } from "../../../models/system/build";
import type { Reading } from "../log/readings";
import { fixedSpeed, onBattery } from "../../../document/unit-kinds";

/*
 * An instrument that is not there: a shunt monitor and a clamp on a system whose true values are hidden. It makes the demo
 * live, and lets an apprentice commission a system, find its fault and compare with the truth.
 */

export const FAULTS = [
  "thin-cable",
  "bad-lug",
  "hot-breaker",
  "unlearned-soft-starter",
  "clogged-strainer",
  "shaded-panel",
  "wrong-monitor",
  "tired-bank",
] as const;
export type FaultKey = (typeof FAULTS)[number];

export const FAULT_NAMES: Record<FaultKey, string> = {
  "thin-cable": "Thin cable from battery to inverter",
  "bad-lug": "A lug that was never crimped well",
  "hot-breaker": "A tired, hot breaker in the main circuit",
  "unlearned-soft-starter": "Soft starter that has not learned",
  "clogged-strainer": "Clogged strainer on the cooling water, or a blocked condenser",
  "shaded-panel": "A panel in the shade all day",
  "wrong-monitor": "Monitor set to the wrong capacity",
  "tired-bank": "Battery aged",
};

export interface SimulatorSetup {
  seed: number;
  faults: FaultKey[];
  /** Seconds between readings: 5 to 300. */
  every: number;
  /** Charge it begins at, 0.2 to 1; the system's own where it is not said. */
  startSoc?: number | undefined;
}

/** What was hidden, for the comparison afterwards. */
export interface SimulatorTruth {
  faults: FaultKey[];
  heatLoss: number;
  bankAh: number;
  pathResistance: number;
  /** A that the monitor reads too much, and Ah it is set to. */
  zero: number;
  monitorAh: number;
  startSoc: number;
  /** Hours from the first reading until the reserve and the cut-off; null where the run ends before. */
  hoursToReserve: number | null;
  hoursToCutoff: number | null;
}

/** What a meter would show at other places at a moment: the apprentice's probes. */
export interface Probes {
  bankVolts: number;
  inverterVolts: number;
  lugC: number;
  cableC: number;
  breakerC: number;
  waterC: number | null;
}

export interface Simulator {
  readings: Reading[];
  truth: SimulatorTruth;
  probesAt(index: number): Probes;
}

/** Of the plan, what goes on in a test run: nobody drives or plugs in meanwhile. */
const TAKEN_ALONG = ["people", "open", "shade", "load"];
/** Longest a simulator runs, s. */
const LONGEST_S = 24 * 3600;
/** The unit is switched on this long after the first reading: the base is seen before it. */
const BASE_S = 300;
/** An unlearned soft starter's peak over that of a learned one, by start: it falls over about five starts. */
const UNLEARNED = [1.45, 1.38, 1.28, 1.16, 1.06];
const THIN = 2.6;
const BAD_LUG_OHM = 0.0022;
const BREAKER_OHM = 0.0011;
const MONITOR_WRONG = 1.5;

/** Makes the whole run of a simulator from its seed: the same seed and start give the same readings. */
// oxlint-disable-next-line max-lines-per-function -- one loop over the readings of a made-up log, fault by fault
export function makeSimulator(job: Job, setup: SimulatorSetup, startMs: number): Simulator {
  const random = seeded(setup.seed + 77);
  const spread = (width: number) => Math.exp(width * random.normal());
  const has = (fault: FaultKey) => setup.faults.includes(fault);
  const zone = timeZoneOfJob(job);
  const local = new Date(startMs + offsetAt(zone, startMs) * 1000);
  const visible = buildSystem(job);
  const cabin = cabinModel(visible.values, job);
  const lithium = CHEMISTRIES[job.bank.chemistry].lithium;
  const q = (value: number) => ({ value, origin: "measured" as const });
  const all = { id: "simulator-unit", kind: "unit" as const, from: 0, minutes: 1440, mode: "auto" as const };
  const planned = job.plan.patterns[0]?.spans.filter(({ kind }) => TAKEN_ALONG.includes(kind)) ?? [];
  const hidden: Job = {
    ...job,
    cabin: {
      ...job.cabin,
      heatLoss: q(cabin.heatLoss * spread(0.14)),
      slowMass: q(cabin.massHeatCapacity * spread(0.25)),
    },
    units: job.units.map((unit, i) => ({
      ...unit,
      coolingPower: q(visible.values.units[i]!.coolingPower.value * spread(0.06)),
      ...(has("clogged-strainer") && unit.condenser === "sea"
        ? { waterLeavingC: q(visible.values.place.seaC.value + 24) }
        : has("clogged-strainer")
          ? { condenserRise: q(14) }
          : {}),
    })),
    bank: {
      ...job.bank,
      condition: q(
        visible.values.bank.condition.value * (has("tired-bank") ? (lithium ? 0.74 : 0.58) : 0.98 * spread(0.03)),
      ),
      startSoc: q(Math.min(1, Math.max(0.05, (setup.startSoc ?? visible.bank.startSoc) - 0.01 - 0.02 * random.even()))),
      ...(has("tired-bank") ? { resistance: q(visible.values.bank.resistance.value * 2.2) } : {}),
    },
    sources: {
      ...job.sources,
      panels: job.sources.panels.map((panel, i) =>
        has("shaded-panel") && i === 0 ? { ...panel, shaded: q(0.85) } : panel,
      ),
    },
    brief: {
      ...job.brief,
      month: local.getUTCMonth() + 1,
      loads: job.brief.loads.map((load, i) => ({
        ...load,
        power: q(visible.values.loads[i]!.power.value * spread(0.2)),
      })),
    },
    plan: {
      ...job.plan,
      start: local.toISOString().slice(0, 10),
      patterns: [{ id: "simulator", name: "Test run", spans: [all, ...planned] }],
      week: [],
    },
  };
  const system = buildSystem(hidden);
  const stepS = 5;
  const minuteOfDay = local.getUTCHours() * 60 + local.getUTCMinutes();
  const { input, warmUpSteps } = inputOf(
    hidden,
    { days: LONGEST_S / 86_400, minuteOfDay, stepS, noOverload: true, weather: "generated", seed: setup.seed },
    system,
  );
  const excess = (has("bad-lug") ? BAD_LUG_OHM : 0) + (has("hot-breaker") ? BREAKER_OHM : 0);
  const pathResistance = system.wiring.resistance * (has("thin-cable") ? THIN : 1) + excess;
  input.job = { ...input.job, pathResistance };
  for (const mode of input.schedule.mode) mode.fill(0, 0, warmUpSteps + BASE_S / stepS);
  const run = coupledRun(input);

  const zero = 0.4 * random.normal();
  const plate = visible.bank.capacityAh;
  const monitorAh = has("wrong-monitor") ? plate * MONITOR_WRONG : plate;
  const startSoc = hidden.bank.startSoc!.value;
  const every = Math.max(1, Math.round(setup.every / stepS));
  const readings: Reading[] = [];
  const steps: number[] = [];
  const unit = job.units[0]!;
  const direct = onBattery(unit);
  const lockedRotor = visible.values.units[0]!.lockedRotorCurrent.value;
  const peak = !fixedSpeed(unit)
    ? 0
    : unit.startAid === "soft-starter"
      ? lockedRotor * (1 - visible.values.units[0]!.softReduction.value)
      : lockedRotor;
  let counted = 0;
  let starts = 0;
  let note: string | null = null;
  for (let k = 0; k < run.steps; k++) {
    const amps = -run.bankCurrent[k]!;
    counted -= ((amps + zero) * stepS) / 3600;
    if (k > 0 && run.compressor[k]! > 0 && run.compressor[k - 1] === 0 && peak > 0) {
      const factor = has("unlearned-soft-starter") ? (UNLEARNED[starts] ?? 1) : 1;
      starts++;
      note = `Start ${starts}: clamp peak ${(peak * factor * (1 + 0.02 * random.normal())).toFixed(1)} A`;
    }
    if (k % every !== 0) continue;
    const mains = system.converted ? Math.max(0, (direct ? 0 : run.unitPower[k]!) + system.loads.mainsAverage) : NaN;
    const values: Reading["values"] = {
      battery_current_a: round(amps + zero + 0.003 * amps * random.normal(), 1),
      battery_voltage_v: round(run.bankVolts[k]! + 0.008 * random.normal(), 2),
      soc_pct: round(100 * Math.min(1, Math.max(0, startSoc - counted / monitorAh)), 1),
      cabin_temp_c: round(run.cabinC[k]! + 0.12 * random.normal(), 1),
      outdoor_temp_c: round(run.outdoorC[k]! + 0.2 * random.normal(), 1),
    };
    if (hidden.sources.panels.length > 0) values.solar_power_w = Math.max(0, Math.round(run.solarUsed[k]!));
    if (!Number.isNaN(mains)) values.ac_power_w = Math.round(mains);
    readings.push({ timeMs: startMs + k * stepS * 1000, values, ...(note ? { note } : {}) });
    note = null;
    steps.push(k);
  }
  // Past the cut-off there is nothing to read.
  const stopAt = run.stop?.at ?? Infinity;
  const lasting = readings.filter((_, i) => steps[i]! * stepS <= stopAt + 60);
  return {
    readings: lasting,
    truth: {
      faults: setup.faults,
      heatLoss: hidden.cabin.heatLoss!.value,
      bankAh: system.bank.capacityAh,
      pathResistance,
      zero,
      monitorAh,
      startSoc,
      hoursToReserve: run.reserveAt === null ? null : run.reserveAt / 3600,
      hoursToCutoff: run.stop === null ? null : run.stop.at / 3600,
    },
    probesAt(index) {
      const k = steps[Math.min(steps.length - 1, Math.max(0, index))] ?? 0;
      // Forty minutes of current heat a joint: the mean square over them.
      const from = Math.max(0, k - 2400 / stepS);
      let square = 0;
      for (let i = from; i <= k; i++) square += run.bankCurrent[i]! ** 2 / (k - from + 1);
      const air = run.outdoorC[k]!;
      const cableC = air + 0.0009 * square * (has("thin-cable") ? THIN : 1);
      const heat = (ohm: number) => square * ohm * 3.2;
      return {
        bankVolts: run.bankVolts[k]!,
        inverterVolts: run.bankVolts[k]! - run.bankCurrent[k]! * pathResistance,
        lugC: cableC + heat(0.0001 + (has("bad-lug") ? BAD_LUG_OHM : 0)),
        cableC,
        breakerC: cableC + heat(0.0003 + (has("hot-breaker") ? BREAKER_OHM : 0)),
        waterC: unit.condenser === "sea" ? system.values.place.seaC.value + (has("clogged-strainer") ? 24 : 11) : null,
      };
    },
  };
}

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;
