import { defineConfig } from "vitest/config";
// The common setup of the server's tests runs in this process and reads the core, too.
import "tsx";

/** Under soak a check tries many times as many cases. */
const testTimeout = process.env.SOAK ? 1_500_000 : 240_000;

/** A test file's own database takes seconds alone and more while the other processor computes. */
const hookTimeout = 120_000;

/**
 * How Node runs what computes for minutes with both processors busy: it compiles what it runs sooner, and does not clear its memory
 * on threads that take the processor from the other worker. The core's tests then take an eighth less.
 */
const COMPUTING = [
  "--no-lazy-feedback-allocation",
  "--single-threaded-gc",
  "--min-semi-space-size=32",
  "--max-semi-space-size=64",
];

const resolve = { alias: { "@": new URL("./src", import.meta.url).pathname } };

const server = {
  name: "server",
  // One process per worker: each reads the server once and not for each file.
  isolate: false,
  // Routes are read by the runner, which can put another in a module's place; the core by Node, for speed.
  server: { deps: { external: [/\/src\/core\//] } },
  execArgv: ["--import", "tsx"],
  setupFiles: ["tests/properties.setup.ts", "tests/server/signed-in.setup.ts"],
  include: ["tests/server/**/*.test.ts"],
  // Signs cookies of tests that sign in.
  env: { CHILLBANK_SECRET: "the tests' own key, long enough to be taken" },
  globalSetup: ["tests/server/database.setup.ts"],
  // First, while the application is built beside them: they wait for the database and for time to pass, and the build takes what they leave.
  sequence: { groupOrder: 0 },
  testTimeout,
  hookTimeout,
};

export default defineConfig({
  test: {
    // All processors: the tests are nearly all computation, and the runner itself does little.
    maxWorkers: "100%",
    projects: [
      {
        resolve,
        test: {
          name: "core",
          // They keep nothing from one to the next, so that a worker reads the core once and not for each file.
          isolate: false,
          // As Node runs modules: by the runner's own, every name that a module imports is looked up anew at each use, and the
          // simulations take three times as long.
          experimental: { viteModuleRunner: false, nodeLoader: false },
          execArgv: [...COMPUTING, "--import", "./src/node/typescript.mjs"],
          setupFiles: ["tests/properties.setup.ts"],
          include: [
            "src/**/*.test.ts",
            "tests/published/**/*.test.ts",
            "tests/foreign/**/*.test.ts",
            "tests/cli/**/*.test.ts",
          ],
          sequence: { groupOrder: 1 },
          testTimeout,
          hookTimeout,
        },
      },
      { resolve, test: server },
    ],
  },
});
