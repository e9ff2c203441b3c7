import { type Code, LINK_END, LINK_START, type Op, ROW } from "../program";

/** How long a reader's value is taken to be, in characters: it is not known when lines are broken. */
const VALUE = 10;
/** The same for the number of a link. */
const NUMBER = 3;

/**
 * Breaks the lines of a text part at spaces so that they are at most `width` characters long, once for all readers:
 * values count as ten characters, so a line may come out a little shorter or longer. Lines of lists go on indented.
 * Addresses and other long words stay whole, and so do rows of tables. Ops keep their number and order, so jumps stay
 * right; where several ways meet, the line counts as long as on the longest.
 */
export function wrapCode(code: Code, width: number): Code {
  if (width <= 0) return code;
  let column = 0;
  let indent = "";
  let inRow = false;
  let inLink = false;
  /** How long the line is on the ways that jump to a place. */
  const arriving = new Map<number, number>();
  return code.map((op, index): Op => {
    const jumped = arriving.get(index);
    // Behind a jump nobody arrives on foot.
    if (jumped !== undefined) column = code[index - 1]?.op === "jump" ? jumped : Math.max(column, jumped);
    if (op.op === "item") {
      // An item has lines of its own, and ends with one.
      column = 0;
      return op;
    }
    if (op.op !== "static" && op.op !== "value") {
      arriving.set(op.to, Math.max(arriving.get(op.to) ?? 0, column));
      return op;
    }
    if (op.op === "value") {
      column += VALUE;
      return op;
    }
    let text = "";
    for (let at = 0; at < op.text.length; at++) {
      const sign = op.text[at];
      if (sign === "\n") {
        column = 0;
        indent = "";
        inRow = false;
        text += sign;
      } else if (sign === ROW || sign === LINK_START || sign === LINK_END) {
        inRow ||= sign === ROW;
        inLink = sign === LINK_START;
        if (inLink) column += NUMBER;
        text += sign;
      } else if (inRow || inLink) text += sign;
      else if (
        sign === " " &&
        column > indent.length &&
        column + 1 + wordLength(code, index, at + 1) > width
      ) {
        text += `\n${indent}`;
        column = indent.length;
      } else {
        if (column === 0) indent = hanging(op.text.slice(at, at + 12));
        text += sign;
        column++;
      }
    }
    return { op: "static", text };
  });
}

/** The spaces under which a line goes on: below the words of a list, not below its mark. */
function hanging(line: string): string {
  const mark = /^( *)([-*]|\d{1,3}\.) /.exec(line);
  return mark ? " ".repeat(mark[0].length) : "";
}

/** How long the word is that begins at a place, also when it goes on in values and further static text. */
function wordLength(code: Code, from: number, place: number): number {
  let length = 0;
  let start = place;
  let inLink = false;
  for (let index = from; index < code.length; index++) {
    const op = code[index];
    if (op.op === "value") length += VALUE;
    else if (op.op === "item") return length;
    // Of several cases the first counts, and what not everybody gets.
    else if (op.op === "jump") index = op.to - 1;
    else if (op.op === "static") {
      for (let at = start; at < op.text.length; at++) {
        const sign = op.text[at];
        if (sign === " " || sign === "\n") return length;
        if (sign === LINK_START) length += NUMBER;
        if (sign === LINK_START || sign === LINK_END) inLink = sign === LINK_START;
        else if (!inLink) length++;
      }
    }
    start = 0;
  }
  return length;
}
