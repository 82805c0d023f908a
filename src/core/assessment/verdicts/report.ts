import { gravestFirst, type Check } from "../judge/judge";
import { NOT_CHECKED } from "../rules/not-checked";
import { clauseOf, ruleOf } from "../rules/rules";
import { formatNeedsHas, formatQuantity } from "../../units/format";
import type { Job } from "../../document/schema";
import { workingAsText } from "../../units/trace";
import type { Assessment } from "./assess";
import type { DayAssessment } from "./day";
import { noticeText } from "./notice-text";
import { HAND_WORDS } from "./hand-method";

/** The assessment without what only drawing needs, as plain JSON: figures, checks, hours and notices. */
export function assessmentAsJson(job: Job, assessment: Assessment, day: DayAssessment): unknown {
  const { hours, conditions, notices, figures, start, currents, shares } = assessment;
  const { own } = start;
  const list = (array: Float64Array) => Array.from(array, (value) => Number(value.toPrecision(6)));
  return {
    verdicts: { ...assessment.verdicts, ...day.verdicts },
    words: day.words,
    range: day.range,
    conditions,
    missing_wh_a_day: day.missing,
    hours: day.handHolding ? [...hours, day.handHolding] : hours,
    column: day.column,
    holding: day.holding,
    start: {
      seconds: list(own.seconds),
      apparent: list(own.apparent),
      real: list(own.real),
      pathCurrent: list(own.pathCurrent),
      limits: Object.fromEntries(Object.entries(own.limits).map(([key, line]) => [key, list(line)])),
      nearest: own.nearest,
      ladders: start.ladders,
    },
    wiring: { currents, shares },
    notices: notices.map((notice) => ({ kind: notice.kind, stage: notice.stage, text: noticeText(job, notice) })),
    figures: { ...figures, ...day.figures },
  };
}

/** Characters that a column of the sheet takes: as its texts need, but for the few that are very long. */
const widthOf = (column: readonly string[]): number => Math.min(44, Math.max(0, ...column.map(({ length }) => length)));

/** The assessment as a sheet to read in a terminal: verdicts, every check with its margin, hours, remarks and working. */
export function assessmentAsText(job: Job, assessment: Assessment, day: DayAssessment): string {
  const prefs = job.notation;
  const lines: string[] = [job.name, "=".repeat(Math.min(78, job.name.length)), ""];
  const { starts, carries } = assessment.verdicts;
  const { lasts, recovers } = day.verdicts;
  for (const { name, word, decides, checks } of [starts, carries, lasts, recovers]) {
    const pair = (one: Check) => formatNeedsHas(one, prefs);
    const clauseIn = (one: Check) => (ruleOf(one) ? ` [${clauseOf(one, assessment.wiring.rules)}]` : "");
    lines.push(
      `${name.padEnd(8)} ${word.padEnd(6)} ${word === "Choose a place" ? assessment.conditions.line : `${pair(decides)}: ${decides.name}`}`,
    );
    const [names, pairs] = [checks.map((one) => one.name), checks.map(pair)].map((column) => widthOf(column));
    for (const one of checks)
      lines.push(
        `  ${one.word.padEnd(6)} ${one.name.padEnd(names!)} ${pair(one).padEnd(pairs!)} ${one.remark}${clauseIn(one)}`,
      );
    if (name === "Lasts") lines.push(`  ${day.words.lasts.long}`);
    if (name === "Recovers") lines.push(`  ${day.words.recovers.long}`);
    lines.push("");
  }
  lines.push("Hand method, at constant load: hours to the reserve, and to the cut-off");
  for (const { mode, toReserve, toCutOff } of [...assessment.hours, ...(day.handHolding ? [day.handHolding] : [])]) {
    lines.push(
      `  ${HAND_WORDS[mode].padEnd(32)} ${formatQuantity(toReserve, "duration", prefs).padEnd(12)} ${formatQuantity(toCutOff, "duration", prefs)}`,
    );
  }
  const broken = [...starts.checks, ...carries.checks].filter(({ met }) => !met).sort(gravestFirst);
  if (broken.length > 0) lines.push("", `Rules broken, by the rule set: ${assessment.wiring.rules.name}`);
  for (const { name, remark, fix, word } of broken)
    lines.push(`  ${word} ${name}: ${remark}${/\.$/.test(remark) ? "" : "."} To do: ${fix}`);
  lines.push("", "Remarks and cautions", ...assessment.notices.map((notice) => `  - ${noticeText(job, notice)}`));
  lines.push("", "What is not checked", ...NOT_CHECKED.map((one) => `  - ${one}`));
  lines.push("", "Working");
  const keys = new Set(
    [starts, carries, lasts, recovers].flatMap(({ decides }) => [decides.demand.key, decides.limit.key]),
  );
  for (const key of keys) lines.push("", workingAsText({ ...assessment.figures, ...day.figures }, key, prefs, 3));
  return `${lines.join("\n")}\n`;
}
