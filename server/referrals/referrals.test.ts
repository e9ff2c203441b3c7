/** A referral from one reader's mail to a friend's confirmation, to the number in the next mail, and to the reward. */
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { blocksOf, FRIENDS } from "~/core/email";
import { audienceChanged } from "../audience/answers";
import { endSubscription } from "../audience/choices";
import { addContacts, contactById } from "../audience/contacts";
import { countSelection } from "../audience/selection";
import { campaign, setReaders, startCampaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { runDispatch } from "../dispatch/run";
import type { Septima } from "../septima";
import { addBatch, addCodes, codeStock } from "../sources/codes";
import { addList, everybody, openWorld, saveDesign } from "../test-world";
import { readerAddresses } from "../tokens";
import { asked, askFriend, confirmFriend, invitation } from "./joining";
import { type Programme, programmeOf, referralNumbers, saveProgramme } from "./programme";
import { giveRewards } from "./rewards";

let septima: Septima;
let close: () => Promise<void>;
let now = Date.UTC(2026, 10, 23, 9);

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  Object.assign(septima, { now: () => now });
  await addList(septima, "letter", "Letter");
  await addContacts(septima, [
    { email: "ines@mail.example", fields: { first_name: "Ines" }, lists: ["letter"] },
    { email: "idris@mail.example", fields: { first_name: "Idris" }, lists: ["letter"] },
  ]);
  await addBatch(
    septima,
    { key: "bulbs", name: "Bulbs", per: "ever", example: "EXAMPLE", low: 0, ends: null },
    "BULB-1",
  );
});
afterAll(() => close());
beforeEach(() => {
  now += 1000;
});

const PROGRAMME: Programme = {
  on: true,
  list: "letter",
  title: "Letters worth getting",
  words: "A friend of yours reads them.",
  consent: "Yes, write to me.",
  steps: [
    { id: "one", at: 1, reward: "a thank-you", batch: null },
    { id: "two", at: 2, reward: "a bag of bulbs", batch: "bulbs" },
    { id: "five", at: 5, reward: "a day in the nursery", batch: null },
  ],
};

/** All mails to an address with such words in their subject, oldest first. */
async function mailsTo(address: string, subject = "") {
  const { messages } = await septima.mailboxes!.search({ text: address, offset: 0, limit: 100 });
  const mails = await Promise.all(
    messages.map(async ({ id }) => simpleParser((await septima.mailboxes!.source(id))!)),
  );
  return mails.filter((mail) => mail.subject?.includes(subject)).reverse();
}
const contact = async (email: string) => (await everybody(septima)).find((one) => one.email === email)!;
const tokenIn = (text: string | undefined, path: string) =>
  new RegExp(`/${path}/([\\w.-]+)`).exec(String(text))?.[1] ?? "";

/** A letter whose block asks for friends, sent to the list. */
async function send(): Promise<void> {
  const id = await startCampaign(septima, "Letter", "letter");
  const email = structuredClone((await campaign(septima, id)).email);
  email.envelope.subject = [
    { type: "text", text: "Brought so far: " },
    { type: "mergeTag", attrs: { field: FRIENDS, fallback: "none", format: "number" } },
  ];
  email.sections[0].rows[0].columns[0].blocks.push({
    ...createBlock("refer", "refer"),
    programme: true,
  });
  for (const block of blocksOf(email)) if (block.type === "button") block.href = "https://shop.example";
  await saveDesign(septima, id, email);
  await setReaders(septima, id, { include: [{ kind: "list", id: "letter" }], exclude: [] });
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers, id);
  await runDispatch(septima, await bookDispatch(septima, id, { confirmed: readers, when: null }));
}

/** A friend asks by a link, and gets the mail to confirm. */
async function ask(token: string, email: string, name = ""): Promise<string> {
  await askFriend(septima, token, { email, name, agreed: true, languages: [] });
  const [mail] = (await mailsTo(email, "Please confirm")).slice(-1);
  return tokenIn(mail?.text, "join/confirm");
}

