import { GROUPS, type Rule } from "../catalogue/rule";
import { EXAMPLES } from "./examples";
import { NOT_CHECKED } from "./not-checked";
import { RULES } from "./rules";
import { RULE_SET_KEYS, RULE_SETS } from "../../reference/standards/rule-set";

/** The clauses of a rule as cells of a table, one for each rule set. */
function clauses({ clause }: Rule): string[] {
  return RULE_SET_KEYS.map((key) => (typeof clause === "string" ? clause : clause[key]));
}

/** The page of rules for a surveyor, in Markdown: what is checked, by which clause, and what is not checked. */
export function rulesPage(): string {
  const lines = [
    "# The rules that are checked",
    "",
    "For surveyors and inspectors: what Chillbank checks in Starts and Carries, by which standard and clause, and what it does",
    "not check. It estimates and does not approve: the rules in force, the local authority and the makers' instructions win.",
    "Clauses and values are typical readings of the standards named; look them up in the edition in force.",
    "This page is written from the rules themselves (`npm run rules`).",
    "",
    "A job has one rule set. The mains system, the vehicle and the place propose it; the installer chooses it in the Brief.",
    "",
    "| rule set | AC conductors | DC conductors | protection | current to earth | supply | solar |",
    "| --- | --- | --- | --- | --- | --- | --- |",
    ...RULE_SET_KEYS.map((key) => {
      const { name, standards } = RULE_SETS[key];
      const { ac, dc, protection, residual, supply, solar } = standards;
      return `| ${[name, ac, dc, protection, residual, supply, solar].join(" | ")} |`;
    }),
    "",
    "A broken rule is **Stop** where it touches fire, shock or crushed life, **Fails** where the part will not do its work, and",
    "**Tight** where it is safe but less than it should be, or where something is not stated yet.",
  ];
  for (const group of GROUPS) {
    lines.push("", `## ${group}`);
    for (const rule of Object.values(RULES).filter((one) => one.group === group)) {
      lines.push("", `### ${rule.title}`, "", `${rule.asks} Broken: ${rule.broken} at worst. (\`${rule.id}\`)`, "");
      const cells = clauses(rule);
      if (new Set(cells).size === 1) lines.push(`By: ${cells[0]}.`);
      else lines.push(...RULE_SET_KEYS.map((key, i) => `- ${RULE_SETS[key].name}: ${cells[i]}`));
      const { what, word } = EXAMPLES[rule.id];
      lines.push("", `Example of ${word}: ${what}. What to do: ${rule.fix}`);
    }
  }
  lines.push("", "## What is not checked", "", ...NOT_CHECKED.map((one) => `- ${one}`), "");
  return lines.join("\n");
}
