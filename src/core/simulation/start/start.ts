import type { System } from "../../models/system/system";
import { openCircuitVoltage } from "../../models/battery/battery";
import { bankUnderLoad, type BankUnderLoad } from "../../models/battery/under-load";
import { acFromDc, dcInput, surgePower } from "../../models/inverter/inverter";
import { breakerSurvives, BREAKER_CURVES, fuseSurvives, type BreakerCurve } from "../../reference/conductors/fuse";
import type { WiringModel, WiringPart } from "../../models/wiring/circuits";
import type { Job } from "../../document/schema";
import { legShares, type Legs } from "../../reference/standards/mains";
import {
  allowedOnBranch,
  allowedPathPower,
  resistanceOfBranch,
  voltageLimitName,
  type Allowed,
  type Switching,
} from "../../models/system/allowed";
import { startShape, type StartAid, type Instant, type StartShape } from "./demand";
import { onMains } from "../../document/unit-kinds";

/** The fixed parts of a start: everything but the start aid. */
export interface StartContext extends Switching {
  mains: number;
  unitVolts: readonly number[];
  legs: Legs;
  /** VA of the other mains loads on each leg that may be on at a start. */
  loads: { byLegAtStart: readonly [number, number] };
  /** Loads that may be on when the compressor starts, W. */
  mainsLoad: number;
  dcLoad: number;
}

/** A start of a system as it stands, with the loads that may be on beside it. */
export const startContext = (system: System): StartContext => ({
  mainsLoad: system.loads.mainsAtStart,
  dcLoad: system.loads.dcAtStart,
  ...system,
});

export const LIMITS = ["inverter", "voltage", "unit", "protection", "fuse", "breaker"] as const;
export type Limit = (typeof LIMITS)[number];

const LIMIT_NAMES: Record<Exclude<Limit, "voltage">, string> = {
  inverter: "inverter surge",
  unit: "voltage at a DC unit",
  protection: "battery limit",
  fuse: "fuse",
  breaker: "AC breaker",
};

/** What a limit of a start is called. */
export const limitName = (limit: Limit, { voltageLimit }: Pick<StartTrace, "voltageLimit">): string =>
  limit === "voltage" ? voltageLimit : LIMIT_NAMES[limit];

/** The moment at which a limit is nearest. Amps, W or VA as the limit is stated. */
export interface Nearest {
  seconds: number;
  need: number;
  has: number;
}

/** A start over time under every limit. All arrays are as long as `seconds`. */
export interface StartTrace {
  /** Index of the unit that starts, or -1 for all together. */
  starting: number;
  shape: StartShape;
  seconds: Float64Array;
  /** VA on mains, or W where everything runs straight from the bank. */
  apparent: Float64Array;
  /** W on mains, or from the path where everything runs straight from the bank. */
  real: Float64Array;
  /** W along the path from the bank. */
  pathPower: Float64Array;
  pathCurrent: Float64Array;
  /** W at the battery beside the path: DC loads, and units on branches of their own. */
  side: Float64Array;
  /** Each limit turned into the picture's unit, at the demand's own power factor. */
  limits: Partial<Record<Limit, Float64Array>>;
  nearest: Partial<Record<Limit, Nearest>>;
  /** What sets the limit by the volts on the main run: the machine at its end, or the battery's own cut-off. */
  voltageLimit: string;
  /** The AC breaker that is nearest to opening at its nearest moment. */
  breaker: WiringPart | null;
  /** The DC unit on a branch of its own that is nearest to its cut-off, at its nearest moment: its index, and what it may draw. */
  lowUnit: { unit: number; allowed: Allowed } | null;
  /** The battery at the start's largest real power, at the lowest level it must still start from. */
  peak: BankUnderLoad;
  peakSeconds: number;
  /** Largest apparent and real power. */
  peakApparent: number;
  peakReal: number;
  peakPathPower: number;
  /** W beside the path at that moment. */
  peakSide: number;
  allowed: Allowed;
}

const FIRST = 0.01;
/** Dense enough to draw; a margin is found at the corners, which are always among the points. */
const DRAWN_PER_DECADE = 24;
const WEIGHED_PER_DECADE = 12;

const bases = new Map<string, Float64Array>();

