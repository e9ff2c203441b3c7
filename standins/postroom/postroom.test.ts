import { appendFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { expect, test } from "vitest";
import { openRelay, RelayError } from "~/server/mail/relay";
import { openPostroom } from ".";

const message = (id: number, subject = `Letter ${id}`) =>
  Buffer.from(
    `From: a@b.example\r\nSubject: ${subject}\r\nMessage-ID: <${id}@b.example>\r\n\r\n.dot at the start\r\nwords ${id}\r\n`,
  );

test("messages sent over SMTP are kept whole, found, and there again after a restart with a torn end", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "postroom-"));
  try {
    let postroom = await openPostroom(folder, { now: () => 1000 });
    const relay = openRelay(postroom.address, { connections: 4 });
    await Promise.all(
      Array.from({ length: 60 }, (_, id) =>
        relay.send({ from: "a@b.example", to: `reader${id}@mail.example` }, message(id)),
      ),
    );
    expect((await postroom.search({ text: "", offset: 0, limit: 500 })).total).toBe(60);
    await relay.close();
    await postroom.close();

    await appendFile(path.join(folder, "messages"), "half a mess");
    await appendFile(path.join(folder, "index.jsonl"), '{"id":"m12","to":"x');
    postroom = await openPostroom(folder, { now: () => 2000 });
    const again = openRelay(postroom.address, { connections: 2 });
    await again.send({ from: "a@b.example", to: "late@mail.example" }, message(99));
    const { total, messages } = await postroom.search({ text: "", offset: 0, limit: 500 });
    expect(total).toBe(61);
    expect(messages[0]).toMatchObject({ to: "late@mail.example", at: 2000 });
    for (const one of messages) {
      const id = /Letter (\d+)/.exec(one.subject)![1];
      expect((await postroom.source(one.id))!.toString()).toBe(message(Number(id)).toString());
    }
    expect(await postroom.arrivedOrNever(["7@b.example", "500@b.example"])).toEqual(new Set(["7@b.example"]));
    // What was said not to have come does not come any more.
    await expect(
      again.send({ from: "a@b.example", to: "late@mail.example" }, message(500)),
    ).rejects.toMatchObject({ kind: "refused" });
    await again.send({ from: "a@b.example", to: "late@mail.example" }, message(7));
    expect((await postroom.search({ text: "READER7@ letter", offset: 0, limit: 5 })).total).toBe(1);
    await postroom.empty();
    expect((await postroom.search({ text: "", offset: 0, limit: 5 })).total).toBe(0);
    await again.close();
    await postroom.close();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});

test("a relay that is not there is unreachable, an address it does not take is refused", async () => {
  const gone = openRelay("smtp://127.0.0.1:1", { connections: 1, patience: 200 });
  await expect(gone.send({ from: "a@b.example", to: "c@d.example" }, message(1))).rejects.toMatchObject({
    kind: "away",
  });
  const folder = await mkdtemp(path.join(tmpdir(), "postroom-"));
  const postroom = await openPostroom(folder, { now: () => 0 });
  const relay = openRelay(postroom.address, { connections: 1 });
  const refused = relay.send({ from: "a@b.example", to: "no address" }, message(1));
  await expect(refused).rejects.toBeInstanceOf(RelayError);
  await expect(refused).rejects.toMatchObject({ kind: "refused" });
  await relay.send({ from: "a@b.example", to: "c@d.example" }, message(2));
  expect((await postroom.search({ text: "", offset: 0, limit: 5 })).total).toBe(1);
  await relay.close();
  await postroom.close();
  await rm(folder, { recursive: true, force: true });
});

test("mailboxes behave as they are told, by address, by domain or all", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "postroom-"));
  let postroom = await openPostroom(folder, { now: () => 0 });
  const send = async (to: string, from = "a@b.example") => {
    const relay = openRelay(postroom.address, { connections: 1, patience: 0 });
    const begun = performance.now();
    const said = await relay.send({ from, to }, message(Math.random() * 1e9)).then(
      () => "taken",
      (error: RelayError) => `${error.kind} ${error.message}`,
    );
    await relay.close();
    return { said, ms: performance.now() - begun };
  };
  const says = (
    at: "greeting" | "sender" | "reader" | "message",
    reply: string,
    times: number | null = null,
  ) => ({ kind: "says", at, reply, times }) as const;
  await postroom.behave([
    { who: "gone@mail.example", does: says("reader", "550 5.1.1 No such mailbox") },
    { who: "@full.example", does: says("reader", "452 4.2.2 Mailbox full") },
    { who: "grey@mail.example", does: says("reader", "451 4.7.1 Come again", 2) },
    { who: "late@mail.example", does: says("message", "554 5.7.1 Not wanted") },
    { who: "cut@mail.example", does: { kind: "closes", at: "message" } },
    { who: "slow@mail.example", does: { kind: "slow", seconds: 0.4 } },
    { who: "@bad.example", does: says("sender", "550 5.7.1 Not from you") },
  ]);
  const said = async (...given: Parameters<typeof send>) => (await send(...given)).said;
  expect(await said("Gone@Mail.example")).toBe("gone 550 5.1.1 No such mailbox");
  expect(await said("anybody@full.example")).toBe("passing 452 4.2.2 Mailbox full");
  for (const wanted of ["passing 451 4.7.1 Come again", "passing 451 4.7.1 Come again", "taken"])
    expect(await said("grey@mail.example")).toBe(wanted);
  expect(await said("late@mail.example")).toBe("refused 554 5.7.1 Not wanted");
  expect(await said("cut@mail.example")).toMatch(/^unknown/);
  expect((await send("slow@mail.example")).ms).toBeGreaterThan(390);
  expect(await said("ines@mail.example", "a@bad.example")).toMatch(/^closed/);
  expect(await said("ines@mail.example")).toBe("taken");
  const { total } = await postroom.search({ text: "", offset: 0, limit: 1 });
  expect(total).toBe(3);
  // It is kept over a restart; of all it can be said, too.
  await postroom.close();
  postroom = await openPostroom(folder, { now: () => 0 });
  expect(await said("gone@mail.example")).toMatch(/^gone/);
  await postroom.behave([{ who: "*", does: says("greeting", "554 5.3.2 Not today") }]);
  expect(await said("ines@mail.example")).toMatch(/^closed/);
  await postroom.close();
  await rm(folder, { recursive: true, force: true });
});
