import http from "node:http";
import type { AddressInfo } from "node:net";
import { BinaryBitmap, HybridBinarizer, MultiFormatReader, RGBLuminanceSource } from "@zxing/library";
import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { blankEmail, LAYOUTS } from "~/core/compose";
import { type Block, calendarEntry, type Email, iCalendar } from "~/core/email";
import { Publisher } from "~/standins/publisher";
import { addContacts } from "./audience/contacts";
import { addCampaign, campaign } from "./campaigns/campaigns";
import { answerCounts } from "./campaigns/survey-answers";
import { keepVersion, nameVersion, version, versions } from "./campaigns/versions";
import { readFile, readWriting } from "./intake/intake";
import { addPicture } from "./pictures/taking";
import { answerFacts, giveAnswer } from "./readers/answers";
import type { Septima } from "./septima";
import { everybody, openWorld, saveDesign } from "./test-world";
import { readerAddresses } from "./tokens";
import { clockFile, glyphFile, playFile, tillFile } from "./workspace/drawn";
import { stillOf } from "./workspace/stills";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

const letter = (name: string): Email =>
  blankEmail(LAYOUTS[0], { name, address: "letters@tansyrow.example" }, "plain", septima.newId);

test("a version is kept before the first change, then every ten minutes, and under a name at any time", async () => {
  const id = await addCampaign(septima, { name: "V", series: "", email: letter("A") });
  let now = Date.UTC(2026, 10, 23, 12);
  const clock = { ...septima, now: () => now };
  const first = (await campaign(septima, id)).email;
  const changed = { ...first, theme: "garden" };
  await saveDesign(clock, id, changed);
  now += 60_000;
  await saveDesign(clock, id, { ...changed, theme: "plum" });
  expect(await versions(septima, id)).toHaveLength(1);
  const [kept] = await versions(septima, id);
  expect(await version(septima, id, kept.id)).toEqual(first);
  now += 11 * 60_000;
  await saveDesign(clock, id, changed);
  expect(await versions(septima, id)).toHaveLength(2);
  await keepVersion(clock, id, " Good one ");
  await nameVersion(septima, id, kept.id, "Start");
  expect((await versions(septima, id)).map((line) => line.name).sort()).toEqual(
    ["Good one", "Start", null].sort(),
  );
  await expect(keepVersion(septima, id, " ")).rejects.toThrow("name");
  await expect(version(septima, id, "nothing")).rejects.toMatchObject({ status: 404 });
});

