import { type Clipping, withClipping } from "~/core/compose";
import type { Composer } from "./store";

/** Brings every place of a clipping in this email to what the clipping is. */
export function everyPlace(store: Composer, clipping: Clipping): void {
  const { apply, email, set } = store.getState();
  const next = withClipping(email, clipping);
  set({ opened: "every" });
  apply((edit) => edit.become(next), `The clipping “${clipping.name}”`);
  set({ opened: null });
}
