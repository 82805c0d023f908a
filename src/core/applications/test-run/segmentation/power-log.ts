import type { Site } from "../site/site";

/** A log's power as the detectors look at it, by reading. */
export interface PowerLog {
  site: Site;
  /** W out of the battery. */
  watts: Float64Array;
  /** W at the socket of the unit; null where they were not read. */
  mains: Float64Array | null;
  /** W that the running unit adds. */
  step: number;
  /** Usual seconds between readings. */
  pace: number;
}
