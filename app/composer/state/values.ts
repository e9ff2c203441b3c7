import type { Contact } from "~/core/audience";
import type { MergeTag } from "~/core/email";
import { type Around, tagSaid } from "~/core/personal";
import { knownIn } from "~/core/render";
import { shownEmail, spokenTo } from "./language";
import type { ComposerState } from "./store";

/** What words of an email that is being composed depend on besides their reader. */
export const around = ({
  email,
  facts,
  reader,
}: Pick<ComposerState, "email" | "facts" | "reader">): Around => ({
  language: spokenTo({ email, reader }),
  known: knownIn(shownEmail({ email, reader }), { ...facts.tags, brand: facts.brand, origin: "" }),
  audience: facts.audience,
});

/** A tag as it is shown in an editor: with a gap that can be seen and pressed where the reader gets nothing. */
export const tagWords = (tag: MergeTag, contact: Contact, about: Around): string =>
  tagSaid(tag, contact, about) || NOTHING;

export const NOTHING = "(nothing)";
