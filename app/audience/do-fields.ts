import { type Taken, tell } from "../requests";

/** Changes fields, tables and records; says what went wrong, or null. */
export async function doFields(body: Taken<"/audience/fields/change">): Promise<string | null> {
  return (await tell("/audience/fields/change", body)).problem;
}
