import { lightnessOf } from "../color";
import {
  DEFAULT_THEME,
  FontStackSchema,
  type Inline,
  inlineText,
  linesOf,
  proposedTheme,
  type Theme,
} from "../email";
import type { Band, Bit } from "./bits";
import type { Look } from "./look";

/** How much of a letter looks so, in signs. */
class Tally<T> {
  private readonly found = new Map<string, { value: T; count: number }>();

  add(value: T, count: number): void {
    const key = JSON.stringify(value);
    const one = this.found.get(key) ?? { value, count: 0 };
    this.found.set(key, { value, count: one.count + count });
  }

  /** All of them, most of it first. */
  get ranked(): T[] {
    return [...this.found.values()].sort((one, other) => other.count - one.count).map(({ value }) => value);
  }
}

/** What most of a letter looks like. */
export interface Habit {
  /** Of words, in px. */
  size: number;
  color: string;
  /** Behind most of the words. */
  paper: string;
  /** Behind the letter. */
  table: string;
  stack: string;
  line: number | null;
}

const bitsOf = (bands: readonly Band[]): Bit[] =>
  bands.flatMap(({ sides }) => sides.flatMap(({ bits }) => bits));

/** How many signs a bit has. */
function signsOf(bit: Bit): number {
  switch (bit.kind) {
    case "line":
    case "button":
      return inlineText(bit.content).length;
    case "words":
    case "quote":
      return linesOf({ type: "doc", content: bit.nodes }).reduce(
        (sum, line) => sum + inlineText(line).length,
        0,
      );
    case "table":
      return bit.rows.flat().reduce((sum, cell) => sum + inlineText(cell).length, 0);
    default:
      return 0;
  }
}

export function habitOf(bands: readonly Band[]): Habit {
  const sizes = new Tally<number>();
  const colors = new Tally<string>();
  const grounds = new Tally<string>();
  const tables = new Tally<string>();
  const stacks = new Tally<string>();
  const lines = new Tally<number>();
  for (const { ground, outer, sides } of bands) {
    for (const { bits, ground: own } of sides)
      for (const bit of bits) {
        const signs = signsOf(bit);
        if (bit.kind === "image") grounds.add(own ?? ground, 40);
        if (signs === 0 || bit.kind === "button") continue;
        grounds.add(own ?? ground, signs);
        tables.add(outer, signs);
        sizes.add(Math.round(bit.look.size), signs);
        if (bit.look.stack) stacks.add(bit.look.stack, signs);
        if (bit.look.line) lines.add(Math.round(bit.look.line * 20) / 20, signs);
      }
  }
  const [paper = "#FFFFFF"] = grounds.ranked;
  const size = sizes.ranked[0] ?? 16;
  for (const { ground, sides } of bands)
    for (const { bits, ground: own } of sides)
      for (const bit of bits)
        if ((own ?? ground) === paper && Math.abs(bit.look.size - size) < 3)
          colors.add(bit.look.color, signsOf(bit));
  return {
    size,
    paper,
    color: colors.ranked[0] ?? "#000000",
    table: tables.ranked[0] ?? "#FFFFFF",
    stack: stacks.ranked[0] ?? "",
    line: lines.ranked[0] ?? null,
  };
}

/**
 * The level of a line by its size and weight among the words of a letter; null for plain words.
 * @param said the level that the letter itself gives it
 */
export function levelOf(bit: Bit & { kind: "line" }, habit: Habit): 1 | 2 | 3 | null {
  const ratio = bit.look.size / habit.size;
  const words = inlineText(bit.content).trim();
  if (bit.level !== null) return ratio >= 1.7 ? 1 : ratio >= 1.25 ? 2 : bit.level === 1 ? 1 : 3;
  // What leads somewhere asks for something; it is no heading.
  if (ratio < 1.3 && isLink(bit.content)) return null;
  const short = words.length <= 90 && !/[.,;:]$/.test(words);
  if (ratio >= 1.7 && words.length <= 160) return 1;
  if (ratio >= 1.3 && words.length <= 160) return 2;
  if (bit.look.bold && short && ratio >= 0.95) return 3;
  return null;
}

