import { z } from "zod";
import { BlockBaseSchema, InlineSchema, RichDocSchema, richText, whenAddress } from "../../email";
import type { RenderContext } from "../../markup";
import {
  css,
  firstWords,
  lineHtml,
  NO_PICTURE,
  paddingOf,
  pictureHtml,
  pictureLinks,
  pictureShape,
  proseHtml,
  proseText,
  TABLE,
  waitingPicture,
  writeInline,
} from "../../markup";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("signature"),
  ...pictureShape,
  greeting: RichDocSchema,
  /** Who signs. */
  content: z.array(InlineSchema),
  role: z.array(InlineSchema),
  /** Width of the picture in px. */
  width: z.number().min(24).max(240),
});
export type SignatureBlock = z.infer<typeof schema>;

export const signature: BlockType<SignatureBlock> = {
  type: "signature",
  label: "Signature",
  group: "words",
  words: "sign name greeting regards person",
  schema,
  create: (id) => ({
    id,
    type: "signature",
    ...NO_PICTURE,
    radius: 100,
    greeting: richText("Until next month,"),
    content: [{ type: "text", text: "Your name" }],
    role: [{ type: "text", text: "what you do here" }],
    width: 72,
  }),
  parts: [
    { key: "greeting", label: "Greeting" },
    { key: "picture", label: "Picture" },
    { key: "role", label: "Role" },
  ],
  look: ["width", "radius"],
  html(block, context) {
    const { out } = context;
    if (shows(block, "greeting")) {
      proseHtml(block.greeting, {}, context, "greeting");
      out.raw(
        `<div style="${css({ height: "12px", "line-height": "12px", "font-size": "1px" })}">&nbsp;</div>`,
      );
    }
    out.raw(`<table ${TABLE} width="100%"><tr>`);
    // Without a picture there is no empty place for one in the message.
    if (shows(block, "picture") && (block.src !== "" || context.marks)) {
      const width = Math.min(block.width, Math.floor(context.width / 2));
      whenAddress(block.src, "src", context, () => {
        out.raw(
          `<td width="${width + 16}" valign="middle" style="${css({ padding: paddingOf([0, 16, 0, 0], context) })}">`,
        );
        if (block.src === "") out.raw(waitingPicture("", "Picture"));
        else pictureHtml(block, { ...context, width });
        out.raw("</td>");
      });
    }
    out.raw('<td valign="middle">');
    line(block, "content", context);
    if (shows(block, "role")) line(block, "role", context);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    const { out } = context;
    if (shows(block, "greeting")) proseText(block.greeting.content, context);
    writeInline(block.content, context);
    out.raw("\n");
    if (shows(block, "role")) {
      writeInline(block.role, context);
      out.raw("\n");
    }
    out.raw("\n");
  },
  places: () => [
    { path: "greeting", kind: "prose" },
    { path: "content", kind: "line" },
    { path: "role", kind: "line" },
  ],
  links: (block) => pictureLinks(block),
  title: (block) => firstWords(block.content) || "Signature",
};

function line(block: SignatureBlock, key: "content" | "role", context: RenderContext): void {
  const { text } = context.theme;
  lineHtml(
    block[key],
    key === "content"
      ? { role: "heading", size: text.size, lineHeight: Math.round(text.size * text.line), weight: 700, key }
      : { role: "soft", size: 14, lineHeight: 20, key },
    context,
  );
}
