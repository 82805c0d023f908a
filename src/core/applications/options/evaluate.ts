import type { Job } from "../../document/schema";
import { assess, type Assessment } from "../../assessment/verdicts/assess";
import type { Check } from "../../assessment/judge/judge";
import type { Word } from "../../assessment/judge/word";
import { nameOf, jobOf, type Design } from "./design";
import { linesOf, runLinesOf, type Line } from "./price";
import { givenChecks, keyOf, Runs } from "./runs";
import { tally, tripsOf, type Tally, type Trip } from "./trips";
import { askedOf, type Asked } from "./targets";
import type { Requirement } from "./target";

/** What one design came to. Plain data: it goes between workers, and into a file. */
export interface Outcome {
  index: number;
  design: Design;
  name: string;
  cost: number;
  mass: number;
  /** Litres inside. */
  space: number;
  /** m2 of panels. */
  roof: number;
  lines: Line[];
  starts: { word: Word; margin: number; by: string };
  carries: { word: Word; margin: number; by: string };
  /** Days of the target that is hardest to meet, and which it is: 0 the target's own. */
  tally: Tally;
  target: number;
  /** What the target's share is over that target's: a share of days plus this is the target's share where all are met. */
  shift: number;
}

interface Static {
  job: Job;
  runLines: Line[];
  starts: Outcome["starts"];
  carries: Outcome["carries"];
}

const judged = ({ word, decides }: { word: Word; decides: { margin: number; name: string } }) => ({
  word,
  margin: decides.margin,
  by: decides.name,
});

/** The weakest of the checks that a design has a say in: what fails in the system whatever is chosen is said beside. */
function carriesOf({ verdicts }: Assessment, given: ReadonlyMap<string, Check>): Outcome["carries"] {
  const own = verdicts.carries.checks.filter(({ key }) => !given.has(key));
  const worst = own.reduce<Check | null>((found, one) => (found === null || one.rank < found.rank ? one : found), null);
  return worst ? judged({ word: worst.word, decides: worst }) : judged(verdicts.carries);
}

/** What fails or stops in the system whatever is chosen, by name: no design's Carries speaks of it, so it must be said beside. */
export function givenFaults(assessment: Assessment): string[] {
  const failing = [...givenChecks(assessment).values()];
  return [...new Set(failing.map(({ name, word }) => (word === "Stop" ? `${name} (stop)` : name)))];
}

/** The system of a design with cables and fuses chosen by the path's rules. */
export const fittedJob = (job: Job, requirement: Requirement, design: Design): Job =>
  new Runs(job, requirement).fitted(design).job;

/**
 * Evaluates designs of one requirement: what does not differ among them is worked out once. Pure: the same design has the same
 * outcome whatever was evaluated before it, and in whichever worker.
 */
export class Evaluator {
  private readonly statics = new Map<string, Static>();
  private readonly tallies = new Map<string, Tally>();
  private readonly trips = new Map<string, Trip[]>();
  private readonly asked: Asked[];
  private readonly runs: Runs;
  private readonly given: ReadonlyMap<string, Check>;

  constructor(
    readonly job: Job,
    readonly requirement: Requirement,
    readonly designs: readonly Design[],
  ) {
    this.asked = askedOf(job, requirement);
    this.runs = new Runs(job, requirement);
    this.given = givenChecks(assess(job));
  }

  private staticOf(design: Design): Static {
    const key = keyOf(design);
    const kept = this.statics.get(key);
    if (kept) return kept;
    const { job, fresh } = this.runs.fitted({ ...design, cabin: "as-is" });
    const assessment = assess(job);
    const made = {
      job,
      runLines: runLinesOf(this.requirement, assessment, fresh),
      starts: judged(assessment.verdicts.starts),
      carries: carriesOf(assessment, this.given),
    };
    this.statics.set(key, made);
    return made;
  }

  private tallyOf(design: Design, main: Job["wiring"]["main"], set: "search" | "confirm", target: number): Tally {
    // A soft starter is as good as none once the unit runs.
    const start = design.start === "soft-starter" ? "as-is" : design.start;
    const { battery, parallel, panels, inverter, cabin, engine, generator } = design;
    const key = [set, target, battery, parallel, panels, inverter, start, cabin, engine, generator].join("|");
    const kept = this.tallies.get(key);
    if (kept) return kept;
    const asked = this.asked[target]!;
    let trips = this.trips.get(`${set} ${target}`);
    if (!trips) this.trips.set(`${set} ${target}`, (trips = tripsOf(asked.job, this.requirement, set, asked)));
    const plain = jobOf(asked.job, this.requirement, design);
    const made = tally({ ...plain, wiring: { ...plain.wiring, main } }, trips, asked.tripDays);
    this.tallies.set(key, made);
    return made;
  }

  evaluate(index: number, set: "search" | "confirm" = "search"): Outcome {
    const { job, requirement } = this;
    const design = this.designs[index]!;
    const { job: chosen, runLines, starts, carries } = this.staticOf(design);
    const lines = [...linesOf(job, requirement, design), ...runLines];
    const tallies = this.asked.map((_, target) => this.tallyOf(design, chosen.wiring.main, set, target));
    const spare = tallies.map(({ met, days }, target) => met / days - this.asked[target]!.share);
    const target = spare.indexOf(Math.min(...spare));
    return {
      index,
      design,
      name: nameOf(requirement, design),
      cost: lines.reduce((sum, { cost }) => sum + cost, 0),
      mass: lines.reduce((sum, { mass }) => sum + mass, 0),
      space: lines.reduce((sum, { space }) => sum + space, 0),
      roof: design.panels * requirement.vary.panel.length * requirement.vary.panel.width,
      lines,
      starts,
      carries,
      tally: tallies[target]!,
      target,
      shift: requirement.share - this.asked[target]!.share,
    };
  }
}
