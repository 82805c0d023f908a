import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { spareForFuse, withFuse } from "../../needs/cable";
import { type CheckedPart, FUSE_SPARE, answersForItself, ratingFigure } from "../../needs/checked";
import { fullDraw } from "../../needs/full-draw";
import { withBeside } from "../../needs/shared-parts";
import { TracedValue, of, traced } from "../../../units/trace";

/** What is said of the full draw: why it passes, or what is too little. */
function wordsOf(need: TracedValue, has: TracedValue, beside: TracedValue | null): string {
  const what = beside
    ? "the inverter at its rating and cut-off and the DC circuits"
    : "the inverter at its rating and cut-off";
  return has.value < need.value ? `too little for ${what}, with 25 % on it for the fuse` : `carries ${what}`;
}

/** What DC circuits draw through a part as well. Runs side by side stand behind the busbar, whichever place it has in their list. */
const besideOf = ({ circuit, beside }: CheckedPart): TracedValue | null => (circuit.lanes < 2 ? beside : null);

/** Whose full draw a part carries. */
const drawOf = (at: CheckedPart): string =>
  besideOf(at) ? "the full draw of inverter and DC circuits" : "the inverter's full draw";

/** The inverter's full draw through a part, and that of the circuits which share it. */
const drawThrough = (at: CheckedPart): TracedValue => withBeside(fullDraw(at.system), besideOf(at), at.one);

/** The cable to the inverter at the inverter's full draw. */
function cableCarries(at: CheckedPart): Finding[] {
  const { system, circuit, one } = at;
  if (circuit.key !== "main" || !system.converted) return [];
  const spare = spareForFuse(at);
  const full = withFuse(drawThrough(at), spare, one, "fullDrawFuse");
  return [
    {
      topic: "fullDraw",
      name: `${one.name} at ${drawOf(at)}`,
      demand: full,
      limit: one.ampacity!,
      remark: wordsOf(full, one.ampacity!, besideOf(at)),
      ...(spare > 1 ? { tightFrom: 1 / spare } : {}),
      part: one.path,
    },
  ];
}

/** Its fuse at 125 % of it. */
function fuseCarries(at: CheckedPart): Finding[] {
  const { system, circuit, one } = at;
  if (circuit.key !== "main" || !system.converted || !answersForItself(circuit, one)) return [];
  const full = drawThrough(at);
  const rated = ratingFigure(one, `${one.path}:rating`);
  const wanted = traced({
    key: "carries.fullDraw.fuse",
    name: `125 % of: ${full.name}`,
    dimension: "current",
    value: FUSE_SPARE * full.value,
    relation: "I_m = 1.25 × I",
    terms: () => [of("I", full)],
  });
  return [
    {
      topic: "fullDraw",
      name: `${one.name} at ${drawOf(at)}`,
      demand: wanted,
      limit: rated,
      remark: wordsOf(wanted, rated, besideOf(at)),
      tightFrom: 1 / FUSE_SPARE,
      part: one.path,
    },
  ];
}

export const inverterFullDraw: Rule = {
  id: "inverter-full-draw",
  group: "DC wiring",
  title: "Main run carries the inverter's full draw",
  asks: "Cable and fuse between battery and inverter are sized for the inverter's rating at its low-voltage cut-off (rating ÷ efficiency ÷ volts), not for today's loads; the fuse at 125 % of it.",
  clause: by("ABYC E-11; NEC 551.30", "ABYC E-11, DC-AC inverters", PRACTICE, "ISO 13297", PRACTICE),
  broken: "Fails",
  fix: "Use cable and fuse for the inverter’s rating at its cut-off, or a smaller inverter.",
  part: { cable: cableCarries, fuse: fuseCarries },
};

export const example: Example = {
  what: "3 kVA at 12 V on a 100 A fuse and 35 mm²",
  breaks: () => jobOf({ inverter: { rating: q(3000) }, fuse: { rating: q(100) }, cable: { areaMm2: q(35) } }),
  word: "Fails",
  meets: () =>
    jobOf({ inverter: { rating: q(3000) }, fuse: { rating: q(400) }, cable: { areaMm2: q(70), count: q(2) } }),
};
