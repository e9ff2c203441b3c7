/** What a link can lead to besides an address that is typed, and what it is called. */
import { CalendarPlus, Link2, type LucideIcon, MailOpen, Split, Star } from "lucide-react";
import { blockTitle } from "~/core/blocks";
import { linksOf } from "~/core/compose";
import {
  blocksOf,
  itemTag,
  itemTagOf,
  LETTER_LINK,
  readTyped,
  surveyLink,
  targetOfTag,
  targetsOf,
  targetWords,
} from "~/core/email";
import type { FoundItem } from "~/server/sources/items";
import { isPictureTag, readerData } from "../../readers/reader-data";
import { asideWords } from "../../sources/item-row";
import { KIND_ICONS } from "../../sources/kind-icon";
import type { ComposerState } from "../state/store";

type Here = Pick<ComposerState, "email" | "facts">;

/** Something that a link can lead to. */
export interface LinkTarget {
  href: string;
  name: string;
  /** What it is, in a few words. */
  what: string;
  icon: LucideIcon;
}

/** What this email and its workspace have to lead to, without the items of sources. */
function targetsHere({ email, facts }: Here): LinkTarget[] {
  const data = readerData(facts).flatMap((datum): LinkTarget[] => {
    const { href, label, key, of } = datum;
    if (href === undefined || href === "" || (of === "lookup" && isPictureTag(key, facts.tags))) return [];
    if (href === LETTER_LINK) return [{ href, name: label, what: "web version", icon: MailOpen }];
    return [
      {
        href,
        name: label,
        what: of === "lookup" ? "lookup" : "brand",
        icon: of === "lookup" ? Split : Link2,
      },
    ];
  });
  const surveys = blocksOf(email).flatMap((block): LinkTarget[] =>
    block.type === "survey"
      ? [{ href: surveyLink(block.id), name: blockTitle(block), what: "survey", icon: Star }]
      : [],
  );
  return [...data, ...surveys];
}

/** The addresses that stand in this email, each once. */
function addressesHere({ email }: Here): LinkTarget[] {
  const all = new Set(
    linksOf(email).flatMap(({ href }) =>
      /^https?:\/\/\S/i.test(href) && !href.includes("{$") ? [href] : [],
    ),
  );
  return [...all].map((href) => ({
    href,
    name: href.replace(/^https?:\/\//i, ""),
    what: "in this email",
    icon: Link2,
  }));
}

const MOST = 12;

/** What is found by some words, of this email and of what the sources answered: what is begun by them first. */
export function foundTargets(words: string, here: Here, items: readonly FoundItem[]): LinkTarget[] {
  const wanted = words.trim().toLowerCase();
  const within = (all: LinkTarget[]) =>
    all.filter(({ name, what }) => `${name} ${what}`.toLowerCase().includes(wanted));
  const named = within(targetsHere(here));
  if (wanted === "") return named.slice(0, MOST);
  const found = items.flatMap((one) => ofItem(one, here));
  return [...named.slice(0, 4), ...found, ...within(addressesHere(here)).slice(0, 4)].slice(0, MOST);
}

function ofItem({ source, item }: Pick<FoundItem, "source" | "item">, { facts }: Here): LinkTarget[] {
  const from = facts.sources.find(({ id }) => id === source);
  if (!from) return [];
  return targetsOf(item).map((target) => {
    const aside = asideWords(item);
    return {
      href: itemTag(source, item, target),
      name: item.title || item.id,
      what: [
        targetWords(target, from.kind, from.facts),
        ...(aside === "" || target.startsWith("fact.") ? [] : [aside]),
      ].join(", "),
      icon: target === "calendar" ? CalendarPlus : KIND_ICONS[from.kind],
    };
  });
}

/** What an address stands for, where it was chosen as what it is; null where it is an address as it is typed. */
export function targetNamed(href: string, here: Here): (LinkTarget & { gone?: true }) | null {
  if (!href.includes("{$")) return null;
  const tag = itemTagOf(href);
  if (!tag) {
    // An address with a tag within is typed: what was chosen is one tag, or the address of a survey.
    const whole = href.trim();
    const chosen = targetsHere(here).find((one) => one.href === whole);
    return chosen && readTyped(whole).mistakes.length === 0 ? chosen : null;
  }
  const { of } = tag;
  const known = here.facts.tags.items?.find((one) => one.source === of.source && one.item.id === of.item);
  const target = targetOfTag(tag);
  const named =
    known && ofItem(known, here).find((one) => targetOfTag(itemTagOf(one.href) ?? tag) === target);
  return named
    ? { ...named, href }
    : {
        href,
        name: tag.fallback.replace(/^https?:\/\//i, "") || of.item,
        what: "not there any more",
        icon: Link2,
        gone: true,
      };
}
