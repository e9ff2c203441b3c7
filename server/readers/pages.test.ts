/** The pages readers come to, asked over HTTP: each in its reader's language, and nothing happens by looking at one. */
import type http from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { LETTER_LINK, paragraphOf, richText } from "~/core/email";
import { nothingElse, readersDoors } from "~/start/readers";
import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { messageAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import { programmeOf, saveProgramme } from "../referrals/programme";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { messageAddresses } from "../tokens";
import { brandOf, setBrand } from "../workspace/settings";

const LANGUAGES = ["de", "fr", null, "xx"];
let septima: Septima;
let close: () => Promise<void>;
let origin: string;
let dispatch: string;
let campaignId: string;
let survey: string;
let ids: number[];
let addresses: Awaited<ReturnType<typeof messageAddresses>>;

beforeAll(async () => {
  const world = await openWorld();
  septima = world.septima;
  const doors = readersDoors(septima);
  const server: http.Server = express().use(doors.router, nothingElse(septima)).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  Object.assign(septima.config, { readers: origin });
  close = async () => {
    server.closeAllConnections();
    server.close();
    await world.close();
  };
  await addReaders(septima, "all", LANGUAGES.length, (at) => ({
    first_name: `Reader ${at}`,
    ...(LANGUAGES[at] && { language: LANGUAGES[at] }),
  }));
  ids = (await septima.db.query<{ id: number }>("select id from contacts order by id")).map(({ id }) => id);
  campaignId = await readyLetter(septima, "all", () => [{ type: "text", text: "In a browser" }]);
  await setBrand(septima, { ...(await brandOf(septima)), name: "Tansy & Row" });
  const email = structuredClone((await campaign(septima, campaignId)).email);
  const question = createBlock("survey", "question");
  survey = question.id;
  const link = {
    type: "text" as const,
    text: "In a browser",
    marks: [{ type: "link" as const, attrs: { href: LETTER_LINK } }],
  };
  const words = { ...createBlock("text", "words"), content: richText(paragraphOf(link)) };
  email.sections[0].rows[0].columns[0].blocks.push(question, words);
  await saveDesign(septima, campaignId, email);
  const { readers } = await campaign(septima, campaignId);
  const count = await countSelection(septima, readers, campaignId);
  dispatch = await bookDispatch(septima, campaignId, { confirmed: count.readers, when: null });
  await runDispatch(septima, dispatch);
  addresses = await messageAddresses(septima, { origin, dispatch, campaign: campaignId, links: 0 });
  await septima.db.query(
    "insert into lists (id, name, about, topic, created_at) values ('news', 'News <b>', 'What is new', true, now())",
  );
});
afterAll(() => close());

const get = (address: string, language = "") =>
  fetch(address.startsWith("http") ? address : origin + address, {
    redirect: "manual",
    headers: { "accept-language": language },
  });
const post = (address: string, fields: Record<string, string>, language = "") =>
  fetch(address.startsWith("http") ? address : origin + address, {
    method: "POST",
    redirect: "manual",
    headers: { "accept-language": language },
    body: new URLSearchParams(fields),
  });
const standing = async (id: number) =>
  (await septima.db.query<{ status: string }>("select status from contacts where id = $1", [id]))[0].status;

/** All that is kept, for what must change nothing. */
async function everything(): Promise<string> {
  const tables = await septima.db.query<{ name: string }>(
    "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1",
  );
  const all: unknown[] = [];
  for (const { name } of tables)
    all.push(
      name,
      (
        await septima.db.query<{ row: string }>(
          `select md5(string_agg(t::text, '|' order by t::text)) as row from "${name}" t`,
        )
      )[0].row,
    );
  return JSON.stringify(all);
}

describe("language", () => {
  test("is the reader’s own, else what their browser asks for, else that of the letter", async () => {
    const asked = async (at: number, language: string) =>
      /<html lang="(\w+)"/.exec(await (await get(addresses(ids[at]).unsubscribe, language)).text())?.[1];
    expect(await asked(0, "it")).toBe("de");
    expect(await asked(1, "it")).toBe("fr");
    expect(await asked(2, "xx, it;q=0.5")).toBe("it");
    expect(await asked(3, "pl")).toBe("pl");
    expect(await asked(2, "")).toBe("en");
    await septima.db.query(
      "update campaigns set email = jsonb_set(email, '{language}', '\"nl\"') where id = $1",
      [campaignId],
    );
    expect(await asked(2, "")).toBe("nl");
    await septima.db.query(
      "update campaigns set email = jsonb_set(email, '{language}', '\"en\"') where id = $1",
      [campaignId],
    );
  });

  test("of whoever comes by a link that does nothing is what their browser asks for", async () => {
    for (const path of [
      "/unsubscribe/x",
      "/answer/x/y/1",
      "/join/x",
      "/join/confirm/x",
      "/letter/x",
      "/c/x",
      "/o/x.gif",
      "/nowhere",
    ]) {
      const answer = await get(path, "de-DE,de;q=0.9");
      expect(answer.status, path).toBe(404);
      const html = await answer.text();
      expect(html, path).toContain('<html lang="de"');
      expect(html, path).toContain("Dieser Link führt nicht weiter");
      expect(html, path).not.toMatch(/Septima|campaigns/);
    }
  });
});

test("looking at any page changes nothing, and no page runs anything or is kept", async () => {
  const before = await everything();
  for (const id of ids) {
    const { unsubscribe, answer, referral, letter } = addresses(id);
    for (const address of [
      unsubscribe,
      `${unsubscribe}?kept`,
      `${answer}/${survey}/3`,
      referral,
      letter,
      `${origin}/join/preview`,
    ])
      for (const method of ["GET", "HEAD"]) {
        const { status, headers } = await fetch(address, { method });
        expect([200, 404], address).toContain(status);
        expect(headers.get("cache-control")).toBe("no-store");
        expect(headers.get("referrer-policy")).toBe("no-referrer");
        expect(headers.get("set-cookie")).toBeNull();
        expect(headers.get("content-security-policy")).toMatch(/^default-src 'none'; style-src/);
        expect(headers.get("content-security-policy")).not.toContain("script-src");
      }
  }
  expect(await everything()).toBe(before);
});

describe("preferences", () => {
  test("one press ends the letters, and one takes it back; a second press is as the first", async () => {
    const { unsubscribe } = addresses(ids[0]);
    expect(await (await get(unsubscribe)).text()).toContain("Post von Tansy &amp; Row");
    for (let twice = 0; twice < 2; twice++) {
      const answer = await post(unsubscribe, { intent: "unsubscribe" });
      // So that to load the page anew sends nothing again.
      expect(answer.status).toBe(303);
      expect(answer.headers.get("location")).toBe(new URL(unsubscribe).pathname);
      expect(await standing(ids[0])).toBe("unsubscribed");
    }
    expect(await (await get(unsubscribe)).text()).toContain("Sie haben alles abbestellt");
    await post(unsubscribe, { intent: "resubscribe" });
    expect(await standing(ids[0])).toBe("subscribed");
  });

  test.each(["application/x-www-form-urlencoded", "multipart/form-data"])(
    "one press in a mail program, as %s, is answered without sending it elsewhere (RFC 8058)",
    async (type) => {
      const { unsubscribe } = addresses(ids[1]);
      const fields = { "List-Unsubscribe": "One-Click" };
      const form = new FormData();
      form.set("List-Unsubscribe", "One-Click");
      const answer = await fetch(unsubscribe, {
        method: "POST",
        redirect: "manual",
        body: type.startsWith("multi") ? form : new URLSearchParams(fields),
      });
      expect(answer.status).toBe(200);
      expect(await standing(ids[1])).toBe("unsubscribed");
      await post(unsubscribe, { intent: "resubscribe" });
    },
  );

  test("topics are kept as chosen, and said to be", async () => {
    const { unsubscribe } = addresses(ids[2]);
    expect(await (await get(unsubscribe)).text()).toContain("News &lt;b&gt;");
    const answer = await post(unsubscribe, { intent: "topics", topic: "news" });
    expect(answer.headers.get("location")).toBe(`${new URL(unsubscribe).pathname}?kept`);
    const page = await (await get(new URL(answer.headers.get("location")!, origin).href)).text();
    expect(page).toContain("Your choice is kept.");
    expect(page).toMatch(/value="news" checked/);
    await post(unsubscribe, { intent: "topics" });
    expect(await (await get(unsubscribe)).text()).not.toMatch(/value="news" checked/);
  });

  test("what is no press of ours does nothing and says so", async () => {
    const { unsubscribe } = addresses(ids[2]);
    for (const body of [new URLSearchParams({ intent: "nonsense" }), "{}", ""]) {
      const answer = await fetch(unsubscribe, { method: "POST", body });
      expect(answer.status).toBe(400);
      expect(await answer.text()).toContain("Choose one of the buttons.");
    }
    const much = await fetch(unsubscribe, {
      method: "POST",
      body: new URLSearchParams({ x: "y".repeat(70_000) }),
    });
    expect(much.status).toBe(413);
    expect(await standing(ids[2])).toBe("subscribed");
  });

  test("a look or a proof belongs to nobody", async () => {
    const answer = await post("/unsubscribe/preview", { intent: "unsubscribe" }, "fr");
    expect(answer.status).toBe(200);
    expect(await answer.text()).toContain("il n’y a personne à désabonner");
  });
});

test("an answer is given by a press on the page, and shown from then on", async () => {
  const address = `${addresses(ids[0]).answer}/${survey}/4`;
  expect(await (await get(address)).text()).toContain("Antwort senden");
  expect((await post(address, {})).status).toBe(303);
  expect(await (await get(address)).text()).toContain("hat Ihre Antwort: 4 von 5");
  expect((await get(`${addresses(ids[0]).answer}/${survey}/9`)).status).toBe(404);
  expect(await (await get(`/answer/preview/${survey}/4`, "es")).text()).toContain("«4»");
});

test("a link to a survey leads to its question, where a press on the scale answers it", async () => {
  const address = `${addresses(ids[1]).answer}/${survey}`;
  const asked = await (await get(address)).text();
  const presses = [...asked.matchAll(/<button class="(\w+)" formaction="([^"]+)"/g)];
  expect(presses.map(([, look]) => look)).toEqual(["second", "second", "second", "second", "second"]);
  expect((await post(presses[1][2], {})).status).toBe(303);
  expect(await (await get(address)).text()).toContain(`<button class="first" formaction="${presses[1][2]}`);
  expect((await get(`${addresses(ids[1]).answer}/nothing`)).status).toBe(404);
  expect((await get(`/answer/preview/${survey}`)).status).toBe(200);
});

test("the letter in a browser is the one that was sent, and its links count as in it", async () => {
  const { letter } = addresses(ids[0]);
  const { html: sent } = await simpleParser(Buffer.from(await messageAsSent(septima, dispatch, ids[0])));
  expect(sent).toContain(`href="${letter}"`);
  const answer = await get(letter);
  expect(await answer.text()).toBe(String(sent).replace(/\n$/, ""));
  expect(answer.headers.get("content-security-policy")).toContain("img-src *");
  // Another reader's letter, with this one's signature, is none.
  const [payload, signature] = letter.split("/").at(-1)!.split(".");
  const other = Buffer.from(
    Buffer.from(payload, "base64url").toString().replace(String(ids[0]), String(ids[1])),
  );
  expect((await get(`/letter/${other.toString("base64url")}.${signature}`)).status).toBe(404);
  expect(await (await get("/letter/preview", "de")).text()).toContain("Probedruck");
});

describe("friends", () => {
  test("are asked in their language, told what is wrong in it, and written to in it", async () => {
    const { referral } = addresses(ids[1]);
    const off = await get(referral, "nl");
    expect(off.status).toBe(404);
    expect(await off.text()).toContain("Zo kan niemand zich meer aanmelden.");
    await saveProgramme(septima, { ...(await programmeOf(septima)), on: true, list: "news" });
    const page = await (await get(referral, "nl")).text();
    expect(page).toContain("Reader 1 stuurt u hierheen.");
    const wrong = await post(referral, { email: "<no>", name: '"><b>', agreed: "on" }, "nl");
    expect(wrong.status).toBe(400);
    const html = await wrong.text();
    expect(html).toContain("Dit is geen e-mailadres.");
    expect(html).toContain('value="&lt;no&gt;"');
    expect(html).toContain('aria-describedby="problem"');
    const asked = await post(referral, { email: "joos@mail.example", name: "Joos", agreed: "on" }, "nl");
    expect(await asked.text()).toContain("Kijk in uw mailbox");
    const { messages } = await septima.mailboxes!.search({ text: "joos@mail.example", offset: 0, limit: 1 });
    const { subject, text } = await simpleParser((await septima.mailboxes!.source(messages[0].id))!);
    expect(subject).toBe("Graag bevestigen: post van Tansy & Row");
    expect(text).toContain("Dag Joos, Iemand die de post");
    const confirm = /\/join\/confirm\/[\w.-]+/.exec(String(text))![0];
    expect(await (await get(confirm, "nl")).text()).toContain("Ja, stuur maar");
    expect((await post(confirm, {})).status).toBe(303);
    expect(await (await get(confirm, "nl")).text()).toContain("U staat op de lijst");
    const [joined] = await septima.db.query<{ status: string }>(
      "select status from contacts where email = 'joos@mail.example'",
    );
    expect(joined.status).toBe("subscribed");
  });
});

test("while the database is away, readers are told so in their language and in no strange look", async () => {
  const real = septima.db.query;
  const { unsubscribe } = addresses(ids[0]);
  septima.cache.clear();
  septima.db.query = (() => Promise.reject(new Error("away"))) as typeof real;
  const quiet = console.error;
  console.error = () => undefined;
  try {
    const answer = await get(unsubscribe, "pt");
    expect(answer.status).toBe(503);
    expect(await answer.text()).toContain("Isto não funciona de momento.");
  } finally {
    septima.db.query = real;
    console.error = quiet;
    septima.cache.clear();
  }
});
