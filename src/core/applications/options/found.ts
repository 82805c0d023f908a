import type { Rig } from "../../document/schema";
import type { Design } from "./design";
import type { Outcome } from "./evaluate";
import type { Wish } from "./target";

/** What a search has come to so far. */
export interface Found {
  rig: Rig;
  wish: Wish;
  designs: Design[];
  /** What was evaluated so far, by number. */
  outcomes: Outcome[];
  /** The best of them, by fresh weather. */
  confirmed: Outcome[];
  done: boolean;
}
