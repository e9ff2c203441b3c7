import { createHash } from "node:crypto";
import fc from "fast-check";
import { expect, test } from "vitest";
import { keyRecord, publishedKey, type Signer, Signing } from ".";

const octets = (text: string) => new TextEncoder().encode(text);
/** Shows what was signed instead of signing it. */
function shown(): { signer: Signer; signed: string[] } {
  const signed: string[] = [];
  return {
    signed,
    signer: {
      domain: "marl.example",
      selector: "s1",
      algorithm: "rsa-sha256",
      sign: async (given) => {
        signed.push(new TextDecoder().decode(given));
        return new Uint8Array(256).fill(7);
      },
    },
  };
}
const HEAD =
  'From: "A  B" <a@marl.example>\r\nTo:\r\n c@d.example\r\nsubject :  Two \t words\r\nX-Other: 1\r\n';
const sign = async (message: string, opening = "") => {
  const { signer, signed } = shown();
  const signing = new Signing(octets(opening), createHash("sha256"));
  const made = new TextDecoder().decode(await signing.signed(octets(message), [signer], 1_700_000_000_999));
  return { made, signed: signed[0] };
};
const bodyHash = (made: string) => /bh=([^;]+);/.exec(made)![1];
const sha = (text: string) => createHash("sha256").update(text).digest("base64");

test("what is signed is the head in its relaxed form, each field once and what may not come twice again as missing", async () => {
  const { made, signed } = await sign(`${HEAD}\r\nWords\r\n`);
  const lines = signed.split("\r\n");
  expect(lines.slice(0, 3)).toEqual(['from:"A B" <a@marl.example>', "to:c@d.example", "subject:Two words"]);
  expect(lines).toHaveLength(4);
  expect(lines[3]).toMatch(
    /^dkim-signature:v=1; a=rsa-sha256; c=relaxed\/simple; d=marl\.example; s=s1; t=1700000000; bh=/,
  );
  expect(lines[3]).toMatch(/; b=$/);
  expect(made.endsWith(`${HEAD}\r\nWords\r\n`)).toBe(true);
  expect(Math.max(...made.split("\r\n").map((line) => line.length))).toBeLessThanOrEqual(78);
  const names = /\n h=([^;]+);/.exec(made)![1].replace(/\s/g, "").split(":");
  for (const twice of ["from", "to", "subject", "date", "reply-to", "content-type"])
    expect(names.filter((name) => name === twice)).toHaveLength(2);
  for (const name of ["message-id", "mime-version", "list-id", "list-unsubscribe", "list-unsubscribe-post"])
    expect(names).toContain(name);
});

test("a body is hashed as it stands but for empty lines at its end, however much of it was hashed before", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.stringMatching(/^[a-z \r\n=.-]{0,120}$/),
      fc.nat(120),
      fc.nat(3),
      async (text, cut, empty) => {
        const body = `${text.replace(/\r|\n/g, "\r\n")}\r\n`;
        const plain = await sign(`${HEAD}\r\n${body}`);
        const begun = await sign(`${HEAD}\r\n${body}`, body.slice(0, cut));
        const other = await sign(`${HEAD}\r\n${body}`, `${body.slice(0, cut)}else`);
        const longer = await sign(`${HEAD}\r\n${body}${"\r\n".repeat(empty)}`);
        const wanted = sha(body.replace(/(\r\n)+$/, "\r\n"));
        for (const { made } of [plain, begun, other, longer]) expect(bodyHash(made)).toBe(wanted);
      },
    ),
    { numRuns: 60 },
  );
});

test("without a key a message stays as it is", async () => {
  const message = octets(`${HEAD}\r\nWords\r\n`);
  expect(await new Signing(octets(""), createHash("sha256")).signed(message, [], 0)).toBe(message);
});

test("a record is read as it is written", () => {
  const key = {
    domain: "marl.example",
    selector: "s1",
    algorithm: "ed25519-sha256",
    public: "abc=",
  } as const;
  const { name, text } = keyRecord(key);
  expect([name, text]).toEqual(["s1._domainkey.marl.example", "v=DKIM1; k=ed25519; p=abc="]);
  expect(publishedKey(text)).toBe("abc=");
  expect(publishedKey("k=rsa; p=a b\tc ; v=DKIM1")).toBe("abc");
  expect(publishedKey("v=DKIM1; p=")).toBe("");
  expect(publishedKey("v=spf1 -all")).toBe(null);
});
