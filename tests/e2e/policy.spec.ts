import { expect, test } from "@playwright/test";
import { makeJob, open } from "./support";

test("a page runs its own scripts alone, each answer under a number of its own", async ({ request }) => {
  const policy = async () => (await request.get("/")).headers()["content-security-policy"]!;
  const [one, two] = [await policy(), await policy()];
  const scripts = /script-src ([^;]*)/.exec(one)![1]!;
  expect(scripts).toMatch(/^'self' 'nonce-[A-Za-z0-9+/=]{20,}'$/);
  expect(one).not.toBe(two);
});

test("data may load nothing, and an address without a route is answered in words", async ({ request }) => {
  const parts = await request.get("/api/parts");
  expect(parts.headers()["content-security-policy"]).toMatch(/^default-src 'none'/);
  const nowhere = await request.post("/api/nowhere/at/all", { data: {} });
  expect(nowhere.status()).toBe(404);
  expect(await nowhere.json()).toEqual({ error: "There is nothing at this address.", faults: [] });
});

test("who has an address that opens something tells it to nobody, and no cache keeps an answer", async ({
  request,
}) => {
  for (const path of ["/join/nobody", "/c/nobody", "/begin"])
    expect((await request.get(path, { maxRedirects: 0 })).headers()["referrer-policy"], path).toBe("no-referrer");
  for (const path of ["/api/parts", "/api/people", "/api/session", "/api/nowhere"])
    expect((await request.get(path)).headers()["cache-control"], path).toBe("no-store");
});

test("a name that is a page's mark stays a name in every picture", async ({ page, request }) => {
  const mark = "<img src=x onerror=\"document.title='ran'\">";
  const id = await makeJob(request, mark, (job) => {
    job.units[0]!.name = mark;
    job.units[0]!.runningCurrent = { value: 6, origin: "plate" };
  });
  for (const stage of ["unit", "start"]) {
    await open(page, `/jobs/${id}/${stage}`);
    for (const chart of await page.locator(".chart").all()) {
      const box = (await chart.boundingBox())!;
      for (const share of [0.3, 0.5, 0.7])
        await page.mouse.move(box.x + share * box.width, box.y + box.height / 2, { steps: 3 });
    }
    await expect(page.locator('img[src="x"]')).toHaveCount(0);
    expect(await page.title()).not.toBe("ran");
  }
});

test("another name, another origin and addresses that are none are refused in words, never with a 500", async ({
  request,
  baseURL,
}) => {
  const { port } = new URL(baseURL!);
  const other = await request.get("/", { headers: { host: `evil.example:${port}` } });
  expect(other.status()).toBe(403);
  const sent = await request.post("/api/jobs", { headers: { origin: "http://evil.example" }, data: {} });
  expect(sent.status()).toBe(403);
  for (const address of [
    "/jobs/%ZZ/brief",
    "/api/jobs/%ZZ",
    "/api/jobs/%E0%A4%A",
    "/api/%",
    "/api/%ZZ/x",
    "/api/jobs/%00",
    "/api/test-runs/%C0%AF/readings?limit=%",
    "/api//jobs",
    "/api/jobs/..%2f..%2fetc",
    "/c/%00",
    "/api/parts?q=%ED%A0%80",
    "/?q=%ZZ&page=1e999",
  ]) {
    const { status } = await raw(baseURL!, address);
    expect(status, address).toBeGreaterThanOrEqual(200);
    expect(status, address).toBeLessThan(500);
  }
});

/** An address as it is written: the usual call would mend it first. */
async function raw(base: string, address: string): Promise<{ status: number }> {
  const { get } = await import("node:http");
  const { hostname, port } = new URL(base);
  return new Promise((resolve, reject) => {
    get({ hostname, port, path: address }, (answer) => {
      answer.resume();
      resolve({ status: answer.statusCode! });
    }).on("error", reject);
  });
}
