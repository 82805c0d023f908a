/**
 * The house's boundaries, checked by the tests over src, tools and db. A layer of the core uses those that stand before it in
 * this list, and itself; each other folder has the folders that it may use; no file and no folder is part of a cycle.
 */
const LAYERS = ["messages", "units", "reference", "document", "models", "simulation", "assessment", "applications"];

const layerRules = LAYERS.slice(0, -1).map((layer, index) => ({
  name: `${layer}-below-what-follows`,
  comment: `the layer ${layer} knows nothing of ${LAYERS.slice(index + 1).join(", ")}`,
  severity: "error",
  from: { path: `^src/core/${layer}/`, pathNot: "\\.test\\.ts$" },
  to: { path: `^src/core/(${LAYERS.slice(index + 1).join("|")})/` },
}));

/** Folders of the assessment, and what each may use of the others. */
const ASSESSMENT = {
  judge: [],
  needs: ["judge"],
  catalogue: ["judge", "needs"],
  examples: [],
  rules: ["catalogue", "examples", "judge", "needs"],
  carries: ["judge", "needs", "rules"],
  starts: ["judge", "needs", "rules"],
  use: ["starts"],
  "run-time-map": ["use", "starts", "carries"],
  verdicts: ["judge", "needs", "rules", "carries", "starts", "use"],
};

/** Folders beside the core, and what each may use of the project beside itself. */
const FOLDERS = {
  "src/contract": ["src/core", "src/csv"],
  "src/csv": ["src/core"],
  "src/node": [],
  "src/workers": ["src/core", "src/contract", "src/csv"],
  "src/cli": ["src/core", "src/csv", "src/node"],
  "src/server": ["src/core", "src/contract", "src/csv", "src/workers", "src/node", "db"],
  "src/ui": ["src/core", "src/contract", "src/csv", "src/workers"],
  "src/app": ["src/core", "src/contract", "src/csv", "src/workers", "src/server", "src/ui"],
  db: ["src/core", "src/csv"],
  tools: ["src/core", "src/contract", "src/csv", "src/server", "src/ui", "db"],
};

const among = (folders) => `^(${folders.join("|")})/`;
const folderRules = [
  ...Object.entries(ASSESSMENT).map(([folder, uses]) => [
    `src/core/assessment/${folder}`,
    uses.map((one) => `src/core/assessment/${one}`),
    "^src/core/assessment/",
  ]),
  ...Object.entries(FOLDERS).map(([folder, uses]) => [folder, uses, "^(src|db|tools|tests)/"]),
].map(([folder, uses, within]) => ({
  name: `${folder.replaceAll("/", "-")}-uses-what-it-may`,
  severity: "error",
  from: { path: `^${folder}/`, pathNot: "\\.test\\.ts$" },
  to: { path: within, pathNot: among([folder, ...uses]) },
}));

/** A folder that nobody wrote into the two lists has no rule: it is not allowed. */
const unlisted = {
  name: "a-folder-without-a-rule",
  severity: "error",
  from: {},
  to: {
    path: "^src/",
    pathNot: `^src/(core/(${LAYERS.join("|")}|[^/]+$)|${Object.keys(FOLDERS)
      .filter((one) => one.startsWith("src/"))
      .map((one) => one.slice(4))
      .join("|")})|^src/[^/]+$`,
  },
};

module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "no-folder-cycles",
      comment: "folders use each other one way",
      severity: "error",
      scope: "folder",
      from: { path: "^(src|tools|db)/" },
      to: { circular: true },
    },
    ...layerRules,
    ...folderRules,
    unlisted,
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
