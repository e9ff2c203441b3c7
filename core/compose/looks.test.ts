import { describe, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, createBlock } from "../blocks";
import { type Block, type Email, findNode } from "../email";
import {
  blankEmail,
  changeEmail,
  commands,
  differsFromShelf,
  fromShelf,
  LAYOUTS,
  likeBlocks,
  spreadLook,
} from ".";

function emailWith(...blocks: Block[]): Email {
  let next = 0;
  const email = blankEmail(LAYOUTS[3], { name: "", address: "a@b.example" }, "plain", () => `i${next++}`);
  email.sections[0].rows = [{ id: "r", columns: [{ id: "column", width: 100, blocks }] }];
  return email;
}
const blockOf = (email: Email, id: string) => findNode(email, id)?.node as Block;

test("one button’s look goes to all buttons, and their words stay", () => {
  const email = emailWith(
    {
      ...createBlock("button", "a"),
      face: "#112233",
      radius: 20,
      padding: { top: 1, right: 2, bottom: 3, left: 4 },
    },
    { ...createBlock("button", "b"), content: [{ type: "text", text: "B" }], href: "https://b.example/" },
    { ...createBlock("button", "c"), color: "#FFFFFF", face: "#112233" },
    createBlock("heading", "h"),
  );
  expect(likeBlocks(email, "a")).toEqual({ others: 2, different: 2 });
  const after = changeEmail(email, spreadLook("a")).email;
  expect(likeBlocks(after, "a")).toEqual({ others: 2, different: 0 });
  expect(blockOf(after, "b")).toMatchObject({ face: "#112233", radius: 20, href: "https://b.example/" });
  expect(blockOf(after, "c").color).toBeUndefined();
  expect(blockOf(after, "h")).toEqual(blockOf(email, "h"));
});

describe.each(Object.keys(BLOCK_TYPES) as BlockTypeName[])("%s", (name) => {
  const fresh = createBlock(name, "x") as Block;
  const email = emailWith(fresh);

  test("as it came it differs in nothing", () => {
    expect(differsFromShelf(fresh)).toEqual({ look: false, anything: false });
  });

  test("set back, it is as it came, with its name and rules", () => {
    const own = { name: "Mine", hideOn: "phone", background: "#ABCDEF", off: ["x"], phone: { size: 20 } };
    const changed = changeEmail(email, commands.set("x", own)).email;
    expect(differsFromShelf(blockOf(changed, "x")).look).toBe(true);
    for (const what of ["look", "everything"] as const) {
      const back = blockOf(changeEmail(changed, fromShelf("x", what)).email, "x");
      expect(back).toEqual({ ...fresh, name: "Mine", hideOn: "phone" });
    }
  });
});
