/** What is odd about one finished message. */
import { CLIPPED } from "../inboxes";
import { blankIn } from "../preflight";

/** A message as it is finished: what somebody else reads in its octets, and what was meant. */
export interface Finished {
  /** As an independent parser reads it; a part that it does not find is null. */
  read: {
    from: { name: string; address: string };
    to: { name: string; address: string }[];
    subject: string;
    /** Where it is said how to unsubscribe (RFC 2369), as it stands there. */
    unsubscribe: string;
    html: string | null;
    text: string | null;
  };
  meant: {
    from: { name: string; address: string };
    to: { name: string; address: string };
    subject: string;
    unsubscribe: string;
    /** The codes that are written in it. */
    codes: readonly string[];
    /** Whether it is text alone. */
    textOnly: boolean;
  };
  /** Where a link leads at last, though its address counts who follows it. */
  leadsTo(href: string): string;
  /** The octets of its HTML. */
  html: number;
  /** The octets of its longest line without its end. */
  longestLine: number;
}

/** What there is to find, worst first, each with what it is called and what is to be done about it. */
export const ODDITIES = {
  unread: {
    title: "Cannot be read back",
    remedy:
      "Mail programs would show these as broken. Look at the one below and at what is written in it by tags.",
  },
  header: {
    title: "A name or a subject breaks",
    remedy:
      "What stands in the head of the message is not what was meant. Look at the reader’s name in Audience.",
  },
  code: {
    title: "A code is missing or used twice",
    remedy: "Look at the batch of codes under Sources: each reader should have one of their own.",
  },
  wayOut: {
    title: "No way to unsubscribe",
    remedy: "Give the footer back its link, for every reader.",
  },
  unfilled: {
    title: "Something is not filled in",
    remedy: "A tag or an empty value came through as it is written. Look at the reader’s fields.",
  },
  gap: {
    title: "A sentence has a gap",
    remedy:
      "These readers hold nothing there, or something that shows as nothing. Give the tag a fallback, or mend it in Audience.",
  },
  link: {
    title: "A link says one address and leads to another",
    remedy: "Let the words say what comes, or the address they show be the one it leads to.",
  },
  cut: {
    title: "Heavier than large webmail shows",
    remedy:
      "The end, with the way to unsubscribe, is cut off for these readers. Shorten what is long for them.",
  },
  line: {
    title: "A line is too long for the wire",
    remedy: "Servers may cut lines over 998 signs (RFC 5322, 2.1.1).",
  },
} as const;
export type Oddity = keyof typeof ODDITIES;

/** Something odd in one message, with what stands there. */
export interface Odd {
  kind: Oddity;
  said: string;
}

/** Signs that take no room: zero-width ones, soft hyphens, and marks of direction. */
const UNSEEN = /\p{Default_Ignorable_Code_Point}/gu;
const plain = (words: string) => words.replace(/[\s\u0000-\u001f\u007f-\u009f]+/gu, " ").trim();
const seen = (text: string) => text.replace(UNSEEN, "");

const ENTITIES: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', "#39": "'" };
const unescaped = (html: string) => html.replace(/&(amp|lt|gt|quot|#39);/g, (_, name) => ENTITIES[name]);

/** A link, with all that stands between its tags. */
const LINK = /<a\b[^>]*?\shref="([^"]*)"[^>]*>([\s\S]*?)<\/a>/g;
/** Words that are an address, as people write it. */
const ADDRESS = /^(?:https?:\/\/)?((?:[\p{L}\p{N}-]+\.)+[\p{L}]{2,})(?::\d+)?(?:[/?#]\S*)?$/iu;
/** What comes through where a tag or a value was not filled. */
const UNFILLED = /\{\$[^}]{0,80}\}|\[object Object\]|(?<![\p{L}\p{N}])(?:undefined|NaN)(?![\p{L}\p{N}])/u;

const hostOf = (address: string): string => {
  try {
    return new URL(address).hostname.replace(/^www\./, "");
  } catch {
    return "";
  }
};

/** Whether one host is the other, or belongs to it. */
const related = (one: string, other: string) =>
  one === other || one.endsWith(`.${other}`) || other.endsWith(`.${one}`);

function misleading(html: string, leadsTo: Finished["leadsTo"]): string | null {
  for (const [, href, inside] of html.matchAll(LINK)) {
    // Most links say something else than an address: those are not looked at closely.
    if (!inside.includes(".")) continue;
    const words = plain(unescaped(inside.replace(/<[^>]*>/g, "")));
    const said = ADDRESS.exec(words);
    if (!said) continue;
    const shown = hostOf(`https://${said[1]}`);
    const target = leadsTo(unescaped(href));
    if (shown !== "" && /^https?:/.test(target) && !related(shown, hostOf(target)))
      return `“${words}” leads to ${target}`;
  }
  return null;
}

const shortly = (words: string) => (words.length > 80 ? `${words.slice(0, 79)}…` : words);

/** All that is odd about a message, each kind once, in the order of `ODDITIES`. */
export function oddOf({ read, meant, leadsTo, html, longestLine }: Finished): Odd[] {
  const odd: Odd[] = [];
  const add = (kind: Oddity, said: string | null | false) => {
    if (said) odd.push({ kind, said: shortly(said) });
  };
  const { text } = read;
  add("unread", text === null && "It has no text part");
  if (text !== null) add("unread", !meant.textOnly && read.html === null && "It has no HTML part");
  const differs = (what: string, is: string, should: string) =>
    plain(is) !== plain(should) && `${what} reads “${plain(is)}”, and should be “${plain(should)}”`;
  const [to] = read.to;
  add(
    "header",
    differs("The sender", read.from.name, meant.from.name) ||
      differs("The sender’s address", read.from.address, meant.from.address) ||
      (read.to.length !== 1 && `It goes to ${read.to.length} addresses`) ||
      differs("The reader’s name", to.name, meant.to.name) ||
      differs("The reader’s address", to.address, meant.to.address) ||
      differs("The subject", read.subject, meant.subject) ||
      (plain(meant.subject) === "" && "The subject is empty"),
  );
  const both = `${text ?? ""}\n${read.html ?? ""}`;
  const missing = meant.codes.find((code) => !both.includes(code));
  add("code", missing !== undefined && `The code ${missing} does not stand in it`);
  add(
    "wayOut",
    (read.unsubscribe !== `<${meant.unsubscribe}>` && "Its head does not say how to unsubscribe") ||
      (!unescaped(read.html ?? text ?? "").includes(meant.unsubscribe) && "No link in it unsubscribes"),
  );
  const unfilled = UNFILLED.exec(read.subject) ?? UNFILLED.exec(text ?? "");
  add("unfilled", unfilled && `It says ${unfilled[0]}`);
  const blank = blankIn(seen(read.subject)) ?? blankIn(seen(text ?? ""));
  add("gap", blank !== null && `It reads “${blank}”`);
  add("link", misleading(read.html ?? "", leadsTo));
  add("cut", html > CLIPPED && `${Math.round(html / 1024)} KB of HTML`);
  add("line", longestLine > 998 && `A line of ${longestLine.toLocaleString("en")} octets`);
  return odd;
}
