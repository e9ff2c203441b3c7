import type { ContactStatus } from "../audience";
import { escapeHtml } from "../program";
import { button, filled, form, messagePage, type PageContext, page, paragraph, strong } from "./page";
import { put } from "./words";

/** Something that readers may choose to get. */
export interface Topic {
  id: string;
  name: string;
  about: string;
  on: boolean;
}

/** Whose preferences a page shows. */
export interface Preferences {
  email: string;
  status: ContactStatus;
  topics: Topic[];
}

/** Where the link at the foot of a letter leads. @param whose null in looks and proofs @param kept whether a choice was just kept */
export function preferencesPage(context: PageContext, whose: Preferences | null, kept = false): string {
  const { words, brand } = context;
  const title = put(words.letters, { brand: brand.name });
  if (whose === null) return messagePage(context, title, words.preferencesPreview);
  const { email, status, topics } = whose;
  const say = (what: string) => filled(what, { email: strong(email), brand: escapeHtml(brand.name) });
  if (status === "bounced") return page(context, words.returned, paragraph(say(words.returnedWords)));
  if (status === "complained") return page(context, words.stopped, paragraph(say(words.stoppedWords)));
  if (status !== "subscribed")
    return page(
      context,
      words.ended,
      form(paragraph(say(words.endedWords)), button(words.again, "second", "resubscribe")),
    );
  if (topics.length === 0)
    return page(
      context,
      title,
      form(paragraph(say(words.endAsk)), button(words.end, "first", "unsubscribe")),
    );
  const choices = topics.map(
    ({ id, name, about, on }) =>
      `<label class="choice"><input type="checkbox" name="topic" value="${escapeHtml(id)}"${on ? " checked" : ""}><span>${strong(name)}${about === "" ? "" : `<small>${escapeHtml(about)}</small>`}</span></label>`,
  );
  return page(
    context,
    title,
    [
      kept ? `<p class="problem" role="status">${escapeHtml(words.topicsKept)}</p>` : "",
      form(
        `<fieldset><legend>${say(words.topicsAsk)}</legend>${choices.join("")}</fieldset>`,
        button(words.topicsKeep, "first", "topics"),
      ),
      form(paragraph(say(words.endAllAsk)), button(words.endAll, "second", "unsubscribe")),
    ].join(""),
  );
}

/** What a reader is about to answer. */
export interface Answering {
  answer: number;
  greatest: number;
  /** What they answered before. */
  given: number | null;
}

/**
 * Where a press on a survey's scale leads. The answer is given by a press here and by nothing else: programs that look at links
 * ahead of people follow them.
 * @param what in looks and proofs the answer alone, or null where only the survey was asked for
 */
export function answerPage(context: PageContext, what: Answering | number | null): string {
  const { words, brand } = context;
  const { answer, greatest, given } =
    typeof what === "object" && what !== null ? what : { answer: what ?? "…", greatest: "", given: null };
  const say = (text: string) =>
    paragraph(
      filled(text, { brand: escapeHtml(brand.name), answer: String(answer), greatest: String(greatest) }),
    );
  if (typeof what !== "object" || what === null) return page(context, words.answer, say(words.answerPreview));
  if (given === answer) return page(context, words.answered, say(words.answeredWords));
  return page(context, words.answer, form(say(words.answerAsk), button(words.answerSend)));
}

/** A question as its page asks it. */
export interface Asking {
  question: string;
  scale: readonly number[];
  low: string;
  high: string;
  /** What the reader answered before. */
  given: number | null;
}

/** Where a link to a survey leads: the question with its scale, each answer given by a press. @param at its path */
export function surveyPage(
  context: PageContext,
  { question, scale, low, high, given }: Asking,
  at: string,
): string {
  const presses = scale.map(
    (answer) =>
      `<button class="${answer === given ? "first" : "second"}" formaction="${escapeHtml(`${at}/${answer}`)}"${answer === given ? ' aria-current="true"' : ""}>${answer}</button>`,
  );
  const ends = low === "" && high === "" ? "" : paragraph(`${escapeHtml(low)} – ${escapeHtml(high)}`);
  return page(
    context,
    question || context.words.answer,
    form(ends, `<div class="scale">${presses.join("")}</div>`),
  );
}

/** What the page says to friends who come by a reader's link: as the programme has it, and who sent them. */
export interface Invitation {
  title: string;
  words: string;
  consent: string;
  by: string | null;
}

/** What a friend wrote, and why it was not taken. */
interface Tried {
  email: string;
  name: string;
  problem: string;
}

/** Where a reader's own link leads: a friend asks for the letters, and confirms from their mailbox. */
export function joinPage(context: PageContext, invited: Invitation, tried?: Tried): string {
  const { words } = context;
  const field = (label: string, attributes: string, value = "") =>
    `<label class="field"><span>${escapeHtml(label)}</span><input ${attributes} value="${escapeHtml(value)}"></label>`;
  const problem = tried
    ? `<p class="problem" role="alert" id="problem">${escapeHtml(tried.problem)}</p>`
    : "";
  const wrong = tried ? ' aria-describedby="problem"' : "";
  return page(
    context,
    invited.title,
    [
      invited.words === "" ? "" : `<p class="words">${escapeHtml(invited.words)}</p>`,
      invited.by === null ? "" : paragraph(filled(words.joinBy, { name: escapeHtml(invited.by) })),
      problem,
      form(
        field(
          words.joinEmail,
          `type="email" name="email" required autocomplete="email"${wrong}`,
          tried?.email,
        ),
        field(
          words.joinName,
          'type="text" name="name" maxlength="80" autocomplete="given-name"',
          tried?.name,
        ),
        `<label class="choice"><input type="checkbox" name="agreed" required><span>${escapeHtml(invited.consent)}</span></label>`,
        button(words.join),
      ),
    ].join(""),
  );
}

/** What a friend is told who asked; the same whether they are known or not. @param email null in looks and proofs */
export function joinAskedPage(context: PageContext, email: string | null): string {
  const { words } = context;
  const said =
    email === null ? escapeHtml(words.joinPreview) : filled(words.joinAskedWords, { email: strong(email) });
  return page(context, words.joinAsked, `<p role="status">${said}</p>`);
}

/** Where the mail to a friend leads. */
export function confirmPage(
  context: PageContext,
  { email, confirmed }: { email: string; confirmed: boolean },
): string {
  const { words, brand } = context;
  const say = (what: string) =>
    paragraph(filled(what, { email: strong(email), brand: escapeHtml(brand.name) }));
  return confirmed
    ? page(context, words.confirmed, say(words.confirmedWords))
    : page(context, words.confirm, form(say(words.confirmAsk), button(words.confirmSend)));
}
