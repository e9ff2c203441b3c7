/** The editions of a campaign as somebody looks through them: what makes each one, who gets it, and what two differ in. */
import { type Contact, contactName, ruleNames } from "~/core/audience";
import { resolveTheme } from "~/core/email";
import {
  bindPart,
  editionWords,
  joinSame,
  personalise,
  previewAddresses,
  readerOf,
  run,
  withoutData,
} from "~/core/personal";
import { isBare } from "~/core/preflight";
import { compilePieces } from "~/core/render";
import { languageFor, translated } from "~/core/translation";
import { contactsById } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { ruleWords } from "../audience/words";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { picksFor } from "../sources/picks";
import { itemsLinked } from "../sources/placed";
import { brandOf } from "../workspace/settings";
import { allThemes } from "../workspace/themes";
import { type Campaign, campaign } from "./campaigns";
import { boundEmail, countEditions } from "./rendering";
import { tagFacts } from "./tag-facts";

/** One edition as the view shows it. */
export interface EditionLine {
  key: string;
  /** The keys of those that read the same, and are one with it. */
  also: readonly string[];
  count: number;
  /** What makes it, in a few words each. */
  traits: string[];
  sample: { id: number; name: string };
  subject: string;
  /** UTF-8 octets of the sample's HTML. */
  bytes: number;
  /** Whether hardly anybody gets it. */
  rare: boolean;
  /** Whether there is nothing between header and footer. */
  bare: boolean;
}

/** All editions of a campaign, with what they are told apart by. */
export interface EditionsView {
  readers: number;
  editions: EditionLine[];
  splits: { label: string; ways: number }[];
}

/** Fewer readers than this share of all, or than so many, are few. */
const RARE = { share: 0.002, count: 5 };

/**
 * The editions of a campaign across its readers, those that read the same as one, with a sample of each.
 * @param got told who gets which of those that were counted: `key`, or one of `also`, says to which it was joined
 * @throws RuleError when a rule cannot be answered
 */
async function joinedEditions(septima: Septima, id: string, got?: Parameters<typeof countEditions>[3]) {
  const { email, readers: selection } = await campaign(septima, id);
  const bound = await boundEmail(septima, email, { campaign: id });
  const { counted, readers } = await countEditions(septima, bound, selection, got);
  const samples = await contactsById(
    septima,
    counted.map(({ first }) => first),
  );
  const joined = joinSame(bound, counted, ({ first }) => samples.get(first));
  return { email, selection, bound, readers, samples, joined };
}

/** All editions of a campaign across its readers. @throws RuleError when a rule cannot be answered */
export async function editionsView(
  septima: Septima,
  id: string,
  got?: Parameters<typeof countEditions>[3],
): Promise<EditionsView> {
  const [{ email, bound, readers, samples, joined }, words, audience] = await Promise.all([
    joinedEditions(septima, id, got),
    ruleWords(septima),
    audienceContext(septima),
  ]);
  const told = editionWords(bound.asked, joined, ruleNames(words), email.language);
  const encoder = new TextEncoder();
  return {
    readers,
    splits: told.splits,
    editions: joined.flatMap((edition) => {
      const sample = samples.get(edition.first);
      // Somebody who was deleted meanwhile is nobody's sample.
      if (!sample) return [];
      const reader = readerOf(sample, email.language, previewAddresses(septima.config.readers));
      const { subject, html } = personalise(bound, reader);
      return [
        {
          key: edition.key,
          also: edition.also,
          count: edition.count,
          traits: told.traits(edition),
          sample: { id: sample.id, name: contactName(sample) },
          subject,
          bytes: encoder.encode(html).length,
          rare: readers > 100 && edition.count < Math.max(RARE.count, readers * RARE.share),
          bare: isBare(email, sample, audience),
        },
      ];
    }),
  };
}

