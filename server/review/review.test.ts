/** A review by its link: who may say what until when, what a verdict is of, and who waits for whom. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { blocksOf, mapEmail } from "~/core/email";
import { INBOXES } from "~/core/inboxes";
import { campaign, deleteCampaign, restoreCampaign, startCampaign } from "../campaigns/campaigns";
import { RelayError } from "../mail/relay";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { answerTalk, beginTalk, resolveTalk, talksOf } from "./comments";
import { linesOf, lookOver, toLookOver } from "./look";
import {
  allWaiting,
  askAgain,
  askReviews,
  changedSince,
  giveVerdict,
  reviewBy,
  reviewsOf,
  withdrawReview,
} from "./reviews";

let septima: Septima;
let close: () => Promise<void>;
const DAY = 86_400_000;

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addReaders(septima, "all", 3);
});
afterAll(() => close());

const letter = () => readyLetter(septima, "all", () => [{ type: "text", text: "Beans" }]);
const PLACE = { block: null, quote: null, reader: null };

/** Somebody is asked; gives the review and the token of its link. */
async function asked(id: string, who = "Ida") {
  await askReviews(septima, id, { who, note: "", days: 7 });
  const [review] = await reviewsOf(septima, id);
  return { review, token: review.link.split("/").at(-1)! };
}
/** The clock is another within. */
async function later<T>(by: number, work: () => Promise<T>): Promise<T> {
  const { now } = septima;
  septima.now = () => now() + by;
  try {
    return await work();
  } finally {
    septima.now = now;
  }
}
const revisionOf = async (id: string) => (await campaign(septima, id)).revision;
const approve = async (id: string, token: string) =>
  giveVerdict(septima, token, { verdict: "approved", words: "", revision: await revisionOf(id) });

/** Changes one block of a design. Returns its id. */
async function change(id: string): Promise<string> {
  const { email } = await campaign(septima, id);
  const button = blocksOf(email).find(({ type }) => type === "button")!;
  await saveDesign(
    septima,
    id,
    mapEmail(email, (node) => (node.id === button.id ? { ...node, href: "https://other.example/" } : node)),
  );
  return button.id;
}

test("who is named is asked, each once; what only looks like an address is said, and nobody is asked", async () => {
  const id = await letter();
  const named = await askReviews(septima, id, {
    who: "Ida Renner <ida@nursery.example>; Board\nlou@nursery.example, IDA@nursery.example",
    note: " ",
    days: 3,
  });
  expect(named).toEqual(["IDA@nursery.example", "Board", "lou@nursery.example"]);
  const before = await reviewsOf(septima, id);
  expect(before.map(({ state, address }) => [state, address])).toContainEqual([
    "waiting",
    "lou@nursery.example",
  ]);
  for (const who of ["ida@", "Lou <lou>", "", " , ", "Ida <>"])
    await expect(askReviews(septima, id, { who, note: "", days: 3 }), who).rejects.toThrow(/address|who is/);
  expect(await reviewsOf(septima, id)).toHaveLength(before.length);
});

test("who cannot be sent a link was not asked, and it is said whom that is", async () => {
  const id = await letter();
  const { relay } = septima;
  const sent: string[] = [];
  septima.relay = {
    ...relay,
    connections: 1,
    async send({ to }) {
      if (to.startsWith("lou")) throw new RelayError("The relay does not like Lou.", "refused");
      sent.push(to);
    },
  };
  const who = "ida@nursery.example, Lou <lou@nursery.example>, otto@nursery.example";
  await expect(askReviews(septima, id, { who, note: "", days: 3 })).rejects.toThrow(
    "Lou could not be sent the link: The relay does not like Lou.",
  );
  septima.relay = relay;
  expect(sent).toEqual(["ida@nursery.example"]);
  expect((await reviewsOf(septima, id)).map(({ reviewer }) => reviewer)).toEqual(sent);
});

test("a link shows its campaign until it runs out or is taken back, and only as it was signed", async () => {
  const id = await letter();
  const { review, token } = await asked(id);
  expect((await reviewBy(septima, token)).openedAt).toBeNull();
  expect(await reviewBy(septima, token, true)).toMatchObject({ campaign: id, reviewer: "Ida" });
  expect((await reviewBy(septima, token)).openedAt).not.toBeNull();
  const [payload, signature] = token.split(".");
  const other = (await asked(id, "Lou")).token.split(".");
  for (const wrong of ["", payload, `${payload}.`, `${other[0]}.${signature}`, `${token}x`])
    await expect(reviewBy(septima, wrong), wrong).rejects.toMatchObject({ status: 404 });
  await later(7 * DAY + 1, async () => {
    await expect(reviewBy(septima, token)).rejects.toThrow("This link held until");
    await expect(approve(id, token)).rejects.toThrow("This link held until");
    expect((await reviewsOf(septima, id)).find((it) => it.id === review.id)?.state).toBe("expired");
  });
  await withdrawReview(septima, id, review.id);
  await expect(reviewBy(septima, token)).rejects.toThrow("taken back");
  await askAgain(septima, id, { id: review.id, note: "Once more", days: 2 });
  expect(await reviewBy(septima, token)).toMatchObject({ state: "waiting", note: "Once more" });
  await deleteCampaign(septima, id);
  await expect(reviewBy(septima, token)).rejects.toMatchObject({ status: 404 });
  await restoreCampaign(septima, id);
  await reviewBy(septima, token);
});

