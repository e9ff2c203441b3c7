import { afterEach, describe, expect, test } from "vitest";
import { type HostileRelay, openHostileRelay, type Script } from "./hostile";
import { openRelay, type Relay, RelayError } from "./relay";

const message = new TextEncoder().encode("Subject: Beans\r\n\r\nSow them.\r\n");
const envelope = { from: "letters@tansyrow.example", to: "ines@mail.example" };
let hostile: HostileRelay | undefined;
let relay: Relay | undefined;

afterEach(async () => {
  await relay?.close();
  await hostile?.close();
});

async function failure(script: Script, login = ""): Promise<RelayError> {
  hostile = await openHostileRelay(script, login);
  relay = openRelay(hostile.address, 2, PATIENCE);
  return relay.send(envelope, message).then(
    () => {
      throw new Error("It was taken.");
    },
    (error) => error as RelayError,
  );
}

/** How long a relay that is away is waited for here, in milliseconds. */
const PATIENCE = 250;

describe("concerns every message:", () => {
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
    ["a connection cut at the reader", { rcpt: null }, "away", /cannot be reached/],
    ["a connection cut before the message", { data: null }, "away", /cannot be reached/],
    [
      "a connection cut after the data",
      { end: null },
      "unknown",
      /before it said whether it has the message/,
    ],
  ])("%s", async (_what, script, kind, words, login) => {
    const error = await failure(script, login);
    expect(error).toBeInstanceOf(RelayError);
    expect(error.kind).toBe(kind);
    expect(error.message).toMatch(words);
    expect(hostile?.taken).toEqual([]);
  });

  test("nobody at that address", async () => {
    hostile = await openHostileRelay({});
    await hostile.close();
    const error = await openRelay(hostile.address, 2, PATIENCE)
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
    relay = openRelay(hostile.address, 3);
    const readers = Array.from({ length: 20 }, (_, at) => `reader${at}@mail.example`);
    await Promise.all(readers.map((to) => relay!.send({ ...envelope, to }, message)));
    expect([...hostile.taken].sort()).toEqual([...readers].sort());
  },
);

test("who ends waits no longer for a relay that is away", async () => {
  hostile = await openHostileRelay({ greeting: "421 Too busy" });
  relay = openRelay(hostile.address, 2);
  const ending = new AbortController();
  const sent = relay.send(envelope, message, ending.signal).catch((error) => error);
  await expect.poll(() => hostile!.connected).toBeGreaterThan(0);
  ending.abort();
  expect((await sent).kind).toBe("away");
});

describe("concerns one reader:", () => {
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
    const error = await failure(script);
    expect(error).toBeInstanceOf(RelayError);
    expect(error.kind).toBe(kind);
    // The connection goes on for the next reader.
    hostile!.script = {};
    await relay!.send({ ...envelope, to: "piet@mail.example" }, message);
    expect(hostile?.taken).toEqual(["piet@mail.example"]);
  });
});
