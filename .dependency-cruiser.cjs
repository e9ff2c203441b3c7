/**
 * The layer rule: app -> server -> core, app -> core, standins -> core; start/ puts everything together.
 * Within core/, a folder may use those before it in this order, never those after it.
 */
const CORE_ORDER = [
  "values",
  "color",
  "pictures",
  "audience",
  "tables",
  "items",
  "recommend",
  "picking",
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
  "inboxes",
  "mime",
  "preflight",
  "rehearsal",
  "readers",
  "sending",
];

/** The rooms of the composer, in the same order; `saving` besides, which uses `state` alone. */
const COMPOSER_ORDER = ["state", "controls", "words", "canvas", "panel", "dialogs", "shell"];

/** The rules that hold folders to an order: none uses what stands after it. */
const inOrder = (name, parent, order) =>
  order.slice(0, -1).map((folder, index) => ({
    name: `${name}-order-${folder}`,
    comment: `${parent}/${folder} may use only what stands before it`,
    severity: "error",
    from: { path: `^${parent}/${folder}/`, pathNot: "\\.test\\.tsx?$" },
    to: { path: `^${parent}/(${order.slice(index + 1).join("|")})/` },
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
      from: { path: "^core/([^/]+)/", pathNot: "(\\.test\\.tsx?|/test-[\\w-]+\\.ts)$" },
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
    {
      name: "composer-has-rooms",
      comment: "every file of the composer stands in one of its rooms",
      severity: "error",
      from: { path: "^app/" },
      to: { path: `^app/composer/(?!(${[...COMPOSER_ORDER, "saving"].join("|")})/)` },
    },
    {
      name: "composer-saving",
      comment: "saving uses the state of the composer alone, and only what stands around it is told of it",
      severity: "error",
      from: { path: "^app/composer/saving/", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^app/composer/(?!(saving|state)/)" },
    },
    {
      name: "composer-saved-by-shell",
      severity: "error",
      from: { path: "^app/composer/(?!(saving|dialogs|shell)/)", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^app/composer/saving/" },
    },
    {
      name: "composer-door",
      comment: "the composer is entered through its shell; its store is its own",
      severity: "error",
      from: { path: "^app/(?!composer/)" },
      to: { path: "^app/composer/", pathNot: "^app/composer/shell/composer\\.tsx$" },
    },
    ...inOrder("core", "core", CORE_ORDER),
    ...inOrder("composer", "app/composer", COMPOSER_ORDER),
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
    exclude: { path: "node_modules/.*|\\.react-router|^build/" },
  },
};
