import type { Part, PartOf, Rig } from "../rig/document";
import type { Quantity } from "../rig/quantity";
import { ampacityTable, areaWords, sizesOf } from "../rig/typical";
import { putAt } from "../rig/compare";
import { assess, type Assessment } from "../verdict/assess";
import { smallestMargin } from "./start";
import { usesInverter } from "../rig/resolve";
import { cableCarries } from "../path/ampacity";
import { BREAKER_RATINGS, FUSE_KINDS, FUSE_RATINGS, interruptingAt, type FuseKind } from "../path/fuse";
import { isKind, type Run } from "../path/path";

/** One rule of the choice and the smallest size or rating it asks for. */
export interface ChoiceReason {
  rule: string;
  asks: string;
}

export interface Choice {
  /** The rig with the choice in it. */
  rig: Rig;
  areaMm2: number;
  count: number;
  /** A of the fuse or breaker chosen; 0 where the run has none. */
  rating: number;
  words: string;
  reasons: ChoiceReason[];
  /** Whether more copper than before. */
  thicker: boolean;
  /** Whether every rule of the run is met; otherwise the nearest is given. */
  met: boolean;
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });

function runAt(assessment: Assessment, path: string): Run | undefined {
  const { main, mains, branches } = assessment.path;
  return [main, mains, ...branches].find((run) => run.path === path);
}

/** Kinds of fuse from the handiest to the one that breaks most. */
const KINDS: readonly FuseKind[] = ["terminal", "bolted-strip", "class-t", "hrc"];

/**
 * Fuses of a run that could not break the short circuit or the voltage there, by id, with the first kind that does; a kind
 * that holds stays as it is.
 */
function betterKinds(before: Assessment, run: Run): Map<string, FuseKind> {
  const { checks } = before.verdicts.carries;
  const { blockVoltage, series } = before.values.bank;
  const better = new Map<string, FuseKind>();
  for (const { part, path } of run.parts) {
    const asked = (rule: string) =>
      checks.find(({ key, margin }) => key === `${path}:${rule}` && margin < 1)?.need ?? 0;
    const [amps, volts] = [asked("interrupting"), asked("volts")];
    if (!isKind(part, "fuse") || (amps === 0 && volts === 0)) continue;
    const breaks = (kind: FuseKind) => interruptingAt(kind, blockVoltage.value * series.value);
    const kind = KINDS.find((one) => breaks(one) >= amps && FUSE_KINDS[one].voltage >= volts);
    if (kind) better.set(part.id, kind);
  }
  return better;
}

/**
 * The smallest standard cable and fuse (or breaker) of a run that satisfy all its rules: 125 % and ampacity, protection,
 * drop, short-circuit withstand; a fuse of a kind that could not break the bank's short circuit gives way to one that
 * does. With `headroom`, also a start with 15 % to spare as far as copper can give it. Every
 * cable and every fuse of the run takes the same size. Null where the run has no cable.
 *
 * Sizes are tried from the thinnest, one cable a pole and then two, each assessed whole: the rules live in one place.
 */
