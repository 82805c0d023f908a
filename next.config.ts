import { existsSync } from "node:fs";
import { join } from "node:path";
import type { NextConfig } from "next";

const config: NextConfig = {
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
  poweredByHeader: false,
  devIndicators: false,
  // Types are a check of their own, of all the code (`npm run types`): who starts the application need not wait for it.
  typescript: { ignoreBuildErrors: true },
  experimental: {
    // Nothing reads them: Node runs without source maps.
    serverSourceMaps: false,
    // The server reads its code once, from its own disk: making it small takes a quarter of the build and wins nothing.
    serverMinification: false,
    // A first build has nothing to take from it, and writing it takes a quarter of the time.
    turbopackFileSystemCacheForBuild: existsSync(join(import.meta.dirname, ".next", "BUILD_ID")),
  },
  serverExternalPackages: ["knex", "mysql2", "pdfmake", "fontkit", "tinypool"],
  /** Addresses that a QR code or a bookmark of before holds. */
  async redirects() {
    return [
      { source: "/trials/:id", destination: "/test-runs/:id", permanent: true },
      { source: "/jobs/:id/trial", destination: "/jobs/:id/test-run", permanent: true },
    ];
  },
  async headers() {
    return [
      {
        source: "/:path*",
        headers: [
          { key: "X-Content-Type-Options", value: "nosniff" },
          { key: "X-Frame-Options", value: "DENY" },
          { key: "Referrer-Policy", value: "same-origin" },
        ],
      },
      {
        // Their addresses open something to whoever has them: they are told to nobody.
        source: "/:door(join|begin|c)/:path*",
        headers: [{ key: "Referrer-Policy", value: "no-referrer" }],
      },
      {
        // Data, pictures and documents: nothing that may load anything. Pages have a policy of their own (src/proxy.ts).
        source: "/api/:path*",
        headers: [
          {
            key: "Content-Security-Policy",
            value: "default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'; frame-ancestors 'none'",
          },
        ],
      },
    ];
  },
};

export default config;
