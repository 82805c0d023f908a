import type { RunPath } from "./path";
import { AMPACITY_TABLES, cableCarries, type AmpacityTable } from "../reference/conductors/ampacity";
import { cableResistance } from "../reference/conductors/cable";
import { FUSE_RATINGS, fuseUnder, nextOf } from "../reference/conductors/fuse";
import { acAmpacity, smallConductorLimit } from "../reference/standards/ac-cable";
import { type RuleSet } from "../reference/standards/rule-set";
import { type Branch, type Part, type PartOf } from "./schema";
import { PART_FIELDS, type PartKey } from "./fields";
import type { FieldSpec, Quantity, DefaultValue } from "../units/known";
import { areaInTable, partDefaults, TYPICAL_LENGTH, type PartSetting } from "./defaults";
import { resolveGroup, type PartValues } from "./resolved";

/** What a circuit's parts are settled by. */
export interface RunSetting {
  where: "main" | "mains" | Branch["role"];
  rules: RuleSet;
  /** The table that the ampacity of its DC cables is read from. */
  table: AmpacityTable;
  /** Whether the mains are of 60 Hz and 120 V. */
  american: boolean;
  /** A that the run is sized for, and what of it the fuse or breaker is chosen for. */
  current: number;
  spare: number;
  /** A that the breaker must have for the start to pass it. */
  start: number;
  /** A of the other source's device, which protects what lies behind a transfer switch before a breaker of its own. */
  upstream?: number;
  /** Equal runs side by side; one where it is not said. */
  lanes?: number;
  ambientC: number;
  mains: boolean;
  /** Nominal volts, the highest that its parts see, and the voltage drop allowed, a share of nominal. */
  volts: number;
  highestVoltage: number;
  dropLimit: number;
  /** Smallest copper allowed, mm2. */
  floor: number;
}

type Cable = PartOf<"cable">;

/** Conductors of one size side by side: mm2 of each, and how many. */
interface Copper {
  area: number;
  count: number;
}

function* copperOf(counts: readonly number[], areas: readonly number[]): Generator<Copper> {
  for (const count of counts) for (const area of areas) yield { area, count };
}

/** A that a cable of this copper carries where it runs, by the table of its side. */
function carriedBy(run: RunSetting, part: Cable, { area: areaMm2, count }: Copper): number {
  const { insulation, method, route, terminals } = part;
  const circuits = part.circuits?.value ?? (route === "bundled" && !run.mains ? 3 : 1);
  const one = run.mains
    ? acAmpacity(run.rules, { areaMm2, insulation, method, route, terminals, circuits }, run.ambientC).ampacity
    : Math.min(
        cableCarries(run.table, { areaMm2, insulation, route, conductors: circuits }, run.ambientC),
        run.rules.dcSmallConductors ? smallConductorLimit(areaMm2) : Infinity,
      );
  return one * count;
}

/** Of the voltage drop allowed, what assumed cables may take; the rest is left for fuses, switches and joints. */
const CABLE_SHARE_OF_DROP = 0.7;
/** The same of the main run, which has a fuse, a switch, a shunt and more terminations. */
const MAIN_SHARE_OF_DROP = 0.5;
/** Copper at work, for assumed sizes. */
const WARM_C = 60;

/**
 * The parts of one run. What protects is settled first, by the run's current and the thinnest cable that somebody
 * entered; then each cable that nobody entered takes the smallest size that its protection lets live and that keeps within
 * the voltage drop allowed.
 */
export function resolveParts({ parts, path, run }: { parts: Part[]; path: RunPath; run: RunSetting }): PartValues[] {
  const rating = deviceRating(parts, run);
  const cables = parts.filter(({ kind }) => kind === "cable").length;
  return parts.map((part, i) => {
    const protectedBy = protectionOf(parts, i, rating.value, run.upstream ?? 0);
    const cable =
      part.kind === "cable"
        ? cableSize(run, part, { protectedBy, cables })
        : { area: { value: 0, why: "" }, count: ONE };
    const setting: PartSetting = {
      where: run.where,
      bankVoltage: run.volts,
      highestVoltage: run.highestVoltage,
      mains: run.mains,
      american: run.american,
      lanes: run.lanes ?? 1,
      residualA: run.rules.residual.usualA,
      residualRatings: run.rules.residual.ratings,
      rating,
      areaMm2: cable.area,
      count: cable.count,
      carries: { value: Math.max(protectedBy, run.mains ? 16 : 100), why: "as its fuse or breaker, or more" },
    };
    return resolveGroup<PartKey>(
      PART_FIELDS[part.kind] as Record<PartKey, FieldSpec>,
      part as unknown as Partial<Record<PartKey, Quantity>>,
      `${path}.${i}`,
      partDefaults(part, setting),
    );
  });
}

