import { describe, expect, test } from "vitest";
import { parseEmail } from "~/core/blocks";
import { changeEmail, commands } from "~/core/compose";
import { type Block, blocksOf, type Email, findNode } from "~/core/email";
import { sampleEmail } from "~/core/render/sample";
import { merge } from "~/core/steps";
import { aboutWords, asked, takeMine, valueWords } from "./questions";

const base = parseEmail(sampleEmail(24));
const heading = blocksOf(base).find(({ type }) => type === "heading") as Block;
const words = (text: string) => [{ type: "text" as const, text }];
let next = 0;
const newId = () => `q${next++}`;
const done = (...all: Parameters<typeof changeEmail>[1][]): Email =>
  all.reduce((now, command) => changeEmail(now, command).email, base);

/** What is asked when two people did different things, and the design they have then. */
function between(mine: Email, theirs: Email) {
  const { email, clashes } = merge(base, mine, theirs);
  return { email, questions: asked([], clashes, mine) };
}
const taken = (mine: Email, theirs: Email): Email => {
  const { email, questions } = between(mine, theirs);
  return questions.reduce((now, question) => changeEmail(now, takeMine(question, newId)).email, email);
};

describe("taking mine after all", () => {
  test("a property, words, the subject", () => {
    const said = (text: string) => commands.setAt(heading.id, "content", words(text));
    const email = taken(
      done(
        said("Mine entirely"),
        commands.set(heading.id, { name: "Mine" }),
        commands.setEnvelope({ subject: words("Mine") }),
      ),
      done(
        said("Theirs instead"),
        commands.set(heading.id, { name: "Theirs" }),
        commands.setEnvelope({ subject: words("Theirs") }),
      ),
    );
    expect(findNode(email, heading.id)?.node).toMatchObject({
      name: "Mine",
      content: words("Mine entirely"),
    });
    expect(email.envelope.subject).toEqual(words("Mine"));
    expect(parseEmail(email)).toEqual(email);
  });

  test("a block that they deleted while I wrote in it comes back with what I wrote", () => {
    const mine = done(commands.setAt(heading.id, "content", words("Still mine")));
    const theirs = done(commands.remove(heading.id));
    const { email, questions } = between(mine, theirs);
    expect(questions).toMatchObject([{ reason: "gone", id: heading.id }]);
    expect(findNode(email, heading.id)).toBeUndefined();
    expect(aboutWords(questions[0], email)).toContain("Still mine");
    const back = taken(mine, theirs);
    expect(findNode(back, heading.id)?.node).toMatchObject({ content: words("Still mine") });
    expect(back.sections.at(-1)?.id).toBe(base.sections.at(-1)?.id);
  });

  test("what I deleted and they changed goes", () => {
    const mine = done(commands.remove(heading.id));
    const theirs = done(commands.set(heading.id, { background: "#112233" }));
    expect(between(mine, theirs).questions).toMatchObject([{ reason: "kept", id: heading.id }]);
    expect(findNode(taken(mine, theirs), heading.id)).toBeUndefined();
  });

  test("a part that both moved elsewhere stands where I had it", () => {
    const [, second, third] = base.sections.slice(0, -1).map((section) => section.rows[1].columns[1].id);
    const to = (parent: string) => commands.move(heading.id, { parent, index: 0, wants: "block" }, newId);
    const mine = done(to(second));
    const theirs = done(to(third));
    expect(between(mine, theirs).questions).toMatchObject([{ reason: "moved", id: heading.id }]);
    expect(findNode(taken(mine, theirs), heading.id)?.parent).toBe(second);
  });
});

test("the same question again takes the place of the one before", () => {
  const mine = (text: string) => done(commands.set(heading.id, { name: text }));
  const theirs = done(commands.set(heading.id, { name: "Theirs" }));
  const first = merge(base, mine("One"), theirs);
  const second = merge(base, mine("Two"), theirs);
  const questions = asked(asked([], first.clashes, mine("One")), second.clashes, mine("Two"));
  expect(questions).toHaveLength(1);
  expect(questions[0].mine).toBe("Two");
});

test("values are said as somebody reads them", () => {
  expect(valueWords(words("Hold your beans"))).toBe("Hold your beans");
  expect(
    valueWords({
      type: "doc",
      content: [
        { type: "paragraph", content: words("One") },
        { type: "paragraph", content: words("Two") },
      ],
    }),
  ).toBe("One ¶ Two");
  expect(valueWords([])).toBe("no words");
  expect(valueWords(undefined)).toBe("nothing");
  expect(valueWords(true)).toBe("on");
  expect(valueWords(24)).toBe("24");
});
