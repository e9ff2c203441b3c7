import { useDraggable } from "@dnd-kit/core";
import { type KeyboardEvent, useRef } from "react";
import { useActions } from "../state/actions";
import type { ShelfThing } from "../state/shelf-things";
import { useComposerStore } from "../state/store";

/** So long after a drag a click is the end of it, in milliseconds: it has no count of its own. */
const END_OF_DRAG = 250;

/** What makes a button something on the shelf: dragged into the email, or pressed to add it after the selection. */
export function useShelfItem(id: string, thing: ShelfThing) {
  const actions = useActions();
  const store = useComposerStore();
  const { setNodeRef, listeners, attributes, isDragging } = useDraggable({ id, data: { thing } });
  const dragged = useRef(Number.NEGATIVE_INFINITY);
  if (isDragging) dragged.current = performance.now();
  return {
    isDragging,
    props: {
      ref: setNodeRef,
      type: "button" as const,
      ...attributes,
      ...listeners,
      onClick: () => {
        if (!store.getState().carried && performance.now() - dragged.current > END_OF_DRAG)
          actions.addAfterSelection(thing);
      },
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === "Enter" && !isDragging) {
          event.preventDefault();
          actions.addAfterSelection(thing);
        } else listeners?.onKeyDown?.(event);
      },
    },
  };
}
