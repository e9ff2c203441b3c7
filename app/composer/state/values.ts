import { type AudienceContext, type Contact, predicateOrNobody } from "~/core/audience";
import { type Either, type Inline, type Known, type MergeTag, readTyped, writeTag } from "~/core/email";
import { bindPart, previewAddresses, readerOf, run } from "~/core/personal";
import { Pool, Writer } from "~/core/program";
import { knownIn } from "~/core/render";
import { shownEmail, spokenTo } from "./language";
import type { ComposerState } from "./store";

/** What words depend on besides their reader. */
export interface Around {
  language: string;
  known: Known;
  audience: AudienceContext;
}

/** The same of an email that is being composed. */
export const around = ({
  email,
  facts,
  reader,
}: Pick<ComposerState, "email" | "facts" | "reader">): Around => ({
  language: spokenTo({ email, reader }),
  known: knownIn(shownEmail({ email, reader }), { ...facts.tags, brand: facts.brand, origin: "" }),
  audience: facts.audience,
});

/** What a reader gets for a tag, as the message has it; empty when there is neither value nor fallback. */
function valueWords(tag: MergeTag, contact: Contact, { language, known, audience }: Around): string {
  const pool = new Pool();
  const out = new Writer(pool);
  writeTag(tag, "text", { known, out });
  const part = bindPart({ pool, html: out.finish() }, { audience });
  return run(part.code, part, readerOf(contact, language, previewAddresses("")));
}

/** Typed words as a reader gets them. */
export const typedWordsFor = (text: string, contact: Contact, about: Around): string =>
  readTyped(text)
    .pieces.map((piece) => (typeof piece === "string" ? piece : valueWords(piece, contact, about)))
    .join("");

/** The same as it is shown in an editor: with a gap that can be seen and pressed where the reader gets nothing. */
export function tagWords(tag: MergeTag, contact: Contact, about: Around): string {
  return valueWords(tag, contact, about) || NOTHING;
}

/** Words as a reader gets them, without their looks. */
export function lineWords(content: readonly Inline[], contact: Contact, about: Around): string {
  const words = (it: Inline): string =>
    it.type === "text"
      ? it.text
      : it.type === "hardBreak"
        ? " "
        : it.type === "mergeTag"
          ? valueWords(it.attrs, contact, about)
          : lineWords(caseWordsFor(it.attrs, contact, about.audience), contact, about);
  return content.map(words).join("");
}

/** Which case a reader gets, from 0; -1 for what everybody else gets. A rule that cannot be answered is met by nobody. */
export function caseFor(
  { cases }: Either<Inline>["attrs"],
  contact: Contact,
  audience: AudienceContext,
): number {
  return cases.findIndex(({ when }) => predicateOrNobody(when, audience)(contact));
}

/** The words of an either/or that a reader gets. */
export const caseWordsFor = (
  attrs: Either<Inline>["attrs"],
  contact: Contact,
  audience: AudienceContext,
): Inline[] => attrs.cases[caseFor(attrs, contact, audience)]?.words ?? attrs.otherwise;

export const NOTHING = "(nothing)";
