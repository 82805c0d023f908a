import { join } from "node:path";
import { defineConfig } from "vite";

const ROOT = join(import.meta.dirname, "..");

export default defineConfig({
  root: ROOT,
  publicDir: false,
  logLevel: "warn",
  define: { "process.env.NODE_ENV": '"production"' },
  build: {
    outDir: join(ROOT, "public"),
    emptyOutDir: false,
    copyPublicDir: false,
    lib: {
      entry: join(ROOT, "src/workers/service-worker.ts"),
      formats: ["iife"],
      name: "serviceWorker",
      fileName: () => "service-worker.js",
    },
  },
});
