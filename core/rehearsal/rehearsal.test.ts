import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  EXTREMES,
  type Finished,
  joined,
  NOTHING,
  noted,
  ODDITIES,
  type Oddity,
  oddOf,
  sharedCodes,
} from ".";

const OUT = "https://septima.test/unsubscribe/abc";
/** A message with nothing odd. */
const fine = (): Finished => ({
  read: {
    from: { name: "Marlmoss Seeds", address: "letters@marlmoss.example" },
    to: [{ name: "Ines Moor", address: "ines@mail.example" }],
    subject: "What to sow",
    unsubscribe: `<${OUT}>`,
    html: `<p>Hello Ines,</p><a href="https://septima.test/c/1">shop.marlmoss.example</a><a href="${OUT}">Unsubscribe</a>`,
    text: `Hello Ines, sow now. Your code: KALE-7\n\nUnsubscribe: ${OUT}`,
  },
  meant: {
    from: { name: "Marlmoss Seeds", address: "letters@marlmoss.example" },
    to: { name: "Ines Moor", address: "ines@mail.example" },
    subject: "What to sow",
    unsubscribe: OUT,
    codes: ["KALE-7"],
    textOnly: false,
  },
  leadsTo: (href) => (href.includes("/c/1") ? "https://www.marlmoss.example/sow" : href),
  html: 20_000,
  longestLine: 76,
});
const with_ = (change: (it: Finished) => void): Finished => {
  const it = fine();
  change(it);
  return it;
};
const kinds = (it: Finished) => oddOf(it).map(({ kind }) => kind);

/** Each oddity with messages that have it, and messages that come close and have not. */
const CASES: Record<Oddity, { has: ((it: Finished) => void)[]; not: ((it: Finished) => void)[] }> = {
  unread: {
    has: [
      (it) => {
        it.read.html = null;
        it.read.text = `Hello. KALE-7 ${OUT}`;
      },
    ],
    not: [
      (it) => {
        it.read.html = null;
        it.meant.textOnly = true;
      },
    ],
  },
  header: {
    has: [
      (it) => {
        it.read.to[0].name = "Ines";
      },
      (it) => {
        it.read.to.push({ name: "", address: "evil@other.example" });
      },
      (it) => {
        it.read.subject = "What";
      },
      (it) => {
        it.read.subject = it.meant.subject = " ";
      },
      (it) => {
        it.read.from.address = "other@marlmoss.example";
      },
    ],
    // A line end in a name becomes a space, and that is as it should be.
    not: [
      (it) => {
        it.meant.to.name = "Ines\r\nMoor ";
      },
    ],
  },
  code: {
    has: [
      (it) => {
        it.meant.codes = ["KALE-7", "KALE-8"];
      },
    ],
    not: [
      (it) => {
        it.meant.codes = [];
      },
    ],
  },
  wayOut: {
    has: [
      (it) => {
        it.read.unsubscribe = "";
      },
      (it) => {
        it.read.html = "<p>Hello Ines,</p>";
      },
    ],
    not: [
      (it) => {
        it.meant.unsubscribe = `${OUT}?a&b`;
        it.read.unsubscribe = `<${OUT}?a&b>`;
        it.read.html = `<a href="${OUT}?a&amp;b">Out</a>`;
      },
    ],
  },
  unfilled: {
    has: [
      (it) => {
        it.read.text += " {$first_name}";
      },
      (it) => {
        it.read.subject = it.meant.subject = "For undefined";
      },
    ],
    not: [
      (it) => {
        it.read.text += " An undefinedness {not a tag}";
      },
    ],
  },
  gap: {
    has: [
      (it) => {
        it.read.text = `Hello , sow now. KALE-7 ${OUT}`;
      },
      // A name of a sign that takes no room.
      (it) => {
        it.read.text = `Hello \u200b, sow now. KALE-7 ${OUT}`;
      },
    ],
    not: [
      (it) => {
        it.read.text = `Hello, sow now … KALE-7 ${OUT}`;
      },
    ],
  },
  link: {
    has: [
      (it) => {
        it.leadsTo = () => "https://other.example/";
      },
      (it) => {
        it.read.html +=
          '<a class="x" href="https://other.example/?a&amp;b"><b>https://marlmoss.example/sow</b></a>';
      },
    ],
    not: [
      (it) => {
        it.read.html +=
          '<a href="https://other.example/">What to sow. Now</a><a href="mailto:a@b.example">b.example</a>';
      },
    ],
  },
  cut: {
    has: [
      (it) => {
        it.html = 102 * 1024 + 1;
      },
    ],
    not: [
      (it) => {
        it.html = 102 * 1024;
      },
    ],
  },
  line: {
    has: [
      (it) => {
        it.longestLine = 999;
      },
    ],
    not: [
      (it) => {
        it.longestLine = 998;
      },
    ],
  },
};

test("a message as it should be has nothing odd", () => {
  expect(oddOf(fine())).toEqual([]);
});

describe.each(Object.entries(CASES))("%s", (kind, { has, not }) => {
  test.each(has.map((change, at) => [at, change] as const))("is found, %i", (_, change) => {
    expect(kinds(with_(change))).toEqual([kind]);
  });
  test.each(not.map((change, at) => [at, change] as const))(
    "is not found in what comes close, %i",
    (_, change) => {
      expect(kinds(with_(change))).toEqual([]);
    },
  );
});

test("every oddity has its cases", () => {
  expect(Object.keys(CASES)).toEqual(Object.keys(ODDITIES));
});

test("what stretches come to does not depend on how they were parted, and the furthest are the furthest of all", () => {
  const message = fc.record({
    octets: fc.nat(1000),
    words: fc.nat(50),
    subject: fc.nat(80),
    name: fc.nat(30),
    odd: fc.subarray(Object.keys(ODDITIES) as Oddity[]),
  });
  fc.assert(
    fc.property(fc.array(message, { minLength: 1, maxLength: 60 }), fc.nat(60), (messages, cut) => {
      const notes = messages.map(({ odd, ...measures }, reader) =>
        noted(
          { reader, measures },
          odd.map((kind) => ({ kind, said: `${reader}` })),
        ),
      );
      const sum = (some: typeof notes) => some.reduce(joined, NOTHING);
      const whole = sum(notes);
      expect(joined(sum(notes.slice(cut)), sum(notes.slice(0, cut)))).toEqual(whole);
      expect(whole.made).toBe(messages.length);
      for (const kind of Object.keys(ODDITIES) as Oddity[])
        expect(whole.odd[kind]?.count ?? 0).toBe(messages.filter(({ odd }) => odd.includes(kind)).length);
      for (const [name, { of, most }] of Object.entries(EXTREMES)) {
        const all = messages.map((one) => one[of]);
        expect(whole.extremes[name as keyof typeof EXTREMES][0].measures[of]).toBe(
          most ? Math.max(...all) : Math.min(...all),
        );
      }
    }),
  );
});

test("a code that two are given is found at the second", () => {
  const { odd } = sharedCodes([
    { reader: 1, codes: { kale: "A", bean: "A" } },
    { reader: 2, codes: { kale: "B" } },
    { reader: 3, codes: { kale: "A" } },
  ]);
  expect(odd.code).toEqual({ count: 1, some: [{ reader: 3, said: "The code A is somebody else’s, too" }] });
  expect(sharedCodes([{ reader: 1, codes: { kale: "A" } }])).toEqual(NOTHING);
});
