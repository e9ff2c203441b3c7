import { sayIn } from "~/core/compose";
import { type Email, findNode, type SaidThere, valueAt } from "~/core/email";
import { languageFor, translated, translatedIn, type UnitName } from "~/core/translation";
import type { Composer, ComposerState } from "./store";

type Seen = Pick<ComposerState, "email" | "reader">;

/** The language of what is on the canvas: that in which its reader gets the design. */
export const spokenTo = ({ email, reader }: Seen): string => languageFor(email, reader);

const shown = new WeakMap<Email, Map<string, Email>>();

/** The design as its reader gets it: in their language. */
export function shownEmail(state: Seen): Email {
  const { email } = state;
  const language = spokenTo(state);
  if (language === email.language) return email;
  let languages = shown.get(email);
  if (!languages) {
    languages = new Map();
    shown.set(email, languages);
  }
  let there = languages.get(language);
  if (!there) {
    there = translated(email, language);
    languages.set(language, there);
  }
  return there;
}

/**
 * What is written at a unit in a language, for whoever writes it: also nothing, where readers get what the design says
 * in its place.
 */
export function writtenIn(email: Email, { block: id, path }: UnitName, language: string): unknown {
  const found = id === null ? undefined : findNode(email, id);
  const holder = id === null ? email : found?.kind === "block" ? found.node : undefined;
  const own = holder && valueAt(id === null ? email.envelope : holder, path);
  return language === email.language ? own : (translatedIn(holder, { path }, language)?.value ?? own);
}

/** Says something else at a unit in the language that is shown, or in another. */
export function say(
  store: Composer,
  unit: UnitName,
  said: SaidThere,
  how: { label: string; merge: string; language?: string },
): boolean {
  const state = store.getState();
  const language = how.language ?? spokenTo(state);
  return state.apply(sayIn(unit, language, said), how.label, `${how.merge} ${language}`);
}
