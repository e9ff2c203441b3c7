import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter()],
  resolve: { tsconfigPaths: true },
  build: {
    // The list of emoji is data, and comes when it is first asked for.
    chunkSizeWarningLimit: 600,
    rolldownOptions: {
      checks: { pluginTimings: false },
      ...(isSsrBuild && { input: "./start/main.ts" }),
    },
  },
}));
