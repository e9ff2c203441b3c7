import {
  contrast,
  DISTINCT,
  darkenedFor,
  invertedGround,
  invertedText,
  READABLE,
  readableOn,
} from "../color";
import { type Fill, fillColor, type Theme } from "../email";
import type { Ground, RenderContext } from "./context";

/** The theme's colours for words, and for lines. */
export type TextRole = "text" | "soft" | "heading" | "link" | "onAccent";
/** The theme's colours for what stands behind words. */
export type GroundRole = "table" | "paper" | "accent";

/** The class by which a role's dark colour stands in the style block. */
const ROLE_CLASS: Record<TextRole | GroundRole | "line", string> = {
  text: "d-text",
  soft: "d-soft",
  heading: "d-head",
  link: "d-link",
  onAccent: "d-onface",
  table: "d-table",
  paper: "d-paper",
  accent: "d-face",
  line: "d-line",
};

/** A colour as it is written inline, and the class that changes it in dark; empty where nothing changes. */
export interface Tone {
  color: string;
  tone: string;
}

/** The theme's words that are moved at all are moved to where they can be read at ease, also when inverted. */
const AT_EASE = 7;
/** Words below this contrast are not there for anybody: the colour was chosen on another ground. */
const UNSEEN = 2;
/** How far dark grounds stay from the theme's dark words: enough for small and coloured words too. */
const DARK_GROUND = 7;
const DARKENED = 9;

type Toned = Pick<RenderContext, "theme" | "ground" | "tones">;

/** The class of a dark colour that is not the theme's own; the style block says what it means. */
function classOf(what: "t" | "g" | "l", color: string, { tones }: Toned): string {
  const name = `d-${what}-${color.slice(1).toUpperCase()}`;
  tones.add(name);
  return name;
}

/** The rules for dark colours that are not the theme's own. */
export function toneCss(tones: Iterable<string>): string {
  const properties: Record<string, string> = { t: "color", g: "background-color", l: "border-color" };
  return [...tones]
    .sort()
    .map((name) => `.${name}{${properties[name[2]]}:#${name.slice(4)}!important}`)
    .join("");
}

/** The rules for the theme's own dark colours. */
export function roleCss({ dark }: Theme): string {
  const properties = (role: string) =>
    role === "line"
      ? "border-color"
      : role === "table" || role === "paper" || role === "accent"
        ? "background-color"
        : "color";
  return (Object.entries(ROLE_CLASS) as [keyof typeof ROLE_CLASS, string][])
    .map(([role, name]) => `.${name}{${properties(role)}:${dark[role]}!important}`)
    .join("");
}

const isOneGround = ({ light, dark }: Ground) => light === dark;

/** What words of the designer's own become in light: they stay, unless nobody could see them. */
export function lightInk(own: string, { light }: Ground): string {
  return contrast(own, light) < UNSEEN ? readableOn(own, light, READABLE, AT_EASE) : own;
}

/**
 * The theme's words on a ground: its own colour where that can be read, else its words for buttons or its paper, where
 * one of them stands out well, so that a part in a strong colour still looks like the theme; else moved until it can.
 */
function themedInk(role: TextRole, { theme: { light }, ground }: Toned): string {
  const own = light[role];
  if (contrast(own, ground.light) >= READABLE) return own;
  return (
    [light.onAccent, light.paper].find((color) => contrast(color, ground.light) >= AT_EASE) ??
    readableOn(own, ground.light, READABLE, AT_EASE)
  );
}

/**
 * The colour of words where they stand. The theme's own are moved until they can be read on a ground of the designer's;
 * the designer's stay in light, unless nobody could see them (chosen under another theme), and are moved in dark.
 */
export function ink(own: string | undefined, role: TextRole, context: Toned): Tone {
  const { theme, ground } = context;
  const color = own === undefined ? themedInk(role, context) : lightInk(own, ground);
  if (isOneGround(ground)) return { color, tone: "" };
  const dark = readableOn(own ?? theme.dark[role], ground.dark, READABLE, own ? READABLE : AT_EASE);
  if (!own && dark === theme.dark[role]) return { color, tone: ROLE_CLASS[role] };
  return { color, tone: dark === color ? "" : classOf("t", dark, context) };
}

/** What a ground of the designer's own becomes in dark. */
export function darkGround(own: string, { dark }: Theme): string {
  return darkenedFor(own, dark.text, DARK_GROUND, DARKENED);
}

