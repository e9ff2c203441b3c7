/** Makes the demo's data once for a whole run: every program that starts with as many contacts gets a copy of the folder. */
import { rm } from "node:fs/promises";
import { FEW, startProgram, USUAL } from "./program";

export default async function setup(): Promise<() => Promise<void>> {
  const made = await Promise.all(
    [USUAL, FEW].map(async (contacts) => {
      const program = await startProgram({ contacts });
      await program.rest();
      return [contacts, program.data] as const;
    }),
  );
  process.env.E2E_DEMOS = JSON.stringify(Object.fromEntries(made));
  return async () => {
    for (const [, data] of made) await rm(data, { recursive: true, force: true });
  };
}
