import { Parser } from "htmlparser2";

const SILENT = new Set(["script", "style", "template", "noscript", "iframe", "head", "title"]);
const BREAKING = /^(p|br|div|li|ul|ol|h[1-6]|tr|table|blockquote|section|article|figure|hr)$/;

/** The words of an HTML fragment as one line of text: entities resolved, scripts and styles left out. */
export function htmlToPlain(html: string): string {
  if (!/[<&]/.test(html)) return html.replace(/\s+/g, " ").trim();
  let text = "";
  let silent = 0;
  const parser = new Parser(
    {
      onopentag(name) {
        if (SILENT.has(name)) silent++;
        else if (BREAKING.test(name)) text += " ";
      },
      onclosetag(name) {
        if (SILENT.has(name)) silent--;
        else if (BREAKING.test(name)) text += " ";
      },
      ontext(data) {
        if (silent === 0) text += data;
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  return text.replace(/\s+/g, " ").trim();
}
