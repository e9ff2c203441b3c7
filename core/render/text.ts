import type { Rule } from "../audience";
import { blockType } from "../blocks";
import type { Block, Email } from "../email";
import { type RenderContext, writeInline } from "../markup";
import { whenNeeded } from "./needs";

/** Writes the plain-text part: what stands in the design, in reading order, for those who get it. */
export function writeText(email: Email, context: RenderContext): void {
  const { out } = context;
  /** What phones alone show is said otherwise elsewhere already. */
  const writeUnlessHidden = (node: { show?: Rule; hideOn?: "phone" | "desktop" }, body: () => void) => {
    if (node.hideOn !== "desktop") out.when(node.show, body);
  };
  for (const section of email.sections) {
    writeUnlessHidden(section, () => {
      for (const row of section.rows) {
        writeUnlessHidden(row, () => {
          for (const column of row.columns) {
            for (const block of column.blocks) writeUnlessHidden(block, () => writeBlockText(block, context));
          }
        });
      }
    });
  }
}

/** Writes the text of one block: its own words, or what its type gives. */
export function writeBlockText(block: Block, context: RenderContext): void {
  const { ownText } = block;
  whenNeeded(block, context, () => {
    if (!ownText) blockType(block.type)?.text(block, context);
    else if (ownText.words.length > 0) {
      writeInline(ownText.words, context);
      context.out.raw("\n\n");
    }
  });
}
