/** The door for other systems: who may say what, how often, and that it counts once. */
import { createHash } from "node:crypto";
import type { z } from "zod";
import { audienceChanged } from "../audience/answers";
import { fieldsOf } from "../audience/fields";
import type { Septima } from "../septima";
import { knocking, waitOf } from "./keys";
import { batchSchema, PURPOSE_NAMES, type Purpose, type Taken, type Wrong } from "./shapes";
import { TAKES } from "./take";

/** What the door says: with a status of HTTP (RFC 9110). */
export type Said =
  | { status: 200; body: Taken }
  | {
      status: 400 | 401 | 403 | 404 | 409 | 422 | 429;
      body: { problem: string; wrong: Wrong[] };
      wait?: number;
    };

const refused = (status: Exclude<Said["status"], 200>, problem: string, wrong: Wrong[] = []): Said => ({
  status,
  body: { problem, wrong },
});

/** So many wrong fields are named. */
const MOST_NAMED = 100;
/** Batches are remembered so long, in milliseconds. */
const REMEMBERED_FOR = 30 * 86_400_000;

/**
 * Takes one batch.
 * @param asked the path below `/in/`
 * @param body the JSON of the request as it came
 */
export async function knock(
  septima: Septima,
  asked: string,
  authorization: string | undefined,
  body: string,
): Promise<Said> {
  const key = await knocking(septima, authorization);
  if (!key) return refused(401, "There is no key with this request, or none that counts.");
  const purpose = PURPOSE_NAMES.find((name) => name === asked);
  if (!purpose) return refused(404, `There is nothing at /in/${asked}. /in/openapi.json says what there is.`);
  if (!key.may.includes(purpose)) return refused(403, `The key “${key.name}” is not for ${purpose}.`);
  const wait = waitOf(septima, key);
  if (wait > 0)
    return { ...refused(429, `The key “${key.name}” was used ${key.most} times in a minute.`), wait } as Said;
  const read = readBatch(purpose, body);
  if ("status" in read) return read;
  return take(septima, key, purpose, read);
}

interface Batch {
  batch: string;
  entries: unknown[];
}

function readBatch(purpose: Purpose, body: string): Batch | Said {
  let json: unknown;
  try {
    json = JSON.parse(body);
  } catch (error) {
    return refused(400, `The body is not JSON: ${(error as Error).message}.`);
  }
  const { success, data, error } = batchSchema(purpose).safeParse(json);
  if (success) return data as Batch;
  const wrong = (error as z.ZodError).issues.slice(0, MOST_NAMED).map(({ path, message }) => ({
    at: path.map(String).join("/"),
    says: message,
  }));
  return refused(422, "Something in the batch is wrong. Nothing of it was taken.", wrong);
}

async function take(
  septima: Septima,
  key: { id: string; name: string },
  purpose: Purpose,
  { batch, entries }: Batch,
): Promise<Said> {
  const digest = createHash("sha256").update(JSON.stringify(entries)).digest("base64");
  const at = new Date(septima.now());
  const fields = await fieldsOf(septima);
  const said = await septima.db.transaction(async (tx): Promise<Said> => {
    // Whoever sends the same meanwhile waits, and is told what came of it.
    const begun = await tx.query(
      `insert into door_batches (key_id, path, batch, digest, answer, at) values ($1, $2, $3, $4, 'null', $5)
       on conflict do nothing returning 1`,
      [key.id, purpose, batch, digest, at],
    );
    const where = "where key_id = $1 and path = $2 and batch = $3";
    if (begun.length === 0) {
      const [before] = await tx.query<{ digest: string; answer: Taken }>(
        `select digest, answer from door_batches ${where}`,
        [key.id, purpose, batch],
      );
      if (before.digest !== digest)
        return refused(
          409,
          `Another batch was sent under the name “${batch}” before. Give this one its own.`,
        );
      return { status: 200, body: { ...before.answer, repeated: true } };
    }
    const left = await TAKES[purpose]({ septima, tx, key, fields }, entries as never[]);
    const outside = new Set(left.map((wrong) => wrong.at.split("/")[1])).size;
    const answer: Taken = { taken: entries.length - outside, left, repeated: false };
    await tx.query(`update door_batches set answer = $4::jsonb ${where}`, [
      key.id,
      purpose,
      batch,
      JSON.stringify(answer),
    ]);
    return { status: 200, body: answer };
  });
  if (said.status === 200 && !said.body.repeated) told(septima, purpose);
  return said;
}

/** Lets those who wait for changes know. */
function told(septima: Septima, purpose: Purpose): void {
  if (purpose === "contacts" || purpose === "unsubscribes") audienceChanged(septima);
  if (purpose === "codes") septima.cache.delete("code batches");
}

/** Forgets batches that nobody sends again any more. */
export async function forgetBatches(septima: Septima): Promise<void> {
  await septima.db.query("delete from door_batches where at < $1", [
    new Date(septima.now() - REMEMBERED_FOR),
  ]);
}
