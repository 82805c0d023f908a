import type { JobPath } from "../../document/path";
import { cableLength, type Circuit, type WiringPart } from "../../models/wiring/circuits";
import { constant, traced, type Term, given } from "../../units/trace";
import { check, type Check } from "./check";

/** Cable that may lie between a source and its fuse where it is sheathed all the way, m (ABYC E-11, 72 in). */
const UNFUSED_SHEATHED_M = 1.83;

/** The same for bare cable, m (ABYC E-11, 7 in; ISO 10133, 200 mm). */
const UNFUSED_BARE_M = 0.2;

/** Protection at the source: a fuse, and as near as the rules ask. An isolator's run has a source at both ends. */
export function placeChecks(circuit: Circuit): Check[] {
  const fuses = circuit.parts.flatMap(({ part }, i) => (part.kind === "fuse" ? [i] : []));
  const source = circuit.far ? `the ${circuit.far.source}` : "the battery";
  const end = circuit.key === "main" ? "at the battery" : `at ${source}, ${circuit.title}`;
  if (fuses.length === 0) return [noFuseCheck(circuit, end)];
  const [first, last] = [fuses[0]!, fuses[fuses.length - 1]!];
  const checks = unfusedCheck(circuit, "unfused", circuit.parts.slice(0, first), {
    name: `fuse too far from ${source}${circuit.key === "main" ? "" : `, ${circuit.title}`}`,
    part: circuit.parts[first]!.path,
  });
  const bothEnds = !circuit.far && circuit.branch?.role === "engine" && circuit.branch.coupling === "isolator";
  if (bothEnds && cableLength(circuit.parts) > UNFUSED_BARE_M)
    checks.push(
      ...unfusedCheck(circuit, "farUnfused", circuit.parts.slice(fuses.length > 1 ? last + 1 : 0), {
        name: `no fuse at the engine's end, ${circuit.title}`,
        part: circuit.parts[last]!.path,
      }).map((one) => ({ ...one, remark: "two sources: the starter battery feeds a short circuit from its end" })),
    );
  return checks;
}

/** A source without any protection. */
function noFuseCheck(circuit: Circuit, end: string): Check {
  const one = traced({
    key: `${circuit.path}:fuseWanted`,
    name: "Fuses needed at the source",
    dimension: "count",
    value: 1,
    relation: "n = 1",
    source: "every source needs protection at the source",
  });
  const none = traced({
    key: `${circuit.path}:fuseThere`,
    name: "Fuses at the source",
    dimension: "count",
    value: 0,
    relation: "n = 0",
    source: "wiring",
  });
  return check({
    by: "fuse-at-source",
    key: `${circuit.path}:fused`,
    name: `no fuse ${end}`,
    demand: one,
    limit: none,
    remark: "a short circuit would have nothing to stop it",
    stop: true,
    part: circuit.path,
  });
}

/** Cable that no fuse protects, where it is longer than the rules let it be bare. */
function unfusedCheck(
  circuit: Circuit,
  which: "unfused" | "farUnfused",
  parts: WiringPart[],
  { name, part }: { name: string; part: JobPath },
): Check[] {
  const metres = cableLength(parts);
  if (metres <= UNFUSED_BARE_M) return [];
  const length = traced({
    key: `${circuit.path}:${which}`,
    name: "Cable without a fuse before it",
    dimension: "length",
    value: metres,
    relation: "L = Σ L_i",
    terms: () =>
      parts.filter((one) => one.part.kind === "cable").map((one, i): Term => given(`L_${i + 1}`, one.values.length!)),
  });
  return [
    check({
      by: "fuse-at-source",
      key: `${circuit.path}:${which}Place`,
      name,
      demand: length,
      limit: unfusedAllowed(),
      remark: "bare cable no more than 0.2 m, sheathed no more than 1.83 m",
      stop: true,
      tightBelow: 10,
      part,
    }),
  ];
}

const unfusedAllowed = () =>
  traced({
    key: "carries.unfused",
    name: "Cable allowed before its fuse",
    dimension: "length",
    value: UNFUSED_SHEATHED_M,
    relation: "L = L_s",
    terms: () => [constant("L_s", "Sheathed all the way", UNFUSED_SHEATHED_M, "length", "72 in")],
    source: "ABYC E-11, 72 in where sheathed all the way; 7 in bare",
  });
