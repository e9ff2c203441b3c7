import { encodeTyped, leads, linkRowHtml, linkText, type RowLink, withItemIds } from "../../markup";
import { address, choice, drawing, list, type Properties, rowLook, text } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  href: address("Leads to", {
    fresh: "",
    of: ["words"],
    under: "What is shared",
    missing: "Sharing has nothing to share. Give the address of a page.",
  }),
  /** Written along with it. */
  words: text("Words", 300, { fresh: "I thought you would like this", under: "What is shared", stays: true }),
  ways: list(
    "way",
    {
      glyph: drawing("Drawing", { fresh: "chain" }),
      label: text("Words", 80, { least: 1, fresh: "Share", stays: true }),
      /** By an email of their own, or on a page that takes `{address}` and `{words}` in its address. */
      by: choice(
        "How it shares",
        [
          { value: "email", label: "Email" },
          { value: "page", label: "A page" },
        ],
        { fresh: "page" },
      ),
      pattern: text("Address", 2000, {
        fresh: "",
        said: false,
        placeholder: "https://…?url={address}",
        when: { by: "page" },
        hint: "{address} and {words} are filled in with what is shared.",
      }),
    },
    {
      most: 8,
      under: "Ways",
      fresh: [{ by: "email", glyph: "letter", label: "Forward to a friend" }],
    },
  ),
  ...rowLook(20, "both"),
} satisfies Properties;
type ShareBlock = BlockOf<"share", typeof properties>;

/** An address that opens a new email with subject and words (RFC 6068). */
export function mailto(subject: string, body: string): string {
  return `mailto:?subject=${encodeTyped(subject)}&body=${encodeTyped(body.replace(/\r?\n/g, "\r\n"))}`;
}

/** Where each way of sharing leads. */
function links(block: ShareBlock): RowLink[] {
  return block.ways.map((way) => ({
    glyph: way.glyph,
    label: way.label,
    href: !leads(block.href)
      ? ""
      : way.by === "email"
        ? mailto(block.words, `${block.words}\n\n${block.href.trim()}`)
        : way.pattern
            .replaceAll("{address}", encodeTyped(block.href.trim()))
            .replaceAll("{words}", encodeTyped(block.words)),
  }));
}

export const share = declareBlock({
  type: "share",
  label: "Share",
  group: "actions",
  words: "forward pass on friend",
  properties,
  html: (block, context) => linkRowHtml(links(block), block, context),
  text(block, context) {
    for (const link of links(block)) {
      // Nobody can follow a prepared email from plain text: the address itself is what can be passed on.
      linkText(link.label, link.href.startsWith("mailto:") ? block.href : link.href, context);
    }
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "ways") },
  title: (block) =>
    block.ways
      .map((way) => way.label)
      .join(", ")
      .slice(0, 40) || "Share",
  unready: (block) => [
    ...(block.href === "" ? ["Sharing has nothing to share. Give the address of a page."] : []),
    ...(block.ways.some((way) => way.by === "page" && !/\{address\}/.test(way.pattern))
      ? ["A way of sharing does not pass the page on. Write {address} where it belongs."]
      : []),
  ],
});
