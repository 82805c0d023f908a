/** The house's boundaries, checked by the tests. */
module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "core-stands-alone",
      comment: "the computation knows no interface, server or database, and of packages only small pure ones",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
      to: {
        pathNot: ["^src/core/", "^node_modules/(zod|astronomy-engine|psychrolib|@photostructure|intl-messageformat)/"],
      },
    },
    { name: "ui-not-server", severity: "error", from: { path: "^src/ui/" }, to: { path: "^src/(server|app)/" } },
    { name: "server-not-ui", severity: "error", from: { path: "^src/(server|cli)/" }, to: { path: "^src/(ui|app)/" } },
    { name: "cli-without-database", severity: "error", from: { path: "^src/cli/" }, to: { path: "^src/server/" } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(\\.next|\\.local)/" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
