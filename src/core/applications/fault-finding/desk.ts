import { causeSpec, causesOf, type CauseKey, type Effect, type SymptomKey } from "./causes";
import { READING_KEYS, readingSpec, type Bench, type ReadingKey } from "./readings";

/** What was read: the value that came of its fields, SI or °C; 1 and 0 for yes and no. */
export type Taken = Partial<Record<ReadingKey, number>>;

/** One reading that speaks for or against a cause. */
export interface Evidence {
  reading: ReadingKey;
  value: number;
  expected: number;
  /** Log of how much likelier the reading is with the cause than on a sound system: over 0 speaks for it. */
  weight: number;
}

export interface Ranked {
  cause: CauseKey;
  /** Chance of it among the causes that the system can have, 0 to 1. */
  chance: number;
  /** The readings that speak loudest, for or against. */
  evidence: Evidence[];
}

export interface NextTest {
  reading: ReadingKey;
  /** Bits that it is expected to tell. */
  bits: number;
  minutes: number;
  /** The two likeliest causes that it tells apart, and how. */
  parts: { cause: CauseKey; says: "higher" | "lower" | "as it should be" | "yes" | "no" }[];
}

/** Share of readings that are mistaken, misread or of some other trouble. */
const MISREAD = 0.03;
/** A cause that nobody tells of with a symptom still may be it. */
const UNTOLD = 0.06;
/** Minutes of walking to any reading. */
const WALK = 4;

const density = (x: number, spread: number) => Math.exp(-0.5 * (x / spread) ** 2) / (spread * Math.sqrt(2 * Math.PI));

/** Share of a normal spread below x (Abramowitz and Stegun 1964, 26.2.17, from memory; within 1e-7). */
function below(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const tail =
    density(x, 1) * t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return x >= 0 ? 1 - tail : tail;
}

/** A reading on its own scale: 0 is as it should be. */
function deviation(reading: ReadingKey, value: number, expected: number): number {
  const { scale } = readingSpec(reading);
  return scale === "ratio" ? Math.log(Math.max(1e-9, value) / Math.max(1e-9, expected)) : value - expected;
}

/** How likely a deviation is (its density; for a question its probability) where a cause moves the reading so. */
function likelihood(reading: ReadingKey, x: number, effect: Effect | undefined): number {
  const { scale, spread } = readingSpec(reading);
  if (scale === "yes") {
    const yes = typeof effect === "number" ? effect : spread;
    return x > 0.5 ? yes : 1 - yes;
  }
  // However far off, a reading is never impossible: it may be of another trouble.
  const wide = MISREAD * density(x, 8 * spread) + 1e-9;
  if (effect === undefined || typeof effect === "number") return (1 - MISREAD) * density(x, spread) + wide;
  const [low, high] = effect.map((bound) => (scale === "ratio" ? Math.log(bound) : bound)) as [number, number];
  // Anywhere in its range alike, blurred by the meter.
  const within = (below((x - low) / spread) - below((x - high) / spread)) / (high - low);
  return (1 - MISREAD) * within + wide;
}

/** How often a cause comes with the symptoms told, against the others. */
const prior = (cause: CauseKey, symptoms: readonly SymptomKey[]): number =>
  symptoms.reduce((product, symptom) => product * (causeSpec(cause).symptoms[symptom] ?? UNTOLD), 1);

/**
 * Ranks the causes that a system can have by its symptoms and readings (Bayes' rule; readings taken as independent given the
 * cause). Without a symptom all causes begin alike.
 */
