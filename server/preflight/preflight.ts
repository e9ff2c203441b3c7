/** What is wrong with a campaign: in its design, and in each of its editions. */
import { contactName, RuleError } from "~/core/audience";
import { personalise, previewAddresses, readerOf } from "~/core/personal";
import {
  CHECKS,
  type Check,
  designFindings,
  type EditionLooked,
  type Found,
  isBare,
  lookOver,
  type Told,
  told,
  type Weight,
} from "~/core/preflight";
import { invert, type Packed, pack } from "~/core/steps";
import { languageFor } from "~/core/translation";
import { audienceContext } from "../audience/groups";
import { campaign } from "../campaigns/campaigns";
import { boundEmail, editionsOf } from "../campaigns/rendering";
import { saveSteps } from "../campaigns/saving";
import { pictureWeights } from "../pictures/weights";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { type Aside, asideIn } from "./aside";
import { circumstancesOf, type Sendable, sendable } from "./circumstances";

/** A finding as it is shown: with why it was set aside, where it was. */
export type ShownFinding = Told & { why: string; aside: Aside | null };

/** An edition as preflight shows it. */
export interface EditionChecked {
  number: number;
  count: number;
  sample: { id: number; name: string };
  subject: string;
  bytes: number;
}

/** All that was found. */
export interface Preflight {
  findings: ShownFinding[];
  editions: EditionChecked[];
  readers: number;
  /** What is in order: what each check that found nothing looks for. */
  fine: string[];
  /** Of the design that was looked at. */
  revision: number;
  /** When it was so, in milliseconds. */
  at: number;
}

/** How it is asked. */
interface Asked {
  /** Whether editions wait: then it is there at once. */
  quick?: boolean;
  /** What calls it off. */
  signal?: AbortSignal;
  /** What is looked for in editions; everything when missing. */
  checks?: readonly Check[];
  /** How many editions are looked at, the largest first; all when missing. */
  most?: number;
}

/** What is known before editions are looked at: enough where something stops it already. */
async function inDesign(septima: Septima, it: Sendable, weighed: boolean) {
  const around = await circumstancesOf(septima, it);
  const weights = weighed ? await pictureWeights(septima, it.campaignId) : null;
  const known = {
    ...around,
    ...(weights && {
      weights: {
        ...weights,
        pictures: weights.pictures.map(({ name, bytes, picture }) => ({
          name,
          bytes,
          src: picture?.src ?? null,
        })),
      },
    }),
  };
  return { around: known, found: designFindings(it.email, known) };
}

/** Readers who cannot be worked out are a finding, too. */
const unanswerable = (error: unknown): Found => {
  if (!(error instanceof RuleError)) throw error;
  return {
    check: "nobody",
    weight: "stops",
    text: `Who gets it cannot be worked out: ${error.message} Choose again under Readers.`,
  };
};

/** The editions of what is to be sent, each looked over; others have their turn between two. */
async function lookedOver(
  septima: Septima,
  { email, readers: selection, tags, campaignId }: Sendable,
  around: Parameters<typeof designFindings>[1],
  { signal, checks = CHECKS, most }: Asked = {},
): Promise<{ looked: EditionLooked[]; editions: EditionChecked[]; readers: number }> {
  if (selection.include.length === 0) return { looked: [], editions: [], readers: 0 };
  const { editions, readers } = await editionsOf(septima, email, selection, campaignId);
  const given = { tags, campaign: campaignId, readers: editions.map(({ sample }) => sample.id) };
  const sent = await boundEmail(septima, email, given);
  const marked = await boundEmail(septima, email, { ...given, places: true });
  const context = await audienceContext(septima);
  const encoder = new TextEncoder();
  const looked: EditionLooked[] = [];
  const shown: EditionChecked[] = [];
  for (const [at, { sample, count }] of editions.slice(0, most).entries()) {
    signal?.throwIfAborted();
    const reader = readerOf(sample, email.language, previewAddresses(septima.config.readers));
    const { html, subject } = personalise(sent, reader);
    const bytes = encoder.encode(html).length;
    const message = personalise(marked, reader);
    const language = languageFor(email, sample);
    const bare = isBare(email, sample, context);
    looked.push(lookOver({ message, language, bytes, bare, sample, count }, { ...around, email }, checks));
    shown.push({
      number: at + 1,
      count,
      sample: { id: sample.id, name: contactName(sample) },
      subject,
      bytes,
    });
    await new Promise((resolve) => setImmediate(resolve));
  }
  return { looked, editions: shown, readers };
}

