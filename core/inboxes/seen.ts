import { type Inversion, invertedGround, invertedText } from "../color";
import type { InboxName } from "./classes";
import { type Document, type Element, elementsOf, readPage, writePage } from "./page";
import {
  type Declarations,
  readColor,
  readDeclarations,
  readSheet,
  writeColor,
  writeDeclarations,
  writeSheet,
} from "./style";
import { likeWordProcessor, takeConditional } from "./word";

/** What a message is shown on, where its style block has a say there. */
export interface On {
  /** Whether the window is a phone's. */
  phone?: boolean;
  /** How many times as large letters are as they are written. */
  letters?: number;
}

/**
 * A message's HTML as a class of mail programs shows it, as a page that a browser shows the same wherever it runs.
 * @param html a whole message, as `personalise` gives it
 */
export function asSeen(html: string, inbox: InboxName, on: On = {}): string {
  const page = readPage(inbox === "word" ? takeConditional(html) : html);
  if (on.phone) onPhone(page);
  if (on.letters && on.letters !== 1) enlarge(page, on.letters);
  switch (inbox) {
    case "light":
      chooseScheme(page, false);
      break;
    case "dark":
      chooseScheme(page, true);
      break;
    case "stripped":
      for (const element of elementsOf(page)) delete element.attribs.class;
      removeAll(page, "style");
      break;
    case "word":
      removeAll(page, "style");
      likeWordProcessor(page);
      break;
    case "picturesOff":
      chooseScheme(page, false);
      withoutPictures(page);
      break;
    case "partial":
    case "full":
      chooseScheme(page, false);
      invert(page, inbox);
      break;
  }
  return writePage(page);
}

function removeAll(page: Document, name: string): void {
  for (const element of elementsOf(page)) {
    if (element.name !== name || !element.parent) continue;
    element.parent.children = element.parent.children.filter((child) => child !== element);
  }
}

/** Settles which of the two colour schemes holds, so that the machine's own has no say. */
function chooseScheme(page: Document, dark: boolean): void {
  editSheets(page, (css) =>
    writeSheet(
      readSheet(css).flatMap((sheet) => {
        if (!sheet.media?.includes("prefers-color-scheme")) return [sheet];
        return dark ? [{ ...sheet, media: null }] : [];
      }),
    ),
  );
  for (const element of elementsOf(page))
    if (element.name === "meta" && /color-scheme/.test(element.attribs.name ?? ""))
      element.attribs.content = "light";
}

/** Makes letters larger, and nothing else, as readers set it in their mail programs. */
function enlarge(page: Document, times: number): void {
  const larger = (declarations: Declarations): Declarations =>
    declarations.map(([name, value]) =>
      name === "font-size"
        ? [
            name,
            value.replace(/([\d.]+)px/, (_, size) => `${Math.round(Number(size) * times * 100) / 100}px`),
          ]
        : [name, value],
    );
  editStyles(page, larger);
  editSheets(page, (css) =>
    writeSheet(
      readSheet(css).map((sheet) => ({
        ...sheet,
        rules: sheet.rules.map((rule) => ({ ...rule, declarations: larger(rule.declarations) })),
      })),
    ),
  );
}

/** Settles that what is for narrow windows holds, whatever the window. */
function onPhone(page: Document): void {
  editSheets(page, (css) =>
    writeSheet(
      readSheet(css).map((sheet) => (sheet.media?.includes("max-width") ? { ...sheet, media: null } : sheet)),
    ),
  );
}

function editSheets(page: Document, edit: (css: string) => string): void {
  for (const element of elementsOf(page)) {
    if (element.name !== "style") continue;
    for (const child of element.children) if ("data" in child) child.data = edit(child.data as string);
  }
}

function editStyles(
  page: Document,
  edit: (declarations: Declarations, element: Element) => Declarations,
): void {
  for (const element of elementsOf(page)) {
    if (element.attribs.style === undefined) continue;
    const next = edit(readDeclarations(element.attribs.style), element);
    if (next.length > 0) element.attribs.style = writeDeclarations(next);
    else delete element.attribs.style;
  }
}

function withoutPictures(page: Document): void {
  for (const element of elementsOf(page)) {
    if (element.name === "img") delete element.attribs.src;
    delete element.attribs.background;
  }
  editStyles(page, (declarations) => declarations.filter(([name]) => name !== "background-image"));
}

const isGround = (name: string) => name === "background-color" || name === "background";

function inverted([name, value]: Declarations[number], how: Inversion): Declarations[number] {
  if (name.startsWith("border") && name !== "border-radius") {
    const line = value.replace(/#[0-9a-f]{6}\b/gi, (hex) => invertedText(hex.toUpperCase(), how));
    return [name, line];
  }
  if (name !== "color" && !isGround(name)) return [name, value];
  const color = readColor(value);
  if (!color) return [name, value];
  const important = /!important$/i.test(value) ? " !important" : "";
  const hex = name === "color" ? invertedText(color.hex, how) : invertedGround(color.hex, how);
  return [name, writeColor({ ...color, hex }) + important];
}

function invert(page: Document, how: Inversion): void {
  editSheets(page, (css) =>
    writeSheet(
      readSheet(css).map((sheet) => ({
        ...sheet,
        rules: sheet.rules.map((rule) => ({
          ...rule,
          declarations: rule.declarations.map((one) => inverted(one, how)),
        })),
      })),
    ),
  );
  editStyles(page, (declarations) => declarations.map((one) => inverted(one, how)));
  for (const element of elementsOf(page)) {
    const ground = element.attribs.bgcolor && readColor(element.attribs.bgcolor);
    if (ground) element.attribs.bgcolor = invertedGround(ground.hex, how);
  }
}
