import { escapeHtml } from "../program";
import { type Piece, readHtml } from "./html";

/**
 * Reads plain text: empty lines part paragraphs, lines that begin with a dash or a number are items of a list, a
 * short line of its own without a full stop before a paragraph is a heading, addresses become links, and a rule of
 * signs is a divider.
 */
export function readText(text: string): Piece[] {
  const paragraphs = text
    .replace(/\r\n?/g, "\n")
    .split(/\n[ \t]*\n+/)
    .map((paragraph) => paragraph.replace(/^\n+|\s+$/g, ""))
    .filter((paragraph) => paragraph.trim() !== "");
  const html = paragraphs.map((paragraph, index) => {
    const lines = paragraph.split("\n").map((line) => line.trim());
    if (lines.length === 1 && /^[-=_*~–—\s]{3,}$/.test(lines[0])) return "<hr>";
    if (lines.every((line) => BULLET.test(line))) return list("ul", lines, BULLET);
    if (lines.every((line) => NUMBER.test(line))) return list("ol", lines, NUMBER);
    const underlined = lines.length === 2 && /^[-=]{3,}$/.test(lines[1]);
    if (underlined)
      return `<h${lines[1].startsWith("=") ? 1 : 2}>${escapeHtml(lines[0])}</h${lines[1].startsWith("=") ? 1 : 2}>`;
    const heading =
      lines.length === 1 &&
      lines[0].length <= 60 &&
      !/[.,;:!?…]$/.test(lines[0]) &&
      !ADDRESS.test(lines[0]) &&
      index < paragraphs.length - 1;
    if (heading) return `<h${index === 0 ? 1 : 2}>${escapeHtml(lines[0])}</h${index === 0 ? 1 : 2}>`;
    return `<p>${lines.map(linked).join("<br>")}</p>`;
  });
  return readHtml(html.join(""));
}

const BULLET = /^[-*•–]\s+/;
const NUMBER = /^\d{1,3}[.)]\s+/;
const ADDRESS = /https?:\/\/[^\s<>"]+[^\s<>".,;:!?)]/;

function list(tag: string, lines: readonly string[], mark: RegExp): string {
  return `<${tag}>${lines.map((line) => `<li>${linked(line.replace(mark, ""))}</li>`).join("")}</${tag}>`;
}

function linked(line: string): string {
  let html = "";
  let rest = line;
  for (let match = ADDRESS.exec(rest); match; match = ADDRESS.exec(rest)) {
    html += escapeHtml(rest.slice(0, match.index));
    html += `<a href="${escapeHtml(match[0])}">${escapeHtml(match[0])}</a>`;
    rest = rest.slice(match.index + match[0].length);
  }
  return html + escapeHtml(rest);
}
