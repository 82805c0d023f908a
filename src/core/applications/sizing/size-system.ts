import { isBroken } from "../../assessment/judge/word";
import { nextStringFuse } from "../../document/day-defaults";
import type { JobPath } from "../../document/path";
import { FUSE_RATINGS, nextFuseRating } from "../../reference/conductors/fuse";
import { isChained } from "../../document/resolve-wiring";
import { allCircuits, type WiringPart } from "../../models/wiring/circuits";
import type { Job } from "../../document/schema";
import type { Quantity } from "../../units/known";
import { areaWords, sizesOf } from "../../document/defaults";
import type { Check } from "../../assessment/judge/judge";
import type { RuleId } from "../../assessment/judge/rule-ids";
import { RULES } from "../../assessment/rules/rules";
import { leadArea } from "../../reference/standards/rule-set";
import { arrayOf } from "../../document/sides";
import { buildSystem } from "../../models/system/build";
import { sizeCircuit, judge, newlyBroken, oneSmaller, ruleTitle, type Judged } from "./size-circuit";

/** One part that was sized: what, by which rule, and what one size smaller would break. */
export interface SizedPart {
  path: JobPath;
  name: string;
  run: string;
  size: string;
  /** Title of the rule that is nearest, and what it asks. */
  rule: string;
  /** One size smaller, and the rules that it would break; null where none smaller is made. */
  smaller: { size: string; breaks: string[] } | null;
}

export interface SizedJob {
  job: Job;
  parts: SizedPart[];
  /** What is still broken in Carries when everything is sized: what no cable or fuse mends. */
  left: Check[];
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });

/** Ratings of solar controllers on sale, V. */
const CONTROLLER_VOLTS = [75, 100, 150, 250, 450, 600] as const;
/** Ratings of DC-DC converters for loads on sale, A. */
const CONVERTER_AMPS = [10, 20, 30, 40, 60, 100, 200] as const;

/** What is no cable and no fuse but follows from the same rules: a fuse each, string fuses, leads, converters, controllers. */
function sizeRest(job: Job): Job {
  const copy = structuredClone(job);
  const { values, wiring } = buildSystem(job);
  const { rules } = wiring;
  if (values.inverter.count.value > 1) copy.inverter.leads = "own";
  if (job.bank.build === "batteries" && values.bank.parallel.value > 1) {
    copy.wiring.links.fuses = "each";
    copy.wiring.links.areaMm2 = undefined;
    copy.wiring.links.fuseRating = undefined;
  }
  copy.sources.controllers.forEach((controller, i) => {
    const array = arrayOf(job, values.sources.panels, values.sources.lowestC.value, i);
    if (array.strings === 0) return;
    controller.maxVoltage = plate(CONTROLLER_VOLTS.find((volts) => volts >= array.coldVolts) ?? 1000);
    if (array.strings < 3) return;
    controller.stringFuses = "each";
    controller.stringFuse = plate(nextStringFuse(rules.solarFactor, array.stringCurrent));
  });
  const dc = job.brief.loads.reduce(
    (sum, load, i) => (load.side === "dc" ? sum + values.loads[i]!.power.value : sum),
    0,
  );
  copy.wiring.branches.forEach((branch, i) => {
    const v = values.wiring.branches[i]!;
    if (branch.role === "loads" && branch.converter) {
      const amps = dc / v.loadVoltage.value;
      branch.converterRating = plate(CONVERTER_AMPS.find((one) => one >= amps) ?? Math.ceil(amps));
      branch.current = undefined;
    }
    if (branch.role === "shore") {
      const needed = leadArea(rules, v.current.value, v.leadLength.value) * 0.99;
      branch.leadAreaMm2 = plate(sizesOf(job).find((area) => area >= needed) ?? needed);
    }
  });
  return copy;
}

/**
 * Sizes everything that the rules size: the rest first, then each run, twice, since thinner copper takes more current. Pure;
 * the system that comes back carries entered sizes.
 */
export function sizeJob(job: Job): SizedJob {
  let sized = sizeRest(job);
  const like = judge(sized);
  const { wiring, converted } = like.system;
  for (let round = 0; round < 2; round++) {
    for (const circuit of allCircuits(wiring, converted)) {
      const chosen = sizeCircuit(sized, circuit.path, { like });
      if (chosen) sized = chosen.job;
    }
    sized = fitLinks(sized, like);
  }
  return { job: sized, ...explain(sized) };
}

/** What is asked of the leads and links between batteries. */
const ofLinks = ({ part }: Check): boolean => part === "wiring.links";

