import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  test: { include: ["src/**/*.test.ts", "tests/published/**/*.test.ts", "tests/server/**/*.test.ts"], testTimeout: 30_000 },
});
