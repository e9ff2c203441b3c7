/** Keys of the door: made once, told once, kept as a hash. */
import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { z } from "zod";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { PURPOSE_NAMES, type Purpose } from "./shapes";

/** How often a key may be used, in requests a minute. */
export const KEY_LIMITS = [60, 600, 6000] as const;

export const NewKeySchema = z.object({
  name: z.string().trim().min(1, "Say what the key is for.").max(100),
  may: z
    .array(z.enum(PURPOSE_NAMES as [Purpose, ...Purpose[]]))
    .min(1, "Choose what the key may be used for."),
  most: z.literal(KEY_LIMITS),
});
export type NewKey = z.infer<typeof NewKeySchema>;

/** A key as it is listed. */
export interface DoorKey {
  id: string;
  name: string;
  may: Purpose[];
  /** Requests in a minute. */
  most: number;
  madeAt: string;
  usedAt: string | null;
  withdrawnAt: string | null;
}

const hashOf = (secret: string) => createHash("sha256").update(secret).digest("hex");

/** Makes a key. @returns what is sent with each request; it is told nowhere again */
export async function makeKey(septima: Septima, { name, may, most }: NewKey): Promise<string> {
  const id = septima.newId();
  const secret = randomBytes(32).toString("base64url");
  await septima.db.query(
    "insert into door_keys (id, name, may, secret_hash, most, made_at) values ($1, $2, $3, $4, $5, $6)",
    [id, name, may, hashOf(secret), most, new Date(septima.now())],
  );
  return `${id}.${secret}`;
}

/** Ends a key, for good. @throws Refusal (404) when there is none */
export async function withdrawKey(septima: Septima, id: string): Promise<void> {
  const done = await septima.db.query(
    "update door_keys set withdrawn_at = coalesce(withdrawn_at, $2) where id = $1 returning id",
    [id, new Date(septima.now())],
  );
  if (done.length === 0) throw new Refusal("There is no such key.", 404);
}

/** All keys, those that count first, the newest first. */
export async function doorKeys(septima: Septima): Promise<DoorKey[]> {
  const rows = await septima.db.query<{
    id: string;
    name: string;
    may: Purpose[];
    most: number;
    made_at: Date;
    used_at: Date | null;
    withdrawn_at: Date | null;
  }>(
    `select id, name, may, most, made_at, used_at, withdrawn_at from door_keys
     order by withdrawn_at is not null, made_at desc limit 200`,
  );
  return rows.map(({ made_at, used_at, withdrawn_at, ...key }) => ({
    ...key,
    madeAt: made_at.toISOString(),
    usedAt: used_at?.toISOString() ?? null,
    withdrawnAt: withdrawn_at?.toISOString() ?? null,
  }));
}

/** A use of a key is written down so often at most, in milliseconds. */
const NOTED_EVERY = 60_000;

/** Who knocks: the key that a request names, if it counts; null otherwise. */
export async function knocking(
  septima: Septima,
  authorization: string | undefined,
): Promise<{ id: string; name: string; may: readonly Purpose[]; most: number } | null> {
  const [, id, secret] = /^Bearer ([\w-]+)\.([\w-]+)$/i.exec(authorization ?? "") ?? [];
  if (id === undefined) return null;
  const [key] = await septima.db.query<{
    id: string;
    name: string;
    may: Purpose[];
    most: number;
    secret_hash: string;
    used_at: Date | null;
  }>(
    "select id, name, may, most, secret_hash, used_at from door_keys where id = $1 and withdrawn_at is null",
    [id],
  );
  const given = Buffer.from(hashOf(secret));
  if (!key || !timingSafeEqual(given, Buffer.from(key.secret_hash))) return null;
  const now = septima.now();
  if (key.used_at === null || now - key.used_at.getTime() > NOTED_EVERY)
    await septima.db.query("update door_keys set used_at = $2 where id = $1", [id, new Date(now)]);
  return key;
}

/**
 * Whether a key may be used once more now. It may be used as often as its limit says in a minute, a sixth of that at once.
 * @returns 0, or after how many seconds it may
 */
export function waitOf(septima: Septima, { id, most }: { id: string; most: number }): number {
  const uses = (septima.cache.get("uses of keys") ?? new Map()) as Map<string, { left: number; at: number }>;
  septima.cache.set("uses of keys", uses);
  const now = septima.now();
  const room = Math.max(1, most / 6);
  const known = uses.get(id) ?? { left: room, at: now };
  const left = Math.min(room, known.left + ((now - known.at) / 60_000) * most);
  const may = left >= 1;
  uses.set(id, { left: may ? left - 1 : left, at: now });
  return may ? 0 : Math.ceil(((1 - left) * 60) / most);
}
