/** How items are arranged and what can be said of them: what all blocks that hold items declare. */
import { z } from "zod";
import type { Raw } from "../../email";
import { type Item, savingPercent } from "../../items";
import { CUT_RATIOS, type CutRatio } from "../../pictures";
import { align, choice, corners, held, list, number, type Properties, text } from "../../properties";
import type { BlockOf } from "../type";

/** What is said in a few words on an item: the number that is said of it, or null where nothing is. */
export const BADGES = {
  new: { label: "New within so many days", of: newWithin },
  few: {
    label: "At most so many left",
    of: ({ stock }: Item, most: number) => (stock !== undefined && stock > 0 && stock <= most ? stock : null),
  },
  saving: {
    label: "So many percent less",
    of: (item: Item, least: number) => (savingPercent(item) >= least ? savingPercent(item) : null),
  },
} as const;
type BadgeBy = keyof typeof BADGES;
const BADGE_OPTIONS = Object.entries(BADGES).map(([value, { label }]) => ({
  value: value as BadgeBy,
  label,
}));

/** Of an item of one of the last days their number; what is still to come is not new. */
function newWithin({ date }: Item, days: number, today: string): number | null {
  if (date === null) return null;
  const age = (Date.parse(today) - Date.parse(date.slice(0, 10))) / 86_400_000;
  return age >= 0 && age <= days ? days : null;
}

/** How items are arranged and what is said of them: the same for all blocks that hold items. */
export const ARRANGED = {
  arranged: choice(
    "Arranged",
    [
      { value: "grid", label: "Side by side" },
      { value: "list", label: "Picture beside words" },
      { value: "lead", label: "First one large" },
    ],
    { fresh: "grid", look: true, under: "Arrangement" },
  ),
  across: number(
    "Side by side",
    { min: 1, max: 4, unit: "" },
    { fresh: 2, whole: true, look: true, under: "Arrangement", when: { arranged: ["grid", "lead"] } },
  ),
  gap: number("Gap", { max: 60 }, { fresh: 20, look: true, under: "Arrangement" }),
  onPhones: choice(
    "On phones",
    [
      { value: "stack", label: "Stacked" },
      { value: "beside", label: "The same" },
    ],
    { fresh: "stack", look: true, under: "Arrangement" },
  ),
  align: align({ fresh: "left", under: "Arrangement" }),
  ratio: choice(
    "Pictures",
    (Object.keys(CUT_RATIOS) as CutRatio[]).map((value) => ({ value, label: value.replace("x", " : ") })),
    {
      none: "As they are",
      optional: true,
      look: true,
      part: "picture",
      under: "Arrangement",
      spoken: "Pictures are cut to",
    },
  ),
  radius: corners({ under: "Arrangement" }),
  shorten: choice(
    "Text to",
    [
      { value: "letters", label: "Characters" },
      { value: "lines", label: "Lines" },
    ],
    { fresh: "letters", look: true, part: "text", under: "Words", spoken: "Text is shortened to" },
  ),
  textLength: number(
    "At most",
    { min: 20, max: 1000, unit: "characters" },
    { fresh: 90, whole: true, look: true, part: "text", under: "Words", when: { shorten: "letters" } },
  ),
  textLines: number(
    "At most",
    { min: 1, max: 12, unit: "lines" },
    { fresh: 3, whole: true, look: true, part: "text", under: "Words", when: { shorten: "lines" } },
  ),
  facts: list(
    "fact",
    {
      fact: held("Fact", z.string().max(60), { fresh: "" }),
      label: text("Called", 60, { fresh: "", stays: true }),
    },
    { most: 12, part: "facts", under: "Words", fresh: [] },
  ),
  badges: list(
    "badge",
    {
      by: choice("When", BADGE_OPTIONS, { fresh: "new" }),
      than: number("Number", { min: 1, max: 999, unit: "" }, { fresh: 14, whole: true }),
      words: text("Words", 40, { fresh: "New", stays: true, hint: "# stands for the number." }),
    },
    { most: 4, part: "badge", under: "Words", fresh: [] },
  ),
  wasWords: text("Before the old price", 40, { fresh: "was", part: "price", under: "Words", stays: true }),
  soldWords: text("When sold out", 60, { fresh: "Sold out", part: "stock", under: "Words", stays: true }),
  leadsBy: choice(
    "Leads on by",
    [
      { value: "button", label: "A button" },
      { value: "words", label: "Words" },
    ],
    { fresh: "button", look: true, part: "button", under: "Words" },
  ),
  calendarWords: text("Into the calendar", 80, {
    fresh: "Add to my calendar",
    part: "calendar",
    under: "Words",
    stays: true,
  }),
  linkWords: text("Its words", 80, { fresh: "Have a look", part: "button", under: "Words", stays: true }),
} satisfies Properties;
export type Arranged = BlockOf<string, typeof ARRANGED>;

/** What can be switched off of an item. */
export const ITEM_PARTS = [
  { key: "picture", label: "Picture" },
  { key: "badge", label: "Badge" },
  { key: "title", label: "Title" },
  { key: "date", label: "Date" },
  { key: "place", label: "Place" },
  { key: "text", label: "Text" },
  { key: "facts", label: "Facts" },
  { key: "price", label: "Price" },
  { key: "stock", label: "Sold out" },
  { key: "button", label: "Link" },
  { key: "calendar", label: "Into the calendar" },
] as const;

/** What blocks of products come without. */
export const NO_PRODUCT_PARTS = ["date", "place", "facts", "calendar"];

/** To schema 3: what was added to the arrangement, as it was before there was a choice. */
export const arrangedAsBefore = (raw: Raw): Raw => ({
  arranged: "grid",
  shorten: "letters",
  textLines: 3,
  facts: [],
  badges: [],
  leadsBy: "button",
  calendarWords: "Add to my calendar",
  ...raw,
  off: [...new Set([...((raw.off as string[] | undefined) ?? []), ...NO_PRODUCT_PARTS])],
});
