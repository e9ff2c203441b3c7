/**
 * The heart of a writing assistant's part: what it is told, and what is made of what it sends. Who it is and where it
 * is reached is `server/assistant`'s business; `docs/assistant.md` describes the interface.
 *
 * `assistInline` has words rewritten run by run; `letterOf` writes a letter out for it; `readAnswers` and `readDraft`
 * make what came ready to be put into a design.
 */
export { type Answer, readAnswers } from "./answers";
export { readDraft } from "./draft";
export { letterOf, placeOf } from "./letter";
export { assistInline } from "./rewrite";
export {
  type About,
  AboutSchema,
  ASSIST_TASKS,
  AssistantError,
  type AssistTask,
  type Letter,
  LetterSchema,
  RewrittenSchema,
  readShape,
  type ToldField,
} from "./wire";
export { cleaned, withTagsOf, writtenOut } from "./words";
