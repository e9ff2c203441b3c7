import { readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { simpleParser } from "mailparser";
import { expect, test } from "vitest";
import { bind, personalise, readerOf } from "../personal";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import { encodeWords, formatAddress, headerLine, MessageFactory } from ".";

const world = sampleWorld("2026-11-23");
const bound = bind(compile(sampleEmail(24), SAMPLE_OPTIONS), world);
const factory = new MessageFactory(
  bound,
  {
    from: "letters@tansyrow.example",
    listId: { name: "Tansy Row", domain: "letters.tansyrow.example" },
    feedbackId: "c1:d1:septima",
  },
  "septima-d1",
);

const build = (fields: Record<string, unknown>, address = "ines@mail.example") => {
  const contact = { ...sampleContact(1, fields), email: address };
  const unsubscribe = "https://septima.example/unsubscribe/abc.def";
  const reader = readerOf(contact, "en", { unsubscribe, answer: "", referral: "", letter: "" });
  const name = typeof fields.first_name === "string" ? fields.first_name : "";
  return {
    reader,
    bytes: Buffer.from(
      factory.build(reader, {
        to: { name, address },
        messageId: "d1.1@tansyrow.example",
        date: Date.UTC(2026, 10, 23, 12),
        unsubscribe,
      }),
    ),
  };
};

const normal = (text: string | false | undefined) => (text || "").replace(/\r\n/g, "\n").trimEnd();

test("a message read by a mail parser is the message that was personalised", async () => {
  for (const fields of [
    {},
    { first_name: "Ñandú 🌱 O’Rourke", branch: "Marl Bay", zone: "cool", member: true },
  ]) {
    const { reader, bytes } = build(fields);
    const mail = await simpleParser(bytes, {
      skipImageLinks: true,
      skipHtmlToText: true,
      skipTextToHtml: true,
    });
    const wanted = personalise(bound, reader);
    expect(mail.subject).toBe(wanted.subject);
    expect(normal(mail.html)).toBe(normal(wanted.html));
    expect(normal(mail.text)).toBe(normal(wanted.text));
    expect(mail.messageId).toBe("<d1.1@tansyrow.example>");
    expect(mail.date).toEqual(new Date(Date.UTC(2026, 10, 23, 12)));
  }
});

test("a letter in text only is text/plain and nothing else, as it is looked at", async () => {
  const only = bind(compile({ ...sampleEmail(24), only: "text" }, SAMPLE_OPTIONS), world);
  const plain = new MessageFactory(
    only,
    { from: "letters@tansyrow.example", listId: { name: "Tansy Row", domain: "letters.tansyrow.example" } },
    "septima-d1",
  );
  for (const fields of [{}, { first_name: "Ñandú <b>", branch: "Marl Bay" }]) {
    const { reader } = build(fields);
    const bytes = Buffer.from(
      plain.build(reader, { to: { name: "", address: "a@a.example" }, messageId: "m@a.example", date: 0 }),
    );
    expect(bytes.toString("latin1")).not.toMatch(/multipart|text\/html|septima-d1/);
    const mail = await simpleParser(bytes, { skipTextToHtml: true });
    const wanted = personalise(only, reader);
    expect(mail.html).toBe(false);
    expect(normal(mail.text)).toBe(normal(wanted.text));
    expect(wanted.text).toBe(personalise(bound, reader).text);
    // As a page it is its text, and nothing in it acts.
    expect(wanted.html).toContain("<pre");
    expect(wanted.html).not.toContain("<b>");
  }
});

test("the wire: CRLF only, short lines, ASCII, one-click unsubscribe", () => {
  const text = build({ first_name: "Élodie" }).bytes.toString("latin1");
  expect(text.replace(/\r\n/g, "")).not.toMatch(/[\r\n]/);
  expect(text).toMatch(/^[\x09\x0a\x0d\x20-\x7e]*$/);
  for (const line of text.split("\r\n")) expect(line.length).toBeLessThanOrEqual(200);
  expect(text).toContain("List-Unsubscribe: <https://septima.example/unsubscribe/abc.def>\r\n");
  expect(text).toContain("List-Unsubscribe-Post: List-Unsubscribe=One-Click\r\n");
  expect(text).toContain("List-Help: <https://septima.example/unsubscribe/abc.def>\r\n");
  expect(text.indexOf("text/plain")).toBeLessThan(text.indexOf("text/html"));
  // Each part has its beginning, and the last one the end (RFC 2046, 5.1.1).
  expect(text.split("\r\n--septima-d1\r\n")).toHaveLength(3);
  expect(text.endsWith("\r\n--septima-d1--\r\n")).toBe(true);
});

test("no value starts a new header", async () => {
  const { bytes } = build({ first_name: "Ines\r\nBcc: everyone@victim.test\r\n\r\nbody" });
  const mail = await simpleParser(bytes);
  expect(mail.bcc).toBeUndefined();
  expect(mail.headers.has("bcc")).toBe(false);
  expect(mail.subject).toBe("Ines Bcc: everyone@victim.test body, hold your beans");
});

test("header words", () => {
  expect(encodeWords("plain words")).toBe("plain words");
  for (const text of ["Ü".repeat(100), "🌱 in the greenhouse: ".repeat(9), "a?=b =?UTF-8?B?eA==?= ü"]) {
    const written = encodeWords(text);
    for (const word of written.split(" ")) expect(word.length).toBeLessThanOrEqual(75);
    // Between two encoded words the space is none (RFC 2047, 6.2); each is whole letters.
    const read = written
      .split(" ")
      .map((word) => Buffer.from(/^=\?UTF-8\?B\?(.+)\?=$/.exec(word)?.[1] ?? "", "base64").toString());
    expect(read.join("")).toBe(text.trim());
    expect(read.join("")).not.toContain("\ufffd");
  }
  expect(encodeWords("is =?it an encoded word")).toMatch(/^=\?UTF-8/);
  expect(formatAddress('A "B" <c>', "x@y.example")).toBe('"A \\"B\\" <c>" <x@y.example>');
  expect(formatAddress("Käthe", "k@bücher.example")).toBe("=?UTF-8?B?S8OkdGhl?= <k@xn--bcher-kva.example>");
  // Whatever the words, a line is short where it can be, never only white space, and all of them are there.
  const word = fc.constantFrom("a", "word", "", " ", "x".repeat(75), "y".repeat(90));
  fc.assert(
    fc.property(fc.array(word, { maxLength: 12 }), (words) => {
      const folded = headerLine("Subject", words.join(" "));
      expect(folded.replaceAll("\r\n", "").trimEnd()).toBe(`Subject: ${words.join(" ").trim()}`.trimEnd());
      for (const line of folded.slice(0, -2).split("\r\n")) {
        expect(line.trim()).not.toBe("");
        if (/\S \S/.test(line.replace(/^Subject: /, ""))) expect(line.length).toBeLessThanOrEqual(78);
      }
    }),
  );
  for (const line of headerLine("Subject", "word ".repeat(60)).trimEnd().split("\r\n"))
    expect(line.length).toBeLessThanOrEqual(78);
});

test("the golden message reads as it did", async () => {
  const golden = await simpleParser(readFileSync(path.join(import.meta.dirname, "golden/letter.eml")), {
    skipImageLinks: true,
    skipHtmlToText: true,
    skipTextToHtml: true,
  });
  const mail = await simpleParser(build({ first_name: "Ines", zone: "mild" }).bytes, {
    skipImageLinks: true,
    skipHtmlToText: true,
    skipTextToHtml: true,
  });
  expect(normal(mail.html)).toBe(normal(golden.html));
  expect(normal(mail.text)).toBe(normal(golden.text));
  expect(mail.headerLines.map((it) => it.line)).toEqual(golden.headerLines.map((it) => it.line));
});
