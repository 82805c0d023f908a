import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { tapped } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import type { JobPath } from "../../../document/path";
import type { System } from "../../../models/system/system";
import { type Circuit, type WiringPart, cableLength } from "../../../models/wiring/circuits";
import { type Term, TracedValue, constant, given, traced } from "../../../units/trace";

/**
 * Cable that may lie between a source and its fuse, m: at a battery's post where it is sheathed all the way (ABYC E-11, 72 in),
 * elsewhere where it is sheathed (40 in), and bare (ABYC E-11, 7 in; ISO 10133, 200 mm).
 */
const UNFUSED_AT_POST_M = 1.83;
const UNFUSED_ELSEWHERE_M = 1.02;
const UNFUSED_BARE_M = { american: 0.178, other: 0.2 } as const;

/** Protection at the source: a fuse, and as near as the rules ask. An isolator's run has a source at both ends. */
function atSource(system: System, circuit: Circuit): Finding[] {
  const allowed = unfusedAllowed(system, circuit);
  const fuses = circuit.parts.flatMap(({ part }, i) => (part.kind === "fuse" ? [i] : []));
  const source = circuit.far ? `the ${circuit.far.source}` : "the battery";
  const end = circuit.key === "main" ? "at the battery" : `at ${source}, ${circuit.title}`;
  if (fuses.length === 0) return [noFuse(circuit, end)];
  const [first, last] = [fuses[0]!, fuses[fuses.length - 1]!];
  const checks = unfused(circuit, allowed, "unfused", circuit.parts.slice(0, first), {
    name: `fuse too far from ${source}${circuit.key === "main" ? "" : `, ${circuit.title}`}`,
    part: circuit.parts[first]!.path,
  });
  const bothEnds = !circuit.far && circuit.branch?.role === "engine" && circuit.branch.coupling === "isolator";
  if (bothEnds && cableLength(circuit.parts) > allowed.bareM)
    checks.push(
      ...unfused(
        circuit,
        { ...allowed, atPost: true },
        "farUnfused",
        circuit.parts.slice(fuses.length > 1 ? last + 1 : 0),
        {
          name: `no fuse at the engine's end, ${circuit.title}`,
          part: circuit.parts[last]!.path,
        },
      ).map((one) => ({ ...one, remark: "two sources: the starter battery feeds a short circuit from its end" })),
    );
  return checks;
}

/** A source without any protection. */
function noFuse(circuit: Circuit, end: string): Finding {
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
  return {
    name: `no fuse ${end}`,
    form: "there",
    demand: one,
    limit: none,
    remark: "a short circuit would have nothing to stop it",
    part: circuit.path,
  };
}

/** Cable that no fuse protects, where it is longer than the rules let it be bare. */
// oxlint-disable-next-line max-params -- which cable of which run, and how it is named
function unfused(
  circuit: Circuit,
  allowed: Unfused,
  which: "unfused" | "farUnfused",
  parts: WiringPart[],
  { name, part }: { name: string; part: JobPath },
): Finding[] {
  const metres = cableLength(parts);
  if (metres <= allowed.bareM) return [];
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
    {
      name,
      demand: length,
      limit: unfusedFigure(allowed),
      remark: `bare cable no more than ${allowed.bareM === 0.2 ? "0.2" : "0.18"} m, sheathed no more than ${allowed.atPost ? "1.83" : "1.02"} m`,
      holdsFrom: 10,
      part,
    },
  ];
}

/** What a run's place allows: whether it begins at a battery's post, and how much bare cable the rule set lets be. */
interface Unfused {
  atPost: boolean;
  bareM: number;
}

/** The main run and a starter battery's begin at a post; others do where no busbar stands between them and the battery. */
function unfusedAllowed({ wiring, job, values }: System, circuit: Circuit): Unfused {
  const busbars = job.wiring.links.layout === "busbars" && values.bank.parallel.value > 1;
  const atBusbar = busbars || wiring.main.parts.some(({ part }) => part.kind === "busbar");
  return {
    atPost: circuit.key === "main" || circuit.far !== null || !atBusbar,
    bareM: wiring.rules.earth === "ground" ? UNFUSED_BARE_M.american : UNFUSED_BARE_M.other,
  };
}

function unfusedFigure({ atPost }: Unfused): TracedValue {
  const metres = atPost ? UNFUSED_AT_POST_M : UNFUSED_ELSEWHERE_M;
  return traced({
    key: atPost ? "carries.unfused" : "carries.unfusedElsewhere",
    name: atPost ? "Cable allowed between a battery's post and its fuse" : "Cable allowed before its fuse",
    dimension: "length",
    value: metres,
    relation: "L = L_s",
    terms: () => [constant("L_s", "Sheathed all the way", metres, "length", atPost ? "72 in" : "40 in")],
    source: "ABYC E-11: 72 in at a battery's post, 40 in elsewhere, where sheathed all the way; 7 in bare",
  });
}

export const fuseAtSource: Rule = {
  id: "fuse-at-source",
  group: "DC wiring",
  title: "A fuse at every source",
  asks: "Each circuit has a fuse at the battery, and the far side one at the starter battery: within 0.2 m (US 7 in) of bare cable, of sheathed cable within 1.83 m of a battery’s post and 1.02 m of a busbar.",
  clause: by(
    "ABYC E-11, 7 in and 72 in",
    "ABYC E-11, 7 in and 72 in",
    "EN 1648; ISO 10133, 200 mm",
    "ISO 13297, 200 mm",
    "AS/NZS 3001.2",
  ),
  broken: "Stop",
  fix: "Fit a fuse at the source, within the length of cable that the rule allows.",
  circuit: ({ system, circuit }) => (circuit.mains || circuit.far?.limited ? [] : atSource(system, circuit)),
};

export const example: Example = {
  what: "1.5 m of cable from a busbar to a fuse",
  breaks: () => tapped(1.5, true),
  word: "Stop",
  meets: () => tapped(0.15, true),
};
