import { z } from "zod";

/*
 * What passes between Septima and a writing assistant, as `docs/assistant.md` says it. What comes back is read
 * leniently part by part: one part that is wrong costs itself, not the whole answer.
 */

/** What an assistant can be asked to do with words. */
export const ASSIST_TASKS = ["reword", "shorten", "plainer", "warmer", "formal"] as const;
export type AssistTask = (typeof ASSIST_TASKS)[number];

/** Something an assistant is told about: a field of readers that words may name as `{key|otherwise}`. */
export interface ToldField {
  key: string;
  label: string;
}

/** Words of the letter that an answer may be meant for. */
export interface LetterPart {
  id: string;
  /** What kind of block they stand in. */
  kind: string;
  /** Whether they may have paragraphs and lists, or are one line. */
  form: "line" | "paragraphs";
  /** In Markdown, with reader data as `{key|otherwise}`. */
  text: string;
}

/** A letter as an assistant gets it. */
export interface Letter {
  subject: string;
  preheader: string;
  places: LetterPart[];
}

const LONGEST = 20_000;

export const LetterSchema: z.ZodType<Letter> = z.object({
  subject: z.string().max(1000),
  preheader: z.string().max(1000),
  places: z
    .array(
      z.object({
        id: z.string().max(200),
        kind: z.string().max(60),
        form: z.enum(["line", "paragraphs"]),
        text: z.string().max(LONGEST),
      }),
    )
    .max(1000),
});

export const AboutSchema = z.object({
  name: z.string().trim().min(1).max(200),
  simulated: z.boolean().default(false),
});
/** Who an assistant says it is, and whether it only pretends: rules instead of understanding. */
export type About = z.infer<typeof AboutSchema>;

export const RewrittenSchema = z.object({ text: z.string().max(LONGEST) });

export const AnsweredSchema = z.object({ answers: z.array(z.unknown()) });
export const AnswerSchema = z.object({
  text: z.string().trim().min(1).max(LONGEST),
  for: z.string().max(200).optional(),
});

export const DraftedSchema = z.object({
  subject: z.string().default(""),
  preheader: z.string().default(""),
  language: z.string().optional(),
  parts: z.array(z.unknown()),
});

const text = z.string().trim().min(1).max(LONGEST);
const PlainPartSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("heading"), level: z.number().int().min(1).max(3).catch(2), text }),
  z.object({ kind: z.literal("words"), text }),
  z.object({ kind: z.literal("button"), text, href: z.string().max(2000).default("") }),
  z.object({ kind: z.literal("picture"), about: z.string().max(300).default("") }),
  z.object({ kind: z.literal("quote"), text, by: z.string().max(200).default("") }),
  z.object({ kind: z.literal("divider") }),
]);
export const PartSchema = z.union([
  PlainPartSchema,
  z.object({ kind: z.literal("columns"), columns: z.array(z.array(z.unknown())).min(2).max(4) }),
]);
/** One part of a draft. */
export type PlainPart = z.infer<typeof PlainPartSchema>;
export const plainPart = (part: unknown): PlainPart | null => PlainPartSchema.safeParse(part).data ?? null;

/** What an assistant sent is not what it should be; the message is the end of a sentence about it. */
export class AssistantError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "AssistantError";
  }
}

/** Reads what came by its shape. @throws AssistantError that names the place */
export function readShape<T>(schema: z.ZodType<T>, value: unknown): T {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [{ path, message }] = read.error.issues;
  throw new AssistantError(
    `${path.length > 0 ? `“${path.join(" › ")}”` : "the whole"} is not as it should be (${message})`,
  );
}
