import type { AddressInfo } from "node:net";
import fc from "fast-check";
import { SMTPServer } from "smtp-server";
import { afterEach, describe, expect, test } from "vitest";
import { type HostileRelay, openHostileRelay, RELAY_CERTIFICATE, type Script } from "./hostile";
import { openRelay, type Relay, RelayError, type RelayOptions } from "./relay";

const message = new TextEncoder().encode("Subject: Beans\r\n\r\nSow them.\r\n");
const envelope = { from: "letters@tansyrow.example", to: "ines@mail.example" };
let hostile: HostileRelay | undefined;
let relay: Relay | undefined;

afterEach(async () => {
  await relay?.close();
  await hostile?.close();
});

/** How relays are talked to: word by word, all in one go, and with those who begin a message to nobody. */
const WAYS = {
  "word by word": {},
  "in one go": { pipelining: true },
  "in one go, carelessly": { pipelining: true, careless: true },
};

async function failure(
  script: Script,
  login = "",
  way: keyof typeof WAYS = "word by word",
): Promise<RelayError> {
  hostile = await openHostileRelay(script, login, WAYS[way]);
  relay = openRelay(hostile.address, OPTIONS);
  return relay.send(envelope, message).then(
    () => {
      throw new Error("It was taken.");
    },
    (error) => error as RelayError,
  );
}

/** A relay that is away or slow is waited for shortly; its certificate is trusted. */
const OPTIONS: RelayOptions = {
  connections: 2,
  patience: 250,
  slowest: { connect: 300, message: 400 },
  trust: RELAY_CERTIFICATE,
};

describe.each(Object.keys(WAYS) as (keyof typeof WAYS)[])("concerns every message, %s:", (way) => {
  test.each<[string, Script, RelayError["kind"], RegExp, string?]>([
    ["a greeting that refuses", { greeting: "554 No service here" }, "closed", /cannot be reached/],
    ["a greeting that asks to come later", { greeting: "421 Too busy" }, "away", /cannot be reached/],
    ["a greeting of another kind", { greeting: "HTTP/1.1 400 Bad Request" }, "away", /cannot be reached/],
    ["no greeting and a closed door", { greeting: null }, "away", /cannot be reached/],
    [
      "a refused login",
      { auth: "535 5.7.8 Wrong password" },
      "closed",
      /refused the login.*535/,
      "me:wrong@",
    ],
    ["a login that is put off", { auth: "454 4.7.0 Not now" }, "closed", /refused the login/, "me:right@"],
    ["a login that cuts the connection", { auth: null }, "away", /cannot be reached/, "me:right@"],
    ["a sender that is not taken", { mail: "550 5.7.1 Not from you" }, "closed", /does not take mail from/],
    ["a sender without a login", { mail: "530 5.7.0 Log in first" }, "closed", /does not take mail from/],
    ["421 at the sender", { mail: "421 Closing" }, "away", /421/],
    ["421 at the reader", { rcpt: "421 4.7.0 Too many" }, "away", /421/],
    ["421 at the data", { data: "421 Closing" }, "away", /421/],
    ["421 at the end", { end: "421 Closing" }, "away", /421/],
    ["a cut instead of an answer to the hello", { ehlo: null }, "away", /cannot be reached/],
    ["421 at the hello", { ehlo: "421 Closing" }, "away", /cannot be reached/],
    ["a cut at the sender", { mail: null }, "away", /cannot be reached/],
    ["encryption that is refused", { starttls: "454 Not now" }, "closed", /encrypted/, "me:right@"],
    ["encryption that cuts the connection", { starttls: null }, "away", /cannot be reached/, "me:right@"],
    ["no greeting, without an end", { silent: "greeting" }, "away", /longer than 0\.3 s/],
    ["a greeting an octet at a time", { silent: "greeting", drip: 20 }, "away", /longer than 0\.3 s/],
    ["no answer to the hello", { silent: "ehlo" }, "away", /longer than 0\.3 s/],
    ["no answer at the reader", { silent: "rcpt" }, "away", /longer than 0\.4 s/],
    ["an answer an octet at a time", { silent: "mail", drip: 20 }, "away", /longer than 0\.4 s/],
    ["no answer at the end", { silent: "end" }, "unknown", /before it said whether it has/],
    ["an end an octet at a time", { silent: "end", drip: 20 }, "unknown", /before it said whether it has/],
    ["a connection cut at the reader", { rcpt: null }, "away", /cannot be reached/],
    ["a connection cut before the message", { data: null }, "away", /cannot be reached/],
    [
      "a connection cut after the data",
      { end: null },
      "unknown",
      /before it said whether it has the message/,
    ],
  ])("%s", async (_what, script, kind, words, login) => {
    const error = await failure(script, login, way);
    expect(error).toBeInstanceOf(RelayError);
    expect(error.kind).toBe(kind);
    expect(error.message).toMatch(words);
    expect(hostile?.taken).toEqual([]);
  });

  test("a name and a password go encrypted, to who proves who they are, or not at all", async () => {
    // Whom nobody vouches for.
    hostile = await openHostileRelay({}, "me:secret@");
    relay = openRelay(hostile.address, { ...OPTIONS, trust: undefined });
    await expect(relay.send(envelope, message)).rejects.toMatchObject({
      kind: "closed",
      message: expect.stringMatching(/encrypted.*certificate/),
    });
    await hostile.close();
    // Who offers no encryption.
    hostile = await openHostileRelay({}, "me:secret@", { tls: false });
    relay = openRelay(hostile.address, OPTIONS);
    await expect(relay.send(envelope, message)).rejects.toMatchObject({ kind: "closed" });
    expect(hostile.logins).toEqual([]);
    await hostile.close();
    hostile = await openHostileRelay({}, "me:secret@");
    relay = openRelay(hostile.address, OPTIONS);
    await relay.send(envelope, message);
    expect(hostile.logins.map(({ encrypted }) => encrypted)).toEqual([true]);
    expect(hostile.taken).toEqual(["ines@mail.example"]);
  });

  test("nobody at that address", async () => {
    hostile = await openHostileRelay({});
    await hostile.close();
    const error = await openRelay(hostile.address, OPTIONS)
      .send(envelope, message)
      .catch((caught) => caught);
    expect(error.kind).toBe("away");
    hostile = undefined;
  });
});