/** A document as word processors write it, of what is needed to read it. */
function docx(body: string): Buffer {
  const file = (text: string) => strToU8(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>${text}`);
  return Buffer.from(
    zipSync({
      "[Content_Types].xml": file(
        '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      "_rels/.rels": file(
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
      ),
      "word/document.xml": file(
        `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`,
      ),
    }),
  );
}

test("documents, emails and designs are read by their kind; damaged ones are named", async () => {
  const paragraph = (text: string, style = "") =>
    `<w:p>${style && `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>`}<w:r><w:t>${text}</w:t></w:r></w:p>`;
  const document = await readFile(
    septima,
    "letter.docx",
    docx(paragraph("What to sow", "Heading1") + paragraph("It is March.")),
  );
  expect(document.blocks.map((block) => block.type)).toEqual(["heading", "text"]);
  const mail = await readFile(
    septima,
    "old.eml",
    Buffer.from(
      "Subject: x\r\nContent-Type: text/html\r\n\r\n<html><body><p>Old words</p></body></html>\r\n",
    ),
  );
  expect(mail).toMatchObject({
    kind: "an email",
    apart: { subject: "x", sections: [{ rows: [{ columns: [{ blocks: [{ type: "text" }] }] }] }] },
  });
  const email = letter("B");
  const design = await readFile(septima, "d.json", Buffer.from(JSON.stringify({ septima: 1, email })));
  expect(design.email).toEqual(email);
  for (const [name, data, why] of [
    ["x.docx", "no zip", "damaged"],
    ["x.json", "{", "not valid JSON"],
    ["x.json", "{}", "no design"],
    ["x.json", JSON.stringify({ septima: 1, email: { ...email, language: 7 } }), "damaged at language"],
    ["x.pages", "", "Save it as .docx"],
  ])
    await expect(readFile(septima, name, Buffer.from(data))).rejects.toThrow(why);
});

test("an email kept whole has its rules written into its elements, and says what is lost", async () => {
  const { whole, lost } = await readWriting(
    septima,
    "html",
    '<html><head><style>.a{color:#112233}@media (max-width:9px){.a{color:red}}</style></head><body><p class="a" onclick="x()">Words</p><script>x()</script></body></html>',
  );
  expect(whole?.html).toContain('style="color: #112233;"');
  expect(lost.whole.join("; ")).toMatch(/event handlers.*<script>/);
  expect(lost.apart.join("; ")).toMatch(/scripts.*rules for phones/);
});

test("a survey’s link answers for its reader only, by a POST; a later answer counts instead", async () => {
  await addContacts(septima, [{ email: "ines@mail.example", fields: {}, lists: [] }]);
  const [ines] = await everybody(septima);
  const email = letter("S");
  const survey = { ...createBlock("survey", "s1"), from: 0 } as Block;
  email.sections[0].rows[0].columns[0].blocks.push(survey);
  const id = await addCampaign(septima, { name: "S", series: "", email });
  const token = (await readerAddresses(septima))(ines.id, id).answer.split("/").at(-1)!;
  expect(await answerFacts(septima, token, "s1", 4)).toEqual({ answer: 4, greatest: 5, given: null });
  expect(await answerCounts(septima, id)).toEqual({});
  await giveAnswer(septima, token, "s1", 4);
  await giveAnswer(septima, token, "s1", 0);
  expect(await answerCounts(septima, id)).toEqual({ s1: [{ answer: 0, count: 1 }] });
  const unsubscribing = (await readerAddresses(septima))(ines.id, id).unsubscribe.split("/").at(-1)!;
  for (const [forged, block, answer] of [
    [token, "s1", 6],
    [token, "other", 1],
    [unsubscribing, "s1", 1],
    ["x.y", "s1", 1],
  ] as const)
    await expect(giveAnswer(septima, forged, block, answer)).rejects.toMatchObject({ status: 404 });
});

test("a film’s still is taken from its page", async () => {
  const publisher = new Publisher("", () => 0);
  const server = http.createServer(async (request, response) => {
    const answer = await publisher.answer(request.url ?? "");
    response.writeHead(answer?.status ?? 404, { "content-type": answer?.type ?? "text/plain" });
    response.end(answer?.body);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", () => resolve()));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const world = { ...septima, config: { ...septima.config, standins: { publisher: origin } } };
  const still = await stillOf(world, `${origin}/films/watering-can`);
  expect(still).toMatchObject({ name: "A film: watering can", type: "image/png" });
  expect(still.width).toBeGreaterThan(100);
  await expect(stillOf(world, `${origin}/journal.rss`)).rejects.toThrow("does not name a still");
  server.close();
});

test("drawings, clocks and play marks are pictures; wrong names are not there", async () => {
  expect(await sharp(await glyphFile("leaf-2A5E3C.png")).metadata()).toMatchObject({
    width: 128,
    format: "png",
  });
  const soon = await clockFile("1800000000-FFFFFF-2A5E3C.png", 1_799_990_000_000);
  const later = await clockFile("1800000000-FFFFFF-2A5E3C.png", 1_799_999_000_000);
  expect(await sharp(soon).metadata()).toMatchObject({ width: 600, height: 168 });
  expect(soon.equals(later)).toBe(false);
  const plain = await sharp({ create: { width: 300, height: 200, channels: 3, background: "#ddeeff" } })
    .png()
    .toBuffer();
  const picture = await addPicture(septima, "p", plain);
  const { data } = await playFile(septima, picture.path.replace("/pictures/", ""));
  const [red] = await sharp(data).extract({ left: 150, top: 78, width: 1, height: 1 }).raw().toBuffer();
  expect(red).toBeLessThan(150);
  for (const name of ["lion-2A5E3C.png", "leaf-XYZ.png", "../leaf-2A5E3C.png"])
    await expect(glyphFile(name)).rejects.toMatchObject({ status: 404 });
  await expect(clockFile("soon.png", 0)).rejects.toMatchObject({ status: 404 });
});

test("an appointment is a valid iCalendar file: folded, escaped, in UTC", () => {
  const query = new URLSearchParams({
    title: "Seed swap; bring seeds, soil\\water",
    start: String(Date.UTC(2027, 2, 6, 10)),
    end: String(Date.UTC(2027, 2, 6, 13)),
    place: "3 Nursery Lane",
    about: `${"Äpfel und Birnen ".repeat(12)}\nNew line`,
  });
  const file = iCalendar(calendarEntry(query)!, "u@septima.example", Date.UTC(2026, 10, 23));
  for (const line of file.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  const unfolded = file.replace(/\r\n /g, "");
  expect(unfolded).toContain("SUMMARY:Seed swap\\; bring seeds\\, soil\\\\water\r\n");
  expect(unfolded).toContain("DTSTART:20270306T100000Z\r\nDTEND:20270306T130000Z\r\n");
  expect(unfolded).toMatch(/DESCRIPTION:(Äpfel und Birnen ){12}\\nNew line\r\n/);
  expect(calendarEntry(new URLSearchParams({ title: "x", start: "5", end: "1" }))).toBeNull();
  expect(calendarEntry(new URLSearchParams({ title: "", start: "1", end: "5" }))).toBeNull();
});

test.each([
  ["qr", "ROWAN-7F3K"],
  ["qr", "{$x}/é ü?&=%"],
  ["bars", "ROWAN-7F3K"],
  ["bars", "12 34_ab"],
])("what a till reads off %s of “%s” is the code", async (kind, code) => {
  const { data, info } = await sharp(await tillFile(kind, `${code}.png`))
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const seen = new RGBLuminanceSource(new Uint8ClampedArray(data), info.width, info.height);
  const read = new MultiFormatReader().decode(new BinaryBitmap(new HybridBinarizer(seen)));
  expect(read.getText()).toBe(code);
});

test("what is no code for a till is none", async () => {
  for (const [kind, file] of [
    ["qr", ".png"],
    ["qr", `${"x".repeat(81)}.png`],
    ["bars", "é.png"],
    ["other", "A.png"],
    ["constructor", "A.png"],
  ])
    await expect(tillFile(kind, file)).rejects.toMatchObject({ status: 404 });
});