export function chooseRun(rig: Rig, path: string, options: { headroom?: boolean } = {}): Choice | null {
  const before = assess(rig);
  const run = runAt(before, path);
  const cables = run?.parts.filter(({ part }) => part.kind === "cable") ?? [];
  if (!run || cables.length === 0) return null;
  const current = before.currents[path] ?? 0;
  const guarded = run.parts.some(({ part }) => part.kind === "fuse" || part.kind === "breaker");
  const ratings = run.mains ? BREAKER_RATINGS[rig.brief.mains === "120V60Hz" ? "120" : "230"] : FUSE_RATINGS;
  const least = run.mains ? current : 1.25 * current;
  const table = ampacityTable(rig);
  const ambient = before.values.path.ambientC.value;
  const worst = (area: number, count: number) =>
    Math.min(
      ...cables.map(({ part }) => {
        const { insulation, route } = part as PartOf<"cable">;
        return cableCarries(table, area, insulation, route, ambient) * count;
      }),
    );
  const kinds = betterKinds(before, run);
  const was = cables[0]!.values.areaMm2!.value * cables[0]!.values.count!.value;

  const put = (area: number, count: number, rating: number): Rig => {
    const copy = structuredClone(rig);
    const parts = run.parts.map(({ part }): Part => {
      if (isKind(part, "cable")) {
        return { ...part, ampacity: undefined, areaMm2: plate(area), count: plate(count) };
      }
      if (isKind(part, "fuse")) {
        const kind = kinds.get(part.id);
        const made = kind ? { fuseKind: kind, interrupting: undefined, voltage: undefined } : {};
        return { ...part, ...made, resistance: undefined, rating: plate(rating) };
      }
      return isKind(part, "breaker") ? { ...part, rating: plate(rating) } : part;
    });
    putAt(copy, path, parts);
    // A reading of the old path says nothing of the new one.
    if (path === "path.main")
      copy.path.measured = { ...copy.path.measured, bankVoltage: undefined, inverterVoltage: undefined };
    return copy;
  };
  let nearest: { rig: Rig; area: number; count: number; rating: number; score: number } | null = null;
  const steps = [1, 2, 3].flatMap((count) => sizesOf(rig).map((area) => ({ area, count })));
  let chosen: { rig: Rig; area: number; count: number; rating: number } | null = null;
  let steadyMargin = -1;
  for (const { area, count } of steps) {
    if (run.mains && area < 2.5) continue;
    const carried = worst(area, count);
    const rating = ratings.find((one) => one >= least - 1e-9 && one <= carried + 1e-9) ?? 0;
    if (guarded ? rating === 0 : carried < current) continue;
    const candidate = put(area, count, rating);
    const after = assess(candidate);
    const own = after.verdicts.carries.checks.filter((one) => one.part === path || one.part?.startsWith(`${path}.`));
    const broken = own.filter(({ margin, key }) => margin < 1 && /:(ampacity|guarded|short|size|voltsLost)$/.test(key));
    const score = broken.length === 0 ? 1 : Math.min(...broken.map(({ margin }) => margin));
    if (!nearest || score > nearest.score) nearest = { rig: candidate, area, count, rating, score };
    if (broken.length > 0) continue;
    if (!options.headroom || !usesInverter(rig)) {
      chosen = { rig: candidate, area, count, rating };
      break;
    }
    // More copper while the start gains from it, up to the spare of a sound start.
    const margin = smallestMargin(after.start.own);
    const voltage = after.start.own.nearest.voltage;
    if (margin > steadyMargin + 0.01) {
      chosen = { rig: candidate, area, count, rating };
      steadyMargin = margin;
    }
    if (!voltage || voltage.has >= 1.15 * voltage.need) break;
  }
  const result = chosen ?? nearest;
  if (!result) return null;
  const { area, count, rating } = result;
  const words = `${count > 1 ? `${count} × ` : ""}${areaWords(rig, area)}${rating > 0 ? `, ${rating} A` : ""}`;
  return {
    rig: result.rig,
    areaMm2: area,
    count,
    rating,
    words,
    reasons: reasonsOf(rig, assess(result.rig), run, {
      current,
      least,
      guarded,
      rating,
      area,
      count,
      carried: worst(area, count),
      kinds,
    }),
    thicker: area * count > was * 1.01,
    met: chosen !== null,
  };
}

function reasonsOf(
  rig: Rig,
  after: Assessment,
  run: Run,
  chosen: {
    current: number;
    least: number;
    guarded: boolean;
    rating: number;
    area: number;
    count: number;
    carried: number;
    kinds: ReadonlyMap<string, FuseKind>;
  },
): ChoiceReason[] {
  const amps = (value: number) => `${value.toFixed(value < 100 ? 1 : 0)} A`;
  const reasons: ChoiceReason[] = [];
  if (chosen.guarded)
    reasons.push({
      rule: run.mains ? "Breaker over the running current" : "Fuse at 125 % of the running current",
      asks: `${amps(chosen.least)}: ${chosen.rating} A`,
    });
  for (const kind of new Set(chosen.kinds.values()))
    reasons.push({ rule: "Breaks the bank’s short circuit", asks: `a ${FUSE_KINDS[kind].name.toLowerCase()}` });
  reasons.push({
    rule: "Ampacity over its fuse or breaker",
    asks: `${amps(chosen.guarded ? chosen.rating : chosen.current)}: ${chosen.count > 1 ? `${chosen.count} × ` : ""}${areaWords(rig, chosen.area)} carries ${amps(chosen.carried)}`,
  });
  const mine = after.verdicts.carries.checks.filter(({ key }) => key.startsWith(`${run.path}`));
  const short = mine.find(({ key }) => key.endsWith(":short"));
  if (short) reasons.push({ rule: "Withstands the short circuit", asks: `${short.need.toFixed(1)} mm²` });
  const drop = mine.find(({ key }) => key.endsWith(":voltsLost"));
  if (drop)
    reasons.push({ rule: "Voltage drop", asks: `${drop.need.toFixed(2)} V of ${drop.has.toFixed(2)} V allowed` });
  return reasons;
}