/** Fuse and lead of each battery in parallel, or links of a chain, by what they carry. */
function fitLinks(job: Job, like: Judged): Job {
  if (job.wiring.links.fuses !== "each") return job;
  const need = (one: Job) =>
    judge(one, like).checks.find((check) => ofLinks(check) && check.topic === "size")?.need ?? 0;
  const copy = structuredClone(job);
  copy.wiring.links.fuseRating = plate(nextFuseRating(need(job)));
  const fits = (area: number) => {
    copy.wiring.links.areaMm2 = plate(area);
    const { checks } = judge(copy, like);
    return checks.every((check) => !ofLinks(check) || check.topic === undefined || check.topic === "size" || check.met);
  };
  const sizes = sizesOf(job);
  // It may be several cables side by side, as the cable to the inverter is.
  [1, 2, 3, 4].flatMap((count) => sizes.map((area) => count * area)).find(fits);
  return copy;
}

/** Every sized part with the rule nearest to it, and what one size smaller breaks. */
function explain(job: Job): Pick<SizedJob, "parts" | "left"> {
  const judged = judge(job);
  const parts: SizedPart[] = [];
  for (const circuit of allCircuits(judged.system.wiring, judged.system.converted))
    circuit.parts.forEach((one, index) => {
      const { path, name } = one;
      const size = sizeWords(job, one);
      if (!size) return;
      const smaller = oneSmaller(job, judged, circuit, index);
      const broken = smaller ? newlyBroken(judged, judge(smaller.job, judged)) : [];
      const nearest = judged.checks
        .filter(({ part, form }) => form !== "there" && part === path)
        .sort((a, b) => a.margin - b.margin)[0];
      parts.push({
        path,
        name,
        run: circuit.title,
        size,
        rule: broken[0] ? ruleTitle(broken[0]) : nearest ? ruleTitle(nearest) : "",
        smaller: smaller && {
          size: smaller.words,
          breaks: [...new Set(broken.map((check) => ruleTitle(check)))],
        },
      });
    });
  parts.push(...explainLinks(job, judged));
  return { parts, left: judged.checks.filter(({ word }) => isBroken(word)) };
}

/** The size of a part in words: of a cable how many and how thick, of a device its rating, curve, milliamps and type. */
function sizeWords(job: Job, { part, values }: WiringPart): string {
  if (values.areaMm2)
    return `${values.count!.value > 1 ? `${values.count!.value} × ` : ""}${areaWords(job, values.areaMm2.value)}`;
  if (!values.rating) return "";
  const amps = `${values.rating.value} A`;
  if (part.kind === "breaker") return `${amps}, type ${part.curve}`;
  if (part.kind === "rcd") return `${amps}, ${Math.round(1000 * values.residual!.value)} mA, type ${part.residualType}`;
  return amps;
}

/** Lead and fuse of each battery in parallel, with what one size smaller of each would break. */
function explainLinks(job: Job, judged: Judged): SizedPart[] {
  const { links } = job.wiring;
  const { values } = judged.system;
  if (job.bank.build !== "batteries" || values.bank.parallel.value < 2 || links.fuses !== "each") return [];
  const v = values.wiring.links;
  const smaller = (key: "areaMm2" | "fuseRating", sizes: readonly number[]) => {
    const size = sizes.findLast((one) => one < v[key].value * 0.98);
    if (size === undefined) return null;
    const copy = structuredClone(job);
    copy.wiring.links[key] = plate(size);
    const breaks = newlyBroken(judged, judge(copy, judged)).map(ruleTitle);
    return { size, breaks: [...new Set(breaks)] };
  };
  const [lead, fuse] = [smaller("areaMm2", sizesOf(job)), smaller("fuseRating", FUSE_RATINGS)];
  const row = (
    name: string,
    { by, size, less }: { by: RuleId; size: string; less: SizedPart["smaller"] },
  ): SizedPart => ({
    path: "wiring.links",
    name,
    run: "Between the batteries",
    size,
    rule: less?.breaks[0] ?? RULES[by].title,
    smaller: less,
  });
  const chained = isChained(links.layout);
  return [
    row(chained ? "link" : "lead of each battery", {
      by: "battery-leads",
      size: areaWords(job, v.areaMm2.value),
      less: lead && { ...lead, size: areaWords(job, lead.size) },
    }),
    row("fuse of each battery", {
      by: "battery-fuses",
      size: `${v.fuseRating.value} A`,
      less: fuse && { ...fuse, size: `${fuse.size} A` },
    }),
  ];
}

/** Titles of the rules that a list of checks stands for. */
export const ruleTitles = (checks: readonly Check[]): string[] => [
  ...new Set(checks.flatMap(({ by }) => (by in RULES ? [RULES[by as RuleId].title] : []))),
];