export function rankCauses(bench: Bench, symptoms: readonly SymptomKey[], taken: Taken): Ranked[] {
  const causes = causesOf(bench);
  const read = READING_KEYS.flatMap((reading) => {
    const value = taken[reading];
    const expected = readingSpec(reading).expected(bench);
    return value === undefined || expected === null ? [] : [{ reading, value, expected }];
  });
  const scored = causes.map((cause) => {
    const { effects } = causeSpec(cause);
    const evidence = read.map(({ reading, value, expected }): Evidence => {
      const x = deviation(reading, value, expected);
      const weight = Math.log(likelihood(reading, x, effects[reading]) / likelihood(reading, x, undefined));
      return { reading, value, expected, weight };
    });
    const score = Math.log(prior(cause, symptoms)) + evidence.reduce((sum, { weight }) => sum + weight, 0);
    return { cause, score, evidence };
  });
  const best = Math.max(...scored.map(({ score }) => score));
  const total = scored.reduce((sum, { score }) => sum + Math.exp(score - best), 0);
  return scored
    .map(({ cause, score, evidence }) => ({
      cause,
      chance: Math.exp(score - best) / total,
      evidence: evidence
        .filter(({ weight }) => Math.abs(weight) > 0.1)
        .sort((a, b) => Math.abs(b.weight) - Math.abs(a.weight)),
    }))
    .sort((a, b) => b.chance - a.chance || a.cause.localeCompare(b.cause));
}

const entropy = (chances: readonly number[]) => -chances.reduce((sum, p) => (p > 0 ? sum + p * Math.log2(p) : sum), 0);

/** What a cause makes of a reading, in one word. */
function saysOf(reading: ReadingKey, effect: Effect | undefined): NextTest["parts"][number]["says"] {
  const { scale, spread } = readingSpec(reading);
  if (scale === "yes") return (typeof effect === "number" ? effect : spread) > 0.5 ? "yes" : "no";
  if (effect === undefined || typeof effect === "number") return "as it should be";
  const middle = effect.reduce((sum, bound) => sum + (scale === "ratio" ? Math.log(bound) : bound) / 2, 0);
  return Math.abs(middle) < spread ? "as it should be" : middle > 0 ? "higher" : "lower";
}

/**
 * The readings not yet taken that tell most for their time, the best first: expected fall of the entropy over the causes
 * left, by minutes.
 */
export function nextTests(bench: Bench, ranked: readonly Ranked[], taken: Taken): NextTest[] {
  const left = ranked.filter(({ chance }) => chance > 0.003);
  const before = entropy(left.map(({ chance }) => chance));
  const tests: NextTest[] = [];
  for (const reading of READING_KEYS) {
    const spec = readingSpec(reading);
    if (taken[reading] !== undefined || spec.expected(bench) === null) continue;
    const effects = left.map(({ cause }) => causeSpec(cause).effects[reading]);
    if (effects.every((effect) => effect === undefined)) continue;
    const grid = gridOf(reading, effects);
    let after = 0;
    let whole = 0;
    for (const x of grid) {
      const joint = left.map(({ chance }, i) => chance * likelihood(reading, x, effects[i]));
      const mass = joint.reduce((sum, p) => sum + p, 0);
      if (mass <= 0) continue;
      after += mass * entropy(joint.map((p) => p / mass));
      whole += mass;
    }
    const bits = before - after / Math.max(1e-12, whole);
    const parts = left
      .slice(0, 4)
      .map(({ cause }) => ({ cause, says: saysOf(reading, causeSpec(cause).effects[reading]) }));
    const other = parts.find(({ says }) => says !== parts[0]!.says);
    tests.push({ reading, bits, minutes: spec.minutes, parts: other ? [parts[0]!, other] : parts.slice(0, 1) });
  }
  return tests.sort((a, b) => worth(b) - worth(a) || a.reading.localeCompare(b.reading));
}

const worth = ({ bits, minutes }: NextTest) => bits / (minutes + WALK) ** 0.5;

/** Values of a reading that its answers are weighed over: yes and no, or evenly over all that the causes make of it. */
function gridOf(reading: ReadingKey, effects: readonly (Effect | undefined)[]): number[] {
  const { scale, spread } = readingSpec(reading);
  if (scale === "yes") return [0, 1];
  const bounds = effects.flatMap((effect) =>
    effect === undefined || typeof effect === "number" ? [] : effect.map((b) => (scale === "ratio" ? Math.log(b) : b)),
  );
  const low = Math.min(0, ...bounds) - 2.5 * spread;
  const high = Math.max(0, ...bounds) + 2.5 * spread;
  const count = Math.min(81, Math.max(15, Math.ceil((2 * (high - low)) / spread)));
  return Array.from({ length: count }, (_, i) => low + ((high - low) * i) / (count - 1));
}

/** Sure enough to mend: nine in ten, and none near it. */
export const SURE = 0.9;
