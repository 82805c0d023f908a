import type { Job } from "../../document/schema";
import type { Design } from "./design";
import type { Outcome } from "./evaluate";
import type { Requirement } from "./target";

/** What a search has come to so far. */
export interface Found {
  job: Job;
  requirement: Requirement;
  designs: Design[];
  /** What was evaluated so far, by number. */
  outcomes: Outcome[];
  /** The best of them, by fresh weather. */
  confirmed: Outcome[];
  done: boolean;
}
