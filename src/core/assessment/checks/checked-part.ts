import { onMains } from "../../document/unit-kinds";
import type { System } from "../../models/system/system";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { given, stated, traced, type TracedValue } from "../../units/trace";

/** What a run carries, and what its cables and breakers are chosen for: 125 % of continuous AC loads where the code asks. */
export interface CircuitLoad {
  current: TracedValue;
  design: TracedValue;
}

/** A part of a circuit as the checks see it: where it stands and what it carries. */
export interface CheckedPart {
  system: System;
  circuit: Circuit;
  one: WiringPart;
  /** Where it stands among the parts of its circuit. */
  index: number;
  load: CircuitLoad;
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
