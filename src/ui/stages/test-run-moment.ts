import type { Source } from "@/contract/test-runs";
import { moment } from "../words";

/**
 * The moment that a reading typed now is of, Unix ms. A simulated run goes faster than the clock and may be of another day: a
 * reading in it is of its own time, just after the last one (`lastMs`; its beginning where there is none).
 */
export const momentOfRun = (source: Source | null, lastMs: number): number =>
  source?.kind === "simulator" ? lastMs + 1000 : moment();
