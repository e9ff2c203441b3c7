import { itemsNamed } from "~/core/email";
import { ask } from "../../requests";
import type { Composer } from "../state/store";

/** Keeps the items at hand that the links of the design name, as their sources have them. Returns how to stop. */
export function followLinks(store: Composer): () => void {
  const asked = new Set<string>();
  const keyOf = (source: string, id: string) => `${source}\n${id}`;
  for (const { source, item } of store.getState().facts.tags.items ?? []) asked.add(keyOf(source, item.id));
  const fetchMissing = async () => {
    const missing = itemsNamed(store.getState().email)
      .filter(([source, id]) => !asked.has(keyOf(source, id)))
      .slice(0, 100);
    if (missing.length === 0) return;
    for (const [source, id] of missing) asked.add(keyOf(source, id));
    const { result } = await ask("/sources/items/now", { query: { of: JSON.stringify(missing) } });
    if (!result) {
      // The server is away: they are asked for at the next change.
      for (const [source, id] of missing) asked.delete(keyOf(source, id));
      return;
    }
    const found = result.items.flatMap((item, at) => (item ? [{ source: missing[at][0], item }] : []));
    const { facts } = store.getState();
    const items = [...(facts.tags.items ?? []), ...found];
    store.getState().set({ facts: { ...facts, tags: { ...facts.tags, items } } });
  };
  return store.subscribe((state, before) => {
    if (state.email !== before.email) void fetchMissing();
  });
}
