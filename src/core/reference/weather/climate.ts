import { seeded } from "../../units/random";

/** What a month is like at a place. Temperatures in degC, speeds in m/s. */
export interface Climate {
  maxC: number;
  minC: number;
  dewPointC: number;
  /** Sun on the ground over sun above the air, on the level, over a day: 0 to 1. */
  clearness: number;
  /** Spread of the days' mean temperature about the month's, K. */
  spread: number;
  wind: number;
  seaC: number;
}

/** One day's weather. */
export interface DayWeather {
  maxC: number;
  minC: number;
  dewPointC: number;
  clearness: number;
}

export type ReadyDay = "mild" | "usual" | "hot";

/** How far a ready day's mean lies from the month's, in spreads, and its clearness by the month's: one day in ten is hotter. */
const READY: Record<ReadyDay, { spreads: number; clearness: number }> = {
  mild: { spreads: -1.3, clearness: 0.85 },
  usual: { spreads: 0, clearness: 1 },
  hot: { spreads: 1.3, clearness: 1.08 },
};
export const CLEAREST = 0.78;
export const DULLEST = 0.05;

/** The mild, the usual or the hot day of a month: about the tenth, the middle and the ninetieth of a hundred. */
export function readyDay(climate: Climate, kind: ReadyDay): DayWeather {
  const { spreads, clearness } = READY[kind];
  return dayAbout(climate, spreads * climate.spread, climate.clearness * clearness);
}

function dayAbout(climate: Climate, warmer: number, clearness: number): DayWeather {
  const clear = Math.min(CLEAREST, Math.max(DULLEST, clearness));
  // Dull days are flat: their maximum falls and their minimum rises.
  const middle = (climate.maxC + climate.minC) / 2 + warmer;
  const half = ((climate.maxC - climate.minC) / 2) * (0.6 + 0.4 * Math.min(1.25, clear / climate.clearness));
  const minC = middle - half;
  return {
    maxC: middle + half,
    minC,
    // A dew point does not pass the night's minimum by more than the wet grass lets it.
    dewPointC: Math.min(climate.dewPointC + 0.5 * warmer, minC + 1),
    clearness: clear,
  };
}

/**
 * Days about a month's climate: warm and cool spells that last a few days, dull and clear ones that last less, warm ones
 * rather clear. The same seed gives the same days. Day to day correlation 0.7 of temperature, 0.35 of clearness, as
 * station records have them (memory).
 */
export function generatedDays(climate: Climate, count: number, seed: number): DayWeather[] {
  const random = seeded(seed);
  let warm = random.normal();
  let clear = random.normal();
  return Array.from({ length: count }, () => {
    const news = random.normal();
    warm = 0.7 * warm + Math.sqrt(1 - 0.49) * news;
    clear = 0.35 * clear + Math.sqrt(1 - 0.35 ** 2) * (0.4 * news + Math.sqrt(1 - 0.16) * random.normal());
    // Clearness is skewed: a few very dull days against many rather clear ones.
    const off = clear > 0 ? 0.09 * clear : 0.14 * clear;
    return dayAbout(climate, climate.spread * warm, climate.clearness + off + 0.02);
  });
}
