import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** The server is built as several programs; the framework would call both `index.js`. */
const ownNames: Plugin = {
  name: "own-names",
  outputOptions: (options) =>
    options.entryFileNames === "index.js" ? { ...options, entryFileNames: "[name].js" } : options,
};

/** What the server does stays there: a page that uses a value of a server's module would carry it all to the browser. */
const serverStays: Plugin = {
  name: "server-stays",
  load(id) {
    const isServers = /^\/(server|start|standins)\//.test(id.slice(process.cwd().length));
    if (this.environment.name === "client" && isServers && id.startsWith(process.cwd()))
      this.error(`${id} would go to the browser: pages take types from it, and values from their loaders.`);
  },
};

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter(), ownNames, serverStays],
  resolve: { tsconfigPaths: true },
  worker: { format: "es" },
  build: {
    // The list of emoji is data, and comes when it is first asked for.
    chunkSizeWarningLimit: 600,
    rolldownOptions: {
      checks: { pluginTimings: false },
      // The server, what it confines to processes of their own, and the threads of its database and its postroom.
      ...(isSsrBuild && {
        input: {
          index: "./start/main.ts",
          confined: "./server/confined/child.ts",
          database: "./server/db/thread.ts",
          postroom: "./standins/postroom/thread.ts",
        },
      }),
    },
  },
}));
