/* A reading of the draw is balanced where it was taken: what the run draws at an hour, entered as a reading of it, comes out again. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { q, jobOf } from "../../../../tests/jobs";
import { buildSystem } from "../../models/system/build";
import { cabinModel } from "../../models/cabin/cabin";
import type { DrawReading } from "../../document/draw-readings";
import type { Job } from "../../document/schema";
import { firstUse } from "./first-use";
import { meanOverCycles } from "./measured-load";
import { simulate } from "./simulate";
import type { SimulationResult } from "./result";

/** The run of a job's main use, a day of it from switching on, on a battery that does not end it. */
function dayOf(job: Job): { run: SimulationResult; from: number } {
  const system = buildSystem({ ...job, bank: { ...job.bank, capacityAh: q(50_000) } });
  const use = firstUse(system)!;
  const { run } = simulate(
    system.job,
    { days: 3, minuteOfDay: use.from, day: use.day, noOverload: true, extendFrom: { minuteOfRun: use.minutes } },
    system,
  );
  return { run, from: use.from % 1440 };
}

const mean = (line: Float32Array, from: number, to: number) =>
  line.slice(from, to).reduce((a, b) => a + b, 0) / (to - from);

interface Read {
  job: Job;
  reading: DrawReading;
  /** Minutes from switching on of its hour, and W that were drawn in it. */
  fromMin: number;
  watts: number;
}

/** What a run draws `at` minutes after switching on, as a reading of that hour, in the state that the unit was in. */
function readOff(job: Job, at: number): Read | null {
  const { run, from } = dayOf(job);
  const span = { line: "unitPower", fromMin: at - 30, toMin: at + 30 } as const;
  const watts = meanOverCycles(run, span);
  if (mean(run.compressor, at - 30, at + 30) < 0.05) return null;
  const { kind, condenser } = job.units[0]!;
  // Amps at the battery's terminals that come to its watts behind the path.
  const ohm = buildSystem(job).wiring.resistance;
  const amps = (13 - Math.sqrt(13 ** 2 - 4 * ohm * watts)) / (2 * ohm);
  const full = run.compressor.slice(at - 30, at + 30).every((share) => share > 0.995);
  return {
    job,
    watts,
    fromMin: at - 30,
    reading: {
      id: "r",
      state: full ? "full" : "holding",
      minute: (from + at) % 1440,
      outdoorC: mean(run.outdoorC, at - 30, at + 30),
      ...(condenser === "sea" ? { seaC: job.place.seaC?.value } : {}),
      ...(kind === "dc" ? { kind: "battery-current", current: amps, volts: 13 } : { kind: "ac-power", power: watts }),
    },
  };
}

const withReading = (job: Job, reading: DrawReading): Job => ({
  ...job,
  units: job.units.map((unit) => ({ ...unit, readings: [reading] })),
});

const random: fc.Arbitrary<{ job: Job; at: number }> = fc
  .record({
    kind: fc.constantFrom("fixed", "variable", "dc" as const),
    condenser: fc.constantFrom("outside", "boxed", "sea" as const),
    cabin: fc.constantFrom("van", "caravan", "motorhome", "boat", "truck" as const),
    insulation: fc.constantFrom("lined", "grade2", "insulated" as const),
    place: fc.constantFrom("faro", "quartzsite", "guanacaste", "athens"),
    watts: fc.integer({ min: 1500, max: 4500 }),
    setPointC: fc.integer({ min: 20, max: 26 }),
    month: fc.integer({ min: 6, max: 9 }),
    from: fc.constantFrom(720, 1080, 1260),
    minutes: fc.constantFrom(480, 720),
    fanBetween: fc.boolean(),
    at: fc.integer({ min: 80, max: 1320 }),
  })
  .map(({ kind, condenser, cabin, insulation, place, watts, setPointC, month, from, minutes, fanBetween, at }) => {
    const made = jobOf({ unit: { kind, condenser, coolingPower: q(watts), fanBetween } as Job["units"][number] });
    const job: Job = {
      ...made,
      brief: { ...made.brief, month, setPointC: q(setPointC) },
      place: { ...made.place, listed: place, seaC: q(26) },
      weather: { ...made.weather, kind: "hot" },
      cabin: { ...made.cabin, kind: cabin, insulation },
      plan: {
        ...made.plan,
        patterns: [
          {
            id: "d",
            name: "Day",
            spans: [
              { id: "u", kind: "unit", from, minutes, mode: "auto" },
              { id: "p", kind: "people", from, minutes, asleep: from === 1260, people: q(2) },
            ],
          },
        ],
      },
    };
    return { job, at };
  });

describe("a reading of a run's own draw", () => {
  it("comes out of the run again within 3 %, and leaves the rest of the day within 5 %, for any kind of unit at any hour", () => {
    const states = new Map<string, number>();
    fc.assert(
      fc.property(random, ({ job, at }) => {
        const read = readOff(job, at);
        if (!read) return;
        const key = `${job.units[0]!.kind}, ${read.reading.state}`;
        states.set(key, (states.get(key) ?? 0) + 1);
        const { run } = dayOf(withReading(job, read.reading));
        const again = meanOverCycles(run, { line: "unitPower", fromMin: read.fromMin, toMin: read.fromMin + 60 });
        expect(Math.abs(again / read.watts - 1), JSON.stringify([key, again, read.watts])).toBeLessThan(0.03);
        const whole = dayOf(job).run;
        const moved = mean(run.unitPower, 0, 1440) / mean(whole.unitPower, 0, 1440) - 1;
        expect(
          Math.abs(moved),
          JSON.stringify([key, moved, read.watts, again, at, read.reading, job.units[0]!.condenser]),
        ).toBeLessThan(0.05);
      }),
      { numRuns: cases(200, 600) },
    );
    expect(states.size).toBeGreaterThanOrEqual(4);
  });

  it("finds the heat loss of another cabin than the one described, from an afternoon's reading as from a night's", () => {
    const moved: number[] = [];
    fc.assert(
      fc.property(random, fc.constantFrom(0.7, 1.4), ({ job, at }, factor) => {
        const parts = cabinModel(buildSystem(job).values, job).heatLoss;
        const hidden: Job = { ...job, cabin: { ...job.cabin, heatLoss: q(factor * parts, "fitted") } };
        const read = readOff(hidden, at);
        // Where it is about as warm outdoors as inside, or while it cools down still, a draw says little of the cabin.
        const over = read ? read.reading.outdoorC! - job.brief.setPointC!.value : 0;
        if (!read || read.reading.state !== "holding" || over < 4 || at < 120) return;
        const { run } = dayOf(withReading(job, read.reading));
        const truth = dayOf(hidden).run;
        moved.push(Math.abs(mean(run.unitPower, 0, 1440) / mean(truth.unitPower, 0, 1440) - 1));
      }),
      { numRuns: cases(60, 400) },
    );
    moved.sort((a, b) => a - b);
    expect(moved.length).toBeGreaterThan(10);
    expect(moved[Math.floor(moved.length / 2)]).toBeLessThan(0.02);
    expect(moved[Math.floor(0.95 * moved.length)]).toBeLessThan(0.15);
  });
});
