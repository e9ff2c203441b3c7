import {
  type About,
  AboutSchema,
  type Answer,
  type AssistTask,
  cleaned,
  type Letter,
  RewrittenSchema,
  readShape,
  type ToldField,
} from "~/core/assistant";
import { blankEmail, LAYOUTS } from "~/core/compose";
import { readerFields } from "../audience/fields";
import { startWith } from "../campaigns/campaigns";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { askAssistant } from "./reach";
import { usable } from "./usable";

const told = async (septima: Septima): Promise<ToldField[]> =>
  (await readerFields(septima)).map(({ key, label }) => ({ key, label }));

/**
 * Who the assistant is. Asked anew each time: it may have changed or gone.
 * @throws Refusal that says why it cannot be had
 */
export async function aboutAssistant(septima: Septima, signal?: AbortSignal): Promise<About> {
  const { host, said } = await askAssistant(septima, "", undefined, { ms: 5_000, signal });
  const about = await usable(() => readShape(AboutSchema, said));
  return { ...about, name: cleaned(about.name).replace(/\s+/g, " ").trim() || host };
}

/**
 * Has words rewritten. Merge tags go as U+FFFC and should come back, each once, in order; whoever puts the words in
 * looks after that.
 * @throws Refusal that says why it did not
 */
export async function rewriteWords(
  septima: Septima,
  { text, task, language }: { text: string; task: AssistTask; language: string },
  signal?: AbortSignal,
): Promise<string> {
  const asked = { text, task, language };
  const { said } = await askAssistant(septima, "/rewrite", asked, { ms: 30_000, signal });
  const rewritten = await usable(() => readShape(RewrittenSchema, said));
  // Our sign for merge tags is kept; all else that is not words goes.
  return rewritten.text.split("\ufffc").map(cleaned).join("\ufffc");
}

/**
 * Asks something about a letter.
 * @returns the answers, ready to be put in, and in words what of them could not be used
 * @throws Refusal that says why there is none
 */
export async function askAbout(
  septima: Septima,
  { question, language, letter }: { question: string; language: string; letter: Letter },
  signal?: AbortSignal,
): Promise<{ answers: Answer[]; dropped: string[] }> {
  const fields = await told(septima);
  const { said } = await askAssistant(septima, "/ask", { question, language, letter, fields }, { signal });
  return septima.confined.run("answers", said, letter, fields);
}

/**
 * Starts a campaign with a first draft of what a few lines ask for: one that is quite ordinary in every other way.
 * @returns its id, and in words what of the draft could not be used
 * @throws Refusal that says why there is none; then there is no campaign either
 */
export async function draftFromBrief(
  septima: Septima,
  { name, brief }: { name: string; brief: string },
  signal?: AbortSignal,
): Promise<{ id: string; dropped: string[] }> {
  if (brief.trim() === "") throw new Refusal("Write a few lines: what the email should say, and to whom.");
  const brand = await brandOf(septima);
  const fields = await told(septima);
  const asked = {
    brief: brief.trim(),
    language: "en",
    brand: { name: brand.name, website: brand.website },
    fields,
  };
  const { said } = await askAssistant(septima, "/draft", asked, { ms: 120_000, signal });
  const draft = await septima.confined.run("draft", said, fields);
  // Whoever called it off wants no campaign.
  if (signal?.aborted) throw new Refusal("It was called off.");
  const id = await startWith(septima, name, (sender, theme) => {
    const blank = blankEmail(LAYOUTS.find(({ id }) => id === "empty")!, sender, theme, septima.newId);
    const footer = blank.sections.at(-1)!;
    const { subject, preheader } = draft;
    return {
      ...blank,
      language: draft.language ?? blank.language,
      envelope: { ...blank.envelope, subject, preheader },
      sections: [draft.section, footer],
    };
  });
  return { id, dropped: draft.dropped };
}
