/** The pictures of the workspace: found, filed, described. */
import { z } from "zod";
import { focusOf, type PictureStep, PictureStepsSchema } from "~/core/pictures";
import { labelsIn } from "../labels";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** A picture of the workspace. `path` is where browsers and messages fetch it. */
export interface Picture {
  id: string;
  name: string;
  path: string;
  type: string;
  width: number;
  height: number;
  bytes: number;
  alt: string;
  folder: string;
  labels: string[];
  /** Whether it is put away: it is not offered any more, and stays wherever it is used. */
  archived: boolean;
  /** What stays in view when it is cut, in shares of it; missing where nobody said. */
  focus?: { x: number; y: number };
}

interface PictureRow extends Omit<Picture, "path" | "focus"> {
  file: string;
  /** How it was made, where somebody said what stays in view. */
  developed: { steps: PictureStep[]; width: number; height: number } | null;
}

const DEVELOPED = `(select jsonb_build_object('steps', p.steps, 'width', o.width, 'height', o.height)
  from originals o where o.digest = p.original and p.steps @? '$[*] ? (@.kind == "focus")') as developed`;
const ARCHIVED = "p.archived_at is not null as archived";
/** What is read of a picture `p`. */
const FACTS = `p.id, p.name, p.file, p.type, p.width, p.height, p.bytes, p.alt, p.folder, p.labels, ${ARCHIVED}, ${DEVELOPED}`;

const pictureOf = ({ file, developed, ...row }: PictureRow): Picture => ({
  ...row,
  path: `/pictures/${file}`,
  ...(developed && { focus: focusOf(developed, developed.steps) }),
});

/** All pictures, newest first. */
export async function pictures(septima: Septima): Promise<Picture[]> {
  const rows = await septima.db.query<PictureRow>(
    `select ${FACTS} from pictures p where p.deleted_at is null order by p.created_at desc, p.name`,
  );
  return rows.map(pictureOf);
}

/** A picture by its id. @throws Refusal (404) when there is none */
export async function picture(septima: Septima, id: string): Promise<Picture> {
  const [row] = await septima.db.query<PictureRow>(
    `select ${FACTS} from pictures p where p.id = $1 and p.deleted_at is null`,
    [id],
  );
  if (!row) throw new Refusal("This picture does not exist any more.", 404);
  return pictureOf(row);
}

/** The pictures that files belong to, as they are now, by the files. Files of removed ones are among them. */
export async function picturesOfFiles(
  septima: Septima,
  files: readonly string[],
): Promise<Map<string, Picture>> {
  const rows = await septima.db.query<PictureRow & { asked: string }>(
    `select f.file as asked, ${FACTS} from picture_files f join pictures p on p.id = f.picture where f.file = any($1::text[])`,
    [files],
  );
  return new Map(rows.map(({ asked, ...row }) => [asked, pictureOf(row)]));
}

/** So many of those used lately come along with a design. */
const BESIDE = 40;

/**
 * The pictures that a design shows, by the files it names, and those used lately. Where a design shows an earlier
 * version, it is that version that is told of.
 */
export async function picturesAround(septima: Septima, files: readonly string[]): Promise<Picture[]> {
  const named = await septima.db.query<PictureRow>(
    `select p.id, p.name, f.file, f.type, f.width, f.height, f.bytes, p.alt, p.folder, p.labels, ${ARCHIVED}, ${DEVELOPED}
     from picture_files f join pictures p on p.id = f.picture where f.file = any($1::text[])`,
    [files],
  );
  const { pictures: lately } = await findPictures(
    septima,
    PictureQuerySchema.parse({ which: "recent", count: BESIDE }),
  );
  const shown = named.map(pictureOf);
  return [...shown, ...lately.filter(({ path }) => shown.every((one) => one.path !== path))];
}

/** What is looked for in the library. */
export const PictureQuerySchema = z.object({
  words: z.string().max(200).default(""),
  which: z.enum(["all", "recent", "unused", "archived"]).default("all"),
  folder: z.string().max(80).optional(),
  label: z.string().max(40).optional(),
  order: z.enum(["newest", "name", "heaviest"]).default("newest"),
  from: z.coerce.number().int().min(0).default(0),
  count: z.coerce.number().int().min(1).max(200).default(100),
});
export type PictureQuery = z.infer<typeof PictureQuerySchema>;

const ORDERS = {
  newest: "p.created_at desc, p.id",
  name: "lower(p.name), p.id",
  heaviest: "p.bytes desc, p.id",
} as const;

/** So many are taken for recent. */
const RECENT = 60;

/**
 * A condition that nothing shows any file of a picture `p`. Deleted designs count: they can be brought back. What a
 * design was once, in a version, does not: a picture that is put away can be had back, too.
 */
const UNUSED = `not exists (
  select 1 from picture_files f join mentions m on m.kind = 'picture' and m.key = f.file and m.holder <> 'version'
  where f.picture = p.id)`;

/** A condition that a picture is not put away. */
const OFFERED = "archived_at is null";