/**
 * What a part stands on, in light and in dark. The theme's accent and headings are darkened like a colour of the
 * designer's: in dark they are made for small things, and a whole part in them would glare.
 */
export function filled(fill: Fill, theme: Theme): Ground {
  const light = fillColor(fill, theme);
  return { light, dark: fill === "table" ? theme.dark.table : darkGround(light, theme) };
}

/** A ground of the designer's own, or the theme's, with the context for what stands on it. */
export function ground<C extends Toned>(
  own: Fill | undefined,
  role: Exclude<GroundRole, "accent">,
  context: C,
): Tone & { inside: C } {
  const { theme } = context;
  const themed = own === "table" ? own : own === undefined ? role : null;
  const { light, dark } =
    own === undefined ? { light: theme.light[role], dark: theme.dark[role] } : filled(own, theme);
  return {
    color: light,
    tone: themed ? ROLE_CLASS[themed] : dark === light ? "" : classOf("g", dark, context),
    inside: { ...context, ground: { light, dark } },
  };
}

/** What a face becomes in dark: it stays, as long as it stands out. */
export function darkFace(face: string, { dark }: Ground): string {
  return readableOn(face, dark, DISTINCT);
}

/**
 * The theme's face where it stands: on a ground it would drown in, its colour and that of its words change places, or
 * it is moved when neither stands out. A face half as light would not do: where only what is clearly light or dark is
 * inverted, it would stay and its words would turn.
 */
function lightFace({ accent, onAccent }: Theme["light"], ground: string): string {
  return (
    [accent, onAccent].find((color) => contrast(color, ground) >= DISTINCT) ??
    readableOn(accent, ground, DISTINCT)
  );
}

/**
 * The face of something to be pressed: the designer's own stays in dark, as long as it stands out. One that would not
 * where light grounds are turned dark and faces are left, gets an edge in the colour of its ground, which is not seen
 * until then.
 */
export function face<C extends Toned>(
  own: string | undefined,
  context: C,
): Tone & { inside: C; edge: (Tone & { css: string }) | null } {
  const { theme, ground } = context;
  const light = own ?? lightFace(theme.light, ground.light);
  const dark = isOneGround(ground) ? light : darkFace(own ?? theme.dark.accent, ground);
  const tone =
    dark === light
      ? ""
      : !own && dark === theme.dark.accent
        ? ROLE_CLASS.accent
        : classOf("g", dark, context);
  const color = edgeOf(light, ground.light, theme);
  const edge =
    color === null
      ? null
      : {
          color,
          css: `1px solid ${color}`,
          tone: isOneGround(ground) ? "" : classOf("l", ground.dark, context),
        };
  return { color: light, tone, inside: { ...context, ground: { light, dark } }, edge };
}

/**
 * The colour of the edge that a face needs to stand out from its ground where mail programs invert colours: that of the
 * ground or of the face, where one will do, since nobody sees it until then; else that of words on the face. Null where
 * the face stands out by itself.
 */
function edgeOf(face: string, ground: string, { light }: Theme): string | null {
  const stands = (edge: string | null) =>
    (["partial", "full"] as const).every((inversion) => {
      const behind = invertedGround(ground, inversion);
      return (
        contrast(invertedGround(face, inversion), behind) >= DISTINCT ||
        (edge !== null && contrast(invertedText(edge, inversion), behind) >= DISTINCT)
      );
    });
  if (stands(null)) return null;
  return [ground, face].find(stands) ?? readableOn(light.onAccent, face);
}

/** A ground that is the same in light and dark, such as a picture with the colour that stands in for it. */
export function fixedGround<C extends Toned>(color: string, context: C): C {
  return { ...context, ground: { light: color, dark: color } };
}

/** A line: the theme's follows the dark colours, the designer's own stays. */
export function edge(own: string | undefined, role: "line" | "accent", context: Toned): Tone {
  const { theme, ground } = context;
  if (own !== undefined) return { color: own, tone: "" };
  const color = theme.light[role];
  if (isOneGround(ground)) return { color, tone: "" };
  return { color, tone: role === "line" ? ROLE_CLASS.line : classOf("l", theme.dark[role], context) };
}

/** What a colour of the designer's own becomes in dark, on a ground that is told for both. */
export function darkInk(own: string, { light, dark }: Ground): string {
  return light === dark ? own : readableOn(own, dark);
}

/** A `class` attribute with a leading space, or nothing without names. */
export function classAttribute(...names: (string | false | undefined)[]): string {
  const all = names.filter(Boolean).join(" ");
  return all === "" ? "" : ` class="${all}"`;
}
