/**
 * Our messages in programs that are not ours: a text browser and a word processor's import keep the words, their order
 * and what stands between them, and a mail program with a light HTML engine shows sections one below the other. Tried
 * where they are installed; `bin/test` fetches the text browser.
 */
import { execFile, execFileSync } from "node:child_process";
import { existsSync } from "node:fs";
import { mkdir, mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, type Email, richText, type Section } from "~/core/email";
import { darkGround } from "~/core/markup";
import { MessageFactory } from "~/core/mime";
import { bind, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { colourful, DUSK, PALE } from "~/core/render/colourful";
import { SAMPLE_OPTIONS, sampleContact, sampleWorld } from "~/core/render/sample";
import { boxOf, inLightEngine, lightEngine } from "./light-engine";

const run = promisify(execFile);

function installed(program: string): string | null {
  const own = path.resolve(`.tools/usr/bin/${program}`);
  if (existsSync(own)) return own;
  try {
    return execFileSync("/bin/sh", ["-c", `command -v ${program}`], { encoding: "utf8" }).trim();
  } catch {
    return null;
  }
}
const W3M = installed("w3m");
const SOFFICE = installed("soffice");
const LIGHT = lightEngine();

const world = sampleWorld("2026-11-23");
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));

/** The message, with pictures that are not there. */
function messageOf(email: Email): string {
  const { html } = personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader);
  return html.replace(/ src="[^"]*"/g, ' src=""').replace(/href="#"/g, 'href="https://s.example/"');
}

/** What the blocks say in reading order, each piece of words by itself. */
const PIECES = [
  ["A heading", "Write something worth opening.", "Something to set apart from the rest."],
  ["What somebody said, in their words.", "Who said it"],
  ["The first good reason", "The second one", "And the third"],
  ["What", "When", "Where", "First", "Monday", "Here", "Second", "Tuesday", "There"],
  ["Until next month,", "Your name", "what you do here"],
  ["What the picture shows", "Words that stand on the picture", "The words beside the picture."],
  ["Watch the film", "Tansy Row", "Read more", "Yes, please", "Tell me more"],
  ["Shop", "Journal", "Visit us", "Website", "Pictures", "Films", "Talk with us", "Forward to a friend"],
  ["Do you know somebody who would like these letters?", "Tell a friend"],
  ["How useful was this letter?", "1", "2", "3", "4", "5", "Not at all", "Very"],
  ["The offer ends in", "Title", "Add to my calendar", "Article <1> & more", "Article <2> & more"],
  ["Article <3> & more", "Written by hand", "You get this because", "Unsubscribe"],
].flat();

/** Checks that all pieces stand there in order, none run together with the next. */
function expectInOrder(text: string): void {
  const flat = ` ${text.replaceAll("\u200d", "").replace(/[\s•●]+/g, " ")} `;
  let at = 0;
  for (const piece of PIECES) {
    const begins = flat.indexOf(` ${piece}`, at);
    expect(begins, `“${piece}” after “…${flat.slice(Math.max(0, at - 60), at)}”`).toBeGreaterThanOrEqual(0);
    at = begins + piece.length + 1;
    expect(flat[at], `what follows “${piece}”`).toMatch(/[\s,.…]/);
  }
}

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-outside-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe.each([
  ["pale", colourful(PALE)],
  ["dusk", colourful(DUSK)],
])("a design with every block type, %s", (name, email) => {
  test.skipIf(W3M === null)("in a text browser", async () => {
    const file = path.join(folder, `${name}.html`);
    await writeFile(file, messageOf(email));
    const { stdout } = await run(W3M!, ["-dump", "-cols", "100", "-T", "text/html", "-I", "UTF-8", file], {
      env: { ...process.env, HOME: folder, LD_LIBRARY_PATH: libraries() },
    });
    expectInOrder(stdout);
    // Blocks stand on lines of their own.
    const lines = stdout.split("\n").map((line) => line.trim());
    for (const piece of [
      "A heading",
      "Write something worth opening.",
      "Read more",
      "Tansy Row",
      "Unsubscribe",
    ])
      expect(lines).toContain(piece);
  });

  test.skipIf(SOFFICE === null)("in a word processor’s import", { timeout: 120_000 }, async () => {
    const file = path.join(folder, `${name}-word.html`);
    await writeFile(file, messageOf(email));
    await run(SOFFICE!, [
      "--headless",
      `-env:UserInstallation=${pathToFileURL(folder)}/office`,
      "--convert-to",
      "txt:Text (encoded):UTF8",
      "--outdir",
      folder,
      file,
    ]);
    expectInOrder(await readFile(path.join(folder, `${name}-word.txt`), "utf8"));
  });
});

test.skipIf(!LIGHT)(
  "in a mail program with a light HTML engine, sections stand below each other",
  {
    timeout: 120_000,
  },
  async () => {
    const grounds = ["#7A1F1F", "#1F6B2E", "#1F3A8A"];
    const section = (contentBackground: string, columns: Block[][]): Section => ({
      id: contentBackground,
      contentBackground,
      rows: [
        {
          id: `r${contentBackground}`,
          columns: columns.map((blocks, at) => ({
            id: `c${at}${contentBackground}`,
            width: 100 / columns.length,
            blocks,
          })),
        },
      ],
    });
    const words = (id: string, text: string) => ({ ...createBlock("text", id), content: richText(text) });
    const email: Email = {
      ...colourful(PALE),
      sections: [
        section(grounds[0], [[words("a", "Short.")]]),
        section(grounds[1], [[words("b", "Two columns of words.")], [words("c", "And the other one.")]]),
        section(grounds[2], [[{ ...createBlock("button", "d"), href: "https://s.example/" } as Block]]),
        ...colourful(PALE).sections.slice(-1),
      ],
    };
    const factory = new MessageFactory(
      bind(compile(email, SAMPLE_OPTIONS), world),
      { from: "letters@tansyrow.example", listId: { name: "Letters", domain: "letters.tansyrow.example" } },
      "boundary-of-the-test",
    );
    const message = factory.build(reader, {
      to: { name: "Ines", address: "ines@mail.example" },
      messageId: "1@tansyrow.example",
      date: Date.parse("2026-11-23T10:00:00Z"),
    });
    const shot = await inLightEngine(message, folder, async (picture) => {
      const found = await Promise.all(
        grounds.map((ground) => boxOf(picture, [ground, darkGround(ground, SAMPLE_OPTIONS.theme)])),
      );
      return found.every((box) => box !== null);
    });
    // To be looked at.
    await mkdir(".test-results", { recursive: true });
    await writeFile(".test-results/light-engine.png", shot);
    const boxes = await Promise.all(
      grounds.map((ground) => boxOf(shot, [ground, darkGround(ground, SAMPLE_OPTIONS.theme)])),
    );
    expect(new Set(boxes.map((box) => box?.left)).size, JSON.stringify(boxes)).toBe(1);
    expect(new Set(boxes.map((box) => box?.right)).size, JSON.stringify(boxes)).toBe(1);
    expect(boxes[1]!.top).toBeGreaterThanOrEqual(boxes[0]!.bottom);
    expect(boxes[2]!.top).toBeGreaterThanOrEqual(boxes[1]!.bottom);
  },
);

/** Where the libraries of a program are that was unpacked beside the project. */
function libraries(): string {
  return W3M?.includes("/.tools/")
    ? execFileSync("/bin/sh", ["-c", "ls -d .tools/usr/lib/*-linux-gnu*"], { encoding: "utf8" })
        .trim()
        .split("\n")
        .map((one) => path.resolve(one))
        .join(":")
    : (process.env.LD_LIBRARY_PATH ?? "");
}
