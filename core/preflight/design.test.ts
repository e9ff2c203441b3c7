import { describe, expect, test } from "vitest";
import { createBlock } from "../blocks";
import { blankEmail, changeEmail, commands, LAYOUTS } from "../compose";
import {
  type Block,
  type Brand,
  blocksOf,
  DEFAULT_THEME,
  type Email,
  type Inline,
  PLACEHOLDER_BRAND,
} from "../email";
import { SAMPLE_BRAND, sampleContact } from "../render/sample";
import { designFindings, recipients } from ".";

let next = 0;
const newId = () => `u${next++}`;
const readers = [
  sampleContact(1, { first_name: "Ines", zone: "cool" }),
  sampleContact(2, { zone: "mild" }),
  sampleContact(3, { first_name: "", zone: "mild" }),
];
const audience = { today: "2026-11-25", segments: new Map() };
const around = {
  readers: recipients(readers, audience),
  brand: SAMPLE_BRAND,
  theme: DEFAULT_THEME,
};
const tag = (fallback = "") => ({
  type: "mergeTag" as const,
  attrs: { field: "first_name", fallback, format: "asIs" as const },
});
const words = (text: string) => [{ type: "text" as const, text }];

/** A letter in which nothing is left to do. */
function finished(): Email {
  let email = blankEmail(LAYOUTS[0], { name: "Tansy Row", address: "a@b.example" }, "plain", newId);
  email = changeEmail(email, commands.setEnvelope({ subject: words("Beans") })).email;
  for (const block of blocksOf(email)) {
    if (block.type === "heading")
      email = changeEmail(email, commands.set(block.id, { content: words("Beans") })).email;
    if (block.type === "text")
      email = changeEmail(
        email,
        commands.set(block.id, {
          content: { type: "doc", content: [{ type: "paragraph", content: words("Sow them.") }] },
        }),
      ).email;
    if (block.type === "button")
      email = changeEmail(email, commands.set(block.id, { href: "https://a.example/" })).email;
  }
  return email;
}
const of = (email: Email, type: string) => blocksOf(email).find((block) => block.type === type) as Block;
const texts = (email: Email, more: Partial<Parameters<typeof designFindings>[1]> = {}) =>
  designFindings(email, { ...around, ...more }).map(({ weight, text }) => `${weight}: ${text}`);

test("in a finished letter there is nothing to do", () => expect(texts(finished())).toEqual([]));

test("a picture that is shown larger than it is, and a theme that is not there, are told", () => {
  const email = structuredClone(finished());
  const image = {
    ...createBlock("image", "small"),
    src: "/pictures/a.png",
    alt: "A bed",
    natural: { width: 240, height: 120 },
  } as Block;
  email.sections[0].rows[0].columns[0].blocks.push(image);
  expect(texts(email)).toEqual([
    "look: The picture “A bed” is 240 px wide and shown at 520: it looks blurred. Choose a larger one, or show it smaller.",
  ]);
  expect(texts({ ...finished(), theme: "gone@3" })).toEqual([
    "look: The theme of this email is not here: it goes out in “Plain paper”. Choose another in the composer.",
  ]);
});

