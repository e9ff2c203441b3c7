import { z } from "zod";
import type { Align, Inline } from "../email";
import { escapeHtml } from "../program";
import type { RenderContext } from "./context";
import { absolute, css, editMark, TABLE } from "./html";
import { writeInline } from "./inline";
import { hrefOf, type PlacedLink, textTarget } from "./targets";

/** What every block with a picture of its own holds. */
export const pictureShape = {
  /** An absolute address, or a path of ours that starts with `/`; empty until a picture is chosen. */
  src: z.string().max(2000),
  alt: z.string().max(500),
  decorative: z.boolean(),
  /** Natural size in px, to keep the ratio. */
  natural: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
  radius: z.number().min(0).max(100).optional(),
  href: z.string().max(2000).optional(),
};
const pictureSchema = z.object(pictureShape);
export type PictureParts = z.infer<typeof pictureSchema>;

/** A picture that is still to be chosen. */
export const NO_PICTURE = { src: "", alt: "", decorative: false };

/** A place on the canvas that waits for a picture, which is chosen by a press; `path` says which of the block's. */
export function waitingPicture(path = "", words = "Press to choose a picture, or drop one here"): string {
  return `<div class="waiting" data-choose="${escapeHtml(path)}">${words}</div>`;
}

/** Writes a picture at a share of the width there is; on the canvas a place that waits for one. */
export function pictureHtml(
  picture: PictureParts,
  context: RenderContext,
  place: { width: number; align: Align } = { width: 100, align: "center" },
  path = "",
): void {
  const { out, theme } = context;
  if (picture.src === "") {
    if (context.marks) out.raw(waitingPicture(path));
    return;
  }
  const width = Math.round((context.width * place.width) / 100);
  const { natural } = picture;
  const height = natural ? Math.round((width * natural.height) / natural.width) : undefined;
  const style = css({
    display: "block",
    width: "100%",
    "max-width": `${width}px`,
    height: "auto",
    border: "0",
    "border-radius": picture.radius ? `${picture.radius}px` : undefined,
    margin: place.align === "center" ? "0 auto" : place.align === "right" ? "0 0 0 auto" : "0",
    "font-family": theme.fonts.body,
    "font-size": "14px",
    "line-height": "20px",
    color: theme.light.soft,
  });
  const link = picture.href ? hrefOf(picture.href, context) : undefined;
  const size = ` width="${width}"${height ? ` height="${height}"` : ""}`;
  out.raw(`<table ${TABLE} width="100%"><tr><td align="${place.align}">`);
  if (link) out.raw(`<a href="${link}" style="text-decoration:none;">`);
  const alt = picture.decorative ? "" : picture.alt;
  out.raw(
    `<img src="${escapeHtml(absolute(picture.src, context.origin))}" alt="${escapeHtml(alt)}"${size}${place.width === 100 ? ' class="fluid"' : ""} style="${style}">`,
  );
  if (link) out.raw("</a>");
  out.raw("</td></tr></table>");
}

/** Writes what a picture says, for the plain-text part. */
export function pictureText(picture: PictureParts, context: RenderContext): void {
  if (picture.src === "" || picture.decorative || picture.alt === "") return;
  const link = picture.href ? textTarget(picture.href, context, "brackets") : "";
  context.out.raw(`[${picture.alt}]${link}\n\n`);
}

/** What a picture still needs before it can be sent. */
export function pictureUnready(picture: PictureParts): string[] {
  return picture.src === "" ? ["A picture block has no picture. Choose one or delete the block."] : [];
}

/** Writes a line of small words below something; editable in place when it has a key. */
export function smallWords(
  content: readonly Inline[],
  key: string | null,
  align: Align,
  context: RenderContext,
): void {
  const { out, theme } = context;
  const look = css({
    margin: "8px 0 0",
    "font-family": theme.fonts.body,
    "font-size": "14px",
    "line-height": "20px",
    color: theme.light.soft,
    "text-align": align,
  });
  out.raw(`<p class="d-soft"${key === null ? "" : editMark(context, "line", key)} style="${look}">`);
  writeInline(content, context);
  out.raw("</p>");
}

/** The link of a picture, where it has one. */
export function pictureLinks(picture: PictureParts, path = ""): PlacedLink[] {
  if (picture.href === undefined) return [];
  return [{ path: `${path}href`, words: picture.alt || "Picture", href: picture.href }];
}