describe("from mail to mail", () => {
  let link = "";

  test("while the programme is off a block that needs it stops the sending", async () => {
    await expect(send()).rejects.toThrow(/programme is off/);
    await expect(saveProgramme(septima, { ...PROGRAMME, list: "" })).rejects.toThrow(/Choose the list/);
    await saveProgramme(septima, PROGRAMME);
  });

  test("each reader's mail has a link of their own, their number, and what comes next", async () => {
    await send();
    const [ines] = await mailsTo("ines@mail.example", "Brought so far");
    const [idris] = await mailsTo("idris@mail.example", "Brought so far");
    expect(ines.subject).toBe("Brought so far: none");
    expect(ines.text).toContain("0 of your friends read these letters because of you.");
    expect(ines.text).toContain("Next, for 1: a thank-you");
    link = tokenIn(ines.text, "join");
    expect(link).not.toBe("");
    expect(tokenIn(idris.text, "join")).not.toBe(link);
    // The button opens a mail to a friend with the link in it.
    expect(ines.html).toMatch(new RegExp(`mailto:\\?subject=[^"]*${encodeURIComponent(`/join/${link}`)}`));
  });

  test("the page says who sends the friend; the friend confirms, and is counted once", async () => {
    expect(await invitation(septima, link)).toEqual({
      title: PROGRAMME.title,
      words: PROGRAMME.words,
      consent: PROGRAMME.consent,
      by: "Ines",
    });
    const token = await ask(link, "ottilie@post.example", "Ottilie");
    expect(await asked(septima, token)).toEqual({ email: "ottilie@post.example", confirmed: false });
    expect((await contact("ines@mail.example")).fields[FRIENDS]).toBeUndefined();
    await confirmFriend(septima, token);
    await confirmFriend(septima, token);
    expect(await asked(septima, token)).toMatchObject({ confirmed: true });
    expect((await contact("ines@mail.example")).fields[FRIENDS]).toBe(1);
    const friend = await contact("ottilie@post.example");
    expect(friend.fields).toMatchObject({ first_name: "Ottilie", consent_source: "Brought by a friend" });
    expect((await contactById(septima, friend.id)).lists).toEqual(["letter"]);
  });

  test("the next mail has the number and the next reward; the friend gets it, too", async () => {
    await giveRewards(septima);
    await giveRewards(septima);
    const rewards = await mailsTo("ines@mail.example", "Thank you");
    expect(rewards.map(({ subject }) => subject)).toEqual(["Thank you: a thank-you"]);
    await send();
    const [, ines] = await mailsTo("ines@mail.example", "Brought so far");
    expect(ines.subject).toBe("Brought so far: 1");
    expect(ines.text).toContain("1 of your friends read these letters because of you.");
    expect(ines.text).toContain("Next, for 2: a bag of bulbs");
    expect(await mailsTo("ottilie@post.example", "Brought so far")).toHaveLength(1);
  });

  test("a step with a code sends one, and waits while the batch has none", async () => {
    await confirmFriend(septima, await ask(link, "bram@post.example"));
    await giveRewards(septima);
    const [mail] = await mailsTo("ines@mail.example", "a bag of bulbs");
    expect(mail.text).toContain("Your code: BULB-1");
    expect((await codeStock(septima))[0].free).toBe(0);

    const idris = (await readerAddresses(septima))((await contact("idris@mail.example")).id, "c")
      .referral.split("/")
      .at(-1)!;
    for (const email of ["one@post.example", "two@post.example"])
      await confirmFriend(septima, await ask(idris, email));
    await giveRewards(septima);
    expect(await mailsTo("idris@mail.example", "a bag of bulbs")).toHaveLength(0);
    expect(await referralNumbers(septima)).toMatchObject({ confirmed: 4, given: 3, waiting: 1 });
    await addCodes(septima, "bulbs", "BULB-2");
    await giveRewards(septima);
    await giveRewards(septima);
    const got = await mailsTo("idris@mail.example", "a bag of bulbs");
    expect(got.map(({ text }) => /BULB-\d/.exec(String(text))?.[0])).toEqual(["BULB-2"]);
    expect(await referralNumbers(septima)).toMatchObject({ given: 4, waiting: 0 });
  });
});