describe("stops the sending:", () => {
  test.each<[string, (email: Email) => Email]>([
    ["no subject", (email) => changeEmail(email, commands.setEnvelope({ subject: [] })).email],
    [
      "leads nowhere",
      (email) => changeEmail(email, commands.set(of(email, "button").id, { href: "" })).email,
    ],
    [
      "The footer has a rule",
      (email) =>
        changeEmail(
          email,
          commands.set(of(email, "footer").id, {
            show: { kind: "field", field: "zone", op: "is", value: "cool" },
          }),
        ).email,
    ],
    [
      "The section around the footer is hidden on phones",
      (email) => changeEmail(email, commands.set(email.sections.at(-1)!.id, { hideOn: "phone" })).email,
    ],
    [
      "has no picture",
      (email) =>
        changeEmail(
          email,
          commands.insertBlocks(
            [createBlock("image", newId()) as Block],
            { parent: email.sections[0].rows[0].columns[0].id, index: 0, wants: "block" },
            newId,
          ),
        ).email,
    ],
    [
      "has no source",
      (email) =>
        changeEmail(
          email,
          commands.insertBlocks(
            [createBlock("picks", newId()) as Block],
            { parent: email.sections[0].rows[0].columns[0].id, index: 0, wants: "block" },
            newId,
          ),
        ).email,
    ],
  ])("%s", (said, change) => {
    const found = texts(change(finished()));
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(/^stops/);
    expect(found[0]).toContain(said);
  });

  test("a rule that names a deleted list, also through a segment, said once for what is in it", () => {
    const gone = { kind: "list" as const, list: "gone", in: false };
    const known = {
      today: "2026-11-25",
      segments: new Map([["others", gone]]),
      lists: new Set(["letter"]),
    };
    const said = (list: string, show: object = { kind: "list", list, in: false }) => {
      const email = finished();
      let changed = changeEmail(email, commands.set(of(email, "heading").id, { show })).email;
      changed = changeEmail(changed, commands.set(email.sections[0].id, { show })).email;
      return texts(changed, { readers: recipients(readers, known) });
    };
    const found = [
      "stops: The rule of a section names a list that was deleted: nobody is on it any more. Change the rule, or bring the list back.",
    ];
    expect(said("gone")).toEqual(found);
    expect(said("", { kind: "segment", segment: "others", in: true })).toEqual(found);
    expect(said("letter")).toEqual([]);
  });

  test("readers chosen by a list that is gone", () => {
    const chosen = { ...recipients(readers, audience), chosenByGone: true };
    expect(texts(finished(), { readers: chosen })).toEqual([
      expect.stringContaining("Choose again under Readers"),
    ]);
  });

  test("nobody to send it to", () =>
    expect(texts(finished(), { readers: recipients([], audience) })[0]).toContain("Nobody would get it"));
});

test("a style block that mail programs would drop is said before, and stops the sending when it is too large", () => {
  const withSizes = (count: number) => {
    let email = finished();
    for (let n = 0; n < count; n++) {
      const block = {
        ...createBlock("text", newId()),
        content: { type: "doc" as const, content: [{ type: "paragraph" as const, content: words("Sow.") }] },
        phone: { padding: { top: n, right: n % 7, bottom: n % 11, left: n % 13 }, size: 14 + (n % 40) },
      };
      const place = { parent: email.sections[0].rows[0].columns[0].id, index: 0, wants: "block" as const };
      email = changeEmail(email, commands.insertBlocks([block as Block], place, newId)).email;
    }
    return texts(email).filter((text) => text.includes("different on phones"));
  };
  expect(withSizes(5)).toEqual([]);
  expect(withSizes(120)[0]).toMatch(/^look: .*1[2-5] KB/);
  expect(withSizes(240)[0]).toMatch(/^stops: /);
});

