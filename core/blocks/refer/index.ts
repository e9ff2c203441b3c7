import { FRIENDS, type Inline, inlineText, lineTyped, REFERRAL_LINK } from "../../email";
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
import { address, align, line, type Properties, prose, text, toggle } from "../../properties";
import { buttonHtml } from "../button";
import { mailto } from "../share";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  words: prose("Words above", {
    fresh: "Do you know somebody who would like these letters?",
    part: "words",
    stays: true,
  }),
  /** Whether friends join by the reader's own link, and are counted. */
  programme: toggle("By each reader’s own link", { under: "Tell a friend", history: "Counting friends" }),
  /** With the programme: how many have joined. */
  count: line("How many friends", { when: { programme: true }, stays: true }),
  /** Where `{at}` is the number of friends and `{reward}` what they earn. */
  next: text("Next", 300, {
    under: "Tell a friend",
    when: { programme: true },
    hint: "{at} is how many friends it takes, {reward} what they earn.",
    stays: true,
  }),
  /** What those read who have earned everything. */
  done: text("At the end", 300, { under: "Tell a friend", when: { programme: true }, stays: true }),
  content: line("Words on the button", { fresh: "Tell a friend", stays: true }),
  /** Where the friend can sign up, without the programme. */
  href: address("Leads to", {
    fresh: "",
    of: ["content"],
    under: "Tell a friend",
    when: { programme: false },
    missing: "“Tell a friend” leads nowhere. Give the address where friends can sign up.",
  }),
  subject: text("Subject", 200, { fresh: "A letter worth getting", under: "Tell a friend", stays: true }),
  message: text("Message", 2000, {
    fresh: "I read these letters every month and thought of you. You can sign up here:",
    under: "Tell a friend",
    long: true,
    stays: true,
  }),
  align: align({ fresh: "center", under: "Tell a friend" }),
} satisfies Properties;
export type ReferBlock = BlockOf<"refer", typeof properties>;

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

export const refer = declareBlock({
  type: "refer",
  label: "Refer",
  group: "actions",
  words: "tell a friend recommend invite",
  properties,
  about: "The button opens an email to a friend, written for the reader, with the address at its end.",
  parts: [{ key: "words", label: "Words above" }],
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
  tags: ({ programme, count }) =>
    programme && !count ? REFER_COUNT.flatMap((it) => (it.type === "mergeTag" ? [it.attrs] : [])) : [],
  links: (block) =>
    block.programme
      ? [{ path: null, words: inlineText(block.content), href: "", fixed: "Made for each reader" }]
      : [],
  title: (block) => firstProse(block.words) || "Tell a friend",
});
