import { defineConfig } from "@playwright/test";
import { SESSION } from "./tests/e2e/session";

export default defineConfig({
  testDir: "tests/e2e",
  // The runner compiles the tests; the code that they use is compiled as the other tests' is, in a fifth of the time (`npm run e2e`).
  build: { external: ["**/src/**", "**/tools/**"] },
  outputDir: "test-results",
  // A shared machine may stand still for a minute; waiting costs nothing where it does not.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  // A click that a standing machine loses is told as flaky, not as a fault; what is broken fails twice.
  retries: 1,
  workers: 2,
  fullyParallel: false,
  forbidOnly: true,
  reporter: [["list"]],
  // Speed is measured by itself (`npm run bench:keystroke`), when nothing else runs.
  projects: [
    { name: "sign-in", testMatch: "sign-in.setup.ts", use: { storageState: { cookies: [], origins: [] } } },
    { name: "views", testIgnore: "speed.spec.ts", dependencies: ["sign-in"] },
    { name: "speed", testMatch: "speed.spec.ts", dependencies: ["sign-in"] },
  ],
  use: {
    storageState: SESSION,
    baseURL: process.env.BASE_URL,
    actionTimeout: 120_000,
    navigationTimeout: 120_000,
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: "Europe/Lisbon",
    // Files that try what works without reception let it in: keeping a page loads all that belongs to it once more.
    serviceWorkers: "block",
    // Lists and dialogs come at once; axe, and tests of their own, see them move.
    contextOptions: { reducedMotion: "reduce" },
    trace: "off",
    screenshot: "only-on-failure",
    launchOptions: {
      // Debian's Chromium without a window to draw: the same engine for a fifth less work.
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-dev-shm-usage",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
        "--disable-domain-reliability",
        "--disable-features=OptimizationHints,MediaRouter,Translate",
      ],
    },
  },
});
