import { randomBytes } from "node:crypto";
import { z } from "zod";
import { type Brand, BrandSchema, PLACEHOLDER_BRAND } from "~/core/email";
import { isZone } from "~/core/sending";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";

async function read<T>(septima: Septima, key: string, schema: z.ZodType<T>, otherwise: T): Promise<T> {
  const [row] = await septima.db.query<{ value: unknown }>("select value from settings where key = $1", [
    key,
  ]);
  return row ? schema.parse(row.value) : otherwise;
}

/** A setting of the workspace, kept in memory once it was read. */
export function cachedSetting<T>(
  septima: Septima,
  key: string,
  schema: z.ZodType<T>,
  otherwise: T,
): Promise<T> {
  return cached(septima, `setting ${key}`, () => read(septima, key, schema, otherwise));
}

export async function writeSetting(septima: Septima, key: string, value: unknown): Promise<void> {
  await septima.db.transaction(async (tx) => {
    await tx.query(
      "insert into settings (key, value) values ($1, $2::jsonb) on conflict (key) do update set value = excluded.value",
      [key, JSON.stringify(value)],
    );
    await keepMentions(tx, "setting", key, value);
  });
  septima.cache.delete(`setting ${key}`);
}

/** The sender's identity. */
export function brandOf(septima: Septima): Promise<Brand> {
  return cachedSetting(septima, "brand", BrandSchema, PLACEHOLDER_BRAND);
}

export function setBrand(septima: Septima, brand: Brand): Promise<void> {
  return writeSetting(septima, "brand", BrandSchema.parse(brand));
}

/** The time zone the workspace lives in: by it days begin, and what is relative to today is counted (IANA). */
export function zoneOf(septima: Septima): Promise<string> {
  return cachedSetting(septima, "zone", z.string(), new Intl.DateTimeFormat().resolvedOptions().timeZone);
}

/** @throws Refusal when there is no such zone */
export async function setZone(septima: Septima, zone: string): Promise<void> {
  if (!isZone(zone)) throw new Refusal(`There is no time zone “${zone}”.`);
  await writeSetting(septima, "zone", zone);
  septima.cache.delete("audience context");
}

/** The ids of the templates that were marked. */
export function favouritesOf(septima: Septima): Promise<string[]> {
  return cachedSetting(septima, "favourites", z.array(z.string()), []);
}

export function setFavourites(septima: Septima, ids: readonly string[]): Promise<void> {
  return writeSetting(septima, "favourites", ids);
}

/** The key that signs addresses in messages; made once and kept with the data. */
export async function secretOf(septima: Septima): Promise<string> {
  return cached(septima, "setting secret", async () => {
    await septima.db.query(
      "insert into settings (key, value) values ('secret', $1::jsonb) on conflict (key) do nothing",
      [JSON.stringify(randomBytes(32).toString("base64url"))],
    );
    return read(septima, "secret", z.string(), "");
  });
}
