/** What each kind of thing looks like where nobody has said otherwise: a new kind is a few lines here. */
import type { SourceKind } from "../../items";
import type { PicksBlock } from "../picks";
import type { ItemsBlock } from ".";

type Look = Partial<
  Pick<ItemsBlock, "arranged" | "across" | "radius" | "textLength" | "leadsBy" | "linkWords" | "off">
>;

/** By what its source is: how an item of it is arranged, what is said of it, and how it leads on. */
export const ITEM_LOOKS: Readonly<Record<SourceKind, Look>> = {
  feed: {
    arranged: "list",
    radius: 4,
    textLength: 140,
    leadsBy: "words",
    linkWords: "Read on",
    off: ["badge", "date", "place", "facts", "price", "stock", "calendar"],
  },
  catalogue: {},
  calendar: {
    arranged: "list",
    leadsBy: "button",
    linkWords: "Register",
    off: ["badge", "facts", "price", "stock"],
  },
  records: { textLength: 200, off: ["badge", "date", "stock", "calendar"] },
};

/** Lists that the shelf offers ready set. */
export const READY_LISTS = {
  articles: {
    label: "Articles",
    words: "feed rss journal news posts newest",
    from: "feed",
    ways: [{ id: "1", by: "newest" }],
    count: 3,
  },
  events: {
    label: "Events",
    words: "calendar appointments workshops dates next",
    from: "calendar",
    ways: [{ id: "1", by: "soonest" }],
    count: 3,
  },
} as const satisfies Record<
  string,
  { label: string; words: string; from: SourceKind; ways: PicksBlock["ways"]; count: number }
>;
export type ReadyList = keyof typeof READY_LISTS;

/** What such a list says otherwise than one that comes without. */
export function readyList(name: ReadyList): Partial<PicksBlock> {
  const { from, ways, count } = READY_LISTS[name];
  return { ...ITEM_LOOKS[from], ways: ways.map((way) => ({ ...way })), count } as Partial<PicksBlock>;
}
