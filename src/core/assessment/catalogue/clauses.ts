import type { RuleSetKey } from "../../reference/standards/rule-set";

/** Where a rule stands on no standard. */
export const PRACTICE = "common practice, no source";

/** Clauses by rule set. */
// oxlint-disable-next-line max-params -- one line of a table: its columns in order
export const by = (
  usRoad: string,
  usBoat: string,
  euRoad: string,
  euBoat: string,
  auNz: string,
): Record<RuleSetKey, string> => ({
  "us-road": usRoad,
  "us-boat": usBoat,
  "eu-road": euRoad,
  "eu-boat": euBoat,
  "au-nz": auNz,
});
