import { expect, test } from "vitest";
import { parseEmail } from "~/core/blocks";
import { sampleEmail } from "~/core/render/sample";
import { difference, pack } from "~/core/steps";
import { Autosave, type Kept } from "./autosave";
import { browserKeep, dropKept, keepers, keptBy } from "./keep";

/** A browser's store with room for so many letters. */
function store(room: number): Storage {
  const kept = new Map<string, string>();
  const target = {
    getItem: (key: string) => kept.get(key) ?? null,
    removeItem: (key: string) => void kept.delete(key),
    setItem(key: string, value: string) {
      const used = [...kept].reduce((sum, [one, text]) => sum + (one === key ? 0 : text.length), 0);
      if (used + value.length > room) throw new DOMException("full", "QuotaExceededError");
      kept.set(key, value);
    },
  };
  // The keys of a browser's store are its own properties.
  return new Proxy(target, {
    ownKeys: () => [...kept.keys()],
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
  }) as unknown as Storage;
}

const base = parseEmail(sampleEmail(6));
const changed = { ...base, theme: "plum" };
const kept: Kept = {
  revision: 4,
  base,
  steps: pack(difference(base, changed)),
  sent: { save: "save-1", steps: [] },
  questions: [],
};

test("what was kept is there again, for its own window, and is gone when it is dropped", () => {
  const browser = store(1_000_000);
  const keep = browserKeep("campaign", "one", browser);
  expect(keep.put(kept)).toBe(true);
  expect(keptBy("campaign", "one", browser)).toEqual(kept);
  expect(keptBy("campaign", "two", browser)).toBeNull();
  expect(keepers("campaign", browser)).toEqual(["one"]);
  expect(keepers("other", browser)).toEqual([]);
  expect(Autosave.resume(keptBy("campaign", "one", browser) as Kept).email).toEqual(changed);
  keep.drop();
  expect(keepers("campaign", browser)).toEqual([]);
});

test("a full store is said, and half of it is never taken for the whole", () => {
  const small = store(200);
  const keep = browserKeep("campaign", "one", small);
  expect(keep.put(kept)).toBe(false);
  expect(keptBy("campaign", "one", small)).toBeNull();
});

test("what cannot be read is nothing: another version wrote it, or somebody changed it by hand", () => {
  const browser = store(1_000_000);
  browserKeep("campaign", "one", browser).put(kept);
  browser.setItem("septima draft campaign one", "{");
  expect(keptBy("campaign", "one", browser)).toBeNull();
  browser.setItem("septima draft campaign one", JSON.stringify({ revision: "four" }));
  expect(keptBy("campaign", "one", browser)).toBeNull();
  dropKept("campaign", "one", browser);
  expect(keepers("campaign", browser)).toEqual([]);
});

test("the base, which is large, is written only when it is another", () => {
  const browser = store(1_000_000);
  const written: string[] = [];
  const spy = new Proxy(browser, {
    get: (target, key) =>
      key === "setItem"
        ? (name: string, value: string) => {
            written.push(name);
            target.setItem(name, value);
          }
        : Reflect.get(target, key),
  });
  const keep = browserKeep("campaign", "one", spy);
  keep.put(kept);
  keep.put({ ...kept, revision: 5 });
  expect(written.filter((key) => key.endsWith(" base"))).toHaveLength(1);
  keep.put({ ...kept, base: changed });
  expect(written.filter((key) => key.endsWith(" base"))).toHaveLength(2);
});
