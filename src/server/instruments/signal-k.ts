import WebSocket from "ws";
import { say } from "@/core/messages/say";
import { joinDeltas, readDelta } from "../../core/applications/test-run/log/signalk";
import type { Reading } from "../../core/applications/test-run/log/readings";
import type { Instrument } from "./instrument";

/** How often what came is told as readings, and how long until a lost connection is tried again, ms. */
const TELL_MS = 2000;
const AGAIN_MS = 3000;
const MOST_TRIES = 100;
/** Messages larger than this are none of a sensor's. */
const LARGEST_MESSAGE = 1024 * 1024;

/** Subscribes to a Signal K server's deltas and tells them as readings; a lost connection is tried again. */
export function signalKInstrument(url: string): Instrument {
  let socket: WebSocket | null = null;
  let timer: NodeJS.Timeout | null = null;
  let again: NodeJS.Timeout | null = null;
  let stopped = false;
  let tries = 0;
  let parts: Reading[] = [];
  return {
    start(listener) {
      const connect = () => {
        if (stopped) return;
        socket = new WebSocket(url, { maxPayload: LARGEST_MESSAGE, handshakeTimeout: 8000 });
        socket.on("open", () => {
          tries = 0;
          socket?.send(
            JSON.stringify({
              context: "vessels.self",
              subscribe: [
                { path: "electrical.*", period: 1000 },
                { path: "environment.*", period: 1000 },
              ],
            }),
          );
        });
        socket.on("message", (data: Buffer) => {
          try {
            const read = readDelta(JSON.parse(data.toString("utf8")), null, Date.now());
            if (read) parts.push(...read);
          } catch {
            // Not JSON: nothing of a sensor's.
          }
        });
        socket.on("error", () => {});
        socket.on("close", () => {
          if (stopped) return;
          if (++tries > MOST_TRIES) {
            listener.ended(say("server.instrument.noAnswer", { address: url }));
            return;
          }
          again = setTimeout(connect, AGAIN_MS);
        });
      };
      timer = setInterval(() => {
        const list = joinDeltas(parts);
        if (list.length === 0) return;
        parts = [];
        void listener.readings(list);
      }, TELL_MS);
      connect();
    },
    stop() {
      stopped = true;
      if (timer) clearInterval(timer);
      if (again) clearTimeout(again);
      socket?.terminate();
    },
  };
}
