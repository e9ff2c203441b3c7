import { z } from "zod";
import { AlignSchema, BlockBaseSchema, InlineSchema, inlineText, RichDocSchema, richText } from "../../email";
import { css, firstProse, leads, proseHtml, proseText, TABLE, textTarget, writeInline } from "../../markup";
import { buttonHtml } from "../button";
import { mailto } from "../share";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("refer"),
  words: RichDocSchema,
  /** The words on the button. */
  content: z.array(InlineSchema),
  /** Where the friend can sign up. */
  href: z.string().max(2000),
  subject: z.string().max(200),
  message: z.string().max(2000),
  align: AlignSchema,
});
export type ReferBlock = z.infer<typeof schema>;

/** The prepared email to a friend, with the address at its end. */
function invitation(block: ReferBlock): string {
  return leads(block.href) ? mailto(block.subject, `${block.message}\n\n${block.href.trim()}`) : "";
}

export const refer: BlockType<ReferBlock> = {
  type: "refer",
  label: "Refer",
  group: "actions",
  words: "tell a friend recommend invite",
  schema,
  create: (id) => ({
    id,
    type: "refer",
    words: richText("Do you know somebody who would like these letters?"),
    content: [{ type: "text", text: "Tell a friend" }],
    href: "",
    subject: "A letter worth getting",
    message: "I read these letters every month and thought of you. You can sign up here:",
    align: "center",
  }),
  parts: [{ key: "words", label: "Words above" }],
  look: ["align"],
  html(block, context) {
    const { out } = context;
    if (shows(block, "words")) proseHtml(block.words, { align: block.align }, context, "words");
    out.raw(`<table ${TABLE} width="100%"><tr><td style="${css({ padding: "12px 0 0" })}">`);
    buttonHtml({ content: block.content, href: invitation(block), align: block.align }, context);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    if (shows(block, "words")) proseText(block.words.content, context);
    writeInline(block.content, context);
    context.out.raw(`${textTarget(block.href, context, "colon")}\n\n`);
  },
  texts: () => [
    { path: "subject", label: "Subject to the friend" },
    { path: "message", label: "Message to the friend" },
  ],
  places: () => [
    { path: "words", kind: "prose" },
    { path: "content", kind: "line" },
  ],
  links: (block) => [{ path: "href", words: inlineText(block.content), href: block.href }],
  title: (block) => firstProse(block.words) || "Tell a friend",
  unready: (block) =>
    block.href === "" ? ["“Tell a friend” leads nowhere. Give the address where friends can sign up."] : [],
};