/** The first readers of an edition, in the order of their numbers, and how many there are. */
export async function editionReaders(
  septima: Septima,
  id: string,
  key: string,
  most = 100,
): Promise<{ count: number; readers: { id: number; name: string; email: string }[] }> {
  const { selection, bound, joined } = await joinedEditions(septima, id);
  const found = joined.find((it) => it.key === key);
  if (!found)
    throw new Refusal("This edition is not there any more: the design or the readers have changed.", 404);
  const keys = new Set([found.key, ...found.also]);
  const first: number[] = [];
  await countEditions(septima, bound, selection, (reader, edition) => {
    if (first.length < most && keys.has(edition.key)) first.push(reader);
  });
  const contacts = await contactsById(septima, first);
  return {
    count: found.count,
    readers: first.flatMap((one) => {
      const contact = contacts.get(one);
      return contact ? [{ id: one, name: contactName(contact), email: contact.email }] : [];
    }),
  };
}

/** The edition that a reader gets: its number among all, how many get it, and what makes it. */
export interface OwnEdition {
  number: number;
  of: number;
  count: number;
  traits: string[];
}

/** Which edition each of some contacts gets; none for those who are not among the readers. */
export async function editionsFor(
  septima: Septima,
  id: string,
  contacts: readonly number[],
): Promise<Map<number, OwnEdition>> {
  const asked = new Set(contacts);
  const keys = new Map<number, string>();
  const { editions } = await editionsView(septima, id, (reader, { key }) => {
    if (asked.has(reader)) keys.set(reader, key);
  });
  return new Map(
    [...keys].flatMap(([reader, key]): [number, OwnEdition][] => {
      const at = editions.findIndex((edition) => edition.key === key || edition.also.includes(key));
      if (at < 0) return [];
      const { count, traits } = editions[at];
      return [[reader, { number: at + 1, of: editions.length, count, traits }]];
    }),
  );
}

/** What two readers get of one part of an email; empty where they do not get it. */
export interface PartCompared {
  name: string;
  block: string;
  texts: [string, string];
}

/** Everything said to one reader, part by part, with their data named instead of written. */
async function saidTo(septima: Septima, { id, email }: Campaign, contact: Contact): Promise<PartCompared[]> {
  const picks = await picksFor(septima, email, id);
  const { today } = await audienceContext(septima);
  const options = {
    ...(await tagFacts(septima, id)),
    items: await itemsLinked(septima, email),
    today,
    theme: resolveTheme(email.theme, await allThemes(septima)),
    brand: await brandOf(septima),
    origin: septima.config.readers,
  };
  const bound = withoutData(
    await boundEmail(septima, email, { campaign: id, picks, readers: [contact.id] }),
    contact,
  );
  const reader = readerOf(contact, email.language, previewAddresses(septima.config.readers));
  const world = {
    audience: await audienceContext(septima),
    picks: picks.of,
  };
  const { pool, pieces } = compilePieces(translated(email, languageFor(email, contact)), options);
  const envelope = (
    [
      ["Subject", bound.subject],
      ["Preheader", bound.preheader],
      ["Sender", bound.senderName],
      ["Sender’s address", bound.senderAddress],
      ["Answers go to", bound.replyTo],
    ] as const
  ).map(([name, code]) => ({ name, block: "", text: run(code, bound, reader).trim() }));
  const blocks = pieces.map(({ name, block, text }) => {
    const part = bindPart({ pool, html: text }, world);
    const { slots } = withoutData({ ...bound, slots: part.slots }, contact);
    return { name, block, text: run(part.code, { ...part, slots }, reader).trim() };
  });
  return [...envelope, ...blocks].map(({ text, ...it }) => ({ ...it, texts: [text, ""] }));
}

/** What two readers get that is not the same, part by part, with their data named instead of written. */
export async function compareReaders(
  septima: Septima,
  id: string,
  [one, other]: [number, number],
): Promise<PartCompared[]> {
  const it = await campaign(septima, id);
  const contacts = await contactsById(septima, [one, other]);
  const [a, b] = [contacts.get(one), contacts.get(other)];
  if (!a || !b)
    throw new Refusal("One of these readers is not there any more. Choose the editions again.", 404);
  const [first, second] = [await saidTo(septima, it, a), await saidTo(septima, it, b)];
  return first
    .map((part, at): PartCompared => ({ ...part, texts: [part.texts[0], second[at].texts[0]] }))
    .filter(({ texts: [left, right] }) => left !== right);
}
