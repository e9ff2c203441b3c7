import { type Answer, letterOf, placeOf, withTagsOf } from "~/core/assistant";
import { wordsOf } from "~/core/blocks";
import { commands } from "~/core/compose";
import {
  type Block,
  blocksOf,
  type Email,
  hrefOfMarks,
  type Inline,
  linesOf,
  paragraphOf,
  type RichDoc,
  type Words,
} from "~/core/email";
import { tell } from "../../requests";
import type { Actions } from "../state/actions";
import type { Asked } from "../state/asked";
import { type Composer, newId } from "../state/store";

const running = new WeakMap<Composer, AbortController>();

/** Asks something about the email as it is now. The answers come into the composer's state. */
export async function askAboutEmail(store: Composer, question: string): Promise<void> {
  const controller = new AbortController();
  running.get(store)?.abort();
  running.set(store, controller);
  const { email, set } = store.getState();
  const id = newId();
  const one: Asked = { id, question, at: Date.now(), answers: null, dropped: [], problem: null };
  set({ asked: [one, ...store.getState().asked.filter(({ answers }) => answers !== null)] });
  const change = (part: Partial<Asked>) =>
    set({ asked: store.getState().asked.map((it) => (it.id === id ? { ...it, ...part } : it)) });
  const { problem, result } = await tell(
    "/assist",
    { intent: "ask", question, language: email.language, letter: letterOf(email) },
    { signal: controller.signal },
  );
  if (controller.signal.aborted) return;
  if (problem !== null) change({ problem, answers: [] });
  else change({ ...result, answers: result.answers.map((answer) => ({ ...answer, id: newId() })) });
}

/** Calls the question off that is being answered. */
export function callOff(store: Composer): void {
  running.get(store)?.abort();
  const { asked, set } = store.getState();
  set({ asked: asked.filter(({ answers }) => answers !== null) });
}

/** Takes an answer out of the list. */
export function refuse(store: Composer, answer: string): void {
  const { asked, set } = store.getState();
  set({
    asked: asked
      .map((one) => ({ ...one, answers: one.answers?.filter(({ id }) => id !== answer) ?? null }))
      .filter(({ answers, problem }) => answers === null || answers.length > 0 || problem !== null),
  });
}

/** Where an answer would go. */
export interface Target {
  label: string;
  /** The words there now. */
  now: Words;
  /** What would stand there. */
  next: Words;
  /** The block to show; null for a line of the envelope. */
  block: string | null;
  put(): void;
}

/** Where an answer would go in the email as it is now; null when there is no such place, or it is gone. */
export function targetOf(store: Composer, email: Email, answer: Answer): Target | null {
  const { apply, edit } = store.getState();
  if (answer.put === "subject" || answer.put === "preheader") {
    const { put } = answer;
    const now = email.envelope[put];
    const next = withTagsOf(answer.words, now) as Inline[];
    return {
      label: put === "subject" ? "Subject" : "Preheader",
      now,
      next,
      block: null,
      put: () => void apply(commands.setEnvelope({ [put]: next }), "Taking an answer"),
    };
  }
  const place = answer.put === "place" ? placeOf(email, answer.place) : undefined;
  if (answer.put !== "place" || !place) return null;
  const next = withTagsOf(answer.words, place.words);
  return {
    label: place.label,
    now: place.words,
    next,
    block: place.block,
    put() {
      edit(null);
      apply(commands.setAt(place.block, place.path, next), "Taking an answer");
    },
  };
}

/** Puts new blocks below what is selected; in a letter in text only their words go to its end. */
export function putBlocks(store: Composer, actions: Actions, blocks: readonly Block[]): void {
  const { email, edit, apply } = store.getState();
  edit(null);
  if (!email.only) {
    actions.addBlocks(blocks, "Taking an idea");
    return;
  }
  const letter = blocksOf(email).find(({ type }) => type === "text");
  if (!letter) return;
  const added = blocks
    .flatMap((block) => wordsOf(block).flatMap(({ words }) => linesOf(words)))
    .map((line) => paragraphOf(...line));
  const content = letter.content as RichDoc;
  apply(
    commands.setAt(letter.id, "content", { ...content, content: [...content.content, ...added] }),
    "Taking an idea",
  );
}

/** Where links lead that would be gone. */
export function lostLinks(now: Words, next: Words): string[] {
  const hrefs = (words: Words) =>
    linesOf(words).flatMap((line) =>
      line.flatMap((it) => (it.type === "hardBreak" ? [] : (hrefOfMarks(it) ?? []))),
    );
  const kept = new Set(hrefs(next));
  return [...new Set(hrefs(now))].filter((href) => !kept.has(href));
}
