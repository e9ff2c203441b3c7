import { whenAddress } from "../../email";
import type { RenderContext } from "../../markup";
import {
  css,
  firstWords,
  lineHtml,
  paddingOf,
  pictureHtml,
  proseHtml,
  proseText,
  TABLE,
  waitingPicture,
  writeInline,
} from "../../markup";
import { line, number, type Properties, pictureProperties, prose } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  greeting: prose("Greeting", { fresh: "Until next month,", part: "greeting", stays: true }),
  ...pictureProperties({ part: "picture", corners: { fresh: 100 } }),
  content: line("Name", { fresh: "Your name" }),
  role: line("Role", { fresh: "what you do here", part: "role" }),
  /** Of the picture. */
  width: number("Width", { min: 24, max: 240 }, { fresh: 72, look: true, part: "picture", under: "Look" }),
} satisfies Properties;
type SignatureBlock = BlockOf<"signature", typeof properties>;

export const signature = declareBlock({
  type: "signature",
  label: "Signature",
  group: "words",
  words: "sign name greeting regards person",
  properties,
  parts: [
    { key: "greeting", label: "Greeting" },
    { key: "picture", label: "Picture" },
    { key: "role", label: "Role" },
  ],
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
    signed(block, "content", context);
    if (shows(block, "role")) signed(block, "role", context);
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
  title: (block) => firstWords(block.content) || "Signature",
});

function signed(block: SignatureBlock, key: "content" | "role", context: RenderContext): void {
  const { text } = context.theme;
  lineHtml(
    block[key],
    key === "content"
      ? { role: "heading", size: text.size, lineHeight: Math.round(text.size * text.line), weight: 700, key }
      : { role: "soft", size: 14, lineHeight: 20, key },
    context,
  );
}
