import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { wordsOf } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  findNode,
  ownOf,
  richText,
  same,
  valueAt,
  walk,
  wordSigns,
} from "../email";
import { sampleEmail } from "../render/sample";
import { difference } from "../steps";
import { commandBy } from "./arbitrary";
import { CommandError, changeEmail, commands } from "./commands";
import { offersOf, takeOffers } from "./offers";

const all = (offers: ReturnType<typeof offersOf>) => new Set(offers.map(({ id }) => id));

/** A design after some commands chosen by numbers. */
function wentOn(email: Email, numbers: readonly [number, number, number][], prefix: string): Email {
  let next = 0;
  return numbers.reduce((design, three) => {
    try {
      return changeEmail(
        design,
        commandBy(design, three, () => `${prefix}${++next}`),
      ).email;
    } catch (error) {
      if (error instanceof CommandError) return design;
      throw error;
    }
  }, email);
}

const numbers = fc.array(fc.tuple(fc.nat(200), fc.nat(200), fc.nat(200)), { maxLength: 12 });
const base = sampleEmail(12);
const text = (email: Email, at = 0) => blocksOf(email).filter(({ type }) => type === "text")[at];

const fill = (email: Email, id: string, words: string) =>
  changeEmail(email, commands.set(id, { content: richText(words) })).email;
const saying = (block: Block | undefined) =>
  block &&
  wordsOf(block)
    .map(({ words }) => wordSigns(words))
    .join();

describe("a template’s changes", () => {
  test("are spoken of part by part, with the words before and after", () => {
    const [first, second] = [text(base, 0), text(base, 1)];
    let template = fill(base, first.id, "Corrected");
    template = changeEmail(template, commands.set(second.id, { background: "#ABCDEF" })).email;
    const offers = offersOf(base, template, base);
    expect(offers.map(({ id, what, fits }) => [id, what, fits])).toEqual([
      [first.id, "changed", "wholly"],
      [second.id, "changed", "wholly"],
    ]);
    expect(offers[0].words).toEqual({ before: saying(first), after: "Corrected" });
    expect(offers[1]).toMatchObject({ words: null, looks: ["background"] });
    const taken = takeOffers(base, offers, new Set([second.id]));
    expect(saying(text(taken, 0))).toBe(saying(first));
    expect(text(taken, 1).background).toBe("#ABCDEF");
  });

  test("of a section that stays do not say again what its blocks say", () => {
    const [section] = base.sections;
    const inside = text(base);
    let template = fill(base, inside.id, "Corrected");
    template = changeEmail(template, commands.set(section.id, { contentBackground: "accent" })).email;
    const offers = offersOf(base, template, base);
    expect(offers.map(({ id, words, looks }) => [id, words?.after ?? null, looks])).toEqual([
      [section.id, null, ["contentBackground"]],
      [inside.id, "Corrected", []],
    ]);
    // One that is new says all that it says.
    const added = offersOf({ ...base, sections: base.sections.slice(1) }, base, base);
    expect(added[0].words?.after).toContain(saying(inside));
  });

  test("do not reach words that the designer has filled in", () => {
    const { id } = text(base);
    const [template, draft] = [fill(base, id, "Corrected"), fill(base, id, "My own")];
    const offers = offersOf(base, template, draft);
    expect(offers).toMatchObject([{ id, fits: "not", steps: [] }]);
    expect(takeOffers(draft, offers, all(offers))).toEqual(draft);
  });

  test("do not take out what the designer has worked on", () => {
    const { id } = text(base);
    const template = changeEmail(base, commands.remove(id)).email;
    const offers = offersOf(base, template, fill(base, id, "My own"));
    expect(offers.find((it) => it.id === id)?.fits).toBe("not");
  });

  test("bring a design that was left as it was to the template as it is", () => {
    fc.assert(
      fc.property(numbers, (changes) => {
        const template = wentOn(base, changes, "t");
        const offers = offersOf(base, template, base);
        expect(difference(takeOffers(base, offers, all(offers)), template)).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });

  test("keep all that was filled in, whatever the template and the designer did", () => {
    fc.assert(
      fc.property(numbers, numbers, (theirs, mine) => {
        const [template, draft] = [wentOn(base, theirs, "t"), wentOn(base, mine, "d")];
        const offers = offersOf(base, template, draft);
        const taken = takeOffers(draft, offers, all(offers));
        for (const step of difference(base, draft)) {
          if (step.op === "insert") expect(findNode(taken, step.node.id)).toBeDefined();
          if (step.op !== "set") continue;
          const here = step.id === null ? undefined : findNode(taken, step.id);
          if (step.id !== null && here === undefined) throw new Error(`${step.id} is gone`);
          // The shares of columns are brought in order when columns come and go.
          if (here?.kind === "column" && step.path === "width") continue;
          const own = here ? ownOf(here.kind, here.node) : ownOf("email", taken);
          expect(same(valueAt(own, step.path), step.after), `${step.id} ${step.path}`).toBe(true);
        }
        const ids = [...walk(taken)].map(({ node }) => node.id);
        expect(new Set(ids).size).toBe(ids.length);
      }),
      { numRuns: 300 },
    );
  });
});
