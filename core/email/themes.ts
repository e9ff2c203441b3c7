import { FONTS, WEB_FONTS } from "./fonts";
import { DEFAULT_THEME, type HeadingLook, type Theme } from "./theme";

/** A heading's look: size, line height and weight, and what else there is to say. */
const heading = (
  size: number,
  line: number,
  weight: number,
  more: Partial<HeadingLook> = {},
): HeadingLook => ({
  size,
  line,
  weight,
  ...more,
});

const [FRAUNCES, NEWSREADER, BRICOLAGE] = WEB_FONTS.map(({ stack }) => stack);
const [SANS, , ROUND, SERIF] = FONTS.map(({ stack }) => stack);

const garden: Theme = {
  ...DEFAULT_THEME,
  id: "garden",
  name: "Kitchen garden",
  width: 640,
  light: {
    table: "#E9EDE2",
    paper: "#FBF8F1",
    text: "#2D322A",
    soft: "#5F6659",
    heading: "#1F3A2A",
    link: "#22633F",
    accent: "#2A5E3C",
    onAccent: "#FFFFFF",
    line: "#DED8C8",
  },
  dark: {
    table: "#141813",
    paper: "#1D231C",
    text: "#E3E8DD",
    soft: "#A9B3A1",
    heading: "#F0F5EA",
    link: "#93D2A9",
    accent: "#93D2A9",
    onAccent: "#10281A",
    line: "#3A4438",
  },
  fonts: { body: SERIF, heading: SERIF },
  headings: {
    h1: heading(44, 1.1, 400, { phone: 34, tracking: -10 }),
    h2: heading(28, 1.18, 400, { phone: 26 }),
    h3: heading(18, 1.3, 700),
  },
};

const plum: Theme = {
  ...DEFAULT_THEME,
  id: "plum",
  name: "Plum shed",
  light: {
    table: "#EFE9F0",
    paper: "#FFFFFF",
    text: "#33283A",
    soft: "#6B5F73",
    heading: "#3C1F4D",
    link: "#6B2D8C",
    accent: "#5B2A78",
    onAccent: "#FFFFFF",
    line: "#E0D6E4",
  },
  dark: {
    table: "#17121A",
    paper: "#221A27",
    text: "#E9E1EE",
    soft: "#B5A8BD",
    heading: "#F5EEF9",
    link: "#D5A8EE",
    accent: "#D5A8EE",
    onAccent: "#2C1239",
    line: "#42364A",
  },
  headings: {
    h1: heading(40, 1.1, 700, { phone: 33, tracking: -15 }),
    h2: heading(26, 1.2, 700, { tracking: -5 }),
    h3: heading(17, 1.3, 700),
  },
};

/** A letter: one serif, narrow, wide lines, nothing round. */
const frost: Theme = {
  ...DEFAULT_THEME,
  id: "frost",
  name: "First frost",
  width: 560,
  light: {
    table: "#FFFFFF",
    paper: "#FFFFFF",
    text: "#23262B",
    soft: "#5C636E",
    heading: "#14171C",
    link: "#1C4F7C",
    accent: "#1F3B57",
    onAccent: "#FFFFFF",
    line: "#D5DAE0",
  },
  dark: {
    table: "#14171B",
    paper: "#14171B",
    text: "#DEE3EA",
    soft: "#A3ACB8",
    heading: "#F3F6FA",
    link: "#9CC8EE",
    accent: "#B9D3EA",
    onAccent: "#13283C",
    line: "#363D46",
  },
  fonts: { body: NEWSREADER, heading: NEWSREADER },
  text: { size: 18, line: 1.6, gap: 18 },
  headings: {
    h1: heading(34, 1.15, 400, { tracking: -10 }),
    h2: heading(24, 1.25, 500),
    h3: heading(13, 1.4, 600, { tracking: 120, capitals: true }),
  },
  button: { radius: 0, padX: 26, padY: 14, size: 16, weight: 500 },
  shape: { picture: 0, box: 0 },
  space: { inset: 48, block: 12, section: 28, gap: 24 },
};