test("a verdict is of the design that was looked at; what has changed since is told, and nothing has when it is taken back", async () => {
  const id = await letter();
  const { review, token } = await asked(id);
  await expect(
    giveVerdict(septima, token, { verdict: "changes", words: " ", revision: await revisionOf(id) }),
  ).rejects.toThrow("Say what is to change");
  await expect(
    giveVerdict(septima, token, { verdict: "approved", words: "", revision: (await revisionOf(id)) - 1 }),
  ).rejects.toMatchObject({ status: 409 });
  expect(await reviewBy(septima, token)).toMatchObject({ state: "waiting", changed: false });
  await approve(id, token);
  expect(await reviewBy(septima, token)).toMatchObject({ state: "approved", changed: false });
  expect(await changedSince(septima, review.id)).toBeNull();
  const before = (await campaign(septima, id)).email;
  const block = await change(id);
  expect(await reviewBy(septima, token)).toMatchObject({ state: "approved", changed: true });
  expect([...(await changedSince(septima, review.id))!.parts]).toEqual([[block, "changed"]]);
  // Asked again, they wait, and still know what they saw last.
  await askAgain(septima, id, { id: review.id, note: "", days: 7 });
  expect(await reviewBy(septima, token)).toMatchObject({ state: "waiting", changed: true });
  await saveDesign(septima, id, before);
  expect(await changedSince(septima, review.id)).toBeNull();
});

test("talks are about a place, are answered, settled and taken up again, by those who may and with words only", async () => {
  const [id, other] = [await letter(), await letter()];
  const ida = { name: "Ida", review: (await asked(id)).review.id };
  const petra = { name: "Petra", review: null };
  const quote = { exact: "beans", before: "of " };
  await beginTalk(septima, id, ida, { block: "b1", quote, reader: 1, words: " Peas? " });
  await beginTalk(septima, id, petra, { ...PLACE, words: "And the whole?" });
  const [first] = await talksOf(septima, id);
  expect(first).toMatchObject({ block: "b1", quote, reader: 1, resolved: null });
  expect(first.said).toMatchObject([{ author: "Ida", review: ida.review, words: "Peas?" }]);
  await resolveTalk(septima, id, petra, { talk: first.id, resolved: true });
  expect((await talksOf(septima, id))[0].resolved).toMatchObject({ by: "Petra" });
  await answerTalk(septima, id, ida, { talk: first.id, words: "Not yet." });
  const [again, second] = await talksOf(septima, id);
  expect(again.resolved, "an answer opens it again").toBeNull();
  expect(again.said.map(({ words }) => words)).toEqual(["Peas?", "Not yet."]);
  expect(second.said).toHaveLength(1);
  // Of another campaign nothing is answered or settled, nor is an answer a talk.
  for (const [where, talk] of [
    [other, first.id],
    [id, again.said[1].id],
    [id, "none"],
  ]) {
    await expect(answerTalk(septima, where, ida, { talk, words: "x" })).rejects.toMatchObject({
      status: 404,
    });
    await expect(resolveTalk(septima, where, ida, { talk, resolved: true })).rejects.toMatchObject({
      status: 404,
    });
  }
  for (const [by, words] of [
    [ida, "  "],
    [{ name: " ", review: null }, "x"],
    [ida, "x".repeat(4001)],
  ] as const)
    await expect(beginTalk(septima, id, by, { ...PLACE, words })).rejects.toMatchObject({ status: 400 });
  expect(await talksOf(septima, other)).toEqual([]);
});

test("who waits for whom is known of each campaign", async () => {
  const id = await letter();
  const [ida, lou, oskar] = [await asked(id, "Ida"), await asked(id, "Lou"), await asked(id, "Oskar")];
  await approve(id, ida.token);
  await giveVerdict(septima, lou.token, {
    verdict: "changes",
    words: "Larger.",
    revision: await revisionOf(id),
  });
  await beginTalk(septima, id, { name: "Lou", review: lou.review.id }, { ...PLACE, words: "Here." });
  const waits = async () => (await allWaiting(septima)).get(id);
  expect(await waits()).toEqual({
    waiting: ["Oskar"],
    changes: ["Lou"],
    approved: ["Ida"],
    outdated: [],
    open: 1,
  });
  await change(id);
  expect(await waits()).toMatchObject({ approved: [], outdated: ["Ida"] });
  await withdrawReview(septima, id, oskar.review.id);
  expect(await waits()).toMatchObject({ waiting: [] });
  // A verdict holds after its link has run out; who said nothing is waited for no longer.
  await later(8 * DAY, async () => expect(await waits()).toMatchObject({ outdated: ["Ida"] }));
});

test("a letter in text only is shown as its text", async () => {
  const id = await startCampaign(septima, "Plain", "text");
  const { html } = await lookOver(septima, id, { edition: 1, inbox: null });
  expect(html).toMatch(/<pre[^>]*>[\s\S]*Unsubscribe: /);
});

test("each class of mail programs, and a number that no edition has, keep the blocks that can be spoken of", async () => {
  const id = await letter();
  const { blocks, editions } = await toLookOver(septima, id);
  expect(editions).toEqual([{ number: 1, count: 3, traits: [], reader: expect.any(Number) }]);
  for (const inbox of [null, ...INBOXES.map(({ name }) => name)])
    for (const edition of [1, 99]) {
      const { html } = await lookOver(septima, id, { edition, inbox });
      const marked = new Set([...html.matchAll(/data-node="([^"]+)"/g)].map(([, node]) => node));
      expect(
        blocks.filter((block) => !marked.has(block.id)),
        `${inbox}`,
      ).toEqual([]);
    }
  const text = await lookOver(septima, id, { edition: 1, inbox: "text" });
  expect(text.html).not.toContain("data-node");
  expect((await linesOf(septima, id, 1)).subject).toBe("Beans");
});