/** The rating that a fuse or breaker of the run is taken to have where nobody entered one. */
function deviceRating(parts: Part[], run: RunSetting): DefaultValue {
  const ratings = run.mains ? run.rules.breakers : FUSE_RATINGS;
  const entered = parts.flatMap((part) => {
    if (part.kind !== "cable") return [];
    if (part.ampacity) return [part.ampacity.value];
    return part.areaMm2 ? [carriedBy(run, part, { area: part.areaMm2.value, count: part.count?.value ?? 1 })] : [];
  });
  const thinnest = Math.min(...entered, Infinity);
  const wanted = nextOf(ratings, Math.max(run.spare * run.current, run.start));
  if (thinnest < wanted)
    return {
      value: run.mains ? (ratings.findLast((rating) => rating <= thinnest) ?? ratings[0]!) : fuseUnder(thinnest),
      why: "the largest that protects the cable",
    };
  if (run.start > run.spare * run.current) return { value: wanted, why: "lets the start pass, next size up" };
  return {
    value: wanted,
    why: run.spare > 1 ? "125 % of the largest current, next size up" : "the largest current, next size up",
  };
}

/** A of the device that protects the part at `index`: the nearest before it, else after it, else the assumed one; or that of another source, where it is larger. */
function protectionOf(parts: Part[], index: number, assumed: number, upstream: number): number {
  const ratingOf = (part: Part) =>
    part.kind === "fuse" || part.kind === "breaker" ? (part.rating?.value ?? assumed) : undefined;
  const there = (one: number | undefined) => one !== undefined;
  const before = parts.slice(0, index).map(ratingOf).findLast(there);
  const transfer = parts.findIndex(({ kind }) => kind === "changeover");
  const ownAfter = parts
    .slice(transfer + 1, index)
    .map(ratingOf)
    .some(there);
  const other = transfer >= 0 && index > transfer && !ownAfter ? upstream : 0;
  const after = parts.slice(index).map(ratingOf).find(there);
  const anywhere = other > 0 ? 0 : (parts.map(ratingOf).find(there) ?? assumed);
  return Math.max(other, before ?? after ?? anywhere);
}

const ONE: DefaultValue = { value: 1, why: "one" };

/**
 * Size and number of a cable that nobody entered. Where no single cable carries what protects it, several side by side are
 * assumed: typical parts fit together.
 */
function cableSize(
  run: RunSetting,
  part: Cable,
  { protectedBy, cables }: { protectedBy: number; cables: number },
): { area: DefaultValue; count: DefaultValue } {
  const sizes = AMPACITY_TABLES[run.table].sizesMm2;
  const metres = part.length?.value ?? TYPICAL_LENGTH(run.where);
  const share = run.where === "main" ? MAIN_SHARE_OF_DROP : CABLE_SHARE_OF_DROP;
  const current = Math.max(Math.min(run.current, protectedBy / run.spare), 0.1);
  const allowedOhm = (share * run.dropLimit * run.volts) / cables / current;
  const ways = part.ways === "both" ? 2 : 1;
  const counts = part.count ? [part.count.value] : part.areaMm2 || run.mains ? [1] : [1, 2, 3, 4];
  const withinDrop = ({ area, count }: Copper) => ways * cableResistance(area, metres, count, WARM_C) <= allowedOhm;
  let first: Copper | undefined;
  let best: Copper | undefined;
  // From the thinnest on, one cable first: the search ends at the first that does.
  for (const copper of copperOf(counts, sizes)) {
    if (copper.area < run.floor * 0.99 || carriedBy(run, part, copper) < protectedBy) continue;
    first ??= copper;
    if (withinDrop(copper)) {
      best = copper;
      break;
    }
  }
  const found = best ?? first ?? { area: sizes.at(-1)!, count: counts.at(-1)! };
  const byDrop = first !== undefined && found.area * found.count > first.area * first.count;
  const words = areaInTable(run.table, found.area);
  return {
    area: {
      value: found.area,
      why: byDrop
        ? `${words} is the smallest within the voltage drop allowed`
        : `${words} is the smallest that its fuse or breaker protects`,
    },
    count: found.count > 1 ? { value: found.count, why: "no single one carries it" } : ONE,
  };
}