/** Log-spaced seconds from 10 ms to `last`; the usual ten seconds are made once. */
function baseGrid(last: number, perDecade: number): Float64Array {
  const key = `${last} ${perDecade}`;
  const made = bases.get(key);
  if (made) return made;
  const decades = Math.log10(last / FIRST);
  const steps = Math.ceil(decades * perDecade);
  const base = Float64Array.from({ length: steps + 1 }, (_, i) => FIRST * Math.pow(10, (i * decades) / steps));
  if (last === 10) bases.set(key, base);
  return base;
}

/** Log-spaced seconds from 10 ms to at least 10 s, with every corner of the start and of the limits among them. */
function timeGrid(last: number, corners: number[], perDecade: number): Float64Array {
  const base = baseGrid(last, perDecade);
  const more: number[] = [];
  // A hair before each corner as well, since a limit may drop or a demand end there.
  for (const corner of corners) for (const t of [corner * 0.99999, corner]) if (t > FIRST && t < last) more.push(t);
  const points = new Float64Array(base.length + more.length);
  points.set(base);
  points.set(more, base.length);
  return points.sort();
}

/** Which start is traced, and how. */
export interface StartQuestion {
  /** Index of the unit that starts while the others run, or -1 for all together. */
  starting: number;
  /** A start aid in place of the unit's own. */
  startAid: StartAid | "own";
  /** State of charge of the battery, 0 to 1. */
  share: number;
  /** Whether the limits are to be drawn: a trace that is only weighed has fewer points and no lines. */
  drawn?: boolean;
}

/** The start of a unit, or of all, under every limit. */
export function traceStart(context: StartContext, question: StartQuestion): StartTrace {
  const { bank, wiring, converted } = context;
  const { starting } = question;
  const demand = demandOver(context, question);
  const { shape, seconds, apparent, real, pathPower, pathCurrent, side, peakAt } = demand;
  const limits = new Weighing(context, demand, question.drawn ?? true);
  if (converted) limits.weighSurge();
  limits.weighVoltage();
  const lowUnit = limits.weighUnits();
  limits.weighProtection();
  if (wiring.fuseRating > 0) limits.weighFuse();
  const breaker = converted ? limits.weighBreakers() : null;
  return {
    starting,
    breaker,
    lowUnit,
    shape,
    seconds,
    apparent,
    real,
    pathPower,
    pathCurrent,
    side,
    limits: limits.lines,
    nearest: limits.nearest,
    voltageLimit: voltageLimitName(context, limits.allowed),
    peak: bankUnderLoad(demand.rest, bank.innerResistance, wiring.resistance, pathPower[peakAt]!, side[peakAt]!),
    peakSeconds: seconds[peakAt]!,
    peakApparent: apparent.reduce((a, b) => Math.max(a, b), 0),
    peakReal: real.reduce((a, b) => Math.max(a, b), 0),
    peakPathPower: pathPower[peakAt]!,
    peakSide: side[peakAt]!,
    allowed: limits.allowed,
  };
}

/** What a start asks for over time. All arrays are as long as `seconds`. */
interface Demand {
  shape: StartShape;
  /** V of the battery at rest, at the state of charge that the start is judged at. */
  rest: number;
  seconds: Float64Array;
  /** VA on mains, or W where everything runs straight from the bank. */
  apparent: Float64Array;
  real: Float64Array;
  /** VA that the inverter's surge must cover: all of it, or on a split phase twice the fuller leg. */
  onSurge: Float64Array;
  /** VA of each unit on mains, W of each DC unit on a branch of its own. */
  ofUnit: Float64Array[];
  pathPower: Float64Array;
  pathCurrent: Float64Array;
  bankCurrent: Float64Array;
  side: Float64Array;
  /** Index of the largest power along the wiring. */
  peakAt: number;
}

