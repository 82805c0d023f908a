import { isKind } from "../../models/wiring/part";
import type { WiringPart } from "../../models/wiring/circuits";
import { leadArea } from "../../reference/standards/rule-set";
import { constant, given, of, stated, traced, type TracedValue } from "../../units/trace";
import type { Finding } from "../judge/finding";
import { USUAL_SPARE } from "../judge/word";
import { FUSE_SPARE, ownUnit, ratingFigure, type CheckedPart } from "./checked";
import { dcDeviceOf, guardOf, largestDeviceOn } from "../needs/guards";

/** Whether a part stands in a unit's own circuit. */
export const isUnitsOwn = ({ circuit }: CheckedPart): boolean => circuit.branch?.role === "circuit";

/** What a cable carries for hours, against its ampacity. */
export function carriesLoad(at: CheckedPart): Finding {
  const { circuit, one, load } = at;
  const spare = spareForFuse(at);
  return {
    topic: "ampacity",
    name: `${one.name} ampacity`,
    demand: withFuse(load.design, spare, one, "forFuse"),
    limit: one.ampacity!,
    remark: "continuous",
    part: one.path,
    ...(circuit.mains ? {} : spare > 1 ? { tightFrom: 1 / spare } : { holdsFrom: USUAL_SPARE }),
  };
}

/** 1.25 where nobody entered the fuse: it is taken as large as the cable allows, so the cable is asked for its spare. */
export function spareForFuse({ system, circuit, index }: CheckedPart): number {
  const guard = guardOf(system.wiring, circuit, index);
  const assumed = guard !== null && isKind(guard.part, "fuse") && !guard.values.rating!.entered;
  return assumed && !circuit.far?.limited ? FUSE_SPARE : 1;
}

/** A current with the fuse's 125 % on it, where the cable is asked for it. */
export function withFuse(current: TracedValue, spare: number, { path, name }: WiringPart, rule: string): TracedValue {
  if (spare === 1) return current;
  return traced({
    key: `${path}:${rule}`,
    name: `125 % of the current, for the fuse of ${name}`,
    dimension: "current",
    value: spare * current.value,
    relation: "I_m = 1.25 × I",
    terms: () => [of("I", current)],
  });
}

/** A cable behind the fuse or breaker that protects it; nothing where none does. */
export function guarded(at: CheckedPart): Finding[] {
  const { system, circuit, one, index } = at;
  const guard = guardOf(system.wiring, circuit, index);
  if (!guard) return [];
  const { path, name } = one;
  const fuse = ratingFigure(guard, `${path}:guard`);
  const rule = circuit.mains ? system.wiring.rules.acDevice : dcDeviceOf(system.job, system.wiring.rules);
  const most = largestDeviceOf(at);
  return [
    {
      topic: "guarded",
      name: `${name} behind ${guard.name}`,
      demand: fuse,
      limit: most,
      remark:
        fuse.value > most.value
          ? `${guard.name} lets more current through than ${name} carries`
          : "protected by the device before it",
      edge: rule === "next-size-up-to-150" && fuse.value > one.ampacity!.value + 1e-9,
      part: path,
    },
  ];
}

/** Largest fuse or breaker that may protect a cable, A. */
function largestDeviceOf({ system, circuit, one, load }: CheckedPart): TracedValue {
  const { rules } = system.wiring;
  const { path, name } = one;
  const ampacity = one.ampacity!;
  const rule = circuit.mains ? rules.acDevice : dcDeviceOf(system.job, rules);
  const area = one.values.areaMm2!.value;
  let allowed = largestDeviceOn(system, circuit.mains, { ampacity: ampacity.value, areaMm2: area });
  const unit = ownUnit(system, circuit);
  // NEC 440.22 lets a motor circuit have the plate's largest device where its conductors carry the MCA.
  const plate = unit === null ? undefined : system.values.units[unit]!.largestDevice;
  if (plate && rules.continuous > 1 && ampacity.value >= load.design.value) allowed = Math.max(allowed, plate.value);
  return traced({
    key: `${path}:largestDevice`,
    name: `Largest fuse or breaker before ${name}`,
    dimension: "current",
    value: allowed,
    relation: allowed === ampacity.value ? "I_m = I_z" : "I_m = I_d",
    terms: () => [
      of("I_z", ampacity),
      constant("I_d", "Largest device by the rule", allowed, "current", "from the ampacity and the standard ratings"),
      given("S", one.values.areaMm2!),
      ...(plate ? [given("I_p", plate)] : []),
    ],
    source:
      rule === "never-above"
        ? `${rules.standards.protection}: not above the ampacity`
        : rule === "next-size-up"
          ? `${rules.standards.protection}: next standard size up, 240.4(D) on 14 to 10 AWG`
          : `${rules.standards.protection}: next standard size up, at most 150 %`,
  });
}

/** The least copper that the rules allow on AC; of a supply's cables, what its lead needs. */
export function leastCopper({ system, circuit, one, load }: CheckedPart): Finding {
  const { rules } = system.wiring;
  const { path, name } = one;
  const shore = circuit.branch?.role === "shore";
  const floor = shore ? Math.max(rules.smallestAcMm2, leadArea(rules, load.current.value, 0)) : rules.smallestAcMm2;
  return {
    topic: "least",
    name: `${name} size`,
    demand: traced({
      key: `${path}:smallest`,
      name: `Smallest copper, ${name}`,
      dimension: "area",
      value: floor * 0.99,
      relation: "S_m = 0.99 × S",
      terms: () => [constant("S", "By the rules, to a hundredth", floor, "area", rules.standards.ac)],
      source: shore ? rules.standards.supply : rules.standards.ac,
    }),
    limit: stated({ key: `${path}:copper`, name: `Copper, ${name}` }, "S", given("S_1", one.values.areaMm2!)),
    remark: "the least that the rules allow",
    part: path,
  };
}
