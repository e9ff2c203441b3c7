/**
 * A writing assistant that pretends: it answers by rules, over the interface that `docs/assistant.md` describes, so
 * that everything around an assistant can be tried without one. It says that it is simulated.
 *
 * `assistantAnswer` takes a request and gives the answer; whoever has an HTTP server puts it behind an address.
 */
import { z } from "zod";
import { ASSIST_TASKS, LetterSchema } from "~/core/assistant";
import { draftOf } from "./brief";
import { answersTo } from "./questions";
import { rewritten } from "./rewrite";

const Rewrite = z.object({ text: z.string(), task: z.enum(ASSIST_TASKS) });
const Ask = z.object({ question: z.string(), letter: LetterSchema });
const Draft = z.object({ brief: z.string(), fields: z.array(z.object({ key: z.string() })).default([]) });

const does: Record<string, (body: unknown) => unknown> = {
  "/rewrite"(body) {
    const { text, task } = Rewrite.parse(body);
    return { text: rewritten(text, task) };
  },
  "/ask"(body) {
    const { question, letter } = Ask.parse(body);
    return { answers: answersTo(question, letter) };
  },
  "/draft"(body) {
    const { brief, fields } = Draft.parse(body);
    const named = fields.some(({ key }) => key === "first_name");
    return draftOf(brief, named ? "{first_name|reader}" : null);
  },
};

/** @param body what was sent, read as JSON; @returns the status, and what is to be sent back as JSON */
export function assistantAnswer(
  method: string,
  path: string,
  body: unknown,
): { status: number; said: unknown } {
  if (method === "GET" && (path === "/" || path === ""))
    return { status: 200, said: { name: "Simulated assistant", simulated: true } };
  const answer = method === "POST" ? does[path] : undefined;
  if (!answer) return { status: 404, said: { problem: "There is nothing at this address." } };
  try {
    return { status: 200, said: answer(body) };
  } catch (error) {
    if (!(error instanceof z.ZodError)) throw error;
    const [{ path: place, message }] = error.issues;
    return { status: 400, said: { problem: `${place.join(".") || "The request"}: ${message}` } };
  }
}
