import { isSpare } from "../../assessment/judge/word";
import { isWithin, stepsOf, type RunPath } from "../../document/path";
import { FUSE_KINDS, FUSE_RATINGS, interruptingAt, type FuseKind } from "../../reference/conductors/fuse";
import { allCircuits, type WiringPart, type Circuit } from "../../models/wiring/circuits";
import { isKind } from "../../models/wiring/part";
import { acAmpacity } from "../../reference/standards/ac-cable";
import type { RuleSet } from "../../reference/standards/rule-set";
import type { CheckTopic } from "../../assessment/judge/finding";
import { type Check, isNewlyBroken } from "../../assessment/judge/judge";
import { guardOf, largestDeviceOn } from "../../assessment/needs/guards";
import { ruleOf, RULES } from "../../assessment/rules/rules";
import { cableCarries } from "../../reference/conductors/ampacity";
import type { Part, Job } from "../../document/schema";
import { formatNeedsHas } from "../../units/format";
import type { Quantity } from "../../units/known";
import { ampacityTable, areaWords, sizesOf } from "../../document/defaults";
import { putAt } from "../../document/compare";
import { startContext, traceStart, type Limit } from "../../simulation/start/start";
import { buildSystem } from "../../models/system/build";
import { assessCarries } from "../../assessment/carries/carries";
import { startDevices } from "../../assessment/starts/starts";
import { lowestSoc, type System } from "../../models/system/system";
import { usesInverter } from "../../document/resolve-wiring";
import { withWiringOf } from "../../document/resolve";

/** One rule of the choice and what it asks of the run. */
export interface ChoiceReason {
  rule: string;
  asks: string;
}