/** One loud voice on yellow. */
const market: Theme = {
  ...DEFAULT_THEME,
  id: "market",
  name: "Market day",
  light: {
    table: "#F2C14E",
    paper: "#F2C14E",
    text: "#241A05",
    soft: "#4C3A12",
    heading: "#241A05",
    link: "#4A2C00",
    accent: "#241A05",
    onAccent: "#F9D77E",
    line: "#B98C1F",
  },
  dark: {
    table: "#1B1508",
    paper: "#1B1508",
    text: "#F5E6BF",
    soft: "#CDB98A",
    heading: "#F8D36B",
    link: "#F8D36B",
    accent: "#F2C14E",
    onAccent: "#241A05",
    line: "#5A4820",
  },
  fonts: { body: BRICOLAGE, heading: BRICOLAGE },
  text: { size: 17, line: 1.45, gap: 14 },
  headings: {
    h1: heading(72, 0.95, 800, { phone: 52, tracking: -30 }),
    h2: heading(32, 1.05, 800, { tracking: -15 }),
    h3: heading(18, 1.25, 700),
  },
  button: { radius: 0, padX: 28, padY: 18, size: 18, weight: 800 },
  shape: { picture: 0, box: 0 },
  space: { inset: 32, block: 8, section: 24, gap: 16 },
};

/** Dark by day too: an invitation in cream on green. */
const greenhouse: Theme = {
  ...DEFAULT_THEME,
  id: "greenhouse",
  name: "Greenhouse",
  light: {
    table: "#1B372F",
    paper: "#24463C",
    text: "#F1E9DA",
    soft: "#C6CDBD",
    heading: "#FBF3E4",
    link: "#F3DDA8",
    accent: "#F3E8D2",
    onAccent: "#1B372F",
    line: "#6E8B7D",
  },
  dark: {
    table: "#0F1F1A",
    paper: "#15291F",
    text: "#E8E2D3",
    soft: "#AFB9A8",
    heading: "#F7EFDF",
    link: "#EFD79C",
    accent: "#EADFC6",
    onAccent: "#15291F",
    line: "#3E5A4C",
  },
  fonts: { body: SANS, heading: FRAUNCES },
  text: { size: 16, line: 1.55, gap: 14 },
  headings: {
    h1: heading(48, 1.08, 400, { phone: 38, tracking: -10 }),
    h2: heading(28, 1.15, 400),
    h3: heading(12, 1.5, 600, { tracking: 180, capitals: true }),
  },
  button: { radius: 30, padX: 30, padY: 14, size: 15, weight: 600 },
  shape: { picture: 4, box: 4 },
  space: { inset: 48, block: 12, section: 32, gap: 20 },
};

/** A shelf of things: warm grey, soft serif, rounded pictures. */
const sill: Theme = {
  ...DEFAULT_THEME,
  id: "sill",
  name: "Window sill",
  width: 620,
  light: {
    table: "#F5F2EA",
    paper: "#F5F2EA",
    text: "#2F332E",
    soft: "#61665D",
    heading: "#24342B",
    link: "#2E6049",
    accent: "#2F5D4A",
    onAccent: "#FFFFFF",
    line: "#DCD6C6",
  },
  dark: {
    table: "#191B17",
    paper: "#191B17",
    text: "#E6E5DC",
    soft: "#AEB1A3",
    heading: "#F4F2E6",
    link: "#A6D7BD",
    accent: "#A6D7BD",
    onAccent: "#13291F",
    line: "#3C4037",
  },
  fonts: { body: SANS, heading: FRAUNCES },
  text: { size: 15, line: 1.5, gap: 10 },
  headings: {
    h1: heading(38, 1.1, 500, { phone: 32, tracking: -10 }),
    h2: heading(21, 1.2, 500),
    h3: heading(15, 1.35, 600),
  },
  links: { underline: false, weight: 600 },
  button: { radius: 8, padX: 20, padY: 11, size: 15, weight: 600 },
  shape: { picture: 10, box: 10 },
  space: { inset: 28, block: 8, section: 20, gap: 14 },
};