/** The stack of a theme from what a letter wrote; the theme's own when it is none. */
function stackOf(stack: string, otherwise: string): string {
  const known = stack
    .replace(/!important/gi, "")
    .split(",")
    .map((name) => name.trim().replace(/^'(.*)'$/, "$1"))
    .filter((name) => /^[\w -]+$/.test(name) && !/^-/.test(name));
  if (known.length === 0) return otherwise;
  const generic = known.find((name) => /^(serif|sans-serif|monospace)$/i.test(name));
  const families = known.filter(
    (name) => !/^(serif|sans-serif|monospace|cursive|fantasy|system-ui)$/i.test(name),
  );
  const text = [
    ...families.map((name) => (/[ \d]/.test(name) ? `'${name}'` : name)),
    generic?.toLowerCase() ?? "sans-serif",
  ].join(", ");
  return FontStackSchema.safeParse(text).success ? text : otherwise;
}

const clamp = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/**
 * A theme that looks as a letter did: its grounds, type, sizes and buttons.
 * @param width of the letter, in px, where it says so
 * @param linkColour of links within words, where they have one of their own
 */
export function themeOf(
  bands: readonly Band[],
  habit: Habit,
  linkColour: string | null,
  width: number | null,
  name: string,
): Theme {
  const bits = bitsOf(bands);
  const onPaper = bands.flatMap(({ ground, sides }) =>
    sides.flatMap((side) => ((side.ground ?? ground) === habit.paper ? side.bits : [])),
  );
  const headings = new Map<number, Tally<Look>>();
  const faces = new Tally<{ face: string; color: string; radius: number; size: number; bold: boolean }>();
  for (const bit of bits) {
    if (bit.kind === "line") {
      const level = levelOf(bit, habit);
      if (level) headings.set(level, headings.get(level) ?? new Tally<Look>());
      if (level)
        headings
          .get(level)
          ?.add({ ...bit.look, align: "left", ground: "", line: null }, onPaper.includes(bit) ? 2 : 1);
    }
    if (bit.kind === "button" && bit.face)
      faces.add(
        {
          face: bit.face,
          color: bit.look.color,
          radius: bit.radius,
          size: bit.look.size,
          bold: bit.look.bold,
        },
        1,
      );
  }
  const [button] = faces.ranked;
  const ofLevel = (level: number) => headings.get(level)?.ranked[0];
  const top = ofLevel(1) ?? ofLevel(2) ?? ofLevel(3);
  const headingColor =
    onPaper.find((bit) => bit.kind === "line" && levelOf(bit, habit) !== null)?.look.color ?? habit.color;
  const link = linkColour ?? button?.face ?? DEFAULT_THEME.light.link;
  const base = proposedTheme([button?.face ?? link, link, headingColor], DEFAULT_THEME);
  const body = stackOf(habit.stack, DEFAULT_THEME.fonts.body);
  const level = (at: 1 | 2 | 3, otherwise: number) => {
    const look = ofLevel(at);
    return {
      ...base.headings[`h${at}`],
      size: clamp(Math.round(look?.size ?? habit.size * otherwise), 10, 120),
      weight: look ? (look.bold ? 700 : 400) : 700,
    };
  };
  const dark = lightnessOf(habit.paper) < 45;
  return {
    ...base,
    id: "",
    name,
    ...(width !== null && { width: clamp(Math.round(width), 320, 700) }),
    light: {
      ...base.light,
      table: habit.table,
      paper: habit.paper,
      text: habit.color,
      heading: headingColor,
      link,
      ...(button && { accent: button.face, onAccent: button.color }),
      ...(dark && { soft: habit.color }),
    },
    fonts: { body, heading: top ? stackOf(top.stack, body) : body },
    text: {
      ...base.text,
      size: clamp(Math.round(habit.size), 14, 24),
      ...(habit.line && { line: clamp(habit.line, 1, 2.4) }),
    },
    headings: { h1: level(1, 1.9), h2: level(2, 1.4), h3: level(3, 1.1) },
    button: {
      ...base.button,
      ...(button && {
        radius: clamp(button.radius, 0, 60),
        size: clamp(Math.round(button.size), 12, 32),
        weight: button.bold ? 700 : 500,
      }),
    },
    shape: { picture: 0, box: 0 },
  };
}

/** Whether all of some words is a link. */
const isLink = (content: readonly Inline[]) =>
  content.every((it) => it.type === "hardBreak" || (it.marks ?? []).some(({ type }) => type === "link"));
