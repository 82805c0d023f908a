import { expect, test } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { packReadings } from "../../src/core/applications/test-run/log/packed";
import { fromList } from "../../src/core/applications/test-run/log/readings";
import { ended, freePort } from "../../tools/mariadb";
import { serve } from "../../tools/serve";
import { sessionCookie } from "./session";
import { makeJob } from "./support";

/* The application itself killed, on an own port beside the one that the other tests use. */

const T0 = Date.UTC(2026, 7, 14, 12);

test("a kill -9 of the application in a burst and amid an import loses nothing acknowledged and shows no part of it", async ({
  request,
}) => {
  const jobId = await makeJob(request, "Killed van");
  const testRunId = randomUUID();
  const begun = await request.post(`/api/jobs/${jobId}/test-runs`, {
    data: { name: "Killed", id: testRunId, startedAt: T0 },
  });
  expect(begun.ok()).toBe(true);
  const cookie = sessionCookie();
  const secrets = { CHILLBANK_SECRET: process.env.CHILLBANK_SECRET! };
  const port = await freePort();
  const doomed = await serve(port, process.env.DATABASE_URL!, secrets);
  const own = `http://127.0.0.1:${port}/api/test-runs/${testRunId}`;
  const post = (address: string, body: unknown) =>
    fetch(address, {
      method: "POST",
      body: JSON.stringify(body),
      headers: { "content-type": "application/json", cookie },
    });

  const opened = (await (await post(`${own}/imports`, { fileName: "meter.csv" })).json()) as { id: string };
  const piece = (n: number) =>
    packReadings(fromList([{ timeMs: T0 + 9_000_000 + n * 1000, values: { battery_current_a: -500 } }]));
  const putPiece = (n: number) =>
    fetch(`${own}/imports/${opened.id}/readings/${n}`, {
      method: "PUT",
      body: piece(n),
      headers: { "content-type": "application/octet-stream", cookie },
    });
  expect((await putPiece(0)).ok).toBe(true);

  const sent: { id: string; timeMs: number; values: { battery_current_a: number } }[] = [];
  const acknowledged: number[] = [];
  for (let i = 0; ; i++) {
    const reading = { id: randomUUID(), timeMs: T0 + i * 1000, values: { battery_current_a: -i } };
    sent.push(reading);
    // Not told first: the kill comes while an answer is awaited.
    if (i === 40) setTimeout(() => process.kill(-doomed.pid!, "SIGKILL"), 1);
    try {
      const answer = await post(`${own}/readings`, { readings: [reading] });
      if (i < 40) void putPiece(i + 1).catch(() => undefined);
      if (answer.ok) acknowledged.push(reading.timeMs);
    } catch {
      break;
    }
  }
  expect(acknowledged.length).toBeGreaterThanOrEqual(40);

  const again = await serve(port, process.env.DATABASE_URL!, secrets);
  try {
    const stored = (await (await fetch(`${own}/readings?limit=500`, { headers: { cookie } })).json()) as {
      readings: { timeMs: number }[];
    };
    const times = stored.readings.map(({ timeMs }) => timeMs);
    expect(new Set(times).size).toBe(times.length);
    for (const time of acknowledged) expect(times).toContain(time);
    // Nothing of the import is seen: it was never closed.
    expect(Math.max(...times)).toBeLessThan(T0 + 9_000_000);
    const { imports } = (await (await fetch(own, { headers: { cookie } })).json()) as { imports: unknown[] };
    expect(imports).toEqual([]);
    // What had no answer is sent again, and is there once.
    for (const reading of sent) expect((await post(`${own}/readings`, { readings: [reading] })).ok).toBe(true);
    const settled = (await (await fetch(`${own}/readings?limit=500`, { headers: { cookie } })).json()) as {
      readings: unknown[];
    };
    expect(settled.readings).toHaveLength(sent.length);
  } finally {
    await ended(again, "SIGTERM", 5000);
  }
});