/**
 * How it is looked where somebody waits: what stops a sending in an edition does so in nearly all of them, and a few tell;
 * everything else of editions is preflight’s own.
 */
export const SHORTLY: Asked = { checks: CHECKS.filter(({ holds }) => holds), most: 12 };

/** What is wrong in the design of what is to be sent, what stops it first. It takes no time that grows with its editions. */
export async function findingsIn(septima: Septima, it: Sendable): Promise<Told[]> {
  return (await checked(septima, it, { quick: true })).findings;
}

/** What is wrong with a campaign for those it would go to now, in its editions as far as it stops a sending. */
export async function findingsOf(septima: Septima, campaignId: string): Promise<Told[]> {
  return (await checked(septima, await sendable(septima, campaignId), SHORTLY)).findings;
}

async function checked(
  septima: Septima,
  it: Sendable,
  { weighed = false, quick = false, ...asked }: Asked & { weighed?: boolean } = {},
): Promise<{ findings: Told[]; editions: EditionChecked[]; readers: number }> {
  const audience = await audienceContext(septima);
  try {
    const { around, found } = await inDesign(septima, it, weighed);
    const { looked, editions, readers } = quick
      ? { looked: [], editions: [], readers: around.readers.count }
      : await lookedOver(septima, it, around, asked);
    return { findings: told(it.email, found, looked, audience), editions, readers };
  } catch (error) {
    return { findings: told(it.email, [unanswerable(error)], [], audience), editions: [], readers: 0 };
  }
}

/** Everything that is to be said of a campaign before it goes out. */
export async function preflight(septima: Septima, campaignId: string, asked: Asked = {}): Promise<Preflight> {
  const at = septima.now();
  const { revision } = await campaign(septima, campaignId);
  const it = await sendable(septima, campaignId);
  const { findings, editions, readers } = await checked(septima, it, { ...asked, weighed: !asked.quick });
  const aside = await asideIn(septima, campaignId);
  const tripped = new Set(findings.map(({ check }) => check));
  return {
    editions,
    readers,
    revision,
    at,
    fine: CHECKS.filter(({ name }) => !tripped.has(name)).map(({ label }) => label),
    findings: findings.map((one) => ({
      ...one,
      why: CHECKS.find(({ name }) => name === one.check)?.why ?? "",
      aside: aside(one),
    })),
  };
}

/**
 * Mends a finding in the design as it is now.
 * @returns what takes it back, to be saved on the revision that came of it
 * @throws Refusal when it is not found any more, or has no mend
 */
export async function mendFinding(
  septima: Septima,
  campaignId: string,
  id: string,
): Promise<{ revision: number; back: Packed[] }> {
  const { revision } = await campaign(septima, campaignId);
  const { findings } = await checked(septima, await sendable(septima, campaignId), { quick: true });
  const mend = findings.find((one) => one.id === id)?.mend;
  if (!mend) throw new Refusal("This is not found any more. Look again.", 409);
  return {
    back: pack(invert(mend.steps)),
    revision: await saved(septima, campaignId, revision, pack(mend.steps)),
  };
}

/** Takes a mend back. @param back as `mendFinding` gave it */
export async function takeBackMend(
  septima: Septima,
  campaignId: string,
  { revision, back }: { revision: number; back: Packed[] },
): Promise<void> {
  await saved(septima, campaignId, revision, back);
}

async function saved(
  septima: Septima,
  campaignId: string,
  revision: number,
  steps: Packed[],
): Promise<number> {
  const answer = await saveSteps(septima, campaignId, { revision, save: septima.newId(), steps });
  if (answer.state === "saved") return answer.revision;
  throw new Refusal(
    answer.state === "refused" ? answer.why : "The design has changed meanwhile. Look again.",
    409,
  );
}

/** How many findings of each weight nobody set aside. */
export async function findingCounts(
  septima: Septima,
  campaignId: string,
  signal?: AbortSignal,
): Promise<Record<Weight, number>> {
  const { findings } = await preflight(septima, campaignId, { signal });
  const open = findings.filter(({ aside }) => aside === null);
  const many = (weight: Weight) => open.filter((one) => one.weight === weight).length;
  return { stops: many("stops"), look: many("look"), could: many("could") };
}
