import { CELL, type Code, LINK_END, LINK_START, ROW } from "../program";

const LINK = new RegExp(`${LINK_START}([^${LINK_END}]*)${LINK_END}`, "g");
/** What a line of a table may be at most, in characters, where lines are not broken. */
const WIDEST = 100;

/** Whether anything in a text part is settled only when a reader's words are known. */
export function needsFinish(code: Code): boolean {
  return code.some(
    (op) =>
      op.op === "item" || (op.op === "static" && (op.text.includes(LINK_START) || op.text.includes(ROW))),
  );
}

/**
 * Finishes one reader's text part: numbers the links they have and lists them at the end, and sets tables in columns.
 * @param width greatest length of a line in characters, 0 for none: a table that is wider keeps its cells side by side
 */
export function finishText(text: string, width: number): string {
  return numberLinks(text.includes(ROW) ? alignTables(text, width > 0 ? width : WIDEST) : text);
}

function numberLinks(text: string): string {
  const addresses: string[] = [];
  const numbered = text.replace(LINK, (_, address: string) => {
    let at = addresses.indexOf(address);
    if (at < 0) at = addresses.push(address) - 1;
    return `[${at + 1}]`;
  });
  if (addresses.length === 0) return numbered;
  const list = addresses.map((address, index) => `[${index + 1}] ${address}\n`).join("");
  return `${numbered}Links\n${list}\n`;
}

/** The length of words as they will be read: a link's address takes the room of its number. */
const lengthOf = (cell: string) => [...cell.replace(LINK, "[00]")].length;

function alignTables(text: string, width: number): string {
  const lines = text.split("\n");
  const out: string[] = [];
  for (let at = 0; at < lines.length; at++) {
    if (!lines[at].startsWith(ROW)) {
      out.push(lines[at]);
      continue;
    }
    const rows: string[][] = [];
    for (; at < lines.length && lines[at].startsWith(ROW); at++)
      rows.push(lines[at].slice(ROW.length).split(CELL));
    at--;
    const count = Math.max(...rows.map((row) => row.length));
    const widths = Array.from({ length: count }, (_, column) =>
      Math.max(0, ...rows.map((row) => lengthOf(row[column] ?? ""))),
    );
    const total = widths.reduce((sum, one) => sum + one + 2, -2);
    for (const row of rows) {
      const rule = row.every((cell) => cell === "-");
      if (total > width) out.push(rule ? "-".repeat(Math.min(width, 20)) : row.join(" | "));
      else {
        const cells = widths.map((wide, column) => {
          const cell = row[column] ?? "";
          return rule ? "-".repeat(wide) : cell + " ".repeat(wide - lengthOf(cell));
        });
        out.push(cells.join("  ").trimEnd());
      }
    }
  }
  return out.join("\n");
}
