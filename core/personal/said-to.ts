/** Words as one reader gets them: what tags and either/ors become for them. */
import { type AudienceContext, type Contact, predicateOrNobody } from "../audience";
import { type Either, type Inline, type Known, type MergeTag, readTyped, writeTag } from "../email";
import { Pool, Writer } from "../program";
import { bindPart } from "./bind";
import { run } from "./personalise";
import { previewAddresses, readerOf } from "./value";

/** What words depend on besides their reader. */
export interface Around {
  /** The language they are in (BCP 47). */
  language: string;
  known: Known;
  audience: AudienceContext;
}

/** What a reader gets for a tag, as the message has it; empty when there is neither value nor fallback. */
export function tagSaid(tag: MergeTag, contact: Contact, { language, known, audience }: Around): string {
  const pool = new Pool();
  const out = new Writer(pool);
  writeTag(tag, "text", { known, out });
  const part = bindPart({ pool, html: out.finish() }, { audience });
  return run(part.code, part, readerOf(contact, language, previewAddresses("")));
}

/** Typed words as a reader gets them. */
export const typedSaid = (text: string, contact: Contact, about: Around): string =>
  readTyped(text)
    .pieces.map((piece) => (typeof piece === "string" ? piece : tagSaid(piece, contact, about)))
    .join("");

/** Words as a reader gets them, without their looks. */
export function lineSaid(content: readonly Inline[], contact: Contact, about: Around): string {
  const words = (it: Inline): string =>
    it.type === "text"
      ? it.text
      : it.type === "hardBreak"
        ? " "
        : it.type === "mergeTag"
          ? tagSaid(it.attrs, contact, about)
          : lineSaid(caseWordsFor(it.attrs, contact, about.audience), contact, about);
  return content.map(words).join("");
}

/** Which case a reader gets, from 0; -1 for what everybody else gets. A rule that cannot be answered is met by nobody. */
export function caseFor(
  { cases }: { cases: readonly Pick<Either<Inline>["attrs"]["cases"][number], "when">[] },
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