test.each<[string, string | null]>([
  ["421", "421 4.7.0 Too many"],
  ["a cut", null],
])(
  "%s at every fifth message: it slows down, opens a new connection and loses nothing",
  async (_what, said) => {
    let calls = 0;
    hostile = await openHostileRelay({ rcpt: () => (++calls % 5 === 0 ? said : undefined) });
    relay = openRelay(hostile.address, { connections: 3 });
    const readers = Array.from({ length: 20 }, (_, at) => `reader${at}@mail.example`);
    await Promise.all(readers.map((to) => relay!.send({ ...envelope, to }, message)));
    expect([...hostile.taken].sort()).toEqual([...readers].sort());
  },
);

test("who ends waits no longer for a relay that is away", async () => {
  hostile = await openHostileRelay({ greeting: "421 Too busy" });
  relay = openRelay(hostile.address, { connections: 2 });
  const ending = new AbortController();
  const sent = relay.send(envelope, message, ending.signal).catch((error) => error);
  await expect.poll(() => hostile!.connected).toBeGreaterThan(0);
  ending.abort();
  expect((await sent).kind).toBe("away");
});

describe.each(Object.keys(WAYS) as (keyof typeof WAYS)[])("concerns one reader, %s:", (way) => {
  test.each<[string, Script, RelayError["kind"]]>([
    ["no such mailbox", { rcpt: "550 5.1.1 Nobody here" }, "gone"],
    ["no such mailbox, said plainly", { rcpt: "550 Unknown user" }, "gone"],
    ["a mailbox that has moved", { rcpt: "551 Not here any more" }, "gone"],
    ["a domain that takes none", { rcpt: "556 5.1.10 Null MX" }, "gone"],
    ["a policy", { rcpt: "550 5.7.1 Blocked by policy" }, "refused"],
    ["a full mailbox for good", { rcpt: "552 5.2.2 Over quota" }, "refused"],
    ["content", { end: "554 5.6.0 We do not like it" }, "refused"],
    ["greylisting", { rcpt: "451 4.7.1 Come back later" }, "passing"],
    ["a full mailbox for now", { rcpt: "452 4.2.2 Over quota" }, "passing"],
    ["a limit at the sender", { mail: "452 4.3.1 Too much just now" }, "passing"],
    ["a passing trouble at the end", { end: "451 4.3.0 Try again" }, "passing"],
  ])("%s", async (_what, script, kind) => {
    const error = await failure(script, "", way);
    expect(error).toBeInstanceOf(RelayError);
    expect(error.kind).toBe(kind);
    // Nothing is said into a message that nobody is to get, and the next reader gets theirs.
    expect(hostile?.strays).toBe(0);
    hostile!.script = {};
    await relay!.send({ ...envelope, to: "piet@mail.example" }, message);
    expect(hostile?.taken).toEqual(["piet@mail.example"]);
  });
});

