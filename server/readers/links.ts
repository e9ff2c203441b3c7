/** Where the counted links of a message lead, for the reader whose message it is. */
import { type Bound, frozenContact, readerOf, run, thaw } from "~/core/personal";
import { escapeHtml } from "~/core/program";
import { batchesOf, frozenOf } from "../dispatch/frozen";
import type { Septima } from "../septima";
import { codesOf } from "../sources/codes";
import { incompleteLink, messageAddresses, readCounted } from "../tokens";

/** Something a reader did with a message: where in it, if it was a press on a link. */
export interface Done {
  dispatch: string;
  contact: number;
  place: { block: string; address: string } | null;
}

/** What is needed of a dispatch to follow its links. */
interface Followable {
  campaignId: string;
  origin: string;
  language: string;
  bound: Bound;
  batches: string[];
}

/** So many dispatches are remembered. */
const KEPT = 20;

/** The dispatch of a link; those asked for last are remembered. @throws Refusal (404) */
async function followable(septima: Septima, dispatch: string): Promise<Followable> {
  const known = (septima.cache.get("followed") as Map<string, Followable> | undefined) ?? new Map();
  septima.cache.set("followed", known);
  let found = known.get(dispatch);
  if (!found) {
    const frozen = await frozenOf(septima, dispatch);
    const [row] = await septima.db.query<{ campaign: string }>(
      "select campaign_id as campaign from dispatches where id = $1",
      [dispatch],
    );
    if (!frozen || !row) throw incompleteLink();
    found = {
      campaignId: row.campaign,
      origin: frozen.origin,
      language: frozen.program.bound.language,
      bound: thaw(frozen.program),
      batches: batchesOf(frozen),
    };
  }
  known.delete(dispatch);
  known.set(dispatch, found);
  if (known.size > KEPT) known.delete(known.keys().next().value!);
  return found;
}

/**
 * Where a counted link leads its reader. Nothing happens by asking.
 * @throws Refusal (404) for an address that was tampered with, or is of what is gone
 */
export async function followLink(septima: Septima, token: string): Promise<{ to: string; done: Done }> {
  const { dispatch, contact, number } = await readCounted(septima, token);
  const it = await followable(septima, dispatch);
  const link = it.bound.links?.[number - 1];
  if (!link) throw incompleteLink();
  const doneAt = (address: string): Done => ({
    dispatch,
    contact,
    place: { block: link.block ?? "", address },
  });
  const [only] = link.to;
  if (link.to.length === 1 && only.op === "static") return { to: only.text, done: doneAt(only.text) };
  const [row] = await septima.db.query<{ email: string; edition: number; facts: Record<string, unknown> }>(
    "select address as email, edition, facts::json as facts from recipients where dispatch_id = $1 and contact_id = $2",
    [dispatch, contact],
  );
  if (!row) throw incompleteLink();
  const addresses = await messageAddresses(septima, {
    origin: it.origin,
    dispatch,
    campaign: it.campaignId,
    links: it.bound.links?.length ?? 0,
  });
  const codes = await codesOf(septima.db, it.campaignId, it.batches, [contact]);
  const reader = readerOf(
    frozenContact({ id: contact, ...row }),
    it.language,
    addresses(contact),
    codes.get(contact) ?? {},
  );
  const to = run(link.to, it.bound, reader).trim();
  if (to === "" || to === "#") throw incompleteLink();
  // Results name an address with what differs from reader to reader left open.
  return { to, done: doneAt(run(link.to, it.bound, reader, () => "…").trim()) };
}

/** Whose message was opened. @throws Refusal (404) for an address that was tampered with */
export async function openedBy(septima: Septima, token: string): Promise<Done> {
  const { dispatch, contact, number } = await readCounted(septima, token);
  if (number !== 0) throw incompleteLink();
  return { dispatch, contact, place: null };
}

const OPENING = /<img src="https?:[^"]*\/o\/[\w-]+\.gif"[^>]*>/g;
const COUNTED = /href="https?:[^"]*\/c\/([\w-]+)"/g;

/** The HTML of a message as it is looked at by others than its reader: links lead where they do, and no opening is counted. */
export async function uncounted(septima: Septima, html: string): Promise<string> {
  const bare = html.replace(OPENING, "");
  const leads = new Map<string, string>();
  for (const [, token] of bare.matchAll(COUNTED)) {
    if (leads.has(token)) continue;
    const to = await followLink(septima, token).then(
      (followed) => followed.to,
      () => null,
    );
    if (to !== null) leads.set(token, escapeHtml(to));
  }
  return bare.replace(COUNTED, (whole, token) => (leads.has(token) ? `href="${leads.get(token)}"` : whole));
}
