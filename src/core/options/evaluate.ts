import { chooseRun } from "../start/choose";
import type { Rig } from "../rig/document";
import { assess, type Assessment } from "../verdict/assess";
import type { Check, Word } from "../verdict/check";
import { nameOf, rigOf, type Design } from "./design";
import { linesOf, type Line } from "./price";
import { tally, tripsOf, type Tally, type Trip } from "./trips";
import { askedOf, type Asked } from "./targets";
import type { Wish } from "./wish";

/** What one design came to. Plain data: it goes between workers, and into a file. */
export interface Outcome {
  index: number;
  design: Design;
  name: string;
  cost: number;
  mass: number;
  /** m2 of panels. */
  roof: number;
  lines: Line[];
  starts: { word: Word; margin: number; by: string };
  carries: { word: Word; margin: number; by: string };
  /** Days of the target that is hardest to meet, and which it is: 0 the wish's own. */
  tally: Tally;
  target: number;
  /** What the wish's share is over that target's: a share of days plus this is the wish's share where all are met. */
  shift: number;
}

interface Static {
  rig: Rig;
  assessment: Assessment;
  starts: Outcome["starts"];
  carries: Outcome["carries"];
}

/** Runs that a design has no say in: what fails there fails whatever is chosen. */
const GIVEN = /^path\.(branches|mains)\b/;

const judged = ({ word, decides }: { word: Word; decides: { margin: number; name: string } }) => ({
  word,
  margin: decides.margin,
  by: decides.name,
});

/** The weakest of the checks that a design has a say in. */
function carriesOf({ verdicts }: Assessment): Outcome["carries"] {
  const own = verdicts.carries.checks.filter(({ part }) => !(part && GIVEN.test(part)));
  const worst = own.reduce<Check | null>((found, one) => (found === null || one.rank < found.rank ? one : found), null);
  return worst ? judged({ word: worst.word, decides: worst }) : judged(verdicts.carries);
}

/** What fails or stops in the rig whatever is chosen, by name: no design's Carries speaks of it, so it must be said beside. */
export function givenFaults({ verdicts }: Assessment): string[] {
  const failing = verdicts.carries.checks.filter(
    ({ part, word }) => part && GIVEN.test(part) && (word === "Fails" || word === "Stop"),
  );
  return [...new Set(failing.map(({ name, word }) => (word === "Stop" ? `${name} (stop)` : name)))];
}

/** The rig of a design with its main cable and fuse chosen by the path's rules. */
export function fittedRig(rig: Rig, wish: Wish, design: Design): Rig {
  const plain = rigOf(rig, wish, design);
  return chooseRun(plain, "path.main")?.rig ?? plain;
}

/**
 * Evaluates designs of one wish: what does not differ among them is worked out once. Pure: the same design has the same
 * outcome whatever was evaluated before it, and in whichever worker.
 */
export class Evaluator {
  private readonly statics = new Map<string, Static>();
  private readonly tallies = new Map<string, Tally>();
  private readonly trips = new Map<string, Trip[]>();
  private readonly asked: Asked[];

  constructor(
    readonly rig: Rig,
    readonly wish: Wish,
    readonly designs: readonly Design[],
  ) {
    this.asked = askedOf(rig, wish);
  }

  private staticOf(design: Design): Static {
    // Panels, blinds and what charges have no part in a start or in the main run.
    const key = [design.battery, design.parallel, design.inverter, design.start].join("|");
    const kept = this.statics.get(key);
    if (kept) return kept;
    const rig = fittedRig(this.rig, this.wish, { ...design, panels: 0, cabin: "as-is", engine: 0, generator: false });
    const assessment = assess(rig);
    const made = { rig, assessment, starts: judged(assessment.verdicts.starts), carries: carriesOf(assessment) };
    this.statics.set(key, made);
    return made;
  }

  private tallyOf(design: Design, main: Rig["path"]["main"], set: "search" | "confirm", target: number): Tally {
    // A soft starter is as good as none once the unit runs.
    const start = design.start === "soft-starter" ? "as-is" : design.start;
    const { battery, parallel, panels, inverter, cabin, engine, generator } = design;
    const key = [set, target, battery, parallel, panels, inverter, start, cabin, engine, generator].join("|");
    const kept = this.tallies.get(key);
    if (kept) return kept;
    const asked = this.asked[target]!;
    let trips = this.trips.get(`${set} ${target}`);
    if (!trips) this.trips.set(`${set} ${target}`, (trips = tripsOf(asked.rig, this.wish, set, asked)));
    const plain = rigOf(asked.rig, this.wish, design);
    const made = tally({ ...plain, path: { ...plain.path, main } }, trips, asked.tripDays);
    this.tallies.set(key, made);
    return made;
  }

  evaluate(index: number, set: "search" | "confirm" = "search"): Outcome {
    const { rig, wish } = this;
    const design = this.designs[index]!;
    const { rig: chosen, assessment, starts, carries } = this.staticOf(design);
    const lines = linesOf(rig, wish, design, assessment);
    const tallies = this.asked.map((_, target) => this.tallyOf(design, chosen.path.main, set, target));
    const spare = tallies.map(({ met, days }, target) => met / days - this.asked[target]!.share);
    const target = spare.indexOf(Math.min(...spare));
    return {
      index,
      design,
      name: nameOf(wish, design),
      cost: lines.reduce((sum, { cost }) => sum + cost, 0),
      mass: lines.reduce((sum, { mass }) => sum + mass, 0),
      roof: design.panels * wish.vary.panel.length * wish.vary.panel.width,
      lines,
      starts,
      carries,
      tally: tallies[target]!,
      target,
      shift: wish.share - this.asked[target]!.share,
    };
  }
}
