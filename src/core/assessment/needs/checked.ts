import type { PartKind } from "../../document/fields";
import { onMains } from "../../document/unit-kinds";
import type { System } from "../../models/system/system";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { given, stated, traced, type TracedValue } from "../../units/trace";

/** What a run carries, and what its cables and breakers are chosen for: 125 % of continuous AC loads where the code asks. */
export interface CircuitLoad {
  current: TracedValue;
  design: TracedValue;
}

/** The part of the main circuit that other circuits share. */
export interface Shared {
  /** The last part that they share: the busbar that joins them. */
  upTo: number;
  /** A that DC loads and units on circuits of their own draw; null where none is joined. */
  beside: TracedValue | null;
  /** What the shared parts carry. */
  load: CircuitLoad;
}

/** A circuit as the rules see it: what it carries as a whole. */
export interface CheckedCircuit {
  system: System;
  circuit: Circuit;
  load: CircuitLoad;
  /** What of the main circuit others share with it. */
  shared?: Shared | null;
}

/** A part of a circuit as the rules see it: where it stands, and what it carries; of circuits side by side, its share. */
export interface CheckedPart extends CheckedCircuit {
  one: WiringPart;
  /** Where it stands among the parts of its circuit. */
  index: number;
  /** A that other circuits draw through it as well. */
  beside: TracedValue | null;
}

/** Continuous current through a fuse as a share of its rating: at most 1 / 1.25 (common practice of the marine and caravan rules). */
export const FUSE_SPARE = 1.25;

/** The rating of a part, A, as a figure of the given key. */
export const ratingFigure = (one: WiringPart, key: string) =>
  stated({ key, name: `Rating, ${one.name}`, source: "stamped on it" }, "I_n", given("I_1", one.values.rating!));

/** Hot enough for a stop, degC. */
const HOTTEST_C = 70;

/** Hottest that terminations may get, degC. */
export const hottest = (): TracedValue =>
  traced({
    key: "carries.hottest",
    name: "Hottest allowed",
    dimension: "temperature",
    value: HOTTEST_C,
    relation: "T = 70",
    source: "60 to 70 °C and no more: common practice, no source",
  });

/** Index of the unit that has a circuit to itself, where it is still there and on mains. */
export function ownUnit({ job }: System, circuit: Circuit): number | null {
  if (circuit.branch?.role !== "circuit") return null;
  const at = job.units.findIndex((unit) => unit.id === circuit.branch!.unitId && onMains(unit));
  return at < 0 ? null : at;
}

/** Whether a circuit has a part of a kind. */
export const has = (circuit: Circuit, kind: PartKind): boolean => circuit.parts.some(({ part }) => part.kind === kind);

/** The residual current devices of a circuit. */
export const residualsOf = (circuit: Circuit): WiringPart[] => circuit.parts.filter(({ part }) => part.kind === "rcd");

/** Whether a part switches off what stands behind it: an isolator, or a DC breaker that is one. */
export const switchesOff = ({ part }: WiringPart): boolean =>
  part.kind === "isolator" || (part.kind === "fuse" && part.fuseKind === "breaker");

/** Whether the job counts on a generator: one that starts by itself, or that the day's plan has. */
export const countsOnGenerator = ({ job }: System): boolean =>
  job.supplies.generatorAuto || job.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "generator"));

/** The first transfer switch that leaves the neutrals of its sources joined. */
export const joinedNeutrals = ({ wiring }: System): WiringPart | undefined =>
  [wiring.mains, ...wiring.branches]
    .flatMap(({ parts }) => parts)
    .find(({ part }) => part.kind === "changeover" && part.poles === "live");

/** Whether a fuse answers for its own rating: an assumed one follows its cable, which answers for it where there is one. */
export const answersForItself = (circuit: Circuit, { values }: WiringPart): boolean =>
  values.rating!.entered || !has(circuit, "cable");
