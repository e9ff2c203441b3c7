/** Templates as files: a design with what is said of it, its pictures, and its theme where that is not the program's. */
import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import {
  type Email,
  resolveTheme,
  SCHEMA_VERSION,
  THEMES,
  ThemeSchema,
  UnreadableDesign,
} from "~/core/email";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { PackedPicturesSchema, packedPictures, unpackPictures } from "../workspace/packing";
import { allThemes, ownThemes, saveTheme } from "../workspace/themes";
import { addTemplate, templateDesign, templateFacts } from "./templates";

const FileSchema = z.object({
  septimaTemplate: z.number().int().min(1).max(SCHEMA_VERSION),
  name: z.string(),
  about: z.string(),
  purpose: z.string(),
  season: z.string(),
  labels: z.array(z.string()).default([]),
  theme: ThemeSchema.nullable(),
  pictures: PackedPicturesSchema,
  email: z.unknown(),
});

/** A template as a file. @throws Refusal (404) when there is none */
export async function templateFile(septima: Septima, id: string): Promise<{ name: string; json: string }> {
  const { email, own: _own, ...facts } = await templateDesign(septima, id);
  const ours = THEMES.some((theme) => theme.id === email.theme);
  const file: z.infer<typeof FileSchema> = {
    septimaTemplate: SCHEMA_VERSION,
    ...facts,
    theme: ours ? null : resolveTheme(email.theme, await allThemes(septima)),
    pictures: await packedPictures(septima, email),
    email,
  };
  return {
    name: `${facts.name.replace(/[^\p{L}\p{N} _-]/gu, "").trim() || "template"}.json`,
    json: JSON.stringify(file),
  };
}

/**
 * Takes in a template from a file: its pictures come into the library, its theme among the workspace's own unless one
 * that looks so is there.
 * @returns the template's id
 * @throws Refusal that names the file and what is wrong with it
 */
export async function takeTemplateFile(septima: Septima, name: string, text: string): Promise<string> {
  const wrong = (why: string) => new Refusal(`“${name}” cannot be brought in: ${why}`);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw wrong("it is not a template that was kept as a file here.");
  }
  const read = FileSchema.safeParse(json);
  if (!read.success) {
    const [{ path, message }] = read.error.issues;
    throw wrong(`“${path.join(" › ") || "the whole"}” is not as it should be: ${message}.`);
  }
  const { theme, pictures: packed, email: raw, ...facts } = read.data;
  let email: Email;
  try {
    email = parseEmail(raw);
  } catch (error) {
    if (error instanceof z.ZodError || error instanceof UnreadableDesign)
      throw wrong("its design cannot be read.");
    throw error;
  }
  email = parseEmail(await unpackPictures(septima, email, packed));
  if (theme) email = { ...email, theme: await keptTheme(septima, theme) };
  return addTemplate(septima, templateFacts({ ...facts, labels: facts.labels.join(",") }), email);
}

/** The id of a theme of the workspace that looks so; it is added when there is none. */
async function keptTheme(septima: Septima, theme: z.infer<typeof ThemeSchema>): Promise<string> {
  const look = ({ id: _id, name: _name, ...rest }: typeof theme) =>
    JSON.stringify(ThemeSchema.omit({ id: true, name: true }).parse(rest));
  const own = await ownThemes(septima);
  const there = own.find((one) => look(one.theme) === look(theme));
  if (there) return there.theme.id;
  const taken = new Set([...THEMES, ...own.map((one) => one.theme)].map((one) => one.name.toLowerCase()));
  let { name } = theme;
  for (let next = 2; taken.has(name.toLowerCase()); next++) name = `${theme.name} ${next}`;
  return (await saveTheme(septima, { ...theme, name }, null)).id;
}
