/**
 * The house's boundaries, checked by the tests. A layer of the core uses those that stand before it in this list, and
 * itself; no file and no folder is part of a cycle.
 */
const LAYERS = ["messages", "units", "reference", "document", "models", "simulation", "assessment", "applications"];

const layerRules = LAYERS.slice(0, -1).map((layer, index) => ({
  name: `${layer}-below-what-follows`,
  comment: `the layer ${layer} knows nothing of ${LAYERS.slice(index + 1).join(", ")}`,
  severity: "error",
  from: { path: `^src/core/${layer}/`, pathNot: "\\.test\\.ts$" },
  to: { path: `^src/core/(${LAYERS.slice(index + 1).join("|")})/` },
}));

module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "no-folder-cycles",
      comment: "folders use each other one way",
      severity: "error",
      scope: "folder",
      from: { path: "^src/" },
      to: { circular: true },
    },
    ...layerRules,
    {
      name: "core-stands-alone",
      comment: "the computation knows no interface, server or database, and of packages only small pure ones",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
      to: {
        pathNot: [
          "^src/core/",
          "^node_modules/(zod|astronomy-engine|psychrolib|@photostructure|intl-messageformat|papaparse|d3-array)/",
        ],
      },
    },
    {
      name: "contract-knows-the-core-alone",
      comment: "browser and server share it: neither of them is in it",
      severity: "error",
      from: { path: "^src/contract/", pathNot: "\\.test\\.ts$" },
      to: { path: "^src/(ui|server|app|workers|cli)/" },
    },
    { name: "ui-not-server", severity: "error", from: { path: "^src/ui/" }, to: { path: "^src/(server|app)/" } },
    { name: "server-not-ui", severity: "error", from: { path: "^src/(server|cli)/" }, to: { path: "^src/(ui|app)/" } },
    { name: "cli-without-database", severity: "error", from: { path: "^src/cli/" }, to: { path: "^src/server/" } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(\\.next|\\.local)/|\\.test\\.ts$" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
