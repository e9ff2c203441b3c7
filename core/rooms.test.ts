/** The rooms of core/: each is in its place in the order, and named where a newcomer reads. */
import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { expect, test } from "vitest";

const rooms = readdirSync("core", { withFileTypes: true }).flatMap((it) =>
  it.isDirectory() ? [it.name] : [],
);
const { options: _, forbidden } = createRequire(import.meta.url)("../.dependency-cruiser.cjs") as {
  options: unknown;
  forbidden: { name: string }[];
};
/** As lint holds them, but for the last, which nothing may not use. */
const order = forbidden.flatMap(({ name }) => /^core-order-(.*)/.exec(name)?.slice(1) ?? []);

test.each([
  ["README.md", /^ {2}(\w+)\/ /],
  ["core/README.md", /^\| `(\w+)`/],
])("%s names them all, in their order", (file, line) => {
  const named = readFileSync(file, "utf8")
    .split("\n")
    .flatMap((text) => line.exec(text)?.slice(1) ?? []);
  expect([...named].sort()).toEqual([...rooms].sort());
  expect(named.slice(0, -1)).toEqual(order);
});
