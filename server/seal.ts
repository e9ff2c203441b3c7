/** What must not be read by whoever gets hold of the data: sealed with a key that is kept elsewhere. */
import { createCipheriv, createDecipheriv, createHash, randomBytes } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { z } from "zod";
import type { Queries } from "./db/database";
import { Refusal } from "./refusal";
import { cached, type KeyPlace, type Septima } from "./septima";

/** Under this it is known; forgotten with the other settings. */
const SEAL = "setting seal";
const CIPHER = "aes-256-gcm";
/** By it the right key is known. */
const KNOWN = "Septima";

const LockSchema = z.object({
  /** The name of the workspace's key. */
  id: z.string(),
  /** Known words, sealed with it. */
  known: z.string(),
});

const fileOf = ({ folder }: KeyPlace, id: string) => path.join(folder, `${id}.key`);

function close(key: Buffer, words: string): string {
  const iv = randomBytes(12);
  const cipher = createCipheriv(CIPHER, key, iv);
  const sealed = Buffer.concat([cipher.update(words, "utf8"), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), sealed]).toString("base64url");
}

function open(key: Buffer, sealed: string): string {
  const octets = Buffer.from(sealed, "base64url");
  const cipher = createDecipheriv(CIPHER, key, octets.subarray(0, 12));
  cipher.setAuthTag(octets.subarray(12, 28));
  return Buffer.concat([cipher.update(octets.subarray(28)), cipher.final()]).toString("utf8");
}

/** The key by which something was sealed before; null where nothing was. @throws Refusal when it is not here */
async function keptKey(septima: Septima): Promise<Buffer | null> {
  const [row] = await septima.db.query<{ value: unknown }>("select value from settings where key = 'seal'");
  if (!row) return null;
  const place = septima.config.key;
  const { id, known } = LockSchema.parse(row.value);
  const words = place.given ?? (await readFile(fileOf(place, id), "utf8").catch(() => null));
  const key = words === null ? null : createHash("sha256").update(words.trim()).digest();
  try {
    if (key && open(key, known) === KNOWN) return key;
  } catch {
    // Another key than the one it was sealed with.
  }
  throw new Refusal(
    `Passwords and signing keys are sealed, and ${key ? "the SEPTIMA_KEY that is set is not theirs" : "the key to them is not on this machine"}. Start Septima with ${
      place.given === null
        ? `the file “${id}.key” of the machine they were made on in ${place.folder}, or with `
        : ""
    }SEPTIMA_KEY set as it was then; or give up what is sealed, in Settings under Sending.`,
    409,
  );
}

/** @throws Refusal when there is a key and it is not here, or a new one cannot be kept */
function keyOf(septima: Septima): Promise<Buffer> {
  return cached(septima, SEAL, async () => {
    const kept = await keptKey(septima);
    if (kept) return kept;
    const place = septima.config.key;
    const id = septima.newId();
    const words = place.given ?? randomBytes(32).toString("base64url");
    if (words.trim().length < 20) throw new Refusal("SEPTIMA_KEY is too short: give it at least 20 signs.");
    if (place.given === null) {
      try {
        await mkdir(place.folder, { recursive: true, mode: 0o700 });
        await writeFile(fileOf(place, id), `${words}\n`, { mode: 0o600, flag: "wx" });
      } catch (error) {
        throw new Refusal(
          `The key to what is sealed cannot be kept in ${place.folder} (${(error as NodeJS.ErrnoException).code}). Start Septima with SEPTIMA_KEY set to words of your own, at least 20 signs.`,
          409,
        );
      }
    }
    const key = createHash("sha256").update(words.trim()).digest();
    await septima.db.query(
      "insert into settings (key, value) values ('seal', $1::jsonb) on conflict (key) do nothing",
      [JSON.stringify({ id, known: close(key, KNOWN) })],
    );
    // Of two who make one at the same time the first counts.
    return (await keptKey(septima))!;
  });
}

/** Why what is sealed cannot be opened here; null when it can, or nothing is. */
export async function sealTrouble(septima: Septima): Promise<string | null> {
  try {
    await keptKey(septima);
    return null;
  } catch (error) {
    if (error instanceof Refusal) return error.message;
    throw error;
  }
}

/** Gives up what is sealed, so that something new can be: whoever holds it takes it away in the same transaction. */
export async function breakSeal(tx: Queries): Promise<void> {
  await tx.query("delete from settings where key = 'seal'");
}

/** Seals words. @throws Refusal when the workspace's key is not here */
export async function seal(septima: Septima, words: string): Promise<string> {
  return close(await keyOf(septima), words);
}

/** The words that were sealed. @throws Refusal when the workspace's key is not here */
export async function unseal(septima: Septima, sealed: string): Promise<string> {
  return open(await keyOf(septima), sealed);
}
