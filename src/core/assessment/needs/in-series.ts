import type { PartKind } from "../../document/fields";
import type { System } from "../../models/system/system";
import type { WiringPart } from "../../models/wiring/circuits";
import { isKind } from "../../models/wiring/part";
import { constant, traced, type TracedValue } from "../../units/trace";
import type { Finding } from "../judge/finding";
import { ratingFigure, type CheckedPart } from "./checked";
import { guardOf } from "./guards";
import { sumOfJoined } from "./shared-parts";

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

/** What a part in series has to carry: what protects it lets through, or the current that can flow. */
function asksOf({ system, circuit, one, index, load, beside }: CheckedPart, guard: WiringPart | null): TracedValue {
  // An inlet is protected by the breaker made for it, which its own rule holds.
  if (isKind(one.part, "inlet")) return load.current;
  if (circuit.key === "mains" && isKind(one.part, "rcd") && system.wiring.rules.residual.asked === "receptacles")
    return receptacleLoad(system, one);
  if (!guard || circuit.far?.limited) return load.current;
  const protectedBy = ratingFigure(guard, `${one.path}:guard`);
  const busbar = isKind(one.part, "busbar");
  if (!busbar && (!beside || circuit.lanes > 1)) return protectedBy;
  // A fuse before it holds back the battery, whatever draws; the one behind it holds back the main circuit alone.
  const before = circuit.parts.indexOf(guard) < index;
  const joined = sumOfJoined(busbar ? circuit : { ...circuit, lanes: 1 }, one, protectedBy, before ? null : beside);
  return joined.value < load.current.value ? load.current : joined;
}

/** The rating of a part in series against the device that protects it, or the current that can flow. */
export function carriesWhatFlows(at: CheckedPart): Finding {
  const { system, circuit, one, index } = at;
  const { path, name } = one;
  const guard = guardOf(system.wiring, circuit, index);
  const need = asksOf(at, guard);
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
