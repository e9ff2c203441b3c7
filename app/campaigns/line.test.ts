import { expect, test } from "vitest";
import { waitingWords } from "./line";

const nobody = { waiting: [], changes: [], approved: [], outdated: [], open: 0 };

test("what is to be done stands before what is waited for", () => {
  expect(
    waitingWords({ ...nobody, waiting: ["Ida"], changes: ["Board"], approved: ["Oskar"], open: 2 }),
  ).toEqual({
    words: "Board wants changes · 2 open comments · waits for Ida · approved by Oskar",
    todo: true,
  });
  expect(waitingWords({ ...nobody, outdated: ["Ida", "Board", "Oskar"] })).toEqual({
    words: "changed since Ida, Board and 1 more approved it",
    todo: true,
  });
  expect(waitingWords({ ...nobody, waiting: ["Ida", "Board"] })).toEqual({
    words: "waits for Ida and Board",
    todo: false,
  });
});
