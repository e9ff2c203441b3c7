/** Tables without a header. */
import type { TableBlock } from "../../blocks";
import { commands } from "../../compose";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";

function design(email: Email): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] => {
    if (block.type !== "table") return [];
    const { header, rowHeads, rows, columns } = block as unknown as TableBlock;
    if (header || rowHeads || rows.length < 3 || columns.length < 2) return [];
    return [
      {
        weight: "could",
        text: "A table does not say what its columns are. Make its first row a header, if it is one.",
        block: block.id,
        mend: mendBy("The first row is a header", email, commands.set(block.id, { header: true })),
      },
    ];
  });
}

export const tableHeaderCheck: Check = {
  name: "table-header",
  group: "content",
  label: "tables that say what their columns are",
  why: "Read aloud, a cell says what it is by its header alone (WCAG 2.2, 1.3.1).",
  design,
};
