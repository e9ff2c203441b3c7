import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { changeEmail, commands } from "~/core/compose";
import { blocksOf, THEMES } from "~/core/email";
import { SAMPLE_BRAND, sampleContact, sampleEmail } from "~/core/render/sample";
import { TYPING } from "../state/store";
import { openComposer } from "../state/test-composer";
import { followEditions, whatReaderGets } from "./follow";

const email = sampleEmail(24);
const facts = {
  themes: THEMES,
  brand: SAMPLE_BRAND,
  tags: {},
  picks: new Map(),
  audience: { today: "2026-11-25", segments: new Map() },
};
const cool = sampleContact(1, { first_name: "Ines", zone: "cool" });
const look = (of = email, reader = cool) => whatReaderGets(of, reader, facts, "https://septima.example");
const heading = blocksOf(email).find(({ type }) => type === "heading")!;
const text = (words: string) => [{ type: "text" as const, text: words }];

describe("what the reader bar follows", () => {
  test("other words change the size, not the editions", () => {
    const longer = changeEmail(email, commands.set(heading.id, { content: text("ä".repeat(500)) })).email;
    const tagged = changeEmail(longer, commands.set(heading.id, { content: text("ä".repeat(600)) })).email;
    expect(look(tagged).bytes - look(longer).bytes).toBe(200);
    expect(look(tagged).signature).toBe(look(longer).signature);
  });

  test("a rule or a tag more changes what decides the editions", () => {
    const ruled = changeEmail(
      email,
      commands.set(heading.id, { show: { kind: "field", field: "zone", op: "is", value: "cool" } }),
    ).email;
    expect(look(ruled).signature).not.toBe(look().signature);
    const tag = {
      type: "mergeTag" as const,
      attrs: { field: "branch", fallback: "", format: "asIs" as const },
    };
    const tagged = changeEmail(email, commands.set(heading.id, { content: [tag] })).email;
    expect(look(tagged).signature).not.toBe(look().signature);
  });

  test("readers who get different things are in different editions, the same reader always in one", () => {
    const mild = sampleContact(2, { first_name: "Tobin", zone: "mild" });
    expect(look(email, mild).edition).not.toBe(look().edition);
    expect(look(email, sampleContact(3, { first_name: "Wren", zone: "cool" })).edition).toBe(look().edition);
  });
});

describe("when the figures follow", () => {
  let stop: () => void;
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal("location", { origin: "https://septima.example" });
    vi.stubGlobal("fetch", () => new Promise(() => {}));
  });
  afterEach(() => {
    stop();
    vi.useRealTimers();
  });

  test("not while one types, however long; when the hand rests", () => {
    const { store } = openComposer(email);
    stop = followEditions(store);
    vi.advanceTimersByTime(300);
    const { bytes } = store.getState();
    expect(bytes).toBeGreaterThan(0);
    for (let sign = 1; sign <= 40; sign++) {
      const command = commands.set(heading.id, { content: text("ä".repeat(sign)) });
      store.getState().apply(command, "Typing", `${TYPING}${heading.id}`);
      // Slow enough for what is drawn beside the canvas to follow between two signs.
      vi.advanceTimersByTime(sign % 2 ? 120 : 300);
      expect(store.getState().bytes).toBe(bytes);
    }
    vi.advanceTimersByTime(500);
    expect(store.getState().bytes).not.toBe(bytes);
  });

  test("at once with another reader", () => {
    const { store } = openComposer(email);
    stop = followEditions(store);
    vi.advanceTimersByTime(300);
    const { edition } = store.getState();
    store.getState().set({ reader: sampleContact(2, { first_name: "Tobin", zone: "mild" }) });
    vi.advanceTimersByTime(0);
    expect(store.getState().edition).not.toBe(edition);
  });

  test("what came with the page is not asked for again; what decides the editions is, once it changes", () => {
    const asked = vi.fn((_input: unknown) => new Promise(() => {}));
    vi.stubGlobal("fetch", asked);
    const plain = changeEmail(email, commands.set(heading.id, { content: text("Words") })).email;
    const { store } = openComposer(plain);
    stop = followEditions(store);
    vi.advanceTimersByTime(300);
    store.getState().apply(commands.set(heading.id, { content: text("Other words") }), "Typing");
    vi.advanceTimersByTime(500);
    expect(asked).not.toHaveBeenCalled();
    const rule = { kind: "field", field: "zone", op: "is", value: "cool" } as const;
    store.getState().apply(commands.set(heading.id, { show: rule }), "Showing");
    vi.advanceTimersByTime(500);
    expect(asked).toHaveBeenCalledTimes(1);
    expect(store.getState().counted).toBe("counting");
  });

  test("a design that changed before it was looked at is asked for", () => {
    const asked = vi.fn((_input: unknown) => new Promise(() => {}));
    vi.stubGlobal("fetch", asked);
    const { store } = openComposer(email);
    stop = followEditions(store);
    store.getState().apply(commands.set(heading.id, { content: text("At once") }), "Typing");
    vi.advanceTimersByTime(600);
    expect(asked).toHaveBeenCalledTimes(1);
  });

  test("why editions cannot be told stays while other words are written", () => {
    const { store } = openComposer(email);
    store.setState({ trouble: "The list is gone." });
    stop = followEditions(store);
    vi.advanceTimersByTime(300);
    store.getState().apply(commands.set(heading.id, { content: text("Other words") }), "Typing");
    vi.advanceTimersByTime(500);
    expect(store.getState().trouble).toBe("The list is gone.");
  });
});