test("what is sent arrives as it is: dots, lines without an end, and more than goes at once", async () => {
  const came: Buffer[] = [];
  const server = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    size: 5_000_000,
    onData(stream, _session, done) {
      const pieces: Buffer[] = [];
      stream.on("data", (piece: Buffer) => pieces.push(piece));
      stream.on("end", () => {
        came.push(Buffer.concat(pieces));
        done();
      });
    },
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", () => resolve()));
  const { port } = server.server.address() as AddressInfo;
  relay = openRelay(`smtp://127.0.0.1:${port}`, { connections: 1 });
  const line = fc.constantFrom("", ".", "..", "...", ". x", "x", ".\r", "Ä.".repeat(40), "x".repeat(998));
  const told = fc
    .array(line, { maxLength: 60 })
    .chain((lines) => fc.tuple(fc.constant(lines), fc.constantFrom(1, 1, 1, 400), fc.boolean()));
  try {
    await fc.assert(
      fc.asyncProperty(told, async ([lines, times, ended]) => {
        const body = Array.from({ length: times }, () =>
          lines.map((it) => it.replace("\r", "")).join("\r\n"),
        ).join("\r\n");
        const source = Buffer.from(`Subject: x\r\n\r\n${body}${ended ? "\r\n" : ""}`);
        await relay!.send(envelope, source);
        const whole =
          source.subarray(-2).toString() === "\r\n" ? source : Buffer.concat([source, Buffer.from("\r\n")]);
        expect(came.pop()!.equals(whole)).toBe(true);
      }),
      { numRuns: 150 },
    );
  } finally {
    await relay.close();
    relay = undefined;
    await new Promise<void>((resolve) => server.close(() => resolve()));
  }
});

test.each([
  ["a b@mail.example", "Invalid recipient"],
  ["a@b>\r\nRCPT TO:<x@y.example", "Invalid recipient"],
  ["jörg@mail.example", "SMTPUTF8"],
  ["", "Invalid recipient"],
])("“%s” is not said to a relay, and the next reader is", async (to, words) => {
  hostile = await openHostileRelay({});
  relay = openRelay(hostile.address, OPTIONS);
  await expect(relay.send({ ...envelope, to }, message)).rejects.toMatchObject({
    kind: "refused",
    message: expect.stringContaining(words),
  });
  await relay.send({ ...envelope, to: "ines@bücher.example" }, message);
  expect(hostile.taken).toEqual(["ines@xn--bcher-kva.example"]);
});

test("a relay that sends on before encryption has begun is not listened to", async () => {
  hostile = await openHostileRelay({ starttls: "220 Go on\r\n250 Trust me" }, "me:secret@");
  relay = openRelay(hostile.address, OPTIONS);
  await expect(relay.send(envelope, message)).rejects.toBeInstanceOf(RelayError);
  expect(hostile.logins).toEqual([]);
});

test("replies that are none, or have no end, end the conversation", async () => {
  for (const mail of ["nonsense", `250-${"x".repeat(500)}\r\n`.repeat(200)]) {
    hostile = await openHostileRelay({ mail });
    relay = openRelay(hostile.address, OPTIONS);
    await expect(relay.send(envelope, message)).rejects.toMatchObject({ kind: "away" });
    await relay.close();
    await hostile.close();
  }
});
