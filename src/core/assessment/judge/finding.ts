import type { JobPath, RunPath } from "../../document/path";
import { constant, traced, type TracedValue } from "../../units/trace";
import type { PairForm } from "../../units/format";
import type { Gravity } from "./word";

/** What is asked of a wiring part or a circuit, where a choice of cable, fuse or breaker can answer it. */
export type CheckTopic =
  | "ampacity"
  | "fullDraw"
  | "guarded"
  | "least"
  | "size"
  | "output"
  | "volts"
  | "interrupting"
  | "short"
  | "voltsLost";

/** What is said beside a check: the same in every state, or what meeting it means and what breaking it leads to. */
export type Remark = string | { met: string; broken: string };

/** Tells checks of one rule about one part from each other. */
export type Aspect =
  | "lead"
  | "inlet"
  | "alike"
  | "largest"
  | "farEnd"
  | "lug"
  | "lugHot"
  | "protection"
  | "protectionHot"
  | "supply"
  | "poles"
  | "links"
  | "own"
  | "inlets"
  | "L1"
  | "L2"
  | "maxDc"
  | "generator"
  | "day"
  | "lasting"
  | `controller${number}`
  | `unit${number}`
  | `circuit${number}`;

/** What a rule finds: one demand against one limit, not judged yet. */
export interface Finding {
  /** The part or rule that decides, as the weakest link is named. */
  name: string;
  demand: TracedValue;
  limit: TracedValue;
  remark: Remark;
  /** Path in the document of the part that it is about, where there is one. */
  part?: JobPath | undefined;
  /** The circuit that it is about as a whole, where no one part of it is. */
  run?: RunPath;
  aspect?: Aspect;
  /** What is asked of the part, where sizing reads it. */
  topic?: CheckTopic | undefined;
  form?: PairForm;
  /** True where there is more than the limit says: a run that was not followed to its end. */
  hasMore?: boolean;
  /** What a broken one is called, where that is milder than the rule's gravest. */
  gravity?: Gravity | undefined;
  /** Limit over demand down to which a broken one is Tight only. */
  tightFrom?: number | undefined;
  /** Limit over demand from which a met one holds. Without it the rule has its own spare: met, it holds and decides nothing. */
  holdsFrom?: number | undefined;
  /** Allowed by the rule, but at its edge: Tight where it is met. */
  edge?: boolean;
  /** What to do about it, where that depends on the system. */
  fix?: string;
}

/** Something that a system has to have: one wanted, and one or none there. */
export interface Presence extends Pick<Finding, "part" | "aspect" | "gravity"> {
  /** Identifies its figures. */
  key: string;
  /** What is wanted, as it is named where it is there. */
  title: string;
  /** How it is named where it is not. */
  fault: string;
  met: boolean;
  reason: string;
  fix: string;
}

export function presence({ key, title, fault, met, reason, fix, ...rest }: Presence): Finding {
  return {
    ...rest,
    name: met ? title : fault,
    demand: traced({
      key: `rule.${key}.wanted`,
      name: `Required: ${title}`,
      dimension: "count",
      value: 1,
      relation: "n = 1",
      source: reason || title,
    }),
    limit: traced({
      key: `rule.${key}`,
      name: `Present: ${title}`,
      dimension: "count",
      value: met ? 1 : 0,
      relation: "n = n_p",
      terms: () => [constant("n_p", "By the parts of the wiring", met ? 1 : 0, "count", met ? "as they stand" : fix)],
      source: "structure of the system",
    }),
    remark: met ? "in place" : reason,
    fix,
    form: "there",
  };
}
