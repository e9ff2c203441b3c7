import { z } from "zod";
import { escapeHtml } from "../../program";
import { marksShape } from "../marks";
import { constantOf, MergeTagSchema, tagWords, writeTag } from "../tags";
import type { InlineKind } from "./kind";

const schema = z.object({ type: z.literal("mergeTag"), attrs: MergeTagSchema, ...marksShape });

/** A reader's data within words: brand facts are written as they are, the rest is a value of the program. */
export const mergeTag: InlineKind<z.infer<typeof schema>> = {
  schema,
  atom: true,
  words: ({ attrs }) => tagWords(attrs),
  sign: () => "\ufffc",
  write({ attrs: tag }, { out, part, known, marks }) {
    const seen = marks && part === "html" && constantOf(tag, known) === undefined;
    if (seen) out.raw(`<span class="reader-value" data-field="${escapeHtml(tag.field)}">`);
    writeTag(tag, part, { known, out });
    if (seen) out.raw("</span>");
  },
};
