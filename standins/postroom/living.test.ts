/** Readers who live: by habits of their own, the same for the same seed, and over the same doors as real ones. */

import { mkdtemp, rm } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { SMTPServer } from "smtp-server";
import { expect, test } from "vitest";
import { openRelay } from "~/server/mail/relay";
import { openPostroom } from ".";
import { deedsOf } from "./habits";

const addresses = Array.from({ length: 4000 }, (_, at) => `reader${at}@mail.example`);

test("the same seed is the same life, another is another, and a reader’s next message is not their last again", () => {
  const lives = (seed: number, nth = 0) => addresses.slice(0, 300).map((one) => deedsOf(seed, one, nth));
  expect(lives(7)).toEqual(lives(7));
  expect(lives(8)).not.toEqual(lives(7));
  expect(lives(7, 1)).not.toEqual(lives(7));
  expect(deedsOf(7, "READER1@mail.example", 0)).toEqual(deedsOf(7, "reader1@mail.example", 0));
});

test("every kind of reader is there, in an order that makes sense", () => {
  const all = addresses.map((one) => deedsOf(7, one, 0));
  const share = (kind: string) =>
    all.filter((deeds) => deeds.some((it) => it.kind === kind)).length / all.length;
  expect(share("open")).toBeGreaterThan(0.3);
  expect(share("open")).toBeLessThan(0.5);
  expect(share("press")).toBeGreaterThan(0.05);
  for (const kind of ["scan", "answer", "leave", "return"]) expect(share(kind), kind).toBeGreaterThan(0);
  for (const deeds of all) {
    const open = deeds.find(({ kind }) => kind === "open");
    for (const press of deeds.filter(({ kind }) => kind === "press"))
      expect(press.after).toBeGreaterThan(open!.after);
    // Whoever is gone does nothing else.
    if (deeds.some(({ kind }) => kind === "return")) expect(deeds).toHaveLength(1);
    for (const { after } of deeds) expect(after).toBeGreaterThanOrEqual(0);
  }
});

test("what they do comes over the doors of readers and by mail, and nowhere else", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "living-"));
  const asked: { method: string; url: string; agent: string; body: string }[] = [];
  const web = http.createServer((request, response) => {
    let body = "";
    request.on("data", (chunk) => {
      body += chunk;
    });
    request.on("end", () => {
      asked.push({
        method: request.method!,
        url: request.url!,
        agent: request.headers["user-agent"] ?? "",
        body,
      });
      response
        .writeHead(request.url!.startsWith("/c/") ? 302 : 200, { location: "https://elsewhere.example/" })
        .end();
    });
  });
  await new Promise<void>((resolve) => web.listen(0, "127.0.0.1", resolve));
  const back: { to: string; source: string }[] = [];
  const door = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    onData(stream, session, done) {
      let source = "";
      stream.on("data", (chunk: Buffer) => {
        source += chunk.toString("latin1");
      });
      stream.on("end", () => {
        back.push({ to: session.envelope.rcptTo[0].address, source });
        done();
      });
    },
  });
  await new Promise<void>((resolve) => door.listen(0, "127.0.0.1", () => resolve()));
  const postroom = await openPostroom(folder, {
    now: Date.now,
    door: `smtp://127.0.0.1:${(door.server.address() as AddressInfo).port}`,
    readers: {
      origin: "https://letters.example",
      at: `http://127.0.0.1:${(web.address() as AddressInfo).port}`,
    },
  });
  const relay = openRelay(postroom.address, { connections: 4 });
  const send = (count: number) =>
    Promise.all(
      addresses
        .slice(0, count)
        .map((to, at) =>
          relay.send(
            { from: `r-${at}@returns.example`, to },
            Buffer.from(
              [
                "From: a@b.example",
                `Message-ID: <${at}.${count}@b.example>`,
                `List-Unsubscribe: <https://letters.example/unsubscribe/${at}>`,
                "Content-Type: text/html",
                "Content-Transfer-Encoding: quoted-printable",
                "",
                `<a href=3D"https://letters.example/c/${at}?a=3D1&amp;b">x</a><a href=3D"https://elsewh=`,
                `ere.example/">y</a><a href=3D"https://letters.example.evil.test/c/1">z</a><img src=3D"https://letters.example/o/${at}.gif">`,
                "",
              ].join("\r\n"),
            ),
          ),
        ),
    );
  try {
    await send(100);
    expect(await postroom.living()).toMatchObject({ life: null, waiting: 0 });
    await postroom.live({ pace: 1_000_000, seed: 7 });
    await send(600);
    await expect
      .poll(async () => (await postroom.living()).waiting, { timeout: 30_000, interval: 50 })
      .toBe(0);
    const { done } = await postroom.living();
    const planned = addresses.slice(0, 600).flatMap((one) => deedsOf(7, one, 0));
    for (const kind of ["scan", "open", "press", "answer", "leave", "complain", "return"] as const)
      expect(done[kind], kind).toBe(planned.filter((it) => it.kind === kind).length);
    const people = asked.filter(({ agent }) => agent.startsWith("Mozilla"));
    expect(people.filter(({ url }) => url.startsWith("/o/"))).toHaveLength(done.open);
    expect(people.filter(({ url }) => /^\/c\/\d+\?a=1&b$/.test(url))).toHaveLength(done.press);
    expect(asked.filter(({ agent }) => agent.startsWith("MailScanner"))).toHaveLength(2 * done.scan);
    expect(
      asked.filter(({ method }) => method === "POST").map(({ url, body }) => [url.slice(0, 13), body]),
    ).toEqual(Array(done.leave).fill(["/unsubscribe/", "List-Unsubscribe=One-Click"]));
    expect(asked.every(({ url }) => /^\/(c|o|unsubscribe)\//.test(url))).toBe(true);
    await expect.poll(() => back.length, { timeout: 20_000 }).toBe(done.return + done.complain + done.answer);
    expect(back.filter(({ source }) => source.includes("message/delivery-status"))).toHaveLength(done.return);
    // How they live is kept, and what was still to come is not done by those who are let be.
    await postroom.live({ pace: 1, seed: 8 });
    await send(50);
    expect((await postroom.living()).waiting).toBeGreaterThan(0);
    const before = asked.length;
    await postroom.live(null);
    expect((await postroom.living()).waiting).toBe(0);
    expect(asked).toHaveLength(before);
  } finally {
    await relay.close();
    await postroom.close();
    web.close();
    await new Promise<void>((resolve) => door.close(() => resolve()));
    await rm(folder, { recursive: true, force: true });
  }
});