describe("nobody is counted, asked or told more than they should be", () => {
  let link = "";
  const count = async () => (await mailsTo("@", "Please confirm")).length;
  beforeAll(async () => {
    const { id } = await contact("idris@mail.example");
    link = (await readerAddresses(septima))(id, "c").referral.split("/").at(-1)!;
  });

  test("readers themselves, and those who get letters already, get no mail and the same answer", async () => {
    const before = await count();
    for (const email of ["idris@mail.example", "INES@mail.example", " ottilie@post.example "])
      await expect(
        askFriend(septima, link, { email, name: "", agreed: true, languages: [] }),
      ).resolves.toBeUndefined();
    expect(await count()).toBe(before);
  });

  test("somebody is asked once a day, by whomever", async () => {
    const before = await count();
    await ask(link, "wren@post.example");
    await askFriend(septima, link, { email: "wren@post.example", name: "", agreed: true, languages: [] });
    const ines = (await readerAddresses(septima))((await contact("ines@mail.example")).id, "c").referral;
    await askFriend(septima, ines.split("/").at(-1)!, {
      email: "Wren@post.example",
      name: "",
      agreed: true,
      languages: [],
    });
    expect(await count()).toBe(before + 1);
    now += 25 * 3_600_000;
    await askFriend(septima, link, { email: "wren@post.example", name: "", agreed: true, languages: [] });
    expect(await count()).toBe(before + 2);
  });

  test("no consent, no address, forged links and too many friends are refused with the reason", async () => {
    const friend = { email: "new@post.example", name: "", agreed: true, languages: [] };
    await expect(askFriend(septima, link, { ...friend, agreed: false })).rejects.toThrow(/Tick the box/);
    await expect(askFriend(septima, link, { ...friend, email: "no address" })).rejects.toThrow(
      /no email address/,
    );
    for (const forged of ["", "x.y", link.replace(/.$/, (end) => (end === "A" ? "B" : "A"))]) {
      await expect(invitation(septima, forged)).rejects.toMatchObject({ status: 404 });
      await expect(askFriend(septima, forged, friend)).rejects.toMatchObject({ status: 404 });
    }
    // A link to join confirms nobody.
    await expect(confirmFriend(septima, link)).rejects.toMatchObject({ status: 404 });
    const { id } = await contact("bram@post.example");
    const bram = (await readerAddresses(septima))(id, "c").referral.split("/").at(-1)!;
    await septima.db.query(
      `insert into referrals (id, referrer, email, asked_at)
       select 'many' || n, $1, 'many' || n || '@post.example', $2 from generate_series(1, 50) n`,
      [id, new Date(now)],
    );
    await expect(askFriend(septima, bram, friend)).rejects.toMatchObject({ status: 429 });
  });

  test("who unsubscribed may come back by a friend; who complained may not", async () => {
    await septima.db.query("update contacts set status = 'unsubscribed' where email = 'bram@post.example'");
    audienceChanged(septima);
    now += 25 * 3_600_000;
    await septima.db.query("delete from referrals where email = 'bram@post.example'");
    const token = await ask(link, "bram@post.example");
    await septima.db.query("update contacts set status = 'complained' where email = 'bram@post.example'");
    await expect(confirmFriend(septima, token)).rejects.toMatchObject({ status: 409 });
    await septima.db.query("update contacts set status = 'unsubscribed' where email = 'bram@post.example'");
    await confirmFriend(septima, token);
    expect((await contact("bram@post.example")).fields.consent_source).toBe("Brought by a friend");
  });

  test("once it is off, links lead nowhere, and it is as it was when it is on again", async () => {
    await saveProgramme(septima, { ...PROGRAMME, on: false });
    await expect(invitation(septima, link)).rejects.toMatchObject({ status: 404 });
    await saveProgramme(septima, PROGRAMME);
    expect(await programmeOf(septima)).toEqual(PROGRAMME);
    await expect(
      saveProgramme(septima, { ...PROGRAMME, steps: PROGRAMME.steps.map((step) => ({ ...step, at: 2 })) }),
    ).rejects.toThrow(/same number of friends/);
  });
});

describe("somebody who confirms for a second reader, or comes back", () => {
  const linkOf = async (email: string) =>
    (await readerAddresses(septima))((await contact(email)).id, "c")
      .referral.split("/")
      .at(-1)!;

  test("is in, and counted for the first alone", async () => {
    now += 25 * 3_600_000;
    const [ines, idris] = [await linkOf("ines@mail.example"), await linkOf("idris@mail.example")];
    const first = await ask(ines, "twice@post.example");
    now += 25 * 3_600_000;
    const second = await ask(idris, "twice@post.example");
    const friends = () =>
      Promise.all(
        ["ines", "idris"].map(
          async (name) =>
            (
              await septima.db.query(
                "select 1 from referrals r join contacts c on c.id = r.referrer where c.email = $1 and r.confirmed_at is not null",
                [`${name}@mail.example`],
              )
            ).length,
        ),
      );
    const [before, other] = await friends();
    await confirmFriend(septima, first);
    await confirmFriend(septima, second);
    expect(await friends()).toEqual([before + 1, other]);

    // Left, and asked anew by the other: they get letters again, and nobody is counted twice.
    const { id } = await contact("twice@post.example");
    await endSubscription(septima, id, { campaign: null, way: "page" });
    now += 25 * 3_600_000;
    const back = await ask(idris, "twice@post.example");
    expect(await asked(septima, back)).toMatchObject({ confirmed: false });
    await confirmFriend(septima, back);
    expect((await contactById(septima, id)).status).toBe("subscribed");
    expect(await friends()).toEqual([before + 1, other]);
    // What they ask for themselves holds, whatever is taken back later.
    await endSubscription(septima, id, { campaign: null, way: "page" });
    expect(await asked(septima, first)).toMatchObject({ confirmed: false });
    await confirmFriend(septima, first);
    expect((await contactById(septima, id)).status).toBe("subscribed");
    expect(await asked(septima, first)).toMatchObject({ confirmed: true });
  });

  test("has one code of a batch that is a reader's for ever, at however many steps", async () => {
    await addBatch(
      septima,
      { key: "ever", name: "Ever", per: "ever", example: "EXAMPLE", low: 0, ends: null },
      "EVER-1\nEVER-2\nEVER-3",
    );
    const { id } = await contact("idris@mail.example");
    for (const step of ["x", "y"])
      await septima.db.query(
        "insert into rewards (contact_id, step, words, batch, earned_at) values ($1, $2, $2, 'ever', $3)",
        [id, step, new Date(now)],
      );
    await giveRewards(septima);
    const mails = await mailsTo("idris@mail.example", "Thank you");
    const codes = mails.flatMap(({ text }) => /EVER-\d/.exec(String(text))?.[0] ?? []);
    expect(codes).toEqual(["EVER-1", "EVER-1"]);
    expect((await codeStock(septima)).find(({ key }) => key === "ever")?.free).toBe(2);
  });
});
