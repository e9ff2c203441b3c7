import { EyeOff } from "lucide-react";
import { contactName } from "~/core/audience";
import { findNode } from "~/core/email";
import { useActions } from "../state/actions";
import { nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";
import { useView } from "./context";

/** Where parts stand that this reader does not get: a mark, which steps to a reader who does. */
export function HiddenMarks() {
  const view = useView();
  const actions = useActions();
  const email = useComposer((state) => state.email);
  const reader = useComposer((state) => state.reader);
  useComposer((state) => state.drawn);
  const places = view.drawing?.hidden() ?? [];
  // Several at one place share a mark.
  const byTop = new Map<number, string[]>();
  for (const { id, element } of places) {
    const box = view.boxOf(element);
    if (box) byTop.set(Math.round(box.top), [...(byTop.get(Math.round(box.top)) ?? []), id]);
  }
  return [...byTop].map(([top, ids]) => {
    const found = findNode(email, ids[0]);
    if (!found) return null;
    const what = ids.length > 1 ? `${ids.length} parts` : nodeLabel(found);
    return (
      <button
        key={ids[0]}
        type="button"
        data-testid="hidden-mark"
        aria-label={`${what}: not for ${contactName(reader)}. Show a reader who gets it.`}
        title={`${what}: not for ${contactName(reader)}. Press to see it as a reader who gets it.`}
        className="pointer-events-auto absolute -left-4 z-10 flex h-5 -translate-y-1/2 items-center gap-1 rounded-full border border-teal bg-paper px-1 text-xs text-teal shadow-sm hover:bg-teal-wash max-sm:left-0"
        style={{ top }}
        onClick={() => void actions.showTo(ids[0])}
      >
        <EyeOff className="size-3.5" aria-hidden />
        {ids.length > 1 && ids.length}
      </button>
    );
  });
}
