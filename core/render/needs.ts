import { needsOf } from "../blocks";
import { type Block, whenAddress } from "../email";
import type { RenderContext } from "../markup";

/**
 * Writes a block for the readers for whom it has what it is about, such as a picture whose address is a tag; `otherwise`
 * for those for whom the tag is empty.
 */
export function whenNeeded(
  block: Block,
  context: RenderContext,
  body: () => void,
  otherwise?: () => void,
): void {
  const { src, href } = needsOf(block);
  const landing = context.part === "text" ? "textLink" : "link";
  const withLink = () => {
    if (href === undefined) body();
    else whenAddress(href, landing, context, body, otherwise);
  };
  if (src === undefined) withLink();
  else whenAddress(src, "src", context, withLink, otherwise);
}
