/** Clippings of the workspace: kept, changed everywhere they are linked, put out of sight and brought back. */
import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { aroundPart, type Clipping, type ClippingPart, keptPart, withClipping } from "~/core/compose";
import { blocksOf, type Email, type Row, SCHEMA_VERSION, type Section } from "~/core/email";
import { difference, pack } from "~/core/steps";
import { CLIPPINGS } from "~/core/templates";
import type { Queries } from "../db/database";
import { labelsIn } from "../labels";
import { keepMentions, usesOf } from "../mentions";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { PackedPicturesSchema, packedPictures, unpackPictures } from "../workspace/packing";
import { carried } from "./carrying";
import type { Framed } from "./frames";
import { lookFor, someReader } from "./rendering";
import { saveSteps } from "./saving";

/** A clipping with where it is linked. */
export interface ClippingLine extends Clipping {
  revision: number;
  /** How many designs hold it linked. */
  linked: number;
  labels: string[];
}

interface ClippingRow {
  id: string;
  name: string;
  part: ClippingPart;
  node: unknown;
  revision: number;
  linked: number;
  labels: string[];
}

function partIn(email: Email, part: ClippingPart): Clipping["node"] {
  const [section] = email.sections as [Section];
  if (part === "section") return section;
  const [row] = section.rows as [Row];
  return part === "row" ? row : row.columns[0].blocks[0];
}

/**
 * Reads a part that came from outside.
 * @throws ZodError when it is none
 */
function readPart(part: ClippingPart, node: unknown): Clipping["node"] {
  const email = parseEmail(aroundPart(part, node));
  const read = partIn(email, part);
  return keptPart({ kind: part, node: read } as Parameters<typeof keptPart>[0]).node;
}

/** All clippings that are not deleted, by name. */
export async function clippings(septima: Septima): Promise<ClippingLine[]> {
  const rows = await septima.db.query<ClippingRow>(
    `select k.id, k.name, k.part, k.node, k.revision, k.labels,
       (select count(*) from mentions m join campaigns c on c.id = m.which and c.deleted_at is null
        where m.holder = 'design' and m.kind = 'clipping' and m.key = k.id) as linked
     from clippings k where k.deleted_at is null order by lower(k.name), k.id`,
  );
  return rows.map((row) => ({ ...row, node: readPart(row.part, row.node), linked: Number(row.linked) }));
}

/** One clipping. @throws Refusal (404) when there is none */
async function clipping(septima: Septima, id: string): Promise<Clipping & { revision: number }> {
  const [row] = await septima.db.query<Omit<ClippingRow, "linked" | "labels">>(
    "select id, name, part, node, revision from clippings where id = $1 and deleted_at is null",
    [id],
  );
  if (!row) throw new Refusal("This clipping was deleted. What was made of it stays as it is.", 404);
  return { ...row, node: readPart(row.part, row.node) };
}

const FileSchema = z.object({
  septimaClipping: z.number().int().min(1).max(SCHEMA_VERSION),
  name: z.string(),
  part: z.enum(["section", "row", "block"]),
  pictures: PackedPicturesSchema,
  node: z.unknown(),
});

/** A clipping as a file, with its pictures. @throws Refusal (404) when there is none */
export async function clippingFile(septima: Septima, id: string): Promise<{ name: string; json: string }> {
  const { name, part, node } = await anyClipping(septima, id);
  const file: z.infer<typeof FileSchema> = {
    septimaClipping: SCHEMA_VERSION,
    name,
    part,
    pictures: await packedPictures(septima, node),
    node,
  };
  return {
    name: `${name.replace(/[^\p{L}\p{N} _-]/gu, "").trim() || "clipping"}.json`,
    json: JSON.stringify(file),
  };
}

/** Takes in a clipping from a file. @throws Refusal that names the file and what is wrong with it */
export async function takeClippingFile(septima: Septima, fileName: string, text: string): Promise<Clipping> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    json = null;
  }
  const read = FileSchema.safeParse(json);
  if (!read.success)
    throw new Refusal(
      `“${fileName}” cannot be brought in: it is not a clipping that was kept as a file here.`,
    );
  const { name, part, node, pictures } = read.data;
  readable(part, node);
  return addClipping(septima, name, part, await unpackPictures(septima, node, pictures));
}

/** A clipping of the workspace's own, or one of the program's. @throws Refusal (404) when there is none */
export async function anyClipping(septima: Septima, id: string): Promise<Clipping> {
  return CLIPPINGS.find((one) => one.id === id) ?? (await clipping(septima, id));
}

