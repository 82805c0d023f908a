import { check, type Check } from "./check";
import { FUSE_SPARE, type CheckedPart, ownUnit, ratingFigure } from "./checked-part";
import { dcDeviceOf, guardOf, largestDeviceOn } from "./guards";
import { TracedValue, constant, given, of, stated, traced } from "../../units/trace";
import type { WiringPart } from "../../models/wiring/circuits";
import { fullDraw, fullDrawWords } from "./full-draw";
import { isKind } from "../../models/wiring/part";
import { leadArea } from "../../reference/standards/rule-set";
import { withstandCheck } from "./short-circuit";

/** A cable: what it carries, whether its device protects it, whether it lives through a short circuit, and its least size. */
export function cableChecks(at: CheckedPart): Check[] {
  const { system, circuit, one, index, load } = at;
  const { path, name } = one;
  const { rules } = system.wiring;
  const guard = guardOf(system.wiring, circuit, index);
  // A fuse that nobody entered is taken as large as the cable allows: that it should be 125 % is asked of the cable.
  const assumed = guard !== null && isKind(guard.part, "fuse") && !guard.values.rating!.entered;
  const spare = assumed && !circuit.far?.limited ? FUSE_SPARE : 1;
  const ofUnit = circuit.branch?.role === "circuit";
  const checks = [
    check({
      by: ofUnit && rules.continuous > 1 ? "unit-mca" : circuit.mains ? "ac-ampacity" : "dc-ampacity",
      key: `${path}:ampacity`,
      topic: "ampacity",
      name: `${name} ampacity`,
      demand: withFuse(load.design, spare, one, "forFuse"),
      limit: one.ampacity!,
      remark: "continuous",
      part: path,
      ...(circuit.mains ? { rule: true } : spare > 1 ? { rule: true, soft: 1 / spare } : {}),
    }),
  ];
  if (circuit.key === "main" && system.converted) checks.push(fullDrawCheck(at, spare));
  if (guard) {
    checks.push(guardCheck(at, guard));
    if (!circuit.mains && !circuit.far?.limited) checks.push(withstandCheck(at, guard));
  }
  if (circuit.mains && one.values.count!.value > 1) checks.push(parallelCheck(one));
  if (circuit.mains) checks.push(smallestCheck(at));
  return checks;
}

/** The cable to the inverter at the inverter's full draw. */
function fullDrawCheck({ system, one }: CheckedPart, spare: number): Check {
  const { path, name } = one;
  const ampacity = one.ampacity!;
  const full = withFuse(fullDraw(system), spare, one, "fullDrawFuse");
  return check({
    by: "inverter-full-draw",
    key: `${path}:fullDraw`,
    topic: "fullDraw",
    name: `${name} at the inverter's full draw`,
    demand: full,
    limit: ampacity,
    remark: fullDrawWords(full, ampacity),
    rule: true,
    ...(spare > 1 ? { soft: 1 / spare } : {}),
    part: path,
  });
}

/** The cable behind the device that protects it. */
function guardCheck(at: CheckedPart, guard: WiringPart): Check {
  const { system, circuit, one } = at;
  const { path, name } = one;
  const ampacity = one.ampacity!;
  const fuse = ratingFigure(guard, `${path}:guard`);
  const rule = circuit.mains ? system.wiring.rules.acDevice : dcDeviceOf(system.job, system.wiring.rules);
  const most = largestDeviceOf(at);
  return check({
    by: circuit.mains ? "ac-overcurrent" : "dc-overcurrent",
    key: `${path}:guarded`,
    topic: "guarded",
    name: `${name} behind ${guard.name}`,
    demand: fuse,
    limit: most,
    remark:
      fuse.value > most.value
        ? `${guard.name} lets more current through than ${name} carries`
        : "protected by the device before it",
    rule: true,
    stop: true,
    tight: rule === "next-size-up-to-150" && fuse.value > ampacity.value + 1e-9,
    part: path,
  });
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

/** Copper from which on AC conductors may be run in parallel: 1/0 AWG is 53.5 mm2, 50 mm2 its metric fellow. */
const PARALLEL_AC_MM2 = 49.5;

/** AC conductors in parallel: each thick enough that they share the current. */
function parallelCheck(one: WiringPart): Check {
  const { path, name } = one;
  const thinnest = traced({
    key: `${path}:parallelLeast`,
    name: `Smallest copper in parallel, ${name}`,
    dimension: "area",
    value: PARALLEL_AC_MM2,
    relation: "S_m = S",
    terms: () => [
      constant("S", "From which on AC conductors may be parallel", PARALLEL_AC_MM2, "area", "1/0 AWG, 50 mm²"),
    ],
  });
  const each = stated(
    { key: `${path}:parallel`, name: `Copper of each, ${name}` },
    "S",
    given("S_1", one.values.areaMm2!),
  );
  return check({
    by: "ac-parallel",
    key: `${path}:parallel`,
    name: `${name} side by side`,
    demand: thinnest,
    limit: each,
    remark: "thin conductors do not share surely",
    rule: true,
    part: path,
  });
}

/** The least copper that the rules allow on AC. */
function smallestCheck({ system, circuit, one, load }: CheckedPart): Check {
  const { rules } = system.wiring;
  const { path, name } = one;
  const floor =
    circuit.branch?.role === "shore"
      ? Math.max(rules.smallestAcMm2, leadArea(rules, load.current.value, 0))
      : rules.smallestAcMm2;
  const least = traced({
    key: `${path}:smallest`,
    name: `Smallest copper, ${name}`,
    dimension: "area",
    value: floor * 0.99,
    relation: "S_m = 0.99 × S",
    terms: () => [constant("S", "By the rules, to a hundredth", floor, "area", rules.standards.ac)],
    source: circuit.branch?.role === "shore" ? rules.standards.supply : rules.standards.ac,
  });
  const there = stated({ key: `${path}:copper`, name: `Copper, ${name}` }, "S", given("S_1", one.values.areaMm2!));
  return check({
    by: circuit.branch?.role === "shore" ? "supply-lead" : "ac-smallest",
    key: `${path}:least`,
    topic: "least",
    name: `${name} size`,
    demand: least,
    limit: there,
    remark: "the least that the rules allow",
    rule: true,
    part: path,
  });
}

/** A current with the fuse's 125 % on it, where the cable is asked for it. */
function withFuse(current: TracedValue, spare: number, { path, name }: WiringPart, rule: string): TracedValue {
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
