import { type Clipping, withClipping } from "~/core/compose";
import { ask } from "../../requests";
import type { Composer } from "./store";

/** Brings every place of a clipping in this email to what the clipping is. */
export function everyLinked(store: Composer, clipping: Clipping): void {
  const { apply, email, set } = store.getState();
  const next = withClipping(email, clipping);
  set({ opened: "every" });
  apply((edit) => edit.become(next), `The clipping “${clipping.name}”`);
  set({ opened: null });
}

/** Fetches the clippings of the workspace anew. */
export async function loadClippings(store: Composer): Promise<void> {
  const { result } = await ask("/clippings");
  // When the server is away, what is known stays.
  if (result) store.getState().set({ clippings: result });
}
