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
  relay = openRelay(hostile.address, 2);
  return relay.send(envelope, message).then(
    () => {
      throw new Error("It was taken.");
    },
    (error) => error as RelayError,
  );
}

describe("concerns every message:", () => {
  test.each<[string, Script, RegExp, string?]>([
    ["a greeting that refuses", { greeting: "554 No service here" }, /cannot be reached/],
    ["a greeting that asks to come later", { greeting: "421 Too busy" }, /cannot be reached/],
    ["a greeting of another kind", { greeting: "HTTP/1.1 400 Bad Request" }, /cannot be reached/],
    ["no greeting and a closed door", { greeting: null }, /cannot be reached/],
    ["a refused login", { auth: "535 5.7.8 Wrong password" }, /refused the login.*535/, "me:wrong@"],
    ["a login that is put off", { auth: "454 4.7.0 Not now" }, /refused the login/, "me:right@"],
    ["a login that cuts the connection", { auth: null }, /cannot be reached|refused the login/, "me:right@"],
    ["a sender that is not taken", { mail: "550 5.7.1 Not from you" }, /does not take mail from this sender/],
    ["a sender without a login", { mail: "530 5.7.0 Log in first" }, /does not take mail from this sender/],
    ["421 at the sender", { mail: "421 Closing" }, /./],
    ["421 at the reader", { rcpt: "421 4.7.0 Too many" }, /./],
    ["421 at the data", { data: "421 Closing" }, /./],
    ["421 at the end", { end: "421 Closing" }, /./],
    ["a connection cut at the reader", { rcpt: null }, /closed|reached/],
    ["a connection cut after the data", { end: null }, /closed|reached/],
  ])("%s", async (_what, script, words, login) => {
    const error = await failure(script, login);
    expect(error).toBeInstanceOf(RelayError);
    expect(error.kind).toBe("closed");
    expect(error.message).toMatch(words);
    expect(hostile?.taken).toEqual([]);
  });

  test("nobody at that address", async () => {
    hostile = await openHostileRelay({});
    await hostile.close();
    const error = await openRelay(hostile.address)
      .send(envelope, message)
      .catch((caught) => caught);
    expect(error.kind).toBe("closed");
    hostile = undefined;
  });
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
