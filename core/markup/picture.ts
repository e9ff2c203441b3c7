import { type Align, hasTyped, typedString, whenAddress } from "../email";
import { variantAddress } from "../pictures";
import { absolute, escapeHtml } from "../program";
import type { RenderContext } from "./context";
import { css, TABLE } from "./html";
import { sideOf } from "./sides";
import { attributeOf, hrefOf, textTarget } from "./targets";
import { classAttribute, ground, ink } from "./tone";

/** All that is known of a picture where it stands. */
export interface PictureParts {
  /** An absolute address, or a path of ours that starts with `/`; empty until a picture is chosen. */
  src: string;
  alt: string;
  decorative: boolean;
  /** Natural size in px, to keep the ratio. */
  natural?: { width: number; height: number };
  radius?: number;
  href?: string;
}

/** A picture that is still to be chosen. */
export const NO_PICTURE = { src: "", alt: "", decorative: false };

/**
 * A place on the canvas that waits for a picture, which is chosen by a press on its words; beside them it is selected.
 * @param path says which of the block's
 */
export function waitingPicture(path = "", words = "Choose a picture, or drop one here"): string {
  return `<div class="waiting"><span class="choose" data-choose="${escapeHtml(path)}">${words}</span></div>`;
}

/**
 * Pictures that cannot be seen through, by their addresses: they have a ground behind them while they are not shown. The
 * library calls its own so.
 */
const OPAQUE = /(\.jpe?g|-solid\.\w+)($|[?/])/i;

/** The address of a picture in the size it is shown at, as the value of an attribute; empty where there is none. */
function pictureAddress(
  { src, natural }: Pick<PictureParts, "src" | "natural">,
  width: number,
  context: RenderContext,
): string {
  return hasTyped(src)
    ? typedString(src, "src", context)
    : escapeHtml(absolute(variantAddress(src, width, natural?.width), context.origin));
}

/** Writes a picture at a share of the width there is; on the canvas a place that waits for one. `className` names it in the style block. */
export function pictureHtml(
  picture: PictureParts,
  context: RenderContext,
  place: { width: number; align: Align } = { width: 100, align: "center" },
  path = "",
  className = "",
): void {
  const { out, theme } = context;
  const width = Math.max(1, Math.round((context.width * place.width) / 100));
  const { natural } = picture;
  const address = pictureAddress(picture, width, context);
  if (address === "") {
    if (context.marks) out.raw(waitingPicture(path));
    return;
  }
  const height = natural ? Math.round((width * natural.height) / natural.width) : undefined;
  const side = sideOf(place.align, context);
  const corner = picture.radius ?? theme.shape.picture;
  const behind = OPAQUE.test(address) ? ground(undefined, "table", context) : undefined;
  const words = ink(undefined, "soft", behind?.inside ?? context);
  const style = css({
    display: "block",
    width: "100%",
    "max-width": `${width}px`,
    height: "auto",
    border: "0",
    "border-radius": corner > 0 && `${corner}px`,
    margin: side === "center" ? "0 auto" : side === "right" ? "0 0 0 auto" : "0",
    "background-color": behind?.color,
    "font-family": theme.fonts.body,
    "font-size": "14px",
    "line-height": "20px",
    color: words.color,
  });
  const size = ` width="${width}"${height ? ` height="${height}"` : ""}`;
  const alt = picture.decorative ? "" : picture.alt;
  whenAddress(picture.src, "src", context, () => {
    out.raw(`<table ${TABLE} width="100%"><tr><td align="${side}">`);
    linkAround(picture.href, ' style="text-decoration:none;"', context, () =>
      out.raw(
        `<img src="${address}" alt="${attributeOf(alt, context)}"${size}${classAttribute(className, place.width === 100 && "fluid", behind?.tone, words.tone)} style="${style}">`,
      ),
    );
    out.raw("</td></tr></table>");
  });
}

/** Writes what is a link where there is one, and for readers for whom it leads somewhere. */
export function linkAround(
  href: string | undefined,
  attributes: string,
  context: RenderContext,
  body: () => void,
): void {
  const { out } = context;
  const link = (write: () => void) => {
    if (href) whenAddress(href, "link", context, write);
  };
  link(() => out.raw(`<a href="${hrefOf(href ?? "", context)}"${attributes}>`));
  body();
  link(() => out.raw("</a>"));
}

/** Writes what a picture says, for the plain-text part. */
export function pictureText(picture: PictureParts, context: RenderContext): void {
  if (picture.src === "" || picture.decorative || picture.alt === "") return;
  const link = picture.href ? textTarget(picture.href, context, "brackets") : "";
  whenAddress(picture.src, "src", context, () =>
    context.out.raw(`[${typedString(picture.alt, "text", context)}]${link}\n\n`),
  );
}
