/** Programs that the server starts beside itself, made ready for tests as the build makes them. */
import { mkdir, rename, rm } from "node:fs/promises";
import path from "node:path";
import { build } from "vite";

const KEPT = path.join(process.cwd(), "node_modules/.cache/septima");

/**
 * One of them in a file of its own: reading it from its many sources takes seconds, each time that it is started.
 * @param source from the project's folder
 * @returns the file; whoever asks meanwhile gets the same
 */
export async function bundled(source: string): Promise<string> {
  const name = source.replaceAll(/[/.]/g, "-");
  const part = path.join(KEPT, `${name}.${process.pid}.${Math.random().toString(36).slice(2)}`);
  const file = path.join(KEPT, `${name}.mjs`);
  await build({
    configFile: false,
    logLevel: "error",
    resolve: { tsconfigPaths: true },
    build: {
      ssr: path.join(process.cwd(), source),
      outDir: part,
      target: "node20",
      rollupOptions: { output: { entryFileNames: "it.mjs", codeSplitting: false } },
    },
  });
  await mkdir(KEPT, { recursive: true });
  await rename(path.join(part, "it.mjs"), file);
  await rm(part, { recursive: true });
  return file;
}
