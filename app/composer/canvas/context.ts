import { createContext, useContext } from "react";
import type { Drawing } from "./drawing";

/** What the parts around the canvas share of it: outside of React's state, as it lives in the DOM. */
export class CanvasHandle {
  drawing: Drawing | null = null;
  surface: HTMLElement | null = null;
  /** The element that scrolls the canvas. */
  scroller: HTMLElement | null = null;
  /** The list of the outline, while it is shown. */
  outline: HTMLElement | null = null;
  /** The block the pointer went down on, which a drag takes along. */
  pressed: string | null = null;
  private hovered: string | null = null;
  private readonly listeners = new Set<() => void>();

  hover(id: string | null): void {
    if (id === this.hovered) return;
    this.hovered = id;
    for (const listener of this.listeners) listener();
  }

  readonly hoveredNode = () => this.hovered;

  readonly onHover = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The box of a node in the canvas's own coordinates; the whole canvas for `null`, or null when it is not drawn. */
  box(id: string | null): { left: number; top: number; right: number; bottom: number } | null {
    const surface = this.surface?.getBoundingClientRect();
    const rect = id === null ? surface : this.drawing?.element(id)?.getBoundingClientRect();
    if (!surface || !rect) return null;
    return {
      left: rect.left - surface.left,
      top: rect.top - surface.top,
      right: rect.right - surface.left,
      bottom: rect.bottom - surface.top,
    };
  }

  /** Brings a node into view. */
  reveal(id: string): void {
    this.drawing?.element(id)?.scrollIntoView({ block: "nearest" });
  }
}

export const CanvasContext = createContext<CanvasHandle | null>(null);

export function useCanvas(): CanvasHandle {
  const canvas = useContext(CanvasContext);
  if (!canvas) throw new Error("outside of a composer");
  return canvas;
}