function demandOver(context: StartContext, { starting, startAid, share, drawn = true }: StartQuestion): Demand {
  const { job, bank, inverter, wiring, units, converted } = context;
  const shapes = units.map((_, i) => shapeOf(context, i, startAid));
  const shape = starting === -1 ? shapes.reduce((a, b) => (b.settles > a.settles ? b : a)) : shapes[starting]!;
  const limitCorners = [...inverter.surgeLogTimes.map((t) => Math.exp(t)), bank.peakTime, 0.1, 0.3, 1];
  const corners = [...shapes.flatMap((s) => s.corners), ...limitCorners];
  const seconds = timeGrid(Math.max(10, shape.settles * 1.2), corners, drawn ? DRAWN_PER_DECADE : WEIGHED_PER_DECADE);
  const n = seconds.length;
  const make = () => new Float64Array(n);
  const [apparent, real, onSurge, pathPower, pathCurrent, bankCurrent, side] = [
    make(),
    make(),
    make(),
    make(),
    make(),
    make(),
    make(),
  ];
  const ofUnit = units.map(make);
  const { split } = context.legs;
  const shares = units.map((_, i) => legShares(job.brief.mains, job.units[i]!.leg));
  const running = units.map((unit): Instant => ({ apparent: unit.runningApparent.value, real: unit.running.value }));
  const rest = openCircuitVoltage(bank, share);
  let peakAt = 0;
  for (let k = 0; k < n; k++) {
    let [mainsVA, mainsW, directW] = [context.mainsLoad, context.mainsLoad, 0];
    let [first, second] = context.loads.byLegAtStart;
    let sideW = context.dcLoad;
    for (let i = 0; i < units.length; i++) {
      const now = starting === -1 || starting === i ? shapes[i]!.at(seconds[k]!) : running[i]!;
      if (context.beside[units[i]!.index]) {
        sideW += now.real;
        ofUnit[i]![k] = now.real;
      } else if (units[i]!.direct) directW += now.real;
      else {
        mainsVA += now.apparent;
        mainsW += now.real;
        ofUnit[i]![k] = now.apparent;
        first += shares[i]![0] * now.apparent;
        second += shares[i]![1] * now.apparent;
      }
    }
    apparent[k] = converted ? mainsVA : directW;
    onSurge[k] = split ? 2 * Math.max(first, second) : mainsVA;
    real[k] = converted ? mainsW : directW;
    pathPower[k] = (converted ? dcInput(inverter, mainsW) : 0) + directW;
    side[k] = sideW;
    const state = bankUnderLoad(rest, bank.innerResistance, wiring.resistance, pathPower[k]!, sideW);
    pathCurrent[k] = state.askedPathCurrent;
    bankCurrent[k] = state.askedBankCurrent;
    if (pathPower[k]! > pathPower[peakAt]!) peakAt = k;
  }
  return { shape, rest, seconds, apparent, real, onSurge, ofUnit, pathPower, pathCurrent, bankCurrent, side, peakAt };
}

function shapeOf(
  { job, values, bank, units, unitVolts }: StartContext,
  i: number,
  startAid: StartAid | "own",
): StartShape {
  const draws = units[i]!;
  const known = {
    apparent: draws.runningApparent.value,
    real: draws.running.value,
    fan: draws.fan.value,
    volts: draws.direct ? bank.nominalVoltage : unitVolts[draws.index]!,
  };
  return startShape(job.units[i]!, values.units[i]!, known, startAid === "own" ? job.units[i]!.startAid : startAid);
}

/** Holds a start's demand against one limit after another. */
class Weighing {
  readonly lines: StartTrace["limits"] = {};
  readonly nearest: StartTrace["nearest"] = {};
  readonly allowed: Allowed;
  /** W of the units that run straight from the battery at the end of the path. */
  private readonly direct: number;

  constructor(
    private readonly context: StartContext,
    private readonly demand: Demand,
    private readonly drawn: boolean,
  ) {
    // Whatever hangs on the battery beside the path takes its volts: counted at its most, whenever that is.
    this.allowed = allowedPathPower({ ...context, dcLoad: Math.max(...demand.side) }, demand.rest);
    this.direct = context.units.reduce(
      (sum, u) => sum + (u.direct && !context.beside[u.index] ? u.running.value : 0),
      0,
    );
  }

  /** `need` and `has` at each moment as the limit is stated; `picture` is the limit in the picture's unit. */
  private weigh(
    limit: Limit,
    need: (k: number) => number,
    has: (k: number) => number,
    picture: (k: number) => number,
  ): void {
    const { seconds } = this.demand;
    const line = this.drawn ? new Float64Array(seconds.length) : undefined;
    let best: Nearest | undefined;
    for (let k = 0; k < seconds.length; k++) {
      if (line) line[k] = picture(k);
      const here = { seconds: seconds[k]!, need: need(k), has: has(k) };
      if (!best || marginOf(here) < marginOf(best)) best = here;
    }
    if (line) this.lines[limit] = line;
    this.nearest[limit] = best!;
  }

