import { describe, expect, it } from "vitest";
import { demoJob, q } from "../../../../tests/jobs";
import type { Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import { buildSystem } from "../../models/system/build";
import { firstUse } from "../../simulation/day/first-use";
import { runOfUse } from "../use/use";
import { answersOf, warmerJob } from "./answers";

const lasts = (job: Job) => {
  const system = buildSystem(job);
  return runOfUse(job, system, firstUse(system)!);
};

describe("the answers that customers ask for", () => {
  const job = demoJob("5-lora");
  job.brief.hoursWanted = q(12 * 3600);
  const answers = answersOf(job);
  it("name the smallest battery that lasts the hours wanted: it does, and one of nine tenths does not", () => {
    const { bank } = resolveJob(job);
    const sized = (times: number) => {
      const capacityAh = q((times * answers.bankAh!) / Math.max(1, bank.parallel.value));
      const { lasts: seconds, reached } = lasts({ ...job, bank: { ...job.bank, capacityAh } });
      return reached ? seconds : Infinity;
    };
    expect(sized(1.01)).toBeGreaterThanOrEqual(12 * 3600);
    expect(sized(0.9)).toBeLessThan(12 * 3600);
  });
  it("say what two degrees warmer gain, by the run that is two degrees warmer", () => {
    const own = lasts(job);
    const warm = lasts(warmerJob(job, resolveJob(job).brief.setPointC.value));
    expect(answers.warmer).toEqual({
      seconds: warm.lasts,
      reached: warm.reached,
      gained: warm.lasts - own.lasts,
    });
    expect(answers.warmer!.gained).toBeGreaterThan(0);
  });
  it("count a generator's fuel between its idling and its full load, and the tank by it", () => {
    const { fuelAtFull, tankVolume } = resolveJob(job).supplies;
    const { litresAnHour, tankSeconds } = answers.generator!;
    expect(litresAnHour).toBeGreaterThan(0.3 * fuelAtFull.value);
    expect(litresAnHour).toBeLessThanOrEqual(fuelAtFull.value);
    expect((tankSeconds / 3600) * litresAnHour).toBeCloseTo(tankVolume.value, 6);
  });
  it("tell a generator that is too small for it all", () => {
    const small = { ...job, supplies: { ...job.supplies, generatorRating: q(300) } };
    expect(answersOf(small).generator!.enough).toBe(false);
  });
});

describe("a system set two degrees warmer", () => {
  it("is so in the brief and in every span that has a set point of its own", () => {
    const job = demoJob("1-folio");
    job.plan.patterns[0]!.spans[0] = { ...job.plan.patterns[0]!.spans[0]!, setPointC: q(22) } as never;
    const warm = warmerJob(job, 25);
    expect(warm.brief.setPointC!.value).toBe(27);
    expect(warm.plan.patterns[0]!.spans[0]).toMatchObject({ setPointC: { value: 24 } });
    expect(warm.plan.patterns[0]!.spans.slice(1)).toEqual(job.plan.patterns[0]!.spans.slice(1));
  });
});
