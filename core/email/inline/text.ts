import { z } from "zod";
import { written } from "../../program";
import { marksShape } from "../marks";
import type { InlineKind } from "./kind";

const schema = z.object({ type: z.literal("text"), text: z.string().min(1), ...marksShape });

/** A run of words with one look. */
export const text: InlineKind<z.infer<typeof schema>> = {
  schema,
  atom: false,
  words: (it) => it.text,
  sign: (it) => it.text,
  write(it, { out, part }) {
    out.raw(written(it.text, part));
  },
};