  /** W along the path as the picture shows it, at the demand's own power factor. */
  private shown(limitPathPower: number, k: number): number {
    const { converted, inverter } = this.context;
    if (!converted) return limitPathPower;
    const { real, apparent } = this.demand;
    const watts = acFromDc(inverter, Math.max(0, limitPathPower - inverter.idlePower - this.direct));
    return real[k]! > 0 ? (watts * apparent[k]!) / real[k]! : watts;
  }

  /** W along the path that a current limit stands for, at the volts which that current leaves. */
  private fromCurrent(current: number, k: number, atBank: boolean): number {
    const { bank, wiring } = this.context;
    const { rest } = this.demand;
    const inner = bank.innerResistance;
    const side = this.demand.side[k]! / rest;
    const taken = Math.min(
      Math.max(0, atBank ? current - side : current),
      rest / (2 * Math.max(1e-9, inner + wiring.resistance)),
    );
    return taken * Math.max(0, rest - (taken + side) * inner - taken * wiring.resistance);
  }

  weighSurge(): void {
    const { seconds, onSurge, apparent } = this.demand;
    const surge = (k: number) => surgePower(this.context.inverter, seconds[k]!);
    this.weigh(
      "inverter",
      (k) => onSurge[k]!,
      surge,
      (k) => (onSurge[k]! > 0 ? (surge(k) * apparent[k]!) / onSurge[k]! : surge(k)),
    );
  }

  weighVoltage(): void {
    const { converted, inverter } = this.context;
    const { seconds, pathPower } = this.demand;
    // A draw that passes its limit counts from the moment at which it has held for the delay.
    const sustained = lowestOver(seconds, pathPower, converted ? inverter.cutOffDelay : 0);
    this.weigh(
      "voltage",
      (k) => sustained[k]!,
      () => this.allowed.power,
      (k) => this.shown(this.allowed.power, k),
    );
  }

  /** Weighs the DC units on branches of their own; the one that is nearest to its cut-off, null without any. */
  weighUnits(): StartTrace["lowUnit"] {
    const { beside, units } = this.context;
    const { seconds } = this.demand;
    const own = units.flatMap(({ index }, i) => (beside[index] ? [i] : []));
    if (own.length === 0) return null;
    // At each moment the unit that has the least to spare stands for all.
    const at = (k: number) =>
      own
        .map((i) => this.unitAt(i, k))
        .reduce((least, one) => (one.has * least.need < least.has * one.need ? one : least));
    this.weigh(
      "unit",
      (k) => at(k).need,
      (k) => at(k).has,
      (k) => this.shown(this.pathToCutOff(at(k).unit, k), k),
    );
    const { unit, allowed } = at(Math.max(0, seconds.indexOf(this.nearest.unit!.seconds)));
    return { unit, allowed };
  }

  /** W that a DC unit draws on its own branch at a moment, and W that it may while all else draws what it does. */
  private unitAt(i: number, k: number): { unit: number; need: number; has: number; allowed: Allowed } {
    const { ofUnit, side, bankCurrent, pathCurrent, rest } = this.demand;
    const need = ofUnit[i]![k]!;
    const now = { bankCurrent: bankCurrent[k]!, pathCurrent: pathCurrent[k]!, side: side[k]! };
    const allowed = allowedOnBranch(this.context, i, { rest, own: need, ...now });
    return { unit: i, need, has: allowed.power, allowed };
  }

  /** W along the path at which a DC unit on its own branch would come to its cut-off. */
  private pathToCutOff(i: number, k: number): number {
    const { bank, values, units } = this.context;
    const { cutOffVoltage } = values.units[units[i]!.index]!;
    const current = this.demand.ofUnit[i]![k]! / Math.max(1, cutOffVoltage.value);
    const atBank = cutOffVoltage.value + current * resistanceOfBranch(this.context, i);
    return this.fromCurrent((this.demand.rest - atBank) / Math.max(1e-9, bank.innerResistance), k, true);
  }