export interface Choice {
  /** The system with the choice in it. */
  job: Job;
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

/** Ratings of switches, busbars and transfer switches on sale, A. */
const DC_SWITCHES = [32, 50, 63, 100, 150, 200, 250, 300, 350, 400, 500, 600, 800, 1000, 1500] as const;
const AC_SWITCHES = [16, 20, 25, 32, 40, 50, 63, 80, 100, 125] as const;

/** What Carries says, and the breakers' part of Starts: every check that a size can change. */
export interface Judged {
  system: System;
  checks: Check[];
  currents: Record<string, number>;
}

/** Judges a system as far as sizes of its wiring go; `like` is one that differs from it in parts of the wiring alone. */
export function judge(job: Job, like?: Judged): Judged {
  if (like?.system.job === job) return like;
  const system = buildSystem(job, like && withWiringOf(like.system.values, job));
  const { verdict, currents } = assessCarries(system);
  return { system, checks: [...verdict.checks, ...startDevices(system)], currents };
}

const runAt = ({ system }: Judged, path: RunPath): Circuit | undefined =>
  allCircuits(system.wiring).find((circuit) => circuit.path === path);

/** Kinds of fuse from the handiest to the one that breaks most. */
const KINDS: readonly FuseKind[] = ["terminal", "bolted-strip", "class-t", "hrc"];

/** What may be broken by a fuse or breaker that is too small. */
const OF_DEVICES: ReadonlySet<CheckTopic | undefined> = new Set<CheckTopic>(["size", "fullDraw", "output"]);
/** What may be broken by a cable that is too thin. */
const OF_CABLES: ReadonlySet<CheckTopic | undefined> = new Set<CheckTopic>([
  "ampacity",
  "guarded",
  "short",
  "voltsLost",
  "fullDraw",
  "least",
]);

/** The checks of a part, or of a run with all its parts. */
const of = (judged: Judged, path: RunPath) =>
  judged.checks.filter(({ part, run }) => run === path || (part !== undefined && isWithin(part, path)));

/** A fuse kind that breaks the short circuit and the voltage at a part, where its own does not; the first that does. */
function betterKind(judged: Judged, one: WiringPart, circuit: Circuit): FuseKind | null {
  const asked = (about: CheckTopic) => judged.checks.find(({ topic, part }) => topic === about && part === one.path);
  const [amps, volts] = [asked("interrupting"), asked("volts")];
  if ((amps?.margin ?? 1) >= 1 && (volts?.margin ?? 1) >= 1) return null;
  const nominal = circuit.far ? circuit.far.volts : judged.system.bank.nominalVoltage;
  return (
    KINDS.find(
      (kind) => interruptingAt(kind, nominal) >= (amps?.need ?? 0) && FUSE_KINDS[kind].voltage >= (volts?.need ?? 0),
    ) ?? null
  );
}

interface Sizes {
  area: number;
  count: number;
  rating: number;
}

/** Sizes that were tried: the system with them, judged. */
interface Trial extends Sizes {
  job: Job;
  judged: Judged;
}

/** The system with sizes put into a run: one cable size, and one fuse or breaker rating. */
function put(job: Job, circuit: Circuit, sizes: Sizes, kinds: ReadonlyMap<string, FuseKind>): Job {
  const parts = circuit.parts.map(({ part }): Part => {
    if (isKind(part, "cable"))
      return { ...part, ampacity: undefined, areaMm2: plate(sizes.area), count: plate(sizes.count) };
    if (isKind(part, "fuse")) {
      const kind = kinds.get(part.id);
      const made = kind ? { fuseKind: kind, interrupting: undefined, voltage: undefined } : {};
      return { ...part, ...made, resistance: undefined, rating: plate(sizes.rating) };
    }
    return isKind(part, "breaker") ? { ...part, rating: plate(sizes.rating) } : part;
  });
  return { ...job, wiring: withRun(job.wiring, circuit.path, parts) };
}

/** The wiring with other parts in one of its runs. What a reading of the old main run told says nothing of the new one. */
function withRun(wiring: Job["wiring"], path: RunPath, parts: Part[]): Job["wiring"] {
  if (path === "wiring.mains") return { ...wiring, mains: parts };
  if (path === "wiring.main")
    return {
      ...wiring,
      main: parts,
      measured: { ...wiring.measured, bankVoltage: undefined, inverterVoltage: undefined },
    };
  const [, , index, side] = stepsOf(path);
  return {
    ...wiring,
    branches: wiring.branches.map((branch, i) =>
      i === index ? { ...branch, [side as "parts" | "far"]: parts } : branch,
    ),
  };
}

const SHUNTS = [50, 100, 200, 300, 500, 1000, 1500] as const;

/** Sizes on sale of a kind of switching or joining part; null for a part that is not sized so. */
function switchSizes(part: Part, mains: boolean, rules: RuleSet): readonly number[] | null {
  if (isKind(part, "shunt")) return SHUNTS;
  if (isKind(part, "rcd")) return rules.residual.ratings;
  const sized = ["isolator", "busbar", "connector", "changeover"].includes(part.kind);
  return !sized ? null : mains ? AC_SWITCHES : DC_SWITCHES;
}

/** A run's parts with every switch, busbar, shunt and RCD at the smallest rating that what protects it asks for. */
function fitSwitches(judged: Judged, circuit: Circuit): Part[] {
  return circuit.parts.map(({ part, path }) => {
    const sizes = switchSizes(part, circuit.mains, judged.system.wiring.rules);
    const need = judged.checks.find(({ topic, part }) => topic === "size" && part === path)?.need;
    if (!sizes || need === undefined) return part;
    const fitted = { ...part, rating: plate(nextOf(sizes, need)) } as Part;
    if (fitted.kind === "shunt") fitted.resistance = undefined;
    const { mostA, usualA } = judged.system.wiring.rules.residual;
    if (fitted.kind === "rcd" && fitted.residual && fitted.residual.value > mostA) fitted.residual = plate(usualA);
    return fitted;
  });
}
const nextOf = (list: readonly number[], least: number) =>
  list.find((one) => one >= least - 1e-9) ?? list[list.length - 1]!;

/**
 * The smallest standard cable and fuse (or breaker) of a run that satisfy all its rules: load, inverter's full draw,
 * ampacity, protection, drop, short-circuit withstand, and a start that the breaker lets pass; switches are rated as what
 * protects them; a fuse of a kind that could not break the short circuit gives way to one that does. With `headroom`, also
 * a start with 15 % to spare as far as copper can give it; `like` is as in `judge`. Every cable and every fuse of the run takes
 * the same size. Null where the run has no cable.
 *
 * Ratings are tried from the smallest, then copper from the thinnest, one cable a pole and then more, each judged whole: the
 * rules live in one place.
 */
// oxlint-disable-next-line max-lines-per-function -- one search: device, copper, device again; each step needs what the one before it left
export function sizeCircuit(
  job: Job,
  path: RunPath,
  options: { headroom?: boolean; like?: Judged } = {},
): Choice | null {
  const before = judge(job, options.like);
  const circuit = runAt(before, path);
  const cables = circuit?.parts.filter(({ part }) => part.kind === "cable") ?? [];
  if (!circuit || cables.length === 0) return null;
  const guarded = circuit.parts.some(({ part }) => part.kind === "fuse" || part.kind === "breaker");
  const kinds = new Map(
    circuit.parts.flatMap((one): [string, FuseKind][] => {
      const kind = isKind(one.part, "fuse") ? betterKind(before, one, circuit) : null;
      return kind ? [[one.part.id, kind]] : [];
    }),
  );
  const ratings = guarded ? (circuit.mains ? before.system.wiring.rules.breakers : FUSE_RATINGS) : [0];
  const areas = sizesOf(job);
  const counts = circuit.mains ? [1] : [1, 2, 3, 4];
  const options_ = counts.flatMap((count) => areas.map((area) => ({ area, count })));
  const largest = options_[options_.length - 1]!;
  const brokenBy = (judged: Judged, topics: ReadonlySet<CheckTopic | undefined>) =>
    of(judged, path).filter(({ met, topic }) => !met && topics.has(topic));
  const startBroken = (judged: Judged) =>
    judged.checks.some(({ by, met, part }) => by === "start-breaker" && !met && part && isWithin(part, path));

  // Some sizes are asked for twice: for their copper and for their device.
  const tried = new Map<string, Trial>();
  const attempt = ({ area, count, rating }: Sizes): Trial => {
    const key = `${area}|${count}|${rating}`;
    const known = tried.get(key);
    if (known) return known;
    const candidate = put(job, circuit, { area, count, rating }, kinds);
    const trial = { area, count, rating, job: candidate, judged: judge(candidate, before) };
    tried.set(key, trial);
    return trial;
  };

  // The device first: with copper enough that it takes no part in the choice.
  const passes = (rating: number, { area, count }: { area: number; count: number }) => {
    const { judged } = attempt({ area, count, rating });
    return (
      brokenBy(judged, OF_DEVICES).filter(({ part }) => isDevice(circuit, part)).length === 0 && !startBroken(judged)
    );
  };
  const firstRating = (size: { area: number; count: number }) => {
    if (!guarded) return 0;
    const need = Math.max(
      0,
      ...of(before, path)
        .filter(({ topic, part }) => OF_DEVICES.has(topic) && isDevice(circuit, part))
        .map(({ need }) => need),
    );
    // What is asked hardly hangs on the size: two below the need is early enough to begin.
    const from = Math.max(0, ratings.findIndex((one) => one >= need) - 2);
    return ratings.slice(from).find((one) => passes(one, size)) ?? ratings[ratings.length - 1]!;
  };
  let rating = firstRating(largest);
  let chosen: Trial | null = null;
  let nearest: { trial: Trial; score: number } | null = null;
  let steadyMargin = -1;
  // What copper lifts: the voltage at the end of the inverter's circuit, or at a DC unit on a branch of its own.
  const lifted: Limit = path === "wiring.main" ? "voltage" : "unit";
  const guess = thinnestOf(before, circuit, rating, options_);
  for (let at = guess; at < options_.length; at++) {
    const trial = attempt({ ...options_[at]!, rating });
    const broken = brokenBy(trial.judged, OF_CABLES);
    const score = broken.length === 0 ? 1 : Math.min(...broken.map(({ margin }) => margin));
    if (!nearest || score > nearest.score) nearest = { trial, score };
    if (broken.length > 0) continue;
    if (!options.headroom || !usesInverter(job)) {
      chosen = trial;
      break;
    }
    // More copper while the start gains from it, up to the spare of a sound start.
    const margin = leastMargin(trial.judged.system, lifted);
    if (margin > steadyMargin + 0.01) {
      chosen = trial;
      steadyMargin = margin;
    }
    if (isSpare(margin)) break;
  }
  // Thin copper takes more current at constant power: the device is looked at once more with the copper chosen.
  if (chosen && guarded && !passes(rating, chosen)) {
    rating = ratings.find((one) => one > rating && passes(one, chosen!)) ?? rating;
    const size = options_.find(({ area, count }) => {
      if (area * count < chosen!.area * chosen!.count - 1e-9) return false;
      return brokenBy(attempt({ area, count, rating }).judged, OF_CABLES).length === 0;
    });
    chosen = size ? attempt({ ...size, rating }) : null;
  }
  const found = chosen ?? nearest?.trial;
  if (!found) return null;
  const { area, count } = found;
  const switched = fitSwitches(found.judged, runAt(found.judged, path)!);
  const fitted = { ...job, wiring: withRun(found.job.wiring, path, switched) };
  const judged = judge(fitted, before);
  const was = cables[0]!.values.areaMm2!.value * cables[0]!.values.count!.value;
  return {
    job: fitted,
    areaMm2: area,
    count,
    rating: found.rating,
    words: `${count > 1 ? `${count} × ` : ""}${areaWords(job, area)}${found.rating > 0 ? `, ${found.rating} A` : ""}`,
    reasons: reasonsOf(fitted, judged, path, kinds),
    thicker: area * count > was * 1.01,
    met: chosen !== null && brokenBy(judged, OF_DEVICES).length === 0,
  };
}

const isDevice = (circuit: Circuit, part: string | undefined) =>
  circuit.parts.some((one) => one.path === part && (one.part.kind === "fuse" || one.part.kind === "breaker"));

/** Index of the first size that its device may stand before, by the tables: the thinner ones need not be judged. */
function thinnestOf(
  judged: Judged,
  circuit: Circuit,
  rating: number,
  options: { area: number; count: number }[],
): number {
  const { system } = judged;
  const { rules } = system.wiring;
  const first = circuit.parts.findIndex(({ part }) => part.kind === "cable");
  const guard = guardOf(system.wiring, circuit, first);
  const asked = rating || (guard?.values.rating!.value ?? 0);
  const ambientC = system.values.wiring.ambientC.value;
  const table = ampacityTable(system.job);
  const cables = circuit.parts.flatMap(({ part, values }) =>
    isKind(part, "cable") ? [{ part, circuits: values.circuits!.value }] : [],
  );
  const carries = (area: number, count: number) =>
    Math.min(
      ...cables.map(({ part, circuits }) => {
        const { insulation, method, route, terminals } = part;
        const ampacity = circuit.mains
          ? acAmpacity(rules, { areaMm2: area, insulation, method, route, terminals, circuits }, ambientC).ampacity
          : cableCarries(table, { areaMm2: area, insulation, route, conductors: circuits }, ambientC);
        return largestDeviceOn(system, circuit.mains, { ampacity: ampacity * count, areaMm2: area });
      }),
    );
  return Math.max(
    0,
    options.findIndex(({ area, count }) => carries(area, count) >= asked - 1e-9),
  );
}

/** The least that a limit has of what it needs, over the units' starts one by one; infinite where it holds back none. */
function leastMargin(system: System, limit: Limit): number {
  const { job } = system;
  const context = startContext(system);
  const margins = job.units.map((_, i) => {
    const trace = traceStart(context, { starting: i, startAid: "own", share: lowestSoc(system), drawn: false });
    const nearest = trace.nearest[limit];
    return nearest && nearest.need > 0 ? nearest.has / nearest.need : Infinity;
  });
  return Math.min(...margins);
}

/** The rule that a check stands for, by its title. */
export const ruleTitle = (check: Check): string => ruleOf(check)?.title ?? check.name;

/** What each rule asks of a run that was chosen, nearest first, each rule once. */
function reasonsOf(job: Job, judged: Judged, path: RunPath, kinds: ReadonlyMap<string, FuseKind>): ChoiceReason[] {
  const seen = new Set<string>();
  const reasons: ChoiceReason[] = [...new Set(kinds.values())].map((kind) => ({
    rule: RULES["dc-interrupting"].title,
    asks: FUSE_KINDS[kind].name.toLowerCase(),
  }));
  for (const check of of(judged, path).sort((a, b) => a.margin - b.margin)) {
    const rule = ruleTitle(check);
    if (seen.has(rule) || check.form === "there") continue;
    seen.add(rule);
    reasons.push({ rule, asks: formatNeedsHas(check, job.notation) });
  }
  return reasons;
}

/** A part of a run one size smaller; null where it has no size or none smaller is made. */
export function oneSmaller(
  job: Job,
  judged: Judged,
  circuit: Circuit,
  index: number,
): { job: Job; words: string } | null {
  const { part, values, path } = circuit.parts[index]!;
  const step = (list: readonly number[], value: number) => list.findLast((one) => one < value * 0.98) ?? null;
  const changed = (next: Part): Job => {
    const copy = structuredClone(job);
    putAt(copy, path, next);
    return copy;
  };
  if (isKind(part, "cable")) {
    const area = step(sizesOf(job), values.areaMm2!.value);
    return area === null ? null : { job: changed({ ...part, areaMm2: plate(area) }), words: areaWords(job, area) };
  }
  if (isKind(part, "joints") || isKind(part, "inlet")) return null;
  const list: readonly number[] = isKind(part, "fuse")
    ? FUSE_RATINGS
    : isKind(part, "breaker")
      ? judged.system.wiring.rules.breakers
      : (switchSizes(part, circuit.mains, judged.system.wiring.rules) ?? []);
  const rating = step(list, values.rating!.value);
  if (rating === null) return null;
  const rated = isKind(part, "fuse") || isKind(part, "shunt") ? { ...part, resistance: undefined } : part;
  return { job: changed({ ...rated, rating: plate(rating) } as Part), words: `${rating} A` };
}

/** The checks that a change breaks: met before, or not asked, and not met after; or missed before and by more after. */
export function newlyBroken(before: Judged, after: Judged): Check[] {
  const was = new Map(before.checks.map((one) => [one.key, one]));
  return after.checks.filter((check) => isNewlyBroken(was.get(check.key), check));
}
