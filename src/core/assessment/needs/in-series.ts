import type { PartKind } from "../../document/fields";
import type { System } from "../../models/system/system";
import type { Circuit, WiringPart } from "../../models/wiring/circuits";
import { isKind } from "../../models/wiring/part";
import { constant, of, traced, type TracedValue } from "../../units/trace";
import type { Finding } from "../judge/finding";
import { ratingFigure, type CheckedPart } from "./checked";
import { guardOf } from "../needs/guards";

/** Parts in series that neither carry over a distance nor protect. */
const IN_SERIES = [
  "isolator",
  "shunt",
  "busbar",
  "changeover",
  "rcd",
  "inlet",
  "connector",
] as const satisfies PartKind[];

/** The same asked of each of them. */
export const inSeries = <R>(
  asked: (at: CheckedPart) => R,
): Record<(typeof IN_SERIES)[number], (at: CheckedPart) => R> =>
  Object.fromEntries(IN_SERIES.map((kind) => [kind, asked])) as Record<
    (typeof IN_SERIES)[number],
    (at: CheckedPart) => R
  >;

/** Whether a part stands between panels and their controller. */
export const isArraySide = ({ circuit }: CheckedPart): boolean =>
  circuit.far !== null && circuit.branch?.role === "solar";

/** The rating of a part in series against the device that protects it, or the current that can flow. */
export function carriesWhatFlows({ system, circuit, one, index, load }: CheckedPart): Finding {
  const { path, name } = one;
  const guard = guardOf(system.wiring, circuit, index);
  const protectedBy = guard && !circuit.far?.limited ? ratingFigure(guard, `${path}:guard`) : load.current;
  // An inlet is protected by the breaker made for it, which its own rule holds.
  const need = isKind(one.part, "inlet")
    ? load.current
    : isKind(one.part, "busbar") && circuit.lanes > 1
      ? sumOfLanes(circuit, one, protectedBy)
      : circuit.key === "mains" && isKind(one.part, "rcd") && system.wiring.rules.residual.asked === "receptacles"
        ? receptacleLoad(system, one)
        : protectedBy;
  return {
    topic: "size",
    name: `${name} rating`,
    demand: need,
    limit: ratingFigure(one, `${path}:rating`),
    remark: guard ? `${guard.name} protects it` : "the current that can flow",
    part: path,
  };
}

/** What a device for receptacles carries: the AC loads beside the hard-wired units. It has a breaker of its own. */
function receptacleLoad({ loads, mains, wiring }: System, { path, name }: WiringPart): TracedValue {
  const { continuous } = wiring.rules;
  return traced({
    key: `${path}:receptacles`,
    name: `Receptacles behind ${name}`,
    dimension: "current",
    value: (continuous * Math.max(...loads.byLeg)) / mains,
    relation: "I = 1.25 × P ÷ V",
    terms: () => [
      constant("P", "AC loads beside the units, of the fuller leg", Math.max(...loads.byLeg), "power", "brief"),
      constant("V", "AC voltage", mains, "voltage", "of one leg"),
    ],
    source: "continuous load",
  });
}

/** What a busbar carries that joins runs side by side: all of them. */
function sumOfLanes({ lanes }: Circuit, { path, name }: WiringPart, each: TracedValue): TracedValue {
  return traced({
    key: `${path}:sum`,
    name: `All that ${name} joins`,
    dimension: "current",
    value: lanes * each.value,
    relation: "I = m × I_1",
    terms: () => [
      constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter"),
      of("I_1", each),
    ],
  });
}