  weighProtection(): void {
    const { bank } = this.context;
    const { seconds, bankCurrent } = this.demand;
    const limit = (k: number) => (seconds[k]! <= bank.peakTime ? bank.peakCurrent : bank.continuousCurrent);
    this.weigh(
      "protection",
      (k) => bankCurrent[k]!,
      limit,
      (k) => this.shown(this.fromCurrent(limit(k), k, true), k),
    );
  }

  weighFuse(): void {
    const { wiring } = this.context;
    const { seconds, pathCurrent } = this.demand;
    const fuse = (k: number) => wiring.fuseRating * fuseSurvives(seconds[k]!);
    this.weigh(
      "fuse",
      (k) => pathCurrent[k]!,
      fuse,
      (k) => this.shown(this.fromCurrent(fuse(k), k, false), k),
    );
  }

  /** Weighs the AC breakers and returns the one that is nearest to opening; null without any. */
  weighBreakers(): WiringPart | null {
    const { wiring, job, mains, unitVolts, units, legs } = this.context;
    const { seconds, onSurge, ofUnit, apparent } = this.demand;
    const breakers = breakersOf(wiring, job);
    if (breakers.length === 0) return null;
    // At each moment the breaker that has the least to spare stands for all.
    const at = (k: number) =>
      breakers.reduce<{ one: (typeof breakers)[number]; need: number; has: number } | null>((least, one) => {
        const va = one.unit < 0 ? onSurge[k]! / (legs.split ? 2 : 1) : ofUnit[one.unit]![k]!;
        const need = va / (one.unit < 0 ? mains : unitVolts[units[one.unit]!.index]!);
        const has = one.rating * breakerSurvives(seconds[k]!, one.curve);
        return !least || has * least.need < least.has * need ? { one, need, has } : least;
      }, null)!;
    this.weigh(
      "breaker",
      (k) => at(k).need,
      (k) => at(k).has,
      (k) => {
        const { need, has } = at(k);
        return need > 0 ? (apparent[k]! * has) / need : apparent[k]!;
      },
    );
    return at(Math.max(0, seconds.indexOf(this.nearest.breaker!.seconds))).one.part;
  }
}

/** The AC breakers between the inverter and its units: those of the output, and each unit's own (index into the units). */
function breakersOf(
  wiring: WiringModel,
  job: Job,
): { part: WiringPart; rating: number; curve: BreakerCurve; unit: number }[] {
  const found = (parts: WiringPart[], unit: number) =>
    parts.flatMap((part) =>
      part.part.kind === "breaker" ? [{ part, rating: part.values.rating!.value, curve: part.part.curve, unit }] : [],
    );
  return [
    ...found(wiring.mains.parts, -1),
    ...wiring.branches.flatMap(({ branch, parts }) => {
      if (branch!.role !== "circuit") return [];
      const unit = job.units.findIndex((unit) => unit.id === branch!.unitId && onMains(unit));
      return unit < 0 ? [] : found(parts, unit);
    }),
  ];
}

/** In words, what a breaker's curve lets through at once: "type C, 5 times". */
export const curveWords = (curve: BreakerCurve): string => `type ${curve}, ${BREAKER_CURVES[curve].holds} times`;

/** At each moment the lowest value over the `delay` seconds before it: what has held that long. */
function lowestOver(seconds: Float64Array, values: Float64Array, delay: number): Float64Array {
  if (delay <= 0) return values;
  const out = new Float64Array(values.length);
  for (let k = 0; k < values.length; k++) {
    if (seconds[k]! < delay) continue;
    let lowest = values[k]!;
    for (let j = k; j >= 0 && seconds[j]! >= seconds[k]! - delay; j--) lowest = Math.min(lowest, values[j]!);
    out[k] = lowest;
  }
  return out;
}

/** What is there over what is asked: a moment that asks nothing is short of nothing, one that has nothing is at zero. */
const marginOf = ({ need, has }: Nearest): number => (need > 0 ? has / need : Infinity);

/** Smallest has / need over all limits of a trace. */
export function smallestMargin(trace: StartTrace): number {
  return Math.min(...Object.values(trace.nearest).map(marginOf));
}

/** Of several starts the one with the smallest margin; at least one has to be given. */
export const hardestOf = (traces: readonly StartTrace[]): StartTrace =>
  traces.reduce((a, b) => (smallestMargin(b) < smallestMargin(a) ? b : a));
