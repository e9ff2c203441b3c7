import fc from "fast-check";
import { expect, test } from "vitest";
import { type KeyFocus, type KeyPress, keyMeaning } from "./key-meaning";

const press = (text: string): KeyPress => {
  const parts = text.split("+");
  return {
    key: parts.at(-1) as string,
    command: parts.includes("Ctrl"),
    shift: parts.includes("Shift"),
    alt: parts.includes("Alt"),
  };
};
const NOWHERE: KeyFocus = {
  typing: false,
  dialog: false,
  carried: false,
  control: false,
  outline: false,
  onCanvas: false,
};
const at = (...where: (keyof KeyFocus)[]): KeyFocus => ({
  ...NOWHERE,
  ...Object.fromEntries(where.map((key) => [key, true])),
});

test.each<[string, (keyof KeyFocus)[], string | null]>([
  ["Ctrl+s", ["typing"], "save"],
  ["Alt+.", ["typing"], "nextEdition"],
  ["Ctrl+z", ["onCanvas"], "undo"],
  ["Ctrl+Shift+Z", [], "redo"],
  ["Ctrl+y", [], "redo"],
  ["Ctrl+z", ["typing"], null],
  ["Ctrl+z", ["dialog"], null],
  ["Ctrl+d", ["onCanvas"], "duplicate"],
  ["Ctrl+d", ["carried"], null],
  ["Alt+ArrowUp", ["onCanvas"], "moveUp"],
  ["ArrowDown", ["onCanvas"], "walkDown"],
  ["Shift+ArrowDown", ["onCanvas"], "extendDown"],
  ["ArrowDown", ["control"], null],
  ["ArrowDown", ["control", "outline"], "walkDown"],
  ["Enter", ["onCanvas"], "edit"],
  ["Enter", ["control"], null],
  ["Escape", ["onCanvas"], "parent"],
  ["[", [], "foldShelf"],
  ["]", [], "foldPanel"],
  ["?", ["onCanvas"], "keys"],
  ["Backspace", ["onCanvas"], "remove"],
  ["Delete", ["control", "outline"], "remove"],
  ["Backspace", [], null],
  ["Backspace", ["control"], null],
  ["Backspace", ["typing", "onCanvas"], null],
  ["x", ["onCanvas"], null],
])("%s at %j means %s", (text, where, meaning) =>
  expect(keyMeaning(press(text), at(...where))).toBe(meaning),
);

test("wherever it is pressed, a key takes a block only on the canvas or in the outline, and nothing while one types", () => {
  const key = fc.constantFrom(
    "Backspace",
    "Delete",
    "Enter",
    "Escape",
    "ArrowUp",
    "z",
    "d",
    "s",
    "?",
    "[",
    ".",
  );
  const place = fc.record({
    typing: fc.boolean(),
    dialog: fc.boolean(),
    carried: fc.boolean(),
    control: fc.boolean(),
    outline: fc.boolean(),
    onCanvas: fc.boolean(),
  });
  fc.assert(
    fc.property(key, fc.boolean(), fc.boolean(), fc.boolean(), place, (name, command, shift, alt, where) => {
      const meaning = keyMeaning({ key: name, command, shift, alt }, where);
      if (meaning === "remove") expect(where.outline || where.onCanvas).toBe(true);
      if (where.typing || where.dialog)
        expect(["save", "nextEdition", "previousEdition", null]).toContain(meaning);
      if (where.carried)
        expect(["save", "nextEdition", "previousEdition", "undo", "redo", null]).toContain(meaning);
    }),
  );
});
