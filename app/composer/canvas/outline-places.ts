import { type Email, findNode } from "~/core/email";
import { childrenOf } from "../state/nodes";
import type { CanvasHandle } from "./context";

/**
 * The box of a part in the outline, with all that stands in it, in px of the outline's own coordinates. Columns that
 * are alone in their row have no line; theirs is what stands in them, or the line of the row.
 */
export function outlineBox(canvas: CanvasHandle, email: Email) {
  const list = canvas.outline;
  const around = list?.getBoundingClientRect();
  return (id: string | null): { left: number; top: number; right: number; bottom: number } | null => {
    if (!list || !around) return null;
    const all = id === null ? [] : within(email, id);
    const rects = [id, ...all].flatMap((one) => {
      if (one === null) return [];
      const rect = list.querySelector(`[data-outline="${CSS.escape(one)}"]`)?.getBoundingClientRect();
      return rect ? [rect] : [];
    });
    if (id === null) return { left: 0, top: 0, right: around.width, bottom: around.height };
    if (rects.length === 0) {
      const parent = findNode(email, id)?.parent;
      return parent ? outlineBox(canvas, email)(parent) : null;
    }
    return {
      left: Math.min(...rects.map((rect) => rect.left)) - around.left,
      top: Math.min(...rects.map((rect) => rect.top)) - around.top,
      right: around.width,
      bottom: Math.max(...rects.map((rect) => rect.bottom)) - around.top,
    };
  };
}

function within(email: Email, id: string): string[] {
  return childrenOf(email, id).flatMap((child) => [child, ...within(email, child)]);
}
