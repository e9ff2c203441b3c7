import { z } from "zod";
import { hrefOfMarks, linesOf } from "../../email";
import {
  attributeOf,
  backdropCell,
  classAttribute,
  css,
  firstProse,
  fixedGround,
  linkAround,
  pictureText,
  proseHtml,
  proseText,
  spoken,
  styleAttribute,
  TABLE,
  tableAt,
  vmlBackdrop,
  waitingPicture,
} from "../../markup";
import {
  address,
  align,
  alt,
  colour,
  corners,
  held,
  natural,
  number,
  type Properties,
  picture,
  prose,
  valign,
  wordLook,
} from "../../properties";
import { type BlockOf, declareBlock } from "../type";

/** What stays in view, in shares of the picture. */
const FocusSchema = z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) });
const VEIL = "Veil behind the words";

const properties = {
  src: picture("Picture", {
    alt: "kept",
    decorates: false,
    under: "Picture behind",
    missing: "Words on a picture have no picture. Choose one or delete the block.",
  }),
  natural: natural(),
  /** Empty where the words on the picture say what it shows. */
  alt: alt({ fresh: "", optional: true }),
  href: address("Leads to", { of: ["content"] }),
  /** The picture is cut to it; by the picture's proportions when missing. */
  height: number("Height", { min: 60, max: 900 }, { look: true, under: "Picture behind" }),
  /** What stays in view when it is cut, in shares of the picture; its middle when missing. */
  focus: held("What stays in view", FocusSchema.optional()),
  content: prose("Words", { fresh: "Words that stand on the picture" }),
  /** Where the box of words stands on the picture, and how much of its width it takes. */
  valign: valign("Where the words stand", { fresh: "bottom", under: "Words" }),
  at: { ...align({}), label: "Side of the box", phone: undefined },
  wide: number(
    "Their box",
    { min: 20, max: 100, unit: "% wide" },
    { look: true, under: "Words", theme: () => 100 },
  ),
  align: align({ fresh: "left", under: "Words" }),
  ...wordLook({
    under: "Words",
    size: ({ text }) => Math.round(text.size * 1.25),
    color: () => "#FFFFFF",
    max: 60,
    on: { own: "veil" },
    phone: true,
  }),
  /** Shown behind the words, and instead of the picture where none is shown. */
  veil: colour("Colour", { fills: true, fresh: "#1E1B24", under: VEIL }),
  density: number("Density", { max: 100, unit: "%" }, { fresh: 55, look: true, under: VEIL }),
  radius: corners({
    under: VEIL,
    hint: "Where no pictures are shown, the words stand on the colour of the veil.",
  }),
} satisfies Properties;
export type OverlaidBlock = BlockOf<"overlaid", typeof properties>;

const rgba = (hex: string, percent: number) =>
  `rgba(${[1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)).join(",")},${percent / 100})`;

/** The class under which the style block says how high it is on phones: by the picture's proportions there, too. */
export const tallClass = ({ id }: { id: string }) => `tall-${id.replace(/[^\w-]/g, "")}`;

export const overlaid = declareBlock({
  type: "overlaid",
  label: "Overlaid",
  group: "pictures",
  words: "image overlaid caption hero banner background",
  properties,
  html(block, context) {
    const { out, width, theme } = context;
    const { natural } = block;
    const height =
      block.height ??
      (natural ? Math.min(900, Math.round((width * natural.height) / natural.width)) : Math.round(width / 2));
    const tall = natural && block.height === undefined ? tallClass(block) : undefined;
    const corner = block.radius ?? theme.shape.picture;
    const radius = corner > 0 ? `${corner}px` : undefined;
    // Links within the words come first: one link cannot stand in another.
    const linked = block.href && !linesOf(block.content).flat().some(hrefOfMarks) ? block.href : undefined;
    // The picture keeps its colours in dark, and so do the words on it.
    const inside = fixedGround(block.veil, context);
    const words = () => {
      const veiled = block.density > 0;
      const veil = css({
        padding: "16px 20px",
        // Where no colours are understood that can be seen through, the veil is solid.
        "background-color": veiled && block.veil,
        "border-radius": radius,
      });
      const seeThrough = css({ "background-color": veiled && rgba(block.veil, block.density) });
      const wide = block.wide ?? 100;
      const size = block.size ?? Math.round(theme.text.size * 1.25);
      const box = () => {
        // The box is a table: engines that know no widths of boxes know those of tables, and give room to cells only.
        const place = tableAt(wide < 100 ? block.at : "left", context);
        out.raw(
          `${place.open}<table ${TABLE}${place.align} width="${wide}%"${styleAttribute(css({ margin: place.margin }))}><tr><td${veiled ? ` bgcolor="${block.veil}"` : ""} style="${veil}${seeThrough}">`,
        );
        if (block.alt?.trim()) out.raw(spoken(attributeOf(block.alt, context)));
        proseHtml(block.content, { size, color: block.color ?? "#FFFFFF", align: block.align }, inside);
        out.raw(`</td></tr></table>${place.close}`);
      };
      if (!linked) {
        box();
        return;
      }
      // Where it is understood, the link fills the picture; elsewhere it is as large as the words.
      const at = { top: "flex-start", middle: "center", bottom: "flex-end" }[block.valign];
      const fill = css({
        display: "flex",
        "min-height": block.src === "" ? undefined : `${height}px`,
        "align-items": at,
        "text-decoration": "none",
      });
      linkAround(linked, `${classAttribute(tall)} style="${fill}"`, context, () => {
        out.raw('<div style="width:100%;">');
        box();
        out.raw("</div>");
      });
    };
    const backdrop = { src: block.src, color: block.veil, position: block.focus };
    if (block.src === "") {
      if (context.marks) out.raw(waitingPicture());
      out.raw(
        `<table ${TABLE} width="100%"><tr><td bgcolor="${block.veil}" style="background-color:${block.veil};">`,
      );
      words();
      out.raw("</td></tr></table>");
      return;
    }
    const { attributes, style } = backdropCell(backdrop, context.origin);
    out.raw(
      `<table ${TABLE} width="100%"><tr><td${attributes}${classAttribute(tall)} height="${height}" valign="${block.valign}" style="${style}${css({ height: `${height}px`, "border-radius": radius })}">`,
    );
    vmlBackdrop(backdrop, { width, height }, context, words, block.valign);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    pictureText({ ...block, alt: block.alt ?? "", decorative: false }, context);
    proseText(block.content.content, context);
  },
  title: (block) => firstProse(block.content) || "Words on a picture",
});
