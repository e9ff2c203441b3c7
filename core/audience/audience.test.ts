import { expect, test } from "vitest";
import { anniversaryDays, contactName, describeRule, isAddress, parseAddresses } from ".";

test("29 February has its anniversary on the 28th in common years only", () => {
  expect(anniversaryDays("2026-02-27", 1).has("02-29")).toBe(true);
  expect(anniversaryDays("2024-02-27", 1).has("02-29")).toBe(false);
  expect(anniversaryDays("2024-02-28", 1).has("02-29")).toBe(true);
});

test("addresses are told from mistakes", () => {
  for (const good of ["a@b.example", "ines.calder+x@mail.example", "x@bücher.example"])
    expect(isAddress(good), good).toBe(true);
  for (const bad of [
    "",
    "a",
    "@b.example",
    "a@b",
    "a b@c.example",
    "a@b..example",
    ".a@b.example",
    "a@-b.example",
    "a\n@b.example",
    `${"x".repeat(65)}@b.example`,
  ]) {
    expect(isAddress(bad), bad).toBe(false);
  }
});

test("a typed list of addresses is read, and what cannot be read is given back word for word", () => {
  expect(parseAddresses("a@b.example, B <b@c.example>; nonsense\nA@B.example c@d")).toEqual({
    addresses: ["A@B.example", "b@c.example"],
    mistakes: ["nonsense", "c@d"],
  });
});

test("a name with a line break is one line", () => {
  expect(
    contactName({
      id: 1,
      email: "x@y.example",
      fields: { first_name: "In\r\nes", last_name: " " },
      lists: [],
    }),
  ).toBe("In es");
});

test("a rule is spelt out", () => {
  const names = {
    fields: [
      {
        key: "zone",
        label: "Growing zone",
        kind: "choice" as const,
        options: [{ value: "c", label: "Cool" }],
      },
    ],
    lists: new Map(),
    segments: new Map([["m", "Members"]]),
  };
  const words = describeRule(
    {
      kind: "all",
      of: [
        { kind: "field", field: "zone", op: "is", value: "c" },
        { kind: "segment", segment: "m", in: false },
      ],
    },
    names,
  );
  expect(words.map((word) => word.text).join("")).toBe("whose growing zone is Cool and not in Members");
});