/** A clipping as its picture shows it, in a theme; and what a frame with it may do. */
export async function clippingPicture(septima: Septima, id: string, theme: string): Promise<Framed> {
  const { part, node } = await anyClipping(septima, id);
  const email = { ...parseEmail(aroundPart(part, node)), theme };
  return (await lookFor(septima, email, await someReader(septima))).look;
}

/** Keeps a part under a name. */
export async function addClipping(
  septima: Septima,
  name: string,
  part: ClippingPart,
  node: unknown,
): Promise<Clipping> {
  if (name.trim() === "") throw new Refusal("Give the clipping a name.");
  const id = septima.newId();
  const kept = readable(part, node);
  await septima.db.transaction(async (tx) => {
    await tx.query(
      `insert into clippings (id, name, part, node, created_at, updated_at) values ($1, $2, $3, $4::jsonb, $5, $5)`,
      [id, name.trim().slice(0, 120), part, JSON.stringify(kept), new Date(septima.now())],
    );
    await keepMentions(tx, "clipping", id, kept);
  });
  return { id, name: name.trim(), part, node: kept };
}

/** Keeps what a clipping is from now on. */
export async function keepNode(tx: Queries, id: string, node: unknown, now: number): Promise<void> {
  await tx.query(
    "update clippings set node = $2::jsonb, revision = revision + 1, updated_at = $3 where id = $1",
    [id, JSON.stringify(node), new Date(now)],
  );
  await keepMentions(tx, "clipping", id, node);
}

function readable(part: ClippingPart, node: unknown): Clipping["node"] {
  const refused = () => new Refusal("This part cannot be read, so it was not kept.");
  try {
    const read = readPart(part, node);
    if (blocksOf(parseEmail(aroundPart(part, read))).some(({ type }) => type === "unreadable"))
      throw refused();
    return read;
  } catch (error) {
    if (error instanceof z.ZodError || error instanceof TypeError) throw refused();
    throw error;
  }
}

/** Gives a clipping another name, and what it is filed under. */
export async function fileClipping(
  septima: Septima,
  id: string,
  { name, labels }: { name: string; labels: string },
): Promise<void> {
  if (name.trim() === "") throw new Refusal("Give the clipping a name.");
  await clipping(septima, id);
  await septima.db.query("update clippings set name = $2, labels = $3::jsonb where id = $1", [
    id,
    name.trim().slice(0, 120),
    JSON.stringify(labelsIn(labels)),
  ]);
}

/**
 * Changes a clipping, and with it every unsent design that holds it linked. What was booked or sent stays as it is.
 * @param except a design that follows by itself
 * @returns the clipping, and how many designs have it now
 */
export async function changeClipping(
  septima: Septima,
  id: string,
  node: unknown,
  except?: string,
): Promise<{ clipping: Clipping; changed: number }> {
  const before = await clipping(septima, id);
  const kept = readable(before.part, node);
  return carried(septima, "clipping", { clipping: id }, async () => {
    await septima.db.transaction((tx) => keepNode(tx, id, kept, septima.now()));
    return followAll(septima, { id, name: before.name, part: before.part, node: kept }, except);
  });
}

/** Brings every unsent design that holds a clipping linked to what it is now. */
async function followAll(septima: Septima, next: Clipping, except?: string) {
  let changed = 0;
  for (const use of await usesOf(septima.db, "clipping", [next.id]))
    if (!use.held && use.id !== except && (await follow(septima, use.id, next))) changed++;
  return { clipping: next, changed };
}

/** Brings a clipping's change to the designs that a process left without it. @throws Refusal (404) */
export async function carryClipping(septima: Septima, id: string): Promise<void> {
  const { name, part, node } = await clipping(septima, id);
  await followAll(septima, { id, name, part, node });
}

/** Brings a design to a clipping as it is now. Says whether that changed it. */
async function follow(septima: Septima, campaignId: string, next: Clipping): Promise<boolean> {
  const [row] = await septima.db.query<{ email: unknown; revision: number }>(
    "select email, revision from campaigns where id = $1 and deleted_at is null",
    [campaignId],
  );
  if (!row) return false;
  const email = parseEmail(row.email);
  const steps = difference(email, withClipping(email, next));
  if (steps.length === 0) return false;
  const answer = await saveSteps(septima, campaignId, {
    revision: row.revision,
    save: septima.newId(),
    steps: pack(steps),
  });
  return answer.state === "saved";
}
