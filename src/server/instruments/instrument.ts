import type { Reading } from "../../core/applications/test-run/log/readings";

/** What a source of readings is told them by. */
export interface Listener {
  readings(list: Reading[]): void | Promise<void>;
  /** It came to its end, or failed; nothing follows. */
  ended(reason: string): void;
}

/** Anything that gives readings as they come: a meter's file, a boat's network, the simulator. */
export interface Instrument {
  start(listener: Listener): void;
  stop(): void;
}
