/** Whom a finding touches: the editions that have its block, and of them those who meet its rule. */
import { expect, test } from "vitest";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleWorld } from "../render/sample";
import { CHECKS, designFindings, lookOver, told } from ".";
import { around, block, letter, nameTag, READERS, TODAY, text, words } from "./test-letter";

const cool = { kind: "field", field: "zone", op: "is", value: "cool" } as const;
const world = sampleWorld(TODAY);

/** A gap for who has no name, and a heading that only the cool zone gets and nobody can read. */
const faulty = (colour = "#A09CA6") =>
  letter([
    text("greeting", "the the beans, ", nameTag(), "!"),
    block("heading", "cold", { content: words("Wait"), color: colour, show: cool } as never),
  ]);

function tell(email = faulty()) {
  const known = around();
  const bound = bind(compile(email, { ...SAMPLE_OPTIONS, today: TODAY, places: true }), world);
  const editions = READERS.map((sample, at) => {
    const reader = readerOf(sample, "en", previewAddresses("https://s.example"));
    const message = personalise(bound, reader);
    const it = { message, language: "en", bytes: 900, bare: false, sample, count: at === 0 ? 30 : 4 };
    return lookOver(it, { ...known, email });
  });
  return told(email, designFindings(email, known, CHECKS), editions, world.audience);
}
const one = (check: string, email = faulty()) => tell(email).find((it) => it.check === check);

test("what all get touches all editions; what some get those; what some lack only who lacks it", () => {
  expect(one("twice")).toMatchObject({ block: "greeting", editions: null, readers: 34 });
  expect(one("contrast")).toMatchObject({ block: "cold", editions: [1], readers: 30 });
  expect(one("fallbacks")).toMatchObject({ block: "greeting", editions: [2], readers: 4 });
});

test("what does most harm stands first, and each fault once", () => {
  const all = tell();
  const rank = all.map(({ weight }) => ["stops", "look", "could"].indexOf(weight));
  expect(rank).toEqual([...rank].sort());
  expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
});

test("a finding keeps its id while its place changes, and says that it has changed", () => {
  const [before, after] = [one("contrast"), one("contrast", faulty("#B0ACB6"))];
  expect(after?.state).not.toBe(before?.state);
  expect(one("contrast")?.state).toBe(before?.state);
  expect(after?.id).toBe(before?.id);
});
