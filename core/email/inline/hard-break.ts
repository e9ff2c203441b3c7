import { z } from "zod";
import { marksShape } from "../marks";
import type { InlineKind } from "./kind";

const schema = z.object({ type: z.literal("hardBreak"), ...marksShape });

/** A line break without a gap. */
export const hardBreak: InlineKind<z.infer<typeof schema>> = {
  schema,
  atom: true,
  words: () => " ",
  sign: () => "\n",
  write(_, { out, part }) {
    out.raw(part === "html" ? "<br>" : part === "text" ? "\n" : " ");
  },
};
