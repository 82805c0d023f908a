/**
 * Several machines under load while they are killed: `npm run cluster -- [seconds]` starts three nodes of a database cluster,
 * two servers and HAProxy, lets the load of `npm run load` go through it, kills a node and a server, starts them again, and
 * prints what was lost and how long instruments stood still.
 */
import { spawn } from "node:child_process";
import { v4 as uuid } from "uuid";
import { emptyJob } from "../../src/core/document/schema";
import { connect } from "../../src/server/database";
import { addReadings } from "../../src/server/test-runs";
import { startCluster, type Cluster } from "../../tools/cluster";
import { demoCookie } from "../../tools/demo-session";

const seconds = Number(process.argv[2] ?? 120);
const INSTRUMENTS = 4;
/** Two servers and three nodes share this machine: fewer people than one server of its own is asked to bear. */
const EDITORS = process.argv[3] ?? "20";
const TEST_RUNS = process.argv[4] ?? "10";
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const begun = Date.now();
const say = (text: string) => console.log(`${((Date.now() - begun) / 1000).toFixed(0).padStart(4)} s  ${text}`);

const cluster = await startCluster("cluster");
const watching = connect(cluster.nodes[2]!.url);

/** Asks until it is answered well: as a browser does that goes on by itself. */
async function asked(path: string, init: RequestInit, cookie: string): Promise<Response> {
  for (let tried = 0; ; tried++) {
    const answer = await fetch(cluster.base + path, {
      ...init,
      headers: { cookie, "content-type": "application/json" },
    }).catch(() => null);
    if (answer?.ok) return answer;
    if (tried > 60) throw new Error(`${path} is answered ${answer?.status ?? "not at all"}`);
    await wait(500);
  }
}

/** Test runs with a simulator that tells a reading a second. Returns their ids. */
async function instruments(): Promise<string[]> {
  const cookie = await demoCookie(cluster.base);
  const post = (body: unknown): RequestInit => ({ method: "POST", body: JSON.stringify(body) });
  const ids: string[] = [];
  for (let n = 0; n < INSTRUMENTS; n++) {
    const job = emptyJob(`Instrument ${n}`);
    job.place.listed = "faro";
    job.weather.kind = "usual";
    const made = (await (await asked("/api/jobs", post({ job }), cookie)).json()) as { id: string };
    const id = uuid();
    await asked(`/api/jobs/${made.id}/test-runs`, post({ id, name: "Run", startedAt: Date.UTC(2026, 7, 14) }), cookie);
    await asked(
      `/api/test-runs/${id}/source`,
      post({ kind: "simulator", seed: n, faults: [], every: 10, speed: 10 }),
      cookie,
    );
    ids.push(id);
  }
  return ids;
}

const gaps = new Map<string, { readings: number; at: number; longestS: number }>();
/** Notes for how long each instrument's test run had nothing new. */
async function watchInstruments(ids: readonly string[], until: number): Promise<void> {
  while (Date.now() < until) {
    const rows = (await watching("test_runs")
      .whereIn("id", ids)
      .select("id", "readings")
      .catch(() => [])) as { id: string; readings: number }[];
    for (const { id, readings } of rows) {
      const before = gaps.get(id);
      if (!before) gaps.set(id, { readings, at: Date.now(), longestS: 0 });
      else if (readings > before.readings) {
        before.longestS = Math.max(before.longestS, (Date.now() - before.at) / 1000);
        Object.assign(before, { readings, at: Date.now() });
      }
    }
    await wait(250);
  }
  for (const gap of gaps.values()) gap.longestS = Math.max(gap.longestS, (Date.now() - gap.at) / 1000);
}

async function killAndStart(own: Cluster): Promise<void> {
  const at = async (share: number) => wait(Math.max(0, started + share * 1000 * seconds - Date.now()));
  await at(0.2);
  say("node 1 is killed");
  own.nodes[0]!.process.kill("SIGKILL");
  await at(0.4);
  say("server 1 is killed");
  own.servers[0]!.process.kill("SIGKILL");
  await at(0.6);
  say("server 1 is started");
  await own.startServer(0);
  await at(0.7);
  say("node 1 is started");
  await own.startNode(0);
  say("node 1 has joined");
}

const CONTENDED = 150;
/** Readings for one test run written at two nodes at once, which the cluster lets only one of do at a time. Returns those stored. */
async function contended(testRunId: string): Promise<number> {
  const nodes = [1, 2].map((index) => connect(cluster.nodes[index]!.url));
  const stored = await Promise.all(
    nodes.map(async (node, which) => {
      let added = 0;
      for (let n = 0; n < CONTENDED; n++) {
        const timeMs = Date.UTC(2026, 7, 13) + 1000 * (2 * n + which);
        added += await addReadings(node, testRunId, [{ id: uuid(), timeMs, values: { battery_current_a: -1 } }]);
      }
      return added;
    }),
  );
  await Promise.all(nodes.map((node) => node.destroy()));
  return stored[0]! + stored[1]!;
}

let started = 0;
let status: number;
try {
  say("three nodes and two servers run");
  const ids = await instruments();
  const stored = await contended(ids[0]!);
  say(`${stored} of ${2 * CONTENDED} readings stored that two nodes wrote to one test run at once`);
  const load = spawn(
    process.execPath,
    ["--import", "tsx", "tests/bench/load.ts", String(seconds), EDITORS, TEST_RUNS, "0"],
    {
      stdio: "inherit",
      env: { ...process.env, BASE_URL: cluster.base },
    },
  );
  const ended = new Promise<number>((resolve) => load.once("exit", (code) => resolve(code ?? 1)));
  started = Date.now();
  await Promise.all([killAndStart(cluster), watchInstruments(ids, started + 1000 * seconds)]);
  status = await ended;
  for (const [id, { readings, longestS }] of gaps)
    console.log(`instrument ${id.slice(0, 8)}: ${readings} readings, at most ${longestS.toFixed(1)} s without one`);
  const conflicts = await Promise.all(
    cluster.nodes.map(async ({ url }) => {
      const node = connect(url);
      const [rows] = (await node.raw(
        "SHOW STATUS WHERE Variable_name IN ('wsrep_local_cert_failures', 'wsrep_local_bf_aborts', 'wsrep_cluster_size')",
      )) as [{ Variable_name: string; Value: string }[]];
      await node.destroy();
      return rows.map(({ Variable_name, Value }) => `${Variable_name.replace("wsrep_", "")} ${Value}`).join(", ");
    }),
  );
  conflicts.forEach((words, i) => console.log(`node ${i + 1}: ${words}`));
} finally {
  await watching.destroy();
  await cluster.stop();
}
process.exit(status);
