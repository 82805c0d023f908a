import type { Job } from "../../../document/schema";
import type { Readings } from "../log/readings";
import type { RunSetting } from "../log/settings-said";
import { segment } from "../segmentation/segment";
import type { Segments } from "../segmentation/segments";
import { NOTHING_SAID, type RunConditions } from "../site/conditions";
import { LONGEST_S, siteOf, type Site } from "../site/site";
import { logOf, type Log } from "./likelihood";
import { DIMENSIONS } from "./particle";
import { priorOf, type Prior } from "./prior";
import { sample, type Population } from "./sampler";

/** What a log and its system come to before the sampler: kept while only the seed or the what-if changes. */
export interface TestRun {
  site: Site;
  readings: Readings;
  segments: Segments;
  log: Log;
  prior: Prior;
  /** How the unit was said to be set, in order of time. */
  said: readonly RunSetting[];
}

/** By how many particles a log is sampled, moved how often at each temperature and at the last (`sample`). */
export interface Effort {
  particles: number;
  rounds?: number;
  lastRounds?: number;
}

/** A first answer within a second, one after a reading from where the last one was, what both settle to, a log looked at beside another. */
export const EFFORTS = {
  first: { particles: 160, rounds: 6, lastRounds: 16 },
  next: { particles: 160, lastRounds: 3 },
  settled: { particles: 500 },
  beside: { particles: 80 },
} as const satisfies Record<string, Effort>;

export interface ForecastCall extends Partial<Effort> {
  seed?: number;
  from?: Population | null;
  progress?(done: number): boolean | void;
}

export const USUAL_PARTICLES = EFFORTS.settled.particles;

/** Prepares a repaired log of two readings or more for forecasts. */
export function testRunOf(
  job: Job,
  readings: Readings,
  conditions: RunConditions = NOTHING_SAID,
  said: readonly RunSetting[] = [],
): TestRun {
  const { timeMs } = readings;
  const lasted = (timeMs[timeMs.length - 1]! - timeMs[0]!) / 1000;
  // Longer logs go by longer steps: the sampler's time grows with steps, not with hours.
  const stepS = lasted > 30 * 3600 ? 600 : lasted > 10 * 3600 ? 300 : lasted > 5 * 3600 ? 240 : 120;
  const site = siteOf(job, { startMs: timeMs[0]!, seconds: lasted + LONGEST_S, stepS, conditions });
  const segments = segment(readings, site);
  const setSaid = said.some(({ setC }) => setC !== null);
  return {
    site,
    readings,
    segments,
    log: logOf(site, readings, segments, said),
    prior: priorOf(site, readings, segments, setSaid),
    said,
  };
}

/** Samples what the log leaves open. Null where it was stopped. */
export function fit(
  { log, prior }: TestRun,
  { particles = USUAL_PARTICLES, seed = 1, from, progress, ...rest }: ForecastCall = {},
) {
  return sample({
    count: particles,
    dimensions: DIMENSIONS,
    seed,
    from: from ?? null,
    logLikelihood: (z, at, floor) => log.logLikelihood(prior.particle(z, at), floor),
    ...rest,
    ...(progress ? { progress } : {}),
  });
}
