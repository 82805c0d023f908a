import type { Job } from "../../document/schema";
import type { Quantity } from "../../units/known";
import { buildSystem } from "../../models/system/build";
import { holdingOf } from "../use/holding";
import { firstUse } from "../../simulation/day/first-use";
import { runOfUse } from "../use/use";

/** Answers that customers ask for beside the verdicts, all on the design day. */
export interface Answers {
  /** Capacity of the whole battery that just lasts the hours wanted, A h at its voltage; null where no size does. */
  bankAh: number | null;
  /** Seconds to the reserve with the set point two kelvin higher, and what that gains. */
  warmer: { seconds: number; reached: boolean; gained: number } | null;
  /** On a generator alone: W while holding the set point, litres an hour, and seconds on a full tank. */
  generator: { power: number; litresAnHour: number; tankSeconds: number; enough: boolean } | null;
}

/** K by which the set point is raised for the second answer. */
const RAISED_K = 2;
/** Largest battery that is looked for, times the one there is. */
const MOST_TIMES = 60;
/** Of its fuel at full load, what a generator burns at none (common practice, no source). */
const IDLE_FUEL = 0.3;

const plate = (value: number): Quantity => ({ value, origin: "plate" });

/** The system set two kelvin warmer, in the brief and in every span of the plan that has a set point of its own. */
export function warmerJob(job: Job, setPointC: number): Job {
  return {
    ...job,
    brief: { ...job.brief, setPointC: plate(setPointC + RAISED_K) },
    plan: {
      ...job.plan,
      patterns: job.plan.patterns.map((pattern) => ({
        ...pattern,
        spans: pattern.spans.map((span) =>
          span.kind === "unit" && span.setPointC
            ? { ...span, setPointC: { ...span.setPointC, value: span.setPointC.value + RAISED_K } }
            : span,
        ),
      })),
    },
  };
}

/** The answers of a job. Pure; some ten runs of its use. */
export function answersOf(job: Job): Answers {
  const system = buildSystem(job);
  const { values } = system;
  const use = firstUse(system);
  const own = use && runOfUse(job, system, use);
  if (!use || !own) return { bankAh: null, warmer: null, generator: null };
  const wanted =
    job.brief.stance === "storage" ? values.plan.storageDays.value * 86_400 : values.brief.hoursWanted.value;

  const lastsAt = (times: number): number => {
    const sized: Job = { ...job, bank: { ...job.bank, capacityAh: plate(values.bank.capacityAh.value * times) } };
    const built = buildSystem(sized);
    const { lasts, reached } = runOfUse(sized, built, use);
    return reached ? lasts : Math.max(lasts, wanted);
  };
  let [low, high] = [0, 1];
  let atHigh = own.reached ? own.lasts : Math.max(own.lasts, wanted);
  while (atHigh < wanted && high < MOST_TIMES) {
    low = high;
    high *= Math.max(1.3, Math.min(4, (1.1 * wanted) / Math.max(60, atHigh)));
    atHigh = lastsAt(high);
  }
  if (atHigh >= wanted)
    for (let i = 0; i < 12 && high - low > 0.01 * high; i++) {
      const middle = (low + high) / 2;
      if (lastsAt(middle) >= wanted) high = middle;
      else low = middle;
    }

  const warm = warmerJob(job, values.brief.setPointC.value);
  const warmRun = runOfUse(warm, buildSystem(warm), use);

  const holding = holdingOf(system, use, own);
  const { generatorRating, generatorContinuous, fuelAtFull, tankVolume } = values.supplies;
  const power = holding
    ? holding.unitPower.reduce((sum, watts, u) => sum + (system.units[u]!.direct ? 0 : watts), 0) +
      system.loads.mainsAverage
    : 0;
  const full = generatorRating.value * generatorContinuous.value;
  const litresAnHour = fuelAtFull.value * (IDLE_FUEL + (1 - IDLE_FUEL) * Math.min(1, power / full));
  return {
    bankAh: atHigh >= wanted ? high * values.bank.capacityAh.value * Math.max(1, values.bank.parallel.value) : null,
    warmer: { seconds: warmRun.lasts, reached: warmRun.reached, gained: warmRun.lasts - own.lasts },
    generator:
      power > 0
        ? {
            power,
            litresAnHour,
            tankSeconds: (tankVolume.value / litresAnHour) * 3600,
            enough: system.units.every(({ running, direct }) => direct || running.value + system.loads.mains <= full),
          }
        : null,
  };
}
