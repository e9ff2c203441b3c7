/** Declarations of a `style` attribute or a rule, in order; a later one of the same name stands beside an earlier one. */
export type Declarations = [name: string, value: string][];

/** Reads declarations; semicolons within quotes and brackets part nothing. */
export function readDeclarations(text: string): Declarations {
  const found: Declarations = [];
  for (const part of text.match(/(?:[^;"'(]|"[^"]*"|'[^']*'|\([^)]*\))+/g) ?? []) {
    const colon = part.indexOf(":");
    if (colon < 0) continue;
    found.push([part.slice(0, colon).trim().toLowerCase(), part.slice(colon + 1).trim()]);
  }
  return found;
}

export function writeDeclarations(declarations: Declarations): string {
  return declarations.map(([name, value]) => `${name}:${value}`).join(";");
}

/** A style sheet in pieces: what holds always, and what holds under a media query. */
export interface Sheet {
  media: string | null;
  rules: { selector: string; declarations: Declarations }[];
}

/** Reads a style sheet of rules and media queries, without anything nested deeper. */
export function readSheet(css: string): Sheet[] {
  const sheets: Sheet[] = [{ media: null, rules: [] }];
  let at = 0;
  while (at < css.length) {
    const open = css.indexOf("{", at);
    if (open < 0) break;
    const head = css.slice(at, open).trim();
    if (head.startsWith("@")) {
      const close = closing(css, open);
      sheets.push({ media: head, rules: readSheet(css.slice(open + 1, close))[0].rules });
      at = close + 1;
    } else {
      const close = css.indexOf("}", open);
      const end = close < 0 ? css.length : close;
      sheets[0].rules.push({ selector: head, declarations: readDeclarations(css.slice(open + 1, end)) });
      at = end + 1;
    }
  }
  return sheets;
}

function closing(css: string, open: number): number {
  let depth = 0;
  for (let at = open; at < css.length; at++) {
    if (css[at] === "{") depth++;
    else if (css[at] === "}" && --depth === 0) return at;
  }
  return css.length;
}

export function writeSheet(sheets: readonly Sheet[]): string {
  return sheets
    .map(({ media, rules }) => {
      const body = rules
        .map(({ selector, declarations }) => `${selector}{${writeDeclarations(declarations)}}`)
        .join("");
      return media === null ? body : `${media}{${body}}`;
    })
    .join("");
}

/** A colour with its density from 0 to 1. */
export interface Color {
  hex: string;
  density: number;
}

/** Reads `#RGB`, `#RRGGBB`, `rgb()`, `rgba()` and a few names; null for what is none of them. */
export function readColor(text: string): Color | null {
  const value = text
    .replace(/\s*!important$/i, "")
    .trim()
    .toLowerCase();
  if (/^#[0-9a-f]{6}$/.test(value)) return { hex: value.toUpperCase(), density: 1 };
  if (/^#[0-9a-f]{3}$/.test(value))
    return { hex: `#${[...value.slice(1)].map((sign) => sign + sign).join("")}`.toUpperCase(), density: 1 };
  if (value === "transparent") return { hex: "#000000", density: 0 };
  if (value === "black") return { hex: "#000000", density: 1 };
  if (value === "white") return { hex: "#FFFFFF", density: 1 };
  const numbers = /^rgba?\(([^)]*)\)$/
    .exec(value)?.[1]
    .split(/[\s,/]+/)
    .map(Number);
  if (!numbers || numbers.length < 3 || numbers.some(Number.isNaN)) return null;
  const hex = numbers
    .slice(0, 3)
    .map((channel) => Math.round(channel).toString(16).padStart(2, "0"))
    .join("");
  return { hex: `#${hex}`.toUpperCase(), density: numbers[3] ?? 1 };
}

export function writeColor({ hex, density }: Color): string {
  if (density === 1) return hex;
  const channels = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  return `rgba(${channels.join(",")},${density})`;
}
