/*
 * Several machines on one: three MariaDB nodes that replicate to each other (Galera), two servers of the application, and
 * HAProxy before the nodes and before the servers. For proving what docs/operating.md says, not for a workshop.
 */
import { spawn, type ChildProcess } from "node:child_process";
import { copyFileSync, existsSync, mkdirSync, rmSync, writeFileSync } from "node:fs";
import { userInfo } from "node:os";
import { join } from "node:path";
import { buildIfChanged } from "./build";
import { ended, freePort, startMariaDb, type RunningDatabase } from "./mariadb";
import { migrate, seedDemo } from "./schema";
import { keptSecret } from "./secrets";
import { serve } from "./serve";

const ROOT = join(import.meta.dirname, "..");
const GALERA = "/usr/lib/galera/libgalera_smm.so";
/** What copies one node's data to another must not run as root. */
const USER = userInfo().username === "root" ? "mysql" : userInfo().username;
const NODES = 3;
const SERVERS = 2;

export interface Cluster {
  /** The application through HAProxy, and each server by itself. */
  base: string;
  servers: { port: number; process: ChildProcess }[];
  nodes: RunningDatabase[];
  startNode(index: number): Promise<void>;
  startServer(index: number): Promise<void>;
  stop(): Promise<void>;
}

/** What a node needs to find the others; `first` begins a cluster of its own. */
function settingsOf(index: number, ports: readonly number[], first: boolean): string[] {
  const at = `127.0.0.1:${ports[index]}`;
  const group = ports.map((port) => `127.0.0.1:${port}`).join(",");
  return [
    "--wsrep-on=ON",
    `--wsrep-provider=${GALERA}`,
    "--wsrep-cluster-name=chillbank",
    `--wsrep-cluster-address=gcomm://${first ? "" : group}`,
    `--wsrep-node-name=node${index + 1}`,
    `--wsrep-node-address=127.0.0.1`,
    `--wsrep-provider-options=gmcast.listen_addr=tcp://${at};ist.recv_addr=127.0.0.1:${ports[index]! + 1000};gcache.size=64M;evs.suspect_timeout=PT3S;evs.inactive_timeout=PT8S`,
    `--wsrep-sst-receive-address=127.0.0.1:${ports[index]! + 2000}`,
    "--wsrep-sst-method=rsync",
    // What one node has acknowledged, the next question sees on whichever node it is asked.
    "--wsrep-sync-wait=7",
    "--wsrep-retry-autocommit=4",
    "--binlog-format=ROW",
    "--innodb-autoinc-lock-mode=2",
    "--innodb-flush-log-at-trx-commit=2",
  ];
}

const haproxyOf = (front: { base: number; database: number }, nodes: readonly number[], servers: readonly number[]) => `
global
  maxconn 2000
defaults
  timeout connect 2s
  timeout client 1h
  timeout server 1h
  option redispatch
  retries 3
frontend database
  mode tcp
  bind 127.0.0.1:${front.database}
  default_backend nodes
backend nodes
  mode tcp
  balance leastconn
  default-server inter 1s fall 2 rise 3 on-marked-down shutdown-sessions
${nodes.map((port, i) => `  server node${i + 1} 127.0.0.1:${port} check`).join("\n")}
frontend application
  mode http
  bind 127.0.0.1:${front.base}
  default_backend servers
backend servers
  mode http
  balance roundrobin
  option httpchk
  http-check send meth GET uri /api/health/ready ver HTTP/1.1 hdr Host 127.0.0.1
  http-check expect status 200
  default-server inter 1s fall 2 rise 2
${servers.map((port, i) => `  server server${i + 1} 127.0.0.1:${port} check`).join("\n")}
`;

/** A port whose neighbours a thousand and two thousand above are free too. */
const groupPort = (index: number) => freePort(24567 + 10 * index);

/** Starts all of it, with the demo's jobs, in `.local/NAME`. */
export async function startCluster(name: string): Promise<Cluster> {
  if (!existsSync(GALERA)) throw new Error("Galera is not installed: apt-get install galera-4 rsync haproxy");
  const folder = join(ROOT, ".local", name);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  buildIfChanged();
  const groups: number[] = [];
  for (let i = 0; i < NODES; i++) groups.push(await groupPort(i));
  const placeOf = (index: number) => join(folder, `node${index + 1}`);
  const nodes: RunningDatabase[] = [];
  const portOf = (node: RunningDatabase) => Number(new URL(node.url).port);
  const startNode = async (index: number, first = false, wanted = 0) => {
    mkdirSync(placeOf(index), { recursive: true });
    // A node that joins takes the users of the first over with all else.
    if (index > 0) copyFileSync(join(placeOf(0), "database.secret"), join(placeOf(index), "database.secret"));
    nodes[index] = await startMariaDb(placeOf(index), {
      settings: settingsOf(index, groups, first),
      user: USER,
      wanted,
    });
  };
  for (let i = 0; i < NODES; i++) await startNode(i, i === 0);
  const nodePorts = nodes.map(portOf);
  await migrate(nodes[0]!.url);
  const password = keptSecret(join(folder, "demo.secret"));
  await seedDemo(nodes[0]!.url, password);

  const front = { base: await freePort(), database: await freePort() };
  const serverPorts: number[] = [];
  for (let i = 0; i < SERVERS; i++) serverPorts.push(await freePort());
  const file = join(folder, "haproxy.cfg");
  writeFileSync(file, haproxyOf(front, nodePorts, serverPorts));
  const proxy = spawn("haproxy", ["-db", "-f", file], {
    stdio: "ignore",
    env: { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` },
  });
  const url = new URL(nodes[0]!.url);
  url.port = String(front.database);
  const secrets = { CHILLBANK_SECRET: keptSecret(join(folder, "session.secret")), CHILLBANK_DEMO: password };
  const servers: Cluster["servers"] = [];
  const startServer = async (index: number) => {
    const port = serverPorts[index]!;
    servers[index] = { port, process: await serve(port, url.href, secrets) };
  };
  for (let i = 0; i < SERVERS; i++) await startServer(i);
  return {
    base: `http://127.0.0.1:${front.base}`,
    servers,
    nodes,
    startNode: (index) => startNode(index, false, nodePorts[index]),
    startServer,
    async stop() {
      await Promise.all(servers.map(({ process }) => ended(process, "SIGTERM", 5000)));
      await ended(proxy, "SIGTERM", 5000);
      for (const node of [...nodes].reverse()) await node.stop();
    },
  };
}
