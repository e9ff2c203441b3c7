/** Dispatches, whatever happens on the way: nobody gets it twice, and nobody is lost. */
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import { addContacts } from "../audience/contacts";

import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { type Relay, RelayError } from "../mail/relay";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { addBatch } from "../sources/codes";
import { addList, openWorld, readyLetter } from "../test-world";
import { bookDispatch } from "./bookings";
import { dispatchesOf, steerDispatch } from "./dispatches";
import { messageAsSent } from "./frozen";
import { runDispatch } from "./run";
import { takeOver } from "./settling";

const READERS = 12;
let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "all", "All");
  await addContacts(
    septima,
    Array.from({ length: READERS }, (_, id) => ({
      email: `reader${id}@mail.example`,
      fields: { first_name: `Name ${id}` },
      lists: ["all"],
    })),
  );
});
beforeAll(() =>
  addBatch(
    septima,
    { key: "gift", name: "Gift", per: "campaign", example: "EXAMPLE", low: 0, ends: null },
    Array.from({ length: READERS * 60 }, (_, at) => `GIFT-${at}`).join("\n"),
  ),
);
afterAll(() => close());

/** What a relay does with the message it is given next; when there is no more of it, it takes everything. */
type Mood = "take" | "refuse" | "later" | "away" | "mute" | "crash";
const MOODS: readonly Mood[] = ["take", "take", "take", "refuse", "later", "away", "mute", "crash"];

/** A relay with moods before the real one. A process that crashed hands nothing over any more. */
function moody(moods: Mood[], onSend: () => Promise<void>): Relay {
  let dead = false;
  return {
    connections: 3,
    close: async () => undefined,
    async send(envelope, message) {
      if (dead) throw new Error("dead");
      await onSend();
      switch (moods.shift()) {
        case "refuse":
          throw new RelayError("550 There is no such mailbox.", "refused");
        case "later":
          throw new RelayError("451 Come back later.", "passing");
        case "away":
          throw new RelayError("It cannot be reached.", "away");
        case "mute":
          await septima.relay.send(envelope, message);
          throw new RelayError("It closed the connection.", "unknown");
        case "crash":
          dead = true;
          throw new Error("dead");
        default:
          await septima.relay.send(envelope, message);
      }
    },
  };
}

const draft = () =>
  readyLetter(septima, "all", (id) => [
    { type: "text", text: `Letter ${id} ` },
    { type: "mergeTag", attrs: { field: "code.gift", fallback: "", format: "asIs" } },
  ]);

/** Orders it for whoever does not have it yet; null when that is nobody, or it has gone out already. */
async function book(id: string): Promise<string | null> {
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers, id);
  try {
    return readers === 0 ? null : await bookDispatch(septima, id, { confirmed: readers, when: null });
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

/** To whom it came, each with the code in its subject. */
async function arrived(id: string): Promise<{ to: string; code: string }[]> {
  const found = await septima.mailboxes!.search({ text: `Letter ${id}`, offset: 0, limit: 500 });
  return found.messages.map(({ to, subject }) => ({ to, code: subject.split(" ")[2] }));
}

/** Everything that arrived is, octet for octet, what is made again of what was frozen. */
async function expectAsSent(campaignId: string) {
  const rows = await septima.db.query<{ dispatch: string; contact: number; message_id: string }>(
    `select r.dispatch_id as dispatch, r.contact_id as contact, r.message_id from recipients r
     join dispatches d on d.id = r.dispatch_id where d.campaign_id = $1 and r.state = 'accepted'`,
    [campaignId],
  );
  const found = await septima.mailboxes!.search({ text: "", offset: 0, limit: 100_000 });
  const arrived = new Map(found.messages.map((one) => [one.messageId, one.id]));
  for (const { dispatch, contact, message_id } of rows) {
    const source = await septima.mailboxes!.source(arrived.get(message_id)!);
    const again = Buffer.from(await messageAsSent(septima, dispatch, contact));
    expect(again.equals(source!), `${again}\n\nbut it was\n\n${source}`).toBe(true);
  }
}

test("through any moods of the relay, crashes, pauses, cancellings and new bookings, everybody gets it once", {
  timeout: 120_000,
}, async () => {
  const round = fc.record({
    moods: fc.array(fc.constantFrom(...MOODS), { maxLength: 12 }),
    /** After so many messages somebody presses a button. */
    press: fc.option(
      fc.record({ after: fc.nat(6), what: fc.constantFrom("paused" as const, "cancelled" as const) }),
      { nil: null },
    ),
    next: fc.constantFrom("resume", "cancel", "die"),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(round, { minLength: 1, maxLength: 5 }), async (rounds) => {
      const id = await draft();
      let dispatch = await book(id);
      const refused = new Set<string>();
      for (const { moods, press, next } of rounds) {
        if (!dispatch) break;
        let sent = 0;
        const steered = dispatch;
        const relay = moody([...moods], async () => {
          if (press && sent++ === press.after)
            await steerDispatch(septima, steered, press.what).catch((error) => {
              if (!(error instanceof Refusal)) throw error;
            });
        });
        await runDispatch({ ...septima, relay }, dispatch).catch((error) => {
          if (error.message !== "dead") throw error;
        });
        if (next === "die") {
          // As a process leaves it that is killed: some are being handed over, delivered or not.
          await septima.db.query(
            `update recipients set state = 'handing', worker = 'dead', leased_until = now() - interval '1 second',
               message_id = coalesce(message_id, 'none') where dispatch_id = $1
               and state in ('accepted', 'pending') and contact_id % 3 = 0
               and exists (select 1 from dispatches where id = $1 and state <> 'sent')`,
            [dispatch],
          );
          await takeOver(septima);
        }
        if (next === "cancel") await steerDispatch(septima, dispatch, "cancelled").catch(() => undefined);
        const state = (await dispatchesOf(septima, id))[0].state;
        if (state === "paused") await steerDispatch(septima, dispatch, "sending");
        if (state === "cancelled") dispatch = await book(id);
      }
      // Those who wait have their turn as the hours pass.
      for (let turn = 0; dispatch && turn < 8; turn++) {
        await runDispatch({ ...septima, now: () => Date.now() + turn * 6 * 3_600_000 }, dispatch);
        const [{ state }] = await dispatchesOf(septima, id);
        if (state === "paused") await steerDispatch(septima, dispatch, "sending");
        if (state === "sent") break;
      }
      const mails = await arrived(id);
      const got = mails.map(({ to }) => to);
      expect(new Set(got).size, "twice").toBe(got.length);
      const rows = await septima.db.query<{ email: string; state: string }>(
        `select c.email, r.state from recipients r join dispatches d on d.id = r.dispatch_id
         join contacts c on c.id = r.contact_id where d.campaign_id = $1`,
        [id],
      );
      for (const row of rows) if (row.state === "failed") refused.add(row.email);
      expect([...new Set([...got, ...refused])].length, "lost").toBe(READERS);
      expect(rows.filter(({ state }) => state === "handing")).toEqual([]);
      for (const { email, state } of rows)
        if (state === "accepted") expect(got, "said to be sent and was not").toContain(email);
      await expectAsSent(id);
      // Each has a code of their own, and nobody else was handed one.
      const handed = await septima.db.query<{ to: string; code: string }>(
        `select c.email as to, k.code from codes k join contacts c on c.id = k.contact_id where k.campaign_id = $1`,
        [id],
      );
      const byAddress = (all: { to: string; code: string }[]) =>
        [...all].sort((a, b) => (a.to < b.to ? -1 : 1));
      expect(byAddress(mails)).toEqual(byAddress(handed));
    }),
    { numRuns: 40 },
  );
});
