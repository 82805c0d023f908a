import { collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import { database } from "./database";
import { attendedHere } from "./instruments/running";
import { verdictsWaiting } from "./verdict-queue";

/*
 * What a server can be watched by, as Prometheus reads it: how long requests take by route and outcome, the pool of the
 * database, the event loop, instruments and verdicts that wait. Nothing that a customer entered.
 */

interface Metrics {
  registry: Registry;
  requests: Histogram<"method" | "route" | "status">;
}
const held = globalThis as { chillbankMetrics?: Metrics };

function makeMetrics(): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const gauge = (name: string, help: string, read: () => number) =>
    new Gauge({
      name,
      help,
      registers: [registry],
      collect() {
        this.set(read());
      },
    });
  const pool = () => (database().client as { pool: Record<"numUsed" | "numPendingAcquires", () => number> }).pool;
  gauge("chillbank_database_connections_used", "Connections of the pool in use, of 8.", () => pool().numUsed());
  gauge("chillbank_database_waiting", "Requests that wait for a connection.", () => pool().numPendingAcquires());
  gauge("chillbank_instruments", "Instruments that this server attends.", () => attendedHere().length);
  gauge("chillbank_verdicts_waiting", "Jobs whose verdicts are still to be worked out.", verdictsWaiting);
  const requests = new Histogram({
    name: "chillbank_request_seconds",
    help: "Time until a request was answered.",
    labelNames: ["method", "route", "status"] as const,
    buckets: [0.01, 0.03, 0.1, 0.3, 0.5, 1, 2, 5, 10],
    registers: [registry],
  });
  return { registry, requests };
}

const metrics = () => (held.chillbankMetrics ??= makeMetrics());

/** The route of an address: what is one job's, one part's or one piece's stands as {id}. */
const routeOf = (pathname: string) =>
  pathname
    .split("/")
    .map((step) => (/\d/.test(step) || step.length > 20 ? "{id}" : step))
    .join("/");

/** Notes that a request was answered after so many milliseconds. */
export function noteAnswer(request: Request, status: number, ms: number): void {
  const route = routeOf(new URL(request.url).pathname);
  metrics().requests.observe({ method: request.method, route, status: String(status) }, ms / 1000);
}

/** All of it as text, and the type to answer with. */
export const metricsText = async (): Promise<{ text: string; type: string }> => {
  const { registry } = metrics();
  return { text: await registry.metrics(), type: registry.contentType };
};
