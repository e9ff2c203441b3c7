import { z } from "zod";
import {
  AlignSchema,
  BlockBaseSchema,
  ColorSchema,
  hrefOfMarks,
  linesOf,
  RichDocSchema,
  richText,
  ValignSchema,
} from "../../email";
import {
  backdropCell,
  css,
  firstProse,
  fixedGround,
  hrefOf,
  proseHtml,
  proseText,
  styleAttribute,
  TABLE,
  tableAt,
  vmlBackdrop,
  waitingPicture,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("overlaid"),
  src: z.string().max(2000),
  natural: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
  content: RichDocSchema,
  /** Where the words stand on the picture. */
  valign: ValignSchema,
  align: AlignSchema,
  /** Where the box of words stands from left to right, and how much of the width it takes in percent. */
  at: AlignSchema.optional(),
  wide: z.number().min(20).max(100).optional(),
  href: z.string().max(2000).optional(),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(60).optional(),
  /** Shown behind the words, and instead of the picture where none is shown. */
  veil: ColorSchema,
  /** How dense the veil is, in percent. */
  density: z.number().min(0).max(100),
  radius: z.number().min(0).max(100).optional(),
});
export type OverlaidBlock = z.infer<typeof schema>;

const rgba = (hex: string, percent: number) =>
  `rgba(${[1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)).join(",")},${percent / 100})`;

export const overlaid: BlockType<OverlaidBlock> = {
  type: "overlaid",
  label: "Overlaid",
  group: "pictures",
  words: "image overlaid caption hero banner background",
  schema,
  create: (id) => ({
    id,
    type: "overlaid",
    src: "",
    content: richText("Words that stand on the picture"),
    valign: "bottom",
    align: "left",
    veil: "#1E1B24",
    density: 55,
  }),
  look: ["valign", "at", "wide", "align", "color", "size", "veil", "density", "radius"],
  html(block, context) {
    const { out, width, theme } = context;
    const height = block.natural
      ? Math.min(900, Math.round((width * block.natural.height) / block.natural.width))
      : Math.round(width / 2);
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
      if (linked) {
        // Where it is understood, the link fills the picture; elsewhere it is as large as the words.
        const at = { top: "flex-start", middle: "center", bottom: "flex-end" }[block.valign];
        const fill = css({
          display: "flex",
          "min-height": block.src === "" ? undefined : `${height}px`,
          "align-items": at,
          "text-decoration": "none",
        });
        out.raw(`<a href="${hrefOf(linked, context)}" style="${fill}">`);
        out.raw('<span style="display:block;width:100%;">');
      }
      const wide = block.wide ?? 100;
      // The box is a table: engines that know no widths of boxes know those of tables, and give room to cells only.
      const place = tableAt(wide < 100 ? block.at : "left", context);
      out.raw(
        `${place.open}<table ${TABLE}${place.align} width="${wide}%"${styleAttribute(css({ margin: place.margin }))}><tr><td${veiled ? ` bgcolor="${block.veil}"` : ""} style="${veil}${seeThrough}">`,
      );
      const size = block.size ?? Math.round(theme.text.size * 1.25);
      proseHtml(block.content, { size, color: block.color ?? "#FFFFFF", align: block.align }, inside);
      out.raw(`</td></tr></table>${place.close}`);
      if (linked) out.raw("</span></a>");
    };
    const backdrop = { src: block.src, color: block.veil };
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
      `<table ${TABLE} width="100%"><tr><td${attributes} height="${height}" valign="${block.valign}" style="${style}${css({ height: `${height}px`, "border-radius": radius })}">`,
    );
    vmlBackdrop(backdrop, { width, height }, context, words, block.valign);
    out.raw("</td></tr></table>");
  },
  text: (block, context) => proseText(block.content.content, context),
  places: () => [{ path: "content", kind: "prose" }],
  links: (block) =>
    block.href === undefined ? [] : [{ path: "href", words: firstProse(block.content), href: block.href }],
  title: (block) => firstProse(block.content) || "Words on a picture",
  unready: (block) =>
    block.src === "" ? ["Words on a picture have no picture. Choose one or delete the block."] : [],
};