describe("is to be looked at:", () => {
  test("the words of the shelf, and those of a layout", () => {
    const email = finished();
    const heading = of(email, "heading").id;
    expect(
      texts(changeEmail(email, commands.set(heading, { content: words("A heading") })).email)[0],
    ).toMatch(/^look: Heading “A heading” still says/);
    const blank = blankEmail(LAYOUTS[1], { name: "T", address: "a@b.example" }, "plain", newId);
    expect(
      texts(blank)
        .filter((text) => text.startsWith("look"))
        .join(),
    ).toContain("The news in a line");
  });

  test("a tag without a fallback, with how many lack it", () => {
    const email = finished();
    const with_ = (fallback: string) =>
      changeEmail(email, commands.set(of(email, "heading").id, { content: [tag(fallback)] })).email;
    expect(texts(with_(""))[0]).toContain("which 2 readers lack");
    expect(texts(with_("gardener"))).toEqual([]);
  });

  test("a case of wording that nobody gets, and tags within cases", () => {
    const email = finished();
    const either = (value: string, inside: Inline[] = words("Now")): Inline => ({
      type: "either",
      attrs: {
        cases: [{ when: { kind: "field", field: "zone", op: "is", value }, words: inside }],
        otherwise: [],
      },
    });
    const subject = (it: Inline) =>
      texts(changeEmail(email, commands.setEnvelope({ subject: [...words("Sow "), it] })).email);
    expect(subject(either("cool"))).toEqual([]);
    expect(subject(either("warm"))).toEqual([
      "look: The subject: the case “Now” is for nobody: none of the readers meets its rule.",
    ]);
    expect(subject(either("cool", [either("warm")]))).toHaveLength(1);
    expect(subject(either("cool", [tag()]))[0]).toContain("which 2 readers lack");
    const gone: Inline = {
      type: "either",
      attrs: {
        cases: [{ when: { kind: "segment", segment: "gone", in: true }, words: words("Now") }],
        otherwise: [],
      },
    };
    expect(subject(gone)[0]).toMatch(/^stops: The subject: the rule of the case “Now” cannot be answered/);
  });

  test("what nobody gets, also because of what it stands in", () => {
    const email = finished();
    const rule = (value: string) => ({ show: { kind: "field", field: "zone", op: "is", value } });
    const heading = of(email, "heading").id;
    expect(texts(changeEmail(email, commands.set(heading, rule("warm"))).email)[0]).toContain(
      "is for nobody",
    );
    expect(texts(changeEmail(email, commands.set(heading, rule("mild"))).email)).toEqual([]);
    const both = changeEmail(
      changeEmail(email, commands.set(heading, rule("mild"))).email,
      commands.set(email.sections[0].id, rule("cool")),
    ).email;
    expect(texts(both)).toHaveLength(1);
  });
});

test("what is still ours stops a sending: a sender, a name, a postal address, a site", () => {
  const [sender] = PLACEHOLDER_BRAND.senders;
  const said = (email: Email, brand: Partial<Brand> = {}) =>
    texts(email, { brand: { ...SAMPLE_BRAND, ...brand } }).filter((text) => text.startsWith("stops"));
  expect(said(finished())).toEqual([]);
  for (const [email, brand, part] of [
    [finished(), { address: PLACEHOLDER_BRAND.address }, "postal address is still"],
    [
      finished(),
      { address: `c/o ${PLACEHOLDER_BRAND.address.toUpperCase()}, UK` },
      "postal address is still",
    ],
    [finished(), { website: PLACEHOLDER_BRAND.website }, "website is still"],
    [finished(), { name: PLACEHOLDER_BRAND.name }, "still called"],
    [
      changeEmail(
        finished(),
        commands.setEnvelope({ sender: { name: words("Us"), address: sender.address } } as never),
      ).email,
      {},
      "address is still the one that Septima came with",
    ],
  ] as [Email, Partial<Brand>, string][])
    expect(said(email, brand).join("\n")).toContain(part);
});

test.each([
  ["http://127.0.0.1:7077", false],
  ["http://letters.tansyrow.example", false],
  ["https://localhost", false],
  ["https://septima.local", false],
  ["https://192.168.1.4", false],
  ["https://[fd00::1]", false],
  ["https://letters", false],
  ["nonsense", false],
  ["https://letters.tansyrow.example", true],
  ["https://93.184.216.34:8443", true],
])("links that lead readers nowhere stop a sending through a real relay: %s", (origin, fine) => {
  const said = (from: "here" | "anywhere") =>
    texts(finished(), { reached: { origin, from } }).filter((text) => text.includes("SEPTIMA_ORIGIN"));
  expect(said("here")).toEqual([]);
  expect(said("anywhere").length).toBe(fine ? 0 : 1);
});
