import { afterEach, expect, test, vi } from "vitest";
import { lately } from "./lately";

afterEach(() => vi.unstubAllGlobals());

test("what was taken last comes first, each once, and so many are kept", () => {
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
  const { all, note } = lately("septima test", 3);
  expect(all()).toEqual([]);
  for (const word of ["a", "b", "a"]) note(word);
  expect(all()).toEqual(["a", "b"]);
  for (const word of ["c", "d"]) note(word);
  expect(all()).toEqual(["d", "c", "a"]);
  expect(lately("septima other", 3).all()).toEqual([]);
});