/** A part of the pictures that fit, in order, and how many fit in all. */
export async function findPictures(
  septima: Septima,
  query: PictureQuery,
): Promise<{ pictures: Picture[]; total: number }> {
  const parameters: unknown[] = [];
  const put = (value: unknown) => `$${parameters.push(value)}`;
  const conditions = [
    query.which === "archived" ? "p.archived_at is not null" : OFFERED,
    "p.deleted_at is null",
  ];
  for (const word of query.words.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8)) {
    const like = put(`%${word.replace(/[\\%_]/g, "\\$&")}%`);
    conditions.push(`lower(p.name || ' ' || p.alt || ' ' || p.folder || ' ' || p.labels::text) like ${like}`);
  }
  if (query.folder !== undefined) conditions.push(`p.folder = ${put(query.folder)}`);
  if (query.label !== undefined) conditions.push(`p.labels ? ${put(query.label)}`);
  if (query.which === "unused") conditions.push(UNUSED);
  const recent = query.which === "recent";
  const order = recent ? "greatest(p.used_at, p.created_at) desc, p.id" : ORDERS[query.order];
  const where = conditions.join(" and ");
  const [{ total }] = await septima.db.query<{ total: number }>(
    `select count(*)::int as total from pictures p where ${where}`,
    parameters,
  );
  const most = recent ? Math.max(0, Math.min(query.count, RECENT - query.from)) : query.count;
  const rows = await septima.db.query<PictureRow>(
    `select ${FACTS} from pictures p where ${where} order by ${order} limit ${put(most)} offset ${put(query.from)}`,
    parameters,
  );
  return { pictures: rows.map(pictureOf), total: recent ? Math.min(total, RECENT) : total };
}

/** What the library is filed in, with how many are in each; those put away are counted by themselves. */
export interface Filing {
  all: number;
  archived: number;
  folders: { name: string; count: number }[];
  labels: { name: string; count: number }[];
}

/** The folders and labels there are. */
export async function pictureFiling(septima: Septima): Promise<Filing> {
  const [{ all, archived }] = await septima.db.query<Pick<Filing, "all" | "archived">>(
    `select count(*) filter (where ${OFFERED})::int as "all", count(archived_at)::int as archived
     from pictures where deleted_at is null`,
  );
  const folders = await septima.db.query<Filing["folders"][number]>(
    `select folder as name, count(*)::int as count from pictures
     where deleted_at is null and ${OFFERED} and folder <> '' group by folder order by lower(folder)`,
  );
  const labels = await septima.db.query<Filing["labels"][number]>(
    `select label as name, count(*)::int as count from pictures, jsonb_array_elements_text(labels) as label
     where deleted_at is null and ${OFFERED} group by label order by lower(label)`,
  );
  return { all, archived, folders, labels };
}

/** What can be said of a picture by hand. */
export const PictureFilingSchema = z.object({
  name: z.string().trim().min(1).max(200).optional(),
  alt: z.string().trim().max(500).optional(),
  folder: z.string().trim().max(80).optional(),
  /** Parted by commas. */
  labels: z.string().max(1000).optional(),
  /** One more for each, or one less. */
  label: z.string().trim().min(1).max(40).optional(),
  unlabel: z.string().trim().max(40).optional(),
  /** Put away, or offered again. */
  archived: z.boolean().optional(),
});
export type PictureFiling = z.infer<typeof PictureFilingSchema>;

/** Files and describes pictures; what is not given stays. */
export async function filePictures(
  septima: Septima,
  ids: readonly string[],
  { name, alt, folder, labels, label, unlabel, archived }: PictureFiling,
): Promise<void> {
  await septima.db.query(
    `update pictures set name = coalesce($2, name), alt = coalesce($3, alt), folder = coalesce($4, folder),
       labels = case
         when $5::jsonb is not null then $5::jsonb
         when $6::text is not null then (labels - $6::text) || to_jsonb($6::text)
         when $7::text is not null then labels - $7::text
         else labels end,
       archived_at = case when $8::boolean is null then archived_at when $8::boolean then coalesce(archived_at, $9) end
     where id = any($1::text[])`,
    [
      ids,
      name ?? null,
      alt ?? null,
      folder ?? null,
      labels === undefined ? null : JSON.stringify(labelsIn(labels)),
      label ?? null,
      unlabel ?? null,
      archived ?? null,
      new Date(septima.now()),
    ],
  );
}

/** Says that a picture was chosen, for those used lately. */
export async function pictureChosen(septima: Septima, id: string): Promise<void> {
  await septima.db.query("update pictures set used_at = $2 where id = $1", [id, new Date(septima.now())]);
}

/** One of the versions that a picture has had. */
interface PictureVersion {
  path: string;
  steps: PictureStep[];
  bytes: number;
  at: string;
}

/** A picture with what it is made of. */
export interface PictureDetail extends Picture {
  steps: PictureStep[];
  original: { kind: string; width: number; height: number; bytes: number; frames: number };
  versions: PictureVersion[];
}

/** All that is known of a picture. @throws Refusal (404) when there is none */
export async function pictureDetail(septima: Septima, id: string): Promise<PictureDetail> {
  const found = await picture(septima, id);
  const [row] = await septima.db.query<{ steps: unknown } & PictureDetail["original"]>(
    `select p.steps, coalesce(o.kind, split_part(p.type, '/', 2)) as kind, coalesce(o.width, p.width) as width,
       coalesce(o.height, p.height) as height, coalesce(o.bytes, p.bytes) as bytes, coalesce(o.frames, 1) as frames
     from pictures p left join originals o on o.digest = p.original where p.id = $1`,
    [id],
  );
  const versions = await septima.db.query<{ file: string; steps: unknown; bytes: number; created_at: Date }>(
    "select file, steps, bytes, created_at from picture_files where picture = $1 order by created_at desc limit 50",
    [id],
  );
  const { steps, ...original } = row;
  return {
    ...found,
    steps: PictureStepsSchema.parse(steps),
    original,
    versions: versions.map((one) => ({
      path: `/pictures/${one.file}`,
      steps: PictureStepsSchema.parse(one.steps),
      bytes: one.bytes,
      at: one.created_at.toISOString(),
    })),
  };
}
