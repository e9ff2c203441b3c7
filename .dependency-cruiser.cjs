/**
 * The layer rule: app -> server -> core, app -> core, standins -> core; start/ puts everything together.
 * Within core/, a folder may use those before it in this order, never those after it.
 */
const CORE_ORDER = [
  "color",
  "pictures",
  "audience",
  "sources",
  "program",
  "email",
  "markup",
  "properties",
  "blocks",
  "translation",
  "steps",
  "writing",
  "apart",
  "importing",
  "assistant",
  "advice",
  "compose",
  "drawings",
  "templates",
  "render",
  "personal",
  "preflight",
  "inboxes",
  "mime",
  "sending",
];

const coreOrder = CORE_ORDER.slice(0, -1).map((folder, index) => ({
  name: `core-order-${folder}`,
  comment: `core/${folder} may use only what stands before it`,
  severity: "error",
  from: { path: `^core/${folder}/`, pathNot: "\\.test\\.tsx?$" },
  to: { path: `^core/(${CORE_ORDER.slice(index + 1).join("|")})/` },
}));

module.exports = {
  forbidden: [
    {
      name: "core-is-pure",
      comment: "core/ imports only itself and pure libraries",
      severity: "error",
      from: { path: "^core/", pathNot: "\\.test\\.tsx?$" },
      to: {
        path: "^(app|server|standins|start|e2e|bench)/|node_modules/(react|react-dom|react-router|express|pg|@electric-sql|nodemailer|sharp)/",
      },
    },
    {
      name: "core-has-no-node",
      severity: "error",
      from: { path: "^core/", pathNot: "\\.test\\.tsx?$" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "core-doors",
      comment: "each folder of core/ is entered through its index.ts",
      severity: "error",
      from: { path: "^core/([^/]+)/", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^core/[^/]+/.+", pathNot: ["^core/$1/", "^core/[^/]+/index\\.ts$"] },
    },
    {
      name: "core-doors-from-outside",
      severity: "error",
      from: { path: "^(app|server|standins|start)/", pathNot: "\\.test\\.tsx?$|test-composer\\.ts$" },
      to: { path: "^core/[^/]+/.+", pathNot: "^core/[^/]+/index\\.ts$" },
    },
    {
      name: "server-below-app",
      severity: "error",
      from: { path: "^server/", pathNot: "\\.test\\.tsx?$|test-world\\.ts$" },
      to: { path: "^(app|standins|start)/" },
    },
    {
      name: "standins-use-core-only",
      severity: "error",
      from: { path: "^standins/", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^(app|server|start)/" },
    },
    {
      name: "app-not-standins",
      severity: "error",
      from: { path: "^app/" },
      to: { path: "^(standins|start)/" },
    },
    {
      name: "no-circular",
      severity: "error",
      from: {},
      to: { circular: true },
    },
    ...coreOrder,
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
    exclude: { path: "node_modules/.*|\\.react-router|^build/" },
  },
};
