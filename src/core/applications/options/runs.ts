import { isBroken } from "../../assessment/judge/word";
import { isWithin, type RunPath } from "../../document/path";
import { judge, sizeCircuit, type Judged } from "../sizing/size-circuit";
import type { Branch, Part, Job } from "../../document/schema";
import type { Assessment } from "../../assessment/verdicts/assess";
import type { CheckTopic } from "../../assessment/judge/finding";
import type { Check } from "../../assessment/judge/judge";
import { jobOf, type Design } from "./design";
import type { Requirement } from "./target";
import { usesInverter } from "../../document/resolve-wiring";

/** Parts of one run of a design, and whether they are made anew: what stands and holds costs nothing. */
interface Chosen {
  /** "main", "mains" or the branch's id. */
  key: string;
  parts: Part[];
  /** The far side of a branch's converter, charger or controller. */
  far: Part[];
  fresh: boolean;
}

/** What a choice of cable and fuse can mend. */
const CURABLE: ReadonlySet<CheckTopic | undefined> = new Set<CheckTopic>([
  "ampacity",
  "guarded",
  "short",
  "size",
  "voltsLost",
  "interrupting",
  "volts",
  "fullDraw",
  "least",
]);
/** Runs that a design may leave as they stand. */
const BESIDE = /^wiring\.(branches|mains)\b/;

/** What of a design has a say in its runs and its start, as one text: how the cabin is shaded has none. */
export const keyOf = ({ battery, parallel, inverter, start, panels, engine, generator }: Design): string =>
  [battery, parallel, inverter, start, panels, engine, generator].join("|");

const failing = ({ word }: Check) => isBroken(word);

/** What fails or stops in the system beside its main run and no choice of cable or fuse mends: by its key. */
export function givenChecks({ verdicts }: Assessment): Map<string, Check> {
  const given = verdicts.carries.checks.filter(
    (one) => one.part && BESIDE.test(one.part) && failing(one) && !CURABLE.has(one.topic),
  );
  return new Map(given.map((one) => [one.key, one]));
}

/**
 * Chooses cables and fuses of every run of a design by the path's rules, the smallest that meet them all. Runs that bring
 * what the design brings are always made anew: the main one, the mains circuit, those of its panels, its engine converter
 * and its charger. What else the system has stays where it holds at the design's bank. What does not differ among designs is
 * chosen once: the same design has the same runs whatever was chosen before it.
 */
export class Runs {
  private readonly kept = new Map<string, Chosen | null>();
  /** The design that was judged last: one design's runs are chosen one after the other, and many ask the same of it. */
  private last: { name: string; judged: Judged } | null = null;

  constructor(
    readonly job: Job,
    readonly requirement: Requirement,
  ) {}

  of(design: Design): Chosen[] {
    const { battery, parallel, inverter, start } = design;
    // What has no say in a run must not have one by the back door either: it is the same for all who share the choice.
    const bare: Design = {
      battery,
      parallel,
      panels: 0,
      inverter: 0,
      start: "as-is",
      cabin: "as-is",
      engine: 0,
      generator: false,
    };
    const chosen = [
      this.choose("main", { ...bare, inverter, start }, true),
      usesInverter(this.job) && this.choose("mains", { ...bare, battery: 0, parallel: 1, inverter, start }, true),
      ...jobOf(this.job, this.requirement, design).wiring.branches.map((branch) => {
        const brings = this.brought(branch, design);
        return this.choose(branch.id, { ...bare, ...brings }, brings !== null && !this.isOwned(branch));
      }),
    ];
    return chosen.filter((one) => one !== null && one !== false);
  }

  /** The system of a design with the choice in it, and the keys of the runs that are made anew. */
  fitted(design: Design): { job: Job; fresh: ReadonlySet<string> } {
    const job = jobOf(this.job, this.requirement, design);
    const chosen = this.of(design);
    const partsOf = (key: string, own: Part[]) => chosen.find((one) => one.key === key)?.parts ?? own;
    return {
      job: {
        ...job,
        wiring: {
          ...job.wiring,
          main: partsOf("main", job.wiring.main),
          mains: partsOf("mains", job.wiring.mains),
          branches: job.wiring.branches.map((branch) => ({
            ...branch,
            parts: partsOf(branch.id, branch.parts),
            far: chosen.find(({ key }) => key === branch.id)?.far ?? branch.far,
          })),
        },
      },
      fresh: new Set(chosen.filter(({ fresh }) => fresh).map(({ key }) => key)),
    };
  }

  /** What of a design a branch brings to the battery; null where it is none of the design's. */
  private brought(branch: Branch, { panels, engine, generator }: Design): Partial<Design> | null {
    if (branch.role === "solar" && panels > 0) return { panels };
    if (branch.role === "engine" && engine > 0) return { engine };
    if (branch.id === "added-charger" && generator) return { generator };
    return null;
  }

  private isOwned(branch: Branch): boolean {
    return branch.role === "solar" && this.requirement.owned.includes("panels");
  }

  private choose(key: string, design: Design, anew: boolean): Chosen | null {
    const name = `${keyOf(design)}|${key}|${anew}`;
    const known = this.kept.get(name);
    if (known !== undefined) return known;
    const made = this.chooseNew(key, design, anew);
    this.kept.set(name, made);
    return made;
  }

  private judged(design: Design): Judged {
    const name = keyOf(design);
    if (this.last?.name !== name) this.last = { name, judged: judge(jobOf(this.job, this.requirement, design)) };
    return this.last.judged;
  }

  private chooseNew(key: string, design: Design, anew: boolean): Chosen | null {
    const before = this.judged(design);
    const { job } = before.system;
    const at = job.wiring.branches.findIndex(({ id }) => id === key);
    const path: RunPath =
      at < 0 ? (key === "mains" ? "wiring.mains" : "wiring.main") : (`wiring.branches.${at}.parts` as const);
    const farPath = `wiring.branches.${at}.far` as const;
    if (!anew) {
      const mends = before.checks.some(
        (one) =>
          one.part &&
          (isWithin(one.part, path) || (at >= 0 && isWithin(one.part, farPath))) &&
          failing(one) &&
          CURABLE.has(one.topic),
      );
      if (!mends) return null;
    }
    const choice = sizeCircuit(job, path, { like: before });
    if (!choice) return null;
    const fitted = (at >= 0 && sizeCircuit(choice.job, farPath, { like: before })?.job) || choice.job;
    const { main, mains, branches } = fitted.wiring;
    const branch = branches[at];
    return {
      key,
      parts: branch ? branch.parts : key === "main" ? main : mains,
      far: branch?.far ?? [],
      fresh: true,
    };
  }
}
