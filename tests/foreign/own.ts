import { coupledRun } from "@/core/simulation/day/run";
import type { SimulationResult } from "@/core/simulation/day/result";
import { inputOf } from "@/core/simulation/day/simulate";
import { seeded } from "@/core/units/random";
import type { Job } from "@/core/document/schema";
import { buildSystem } from "@/core/models/system/build";
import { emptyReadings, type Readings } from "@/core/applications/test-run/log/readings";
import { resolveJob } from "@/core/document/resolve";
import { q } from "../jobs";
import type { ReserveBy } from "./score";
import { foreignRun } from "./simulator";

export interface OwnRun {
  job: Job;
  /** The system with what was hidden, and the run itself, in steps of ten seconds. */
  hidden: Job;
  run: SimulationResult;
  readings: Readings;
  reserveH: number;
  kind: { fixed: boolean; lead: boolean; sunny: boolean };
  reserveBy: ReserveBy;
}

/**
 * Of the middle of what is hidden: an installed unit cools a little less than its plate, linings lie behind air films, and move
 * in part with the slow mass.
 */
const INSTALLED = 0.97;
const MOVES_WITH_AIR = 0.75;
const BEHIND_FILM = 0.8;

/**
 * A run made by the core itself from hidden values, as a monitor and a clamp would have read it. The values lie about
 * what is to be expected of a described system, as a forecast expects it: such runs check how it infers, as the foreign ones
 * check what it expects (Talts et al. 2018, validating Bayesian inference by simulation; from memory).
 */
export function ownRun(seed: number, units = 1): OwnRun | null {
  const described = foreignRun(seed);
  if (!described) return null;
  const { kind } = described;
  // Who is on board and when the unit may run is agreed, not hidden.
  const planned: Job = {
    ...described.job,
    plan: {
      ...described.job.plan,
      patterns: [
        {
          id: "on",
          name: "On",
          spans: [
            { id: "u", kind: "unit", from: 0, minutes: 1440, mode: "auto" },
            { id: "p", kind: "people", from: 19 * 60, minutes: 240, asleep: false },
            { id: "s", kind: "people", from: 23 * 60, minutes: 480, asleep: true },
          ],
        },
      ],
    },
  };
  // Several units share what one has, each with a thermostat of its own.
  const whole = planned.units[0]!;
  const job: Job = {
    ...planned,
    units: Array.from({ length: units }, (_, i) => ({
      ...whole,
      id: i === 0 ? whole.id : `${whole.id}-${i}`,
      coolingPower: q(whole.coolingPower!.value / units),
      ratedPower: q(whole.ratedPower!.value / units),
    })),
  };
  const r = seeded(seed * 31 + 5);
  const n = (width: number) => Math.exp(width * r.normal());
  const values = resolveJob(job);
  const start = new Date(described.readings.timeMs[0]!).toISOString().slice(0, 10);
  const c = (
    key: "slowMass" | "lightMass" | "coupling" | "airChanges" | "heatInside" | "solarGain" | "absorptance",
    width: number,
  ) => q(values.cabin[key].value * n(width));
  const hidden: Job = {
    ...job,
    units: job.units.map((unit) => ({
      ...unit,
      coolingPower: q(INSTALLED * unit.coolingPower!.value * n(0.1)),
      ratedPower: q(unit.ratedPower!.value * n(0.06)),
      thermostatBand: q(1 + r.even()),
    })),
    cabin: {
      ...job.cabin,
      heatLoss: q(
        (values.cabin.wallU.value *
          2 *
          (values.cabin.length.value + values.cabin.width.value) *
          values.cabin.height.value +
          (values.cabin.roofU.value + values.cabin.floorU.value) *
            values.cabin.length.value *
            values.cabin.width.value +
          values.cabin.glassU.value * values.cabin.glassArea.value) *
          n(0.2),
      ),
      slowMass: c("slowMass", 0.35),
      lightMass: q(MOVES_WITH_AIR * c("lightMass", 0.3).value),
      coupling: q(BEHIND_FILM * c("coupling", 0.25).value),
      airChanges: c("airChanges", 0.3),
      heatInside: c("heatInside", 0.4),
      solarGain: q(Math.min(1, values.cabin.solarGain.value * n(0.25))),
      absorptance: q(Math.min(1, values.cabin.absorptance.value * n(0.25))),
    },
    bank: {
      ...job.bank,
      condition: q(0.98 + 0.04 * r.normal()),
      startSoc: q(Math.min(1, 0.985 - Math.abs(0.02 * r.normal()))),
    },
    brief: {
      ...job.brief,
      setPointC: q(job.brief.setPointC!.value + 0.4 * r.normal()),
      loads: job.brief.loads.map((load) => ({ ...load, power: q(load.power!.value * n(0.35)) })),
    },
    place: {
      ...job.place,
      ...(() => {
        const shift = 1.8 * r.normal();
        return { maxC: q(values.place.maxC.value + shift), minC: q(values.place.minC.value + shift) };
      })(),
    },
    plan: { ...planned.plan, start },
  };
  const stepS = 10;
  const hour = new Date(described.readings.timeMs[0]!).getUTCHours() + (job.place.listed === "faro" ? 1 : -7);
  const minuteOfDay = ((hour + 24) % 24) * 60;
  const system = buildSystem(hidden);
  const { input, clock, warmUpSteps } = inputOf(
    hidden,
    {
      days: 1.5,
      minuteOfDay,
      stepS,
      noOverload: true,
      weather: seed % 3 === 0 ? "generated" : "usual",
      seed,
      untilReserve: true,
    },
    system,
  );
  const run = coupledRun(input);
  if (run.reserveAt === null || run.reserveAt < 2.6 * 3600 || run.reserveAt > 86_400) return null;
  // A night that needs no cooling asks nothing of a forecast.
  if (run.totals.secondsCompressor < 0.15 * run.reserveAt) return null;
  const every = [1, 3, 6, 12, 30][seed % 5]!;
  const rows = Math.floor(run.reserveAt / stepS / every);
  const readings = emptyReadings(rows);
  const from = clock.startMs + warmUpSteps * stepS * 1000;
  const zero = 0.3 * r.normal();
  /** What its monitor shows too much from the start, and the clamp's own noise. */
  const shownOff = 0.005 + 0.01 * r.normal();
  const clamp = () => 1 + 0.01 * r.normal();
  let count = 0;
  const plate = values.bank.capacityAh.value * values.bank.parallel.value;
  for (let i = 0; i < rows; i++) {
    const k = i * every;
    const amps = -run.bankCurrent[k]! + zero + 0.002 * run.bankCurrent[k]! * r.normal();
    readings.timeMs[i] = from + k * stepS * 1000;
    readings.values.battery_current_a[i] = amps;
    readings.values.battery_voltage_v[i] = run.bankVolts[k]! + 0.01 * r.normal();
    count -= (amps * every * stepS) / 3600;
    readings.values.soc_pct[i] = 100 * Math.min(1, Math.max(0, hidden.bank.startSoc!.value + shownOff - count / plate));
    readings.values.solar_power_w[i] = run.solarUsed[k]!;
    readings.values.ac_power_w[i] = Math.round((run.unitPower[k]! + system.loads.mainsAverage) * clamp());
    readings.values.cabin_temp_c[i] = run.cabinC[k]! + 0.1 * r.normal();
    readings.values.outdoor_temp_c[i] = run.outdoorC[k]! + 0.2 * r.normal();
  }
  return { job, hidden, run, readings, reserveH: run.reserveAt / 3600, kind, reserveBy: "peukert" };
}