/** A front page: black rules on white, one warm colour. */
const notes: Theme = {
  ...DEFAULT_THEME,
  id: "notes",
  name: "Row notes",
  light: {
    table: "#FFFFFF",
    paper: "#FFFFFF",
    text: "#2A2A2A",
    soft: "#636363",
    heading: "#151515",
    link: "#A8381A",
    accent: "#B23E1E",
    onAccent: "#FFFFFF",
    line: "#151515",
  },
  dark: {
    table: "#161616",
    paper: "#161616",
    text: "#E4E4E2",
    soft: "#ABABA8",
    heading: "#F7F7F4",
    link: "#FFAA8C",
    accent: "#FFA084",
    onAccent: "#3A1206",
    line: "#8A8A86",
  },
  fonts: { body: SANS, heading: BRICOLAGE },
  text: { size: 16, line: 1.5, gap: 14 },
  headings: {
    h1: heading(40, 1.05, 800, { phone: 34, tracking: -20 }),
    h2: heading(26, 1.12, 700, { tracking: -10 }),
    h3: heading(17, 1.25, 700),
  },
  links: { underline: false, weight: 700 },
  button: { radius: 0, padX: 22, padY: 13, size: 15, weight: 700 },
  shape: { picture: 0, box: 0 },
  space: { inset: 36, block: 10, section: 18, gap: 24 },
};

/** A question asked kindly: violet on lavender. */
const lilac: Theme = {
  ...DEFAULT_THEME,
  id: "lilac",
  name: "Lilac",
  width: 580,
  light: {
    table: "#DCD2EA",
    paper: "#E9E2F3",
    text: "#2F2742",
    soft: "#574E6C",
    heading: "#241B3A",
    link: "#4B2E93",
    accent: "#2C2145",
    onAccent: "#FFFFFF",
    line: "#BFB1D6",
  },
  dark: {
    table: "#15111D",
    paper: "#1E192A",
    text: "#E6E0F1",
    soft: "#B2A8C4",
    heading: "#F4F0FB",
    link: "#CDB8FA",
    accent: "#CDB8FA",
    onAccent: "#231740",
    line: "#40375A",
  },
  fonts: { body: BRICOLAGE, heading: BRICOLAGE },
  text: { size: 17, line: 1.5, gap: 14 },
  headings: {
    h1: heading(42, 1.08, 700, { phone: 34, tracking: -20 }),
    h2: heading(26, 1.15, 700, { tracking: -10 }),
    h3: heading(18, 1.3, 600),
  },
  button: { radius: 12, padX: 26, padY: 15, size: 17, weight: 700 },
  shape: { picture: 16, box: 16 },
  space: { inset: 36, block: 12, section: 28, gap: 16 },
};

/** Sea air: pale blue, teal, type that is everywhere. */
const harbour: Theme = {
  ...DEFAULT_THEME,
  id: "harbour",
  name: "Harbour",
  light: {
    table: "#D7E6EA",
    paper: "#F4FAFB",
    text: "#21333A",
    soft: "#51666E",
    heading: "#0E3B48",
    link: "#0A6070",
    accent: "#0E6272",
    onAccent: "#FFFFFF",
    line: "#B9D0D6",
  },
  dark: {
    table: "#0D171A",
    paper: "#132226",
    text: "#DDEAED",
    soft: "#A0B6BC",
    heading: "#EEF8FA",
    link: "#7ED3E2",
    accent: "#7ED3E2",
    onAccent: "#07272E",
    line: "#2E454B",
  },
  fonts: { body: ROUND, heading: ROUND },
  headings: {
    h1: heading(34, 1.15, 700),
    h2: heading(24, 1.2, 700),
    h3: heading(13, 1.45, 700, { tracking: 90, capitals: true }),
  },
  button: { radius: 24, padX: 26, padY: 12, size: 16, weight: 700 },
  shape: { picture: 8, box: 12 },
};

/** Themes that come with the program, each with a light and a dark palette. */
export const THEMES: readonly Theme[] = [
  DEFAULT_THEME,
  garden,
  plum,
  frost,
  market,
  greenhouse,
  sill,
  notes,
  lilac,
  harbour,
];

/** The theme with that id, or the plain one when it is gone. */
export function resolveTheme(id: string, themes: readonly Theme[] = THEMES): Theme {
  return themes.find((theme) => theme.id === id) ?? DEFAULT_THEME;
}
