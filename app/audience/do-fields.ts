import { ask } from "../requests";

/** Changes fields, tables and records; says what went wrong, or null. */
export async function doFields(body: unknown): Promise<string | null> {
  return (await ask<true>("/audience/fields/change", body)).problem;
}
