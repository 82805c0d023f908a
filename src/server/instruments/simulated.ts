import { say } from "@/core/messages/say";
import type { Simulator } from "../../core/applications/test-run/simulator/simulator";
import type { Instrument, Listener } from "./instrument";

/** How often a simulator tells its readings, ms. */
const TICK_MS = 250;

/** Tells a made run's readings in real time, or `speed` times as fast, from index `from` on. */
export function simulatedInstrument({ readings }: Simulator, speed: number, from = 0): Instrument {
  let timer: NodeJS.Timeout | null = null;
  let next = from;
  let telling = false;
  return {
    start(listener: Listener) {
      const first = readings[Math.min(from, readings.length - 1)]?.timeMs ?? 0;
      const begun = Date.now();
      const tick = async () => {
        if (telling) return;
        const until = first + (Date.now() - begun) * speed;
        let to = next;
        while (to < readings.length && readings[to]!.timeMs <= until) to++;
        if (to > next) {
          telling = true;
          const list = readings.slice(next, to);
          next = to;
          await listener.readings(list);
          telling = false;
        }
        if (next >= readings.length && timer) {
          clearInterval(timer);
          timer = null;
          listener.ended(say("server.instrument.over"));
        }
      };
      timer = setInterval(() => void tick(), TICK_MS);
      void tick();
    },
    stop() {
      if (timer) clearInterval(timer);
      timer = null;
    },
  };
}
