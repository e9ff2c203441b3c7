/** What is said in other languages is changed by commands like everything else, and undone like it. */
import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import { type Block, type Email, EmailSchema, type Inline, SCHEMA_VERSION } from "../email";
import { apply, invert } from "../steps";
import { languagesOf, translationOf } from "../translation";
import { addLanguage, CommandError, changeEmail, removeLanguage, sayIn, translate } from ".";

const words = (text: string): Inline[] => [{ type: "text", text }];
const HEADING = { block: "h", path: "content" };
const SUBJECT = { block: null, path: "subject" };

function email(): Email {
  const heading = { ...createBlock("heading", "h"), content: words("Peas") } as Block;
  return EmailSchema.parse({
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "plain",
    envelope: { subject: words("Now"), preheader: [], sender: { name: [], address: "a@b.example" } },
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [heading] }] }] }],
  });
}
const done = (it: Email, ...all: ReturnType<typeof addLanguage>[]) =>
  all.reduce((now, command) => changeEmail(now, command).email, it);

test("a language is added, said and taken away, and each of these is taken back", () => {
  const plain = email();
  const spoken = done(
    plain,
    addLanguage("de"),
    sayIn(HEADING, "de", words("Erbsen")),
    sayIn(SUBJECT, "de", words("Jetzt")),
  );
  expect(languagesOf(spoken)).toEqual(["de"]);
  expect(translationOf(spoken, HEADING, "de")).toEqual({ value: words("Erbsen"), of: words("Peas") });
  expect(translationOf(spoken, SUBJECT, "de")).toEqual({ value: words("Jetzt"), of: words("Now") });
  const { email: silent, steps } = changeEmail(spoken, removeLanguage("de"));
  expect(silent).toEqual(plain);
  expect(apply(silent, invert(steps))).toEqual(spoken);
});

test("in the design's own language it is its words that change; a language it is in already cannot be added", () => {
  const changed = done(email(), sayIn(HEADING, "en", words("Beans")), sayIn(SUBJECT, "en", words("Soon")));
  expect(changed.sections[0].rows[0].columns[0].blocks[0].content).toEqual(words("Beans"));
  expect(changed.envelope.subject).toEqual(words("Soon"));
  expect(() => done(email(), addLanguage("en"))).toThrow(CommandError);
  expect(() => done(email(), sayIn({ block: "gone", path: "content" }, "de", []))).toThrow(CommandError);
});

test("taken away, a translation leaves nothing behind, and the language stays", () => {
  const spoken = done(email(), addLanguage("de"), sayIn(HEADING, "de", words("Erbsen")));
  const without = done(spoken, translate([{ unit: HEADING, language: "de", there: null }]));
  expect(without).toEqual(done(email(), addLanguage("de")));
});
