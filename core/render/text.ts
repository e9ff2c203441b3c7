import type { Rule } from "../audience";
import { blockType } from "../blocks";
import type { Block, Email, Row } from "../email";
import { type RenderContext, writeInline } from "../markup";
import { whenNeeded } from "./needs";

/**
 * Writes the plain-text part: what stands in the design, in reading order, for those who get it. What phones alone show is
 * said otherwise elsewhere already, but for the footer, which nobody may lack.
 */
export function writeText(email: Email, context: RenderContext): void {
  const { out } = context;
  const isFooter = ({ type }: Block) => blockType(type)?.fixed === true;
  const inside = (
    node: { show?: Rule; hideOn?: "phone" | "desktop" },
    blocks: readonly Block[],
    hidden: boolean,
    body: (hidden: boolean) => void,
  ) => {
    const here = hidden || node.hideOn === "desktop";
    if (!here || blocks.some(isFooter)) out.when(node.show, () => body(here));
  };
  const blocksIn = ({ columns }: Row) => columns.flatMap(({ blocks }) => blocks);
  for (const section of email.sections)
    inside(section, section.rows.flatMap(blocksIn), false, (inSection) => {
      for (const row of section.rows)
        inside(row, blocksIn(row), inSection, (inRow) => {
          for (const block of blocksIn(row))
            inside(block, [block], inRow, () => writeBlockText(block, context));
        });
    });
}

/** Writes the text of one block: its own words, or what its type gives. */
export function writeBlockText(block: Block, around: RenderContext): void {
  const { ownText } = block;
  const context = { ...around, block: block.id };
  whenNeeded(block, context, () => {
    if (!ownText) blockType(block.type)?.text(block, context);
    else if (ownText.words.length > 0) {
      writeInline(ownText.words, context);
      context.out.raw("\n\n");
    }
  });
}
