import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** The server is built as several programs; the framework would call both `index.js`. */
const ownNames: Plugin = {
  name: "own-names",
  outputOptions: (options) =>
    options.entryFileNames === "index.js" ? { ...options, entryFileNames: "[name].js" } : options,
};

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter(), ownNames],
  resolve: { tsconfigPaths: true },
  build: {
    // The list of emoji is data, and comes when it is first asked for.
    chunkSizeWarningLimit: 600,
    rolldownOptions: {
      checks: { pluginTimings: false },
      // The server, what it confines to processes of their own, and its database's thread.
      ...(isSsrBuild && {
        input: {
          index: "./start/main.ts",
          confined: "./server/confined/child.ts",
          database: "./server/db/thread.ts",
        },
      }),
    },
  },
}));
