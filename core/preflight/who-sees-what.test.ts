import { expect, test } from "vitest";
import type { Rule } from "../audience";
import { type Email, type Inline, mapEmail } from "../email";
import { knownIn } from "../render";
import { SAMPLE_BRAND, SAMPLE_OPTIONS, sampleWorld } from "../render/sample";
import { recipients } from "./finding";
import { letter, nameTag, READERS, TODAY, text, words } from "./test-letter";
import { type SeenThing, whoSeesWhat } from "./who-sees-what";

const cool: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const { audience } = sampleWorld(TODAY);
const LABELS: Record<string, string> = { first_name: "First name", zone: "Zone" };
const names = { fields: [], lists: new Map(), segments: new Map() };

function seen(email: Email, which: number, more: Partial<Parameters<typeof whoSeesWhat>[1]> = {}) {
  return whoSeesWhat(email, {
    contact: READERS[which],
    audience,
    names,
    language: "en",
    known: knownIn(email, { ...SAMPLE_OPTIONS, brand: SAMPLE_BRAND }),
    lookups: [],
    label: (field) => LABELS[field],
    codeName: (batch) => `Batch ${batch}`,
    lists: [],
    readers: recipients(READERS, audience),
    ...more,
  });
}
const said = ({ why }: SeenThing) => why.map(({ text: it }) => it).join("");
const either: Inline = {
  type: "either",
  attrs: { cases: [{ when: cool, words: words("Wait.") }], otherwise: words("Sow now.") },
} as Inline;

test("what a reader has is theirs, what they lack is what stands for it, and how many lack it is counted", () => {
  const email = letter([text("hello", "Hello ", nameTag("friend"))]);
  expect(seen(email, 0)).toMatchObject([
    { kind: "tag", what: "First name", gets: "Ines", block: "hello", others: 1 },
  ]);
  const [other] = seen(email, 1);
  expect(other.gets).toBe("friend");
  expect(said(other)).toContain("“First name” is not known");
});

test("only those who get a block are counted among those who lack what it says", () => {
  const email = mapEmail(letter([text("hello", nameTag())]), (node) =>
    node.id === "s" ? { ...node, show: cool } : node,
  );
  const things = seen(email, 1);
  expect(things.map(({ kind, others }) => [kind, others])).toEqual([
    ["part", 1],
    ["tag", 0],
  ]);
  expect(things[0]).toMatchObject({ gets: "", block: "hello" });
  expect(things[0].where).toContain("The section with Text");
  expect(seen(email, 0)[0].gets).toBe("Shown");
});

test("of an either/or it is said which words, and how many get those of everybody else", () => {
  const email = letter([text("when", either)]);
  expect(seen(email, 0)).toMatchObject([
    { kind: "either", what: "Either/or of 2", gets: "Wait.", others: 1 },
  ]);
  expect(said(seen(email, 0)[0])).toContain("Case 1");
  const [other] = seen(email, 1);
  expect(other.gets).toBe("Sow now.");
  expect(said(other)).toContain("What everybody else gets");
});

test("it stands in the order in which it is read, the envelope first; what is the same for all is not among it", () => {
  const email = letter([text("one", either), text("two", nameTag("you"))], { subject: [nameTag("you")] });
  expect(seen(email, 0).map(({ kind, block }) => [kind, block])).toEqual([
    ["tag", undefined],
    ["either", "one"],
    ["tag", "two"],
  ]);
});

test("a list says what is picked and why; without readers nothing is counted", () => {
  const email = letter([text("list", "Peas")]);
  const [list] = seen(email, 0, {
    lists: [
      { block: "list", titles: ["Peas", "Beans"], because: ["popular", "popular"], fewer: 3 },
      { block: "gone", titles: [], because: [], fewer: 0 },
    ],
  });
  expect(list).toMatchObject({ kind: "list", gets: "Peas, Beans", others: 3 });
  expect(said(list)).toBe("popular.");
  const [tag] = seen(letter([text("hello", nameTag())]), 0, { readers: null });
  expect(tag.others).toBeNull();
});
