import type { Site } from "../site/site";

/** A log's power as the detectors look at it, by reading. */
export interface PowerLog {
  site: Site;
  /** W out of the battery. */
  watts: Float64Array;
  /** By reading: 1 where panels that were not read may give, so that its watts are not what the system takes. */
  litAt: Uint8Array;
  /** W at the socket of the unit; null where they were not read. */
  mains: Float64Array | null;
  /** W that the running unit adds. */
  step: number;
  /** Usual seconds between readings. */
  pace: number;
}
