/** Makes the demo's data once for a whole run: every program that starts with it gets a copy of the folder. */
import { rm } from "node:fs/promises";
import { startProgram } from "./program";

export default async function setup(): Promise<() => Promise<void>> {
  const program = await startProgram();
  await program.rest();
  process.env.SEPTIMA_E2E_DEMO = program.data;
  return () => rm(program.data, { recursive: true, force: true });
}
