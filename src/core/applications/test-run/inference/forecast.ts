import { seeded, spreadSources } from "../../../units/random";
import { fanOf, meansOf, type Fan, type Gathered, type Means } from "./fan";
import { endsOf, Propagation, type Onward } from "./propagation";
import { quantilesOf, type Quantiles } from "./quantiles";
import type { Population } from "./sampler";
import type { TestRun } from "./test-run";
import { Weathering } from "./weathering";

export interface Forecast {
  /** Hours from the log's last moment; null where it is more than two days off. */
  hoursToReserve: Quantiles;
  hoursToCutoff: Quantiles;
  /** The same to the reserve as a monitor counts it that goes by Peukert; null where the battery has no such loss. */
  hoursByPeukert: Quantiles | null;
  /** Hours of each particle to the reserve, in the population's order; Infinity where none comes. */
  reserveHours: number[];
  /**
   * W out of the battery for house and unit, W of its panels, and the cabin, degC, by step from the log's end: means over the
   * particles.
   */
  means: Means;
  fan: Fan;
  /** State of charge now, as counted: median and spread over the particles. */
  socNow: Quantiles;
  /** Mean W that the particles draw from the battery over the next hour and until the reserve. */
  wattsNextHour: number;
  population: Population;
}

/** Streams of chance between two seeds: more than a population has particles. */
const STREAMS = 100_003;

/** Numbers that a particle draws first, for what lasts: spread over the particles, so that few of them stand for many. */
const LASTING = 8;

/** Carries a population on from the end of its log to the reserve and the cut-off. */
export function ahead(
  testRun: TestRun,
  population: Population,
  { whatIf = {}, seed = 1, toReserve = false, untilS = Infinity }: Onward = {},
): Forecast {
  const propagation = new Propagation(testRun, whatIf, { toReserve, untilS });
  const { site, log } = testRun;
  const { count } = population;
  const fanSteps = site.steps - log.steps;
  const gathered: Gathered = {
    shares: new Float32Array(count * fanSteps),
    running: new Float64Array(fanSteps),
    draw: new Float64Array(fanSteps),
    solar: new Float64Array(fanSteps),
    cabinC: new Float64Array(fanSteps),
    living: new Float64Array(fanSteps),
    count,
    nextHour: 0,
  };
  const spread = spreadSources(LASTING);
  const outcomes = endsOf(testRun, population).map((end, n) => {
    // A stream of its own, so that what-ifs differ by what is asked and not by luck, however far each goes.
    const random = spread(n, seeded(seed * STREAMS + n));
    return propagation.follow(end, new Weathering(propagation.chances, end, random), gathered, n * fanSteps);
  });
  return {
    hoursToReserve: quantilesOf(outcomes.map(({ reserveS }) => reserveS / 3600)),
    hoursToCutoff: quantilesOf(outcomes.map(({ cutS }) => Math.max(cutS, 0) / 3600)),
    hoursByPeukert: site.system.bank.peukert > 1 ? quantilesOf(outcomes.map(({ peukertS }) => peukertS / 3600)) : null,
    reserveHours: outcomes.map(({ reserveS }) => reserveS / 3600),
    means: meansOf(gathered),
    fan: fanOf(gathered, site.stepS, log.steps * site.stepS),
    socNow: quantilesOf(outcomes.map(({ socNow }) => socNow)),
    wattsNextHour: gathered.nextHour,
    population,
  };
}
