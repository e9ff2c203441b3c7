import { z } from "zod";
import {
  AlignSchema,
  BlockBaseSchema,
  FRIENDS,
  type Inline,
  InlineSchema,
  inlineText,
  lineTyped,
  REFERRAL_LINK,
  RichDocSchema,
  richText,
} from "../../email";
import {
  css,
  firstProse,
  leads,
  proseHtml,
  proseText,
  type RenderContext,
  smallWords,
  TABLE,
  textTarget,
  writeInline,
} from "../../markup";
import { buttonHtml } from "../button";
import { mailto } from "../share";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("refer"),
  words: RichDocSchema,
  /** The words on the button. */
  content: z.array(InlineSchema),
  /** Whether friends join by the reader's own link, and are counted. */
  programme: z.boolean().optional(),
  /** With the programme: how many have joined. */
  count: z.array(InlineSchema).optional(),
  /** What comes next, where `{at}` is the number of friends and `{reward}` what they earn. */
  next: z.string().max(300).optional(),
  /** What those read who have earned everything. */
  done: z.string().max(300).optional(),
  /** Where the friend can sign up, without the programme. */
  href: z.string().max(2000),
  subject: z.string().max(200),
  message: z.string().max(2000),
  align: AlignSchema,
});
export type ReferBlock = z.infer<typeof schema>;

/** Where friends sign up: the reader's own link, or one for all. */
const leadsTo = ({ programme, href }: ReferBlock) => (programme ? REFERRAL_LINK : href.trim());

/** The prepared email to a friend, with the address at its end. */
function invitation(block: ReferBlock): string {
  const href = leadsTo(block);
  return leads(href) ? mailto(block.subject, `${block.message}\n\n${href}`) : "";
}

/** What the programme says at first. */
export const REFER_COUNT: Inline[] = [
  { type: "mergeTag", attrs: { field: FRIENDS, fallback: "0", format: "number" } },
  { type: "text", text: " of your friends read these letters because of you." },
];
export const REFER_NEXT = "Next, for {at}: {reward}";
export const REFER_DONE = "You have earned everything there is. Thank you!";

const countOf = ({ count = REFER_COUNT }: ReferBlock) => count;

/** Writes what comes next for each reader, by how many friends they have brought. */
function comesNext(block: ReferBlock, { known, out }: RenderContext, write: (words: string) => void): void {
  const steps = known.referrals ?? [];
  const { next = REFER_NEXT, done = REFER_DONE } = block;
  out.either(
    steps.map(({ at, reward }) => ({
      when: { kind: "none", of: [{ kind: "field", field: FRIENDS, op: "atLeast", value: at }] },
      body: () => write(next.replaceAll("{at}", String(at)).replaceAll("{reward}", reward)),
    })),
    () => steps.length > 0 && write(done),
  );
}

/** The reader's own number, and what comes next. */
function standing(block: ReferBlock, context: RenderContext): void {
  const { out, known, marks } = context;
  if (!known.referrals) {
    if (marks) out.raw('<div class="waiting">The programme is off: switch it on under Referrals</div>');
    return;
  }
  const { align } = block;
  smallWords(countOf(block), "count", align, context);
  comesNext(block, context, (words) => smallWords(lineTyped(words), undefined, align, context));
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
    if (block.programme) standing(block, context);
    out.raw(`<table ${TABLE} width="100%"><tr><td style="${css({ padding: "12px 0 0" })}">`);
    buttonHtml({ content: block.content, href: invitation(block), align: block.align }, context);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    const { out, known } = context;
    if (shows(block, "words")) proseText(block.words.content, context);
    if (block.programme && known.referrals) {
      writeInline(countOf(block), context);
      out.raw("\n");
      comesNext(block, context, (words) => {
        writeInline(lineTyped(words), context);
        out.raw("\n");
      });
      out.raw("\n");
    }
    writeInline(block.content, context);
    out.raw(`${textTarget(leadsTo(block), context, "colon")}\n\n`);
  },
  texts: (block) => [
    { path: "subject", label: "Subject to the friend" },
    { path: "message", label: "Message to the friend" },
    ...(block.programme
      ? [
          { path: "next", label: "What comes next" },
          { path: "done", label: "After the last reward" },
        ]
      : []),
  ],
  places: ({ programme }) => [
    { path: "words", kind: "prose" },
    ...(programme ? [{ path: "count", kind: "line" } as const] : []),
    { path: "content", kind: "line" },
  ],
  tags: ({ programme, count }) =>
    programme && !count ? REFER_COUNT.flatMap((it) => (it.type === "mergeTag" ? [it.attrs] : [])) : [],
  links: (block) =>
    block.programme
      ? [{ path: null, words: inlineText(block.content), href: "", fixed: "Made for each reader" }]
      : [{ path: "href", words: inlineText(block.content), href: block.href }],
  title: (block) => firstProse(block.words) || "Tell a friend",
  unready: (block) =>
    !block.programme && block.href === ""
      ? ["“Tell a friend” leads nowhere. Give the address where friends can sign up."]
      : [],
};
