import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter()],
  resolve: { tsconfigPaths: true },
  build: isSsrBuild ? { rollupOptions: { input: "./start/main.ts" } } : {},
}));
