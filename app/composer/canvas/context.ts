import { createContext, useContext } from "react";
import type { Stage } from "../state/stage";
import type { Drawing } from "./drawing";

/** The widths at which the email can stand on the table. */
export type Device = "desktop" | "phone";

/** A box in a drawing's own coordinates, in px. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** One drawing of the email on the table. It lives in the DOM, outside of React's state. */
export class CanvasView {
  drawing: Drawing | null = null;
  surface: HTMLElement | null = null;
  private hovered: string | null = null;
  private readonly listeners = new Set<() => void>();

  /** Draws what differs: also after the device has become another, which is no change of the design. */
  redraw: () => void = () => undefined;

  constructor(public device: Device) {}

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

  /** The box of a node; the whole drawing for `null`, or null when it is not drawn. */
  box(id: string | null): Box | null {
    const element = id === null ? this.surface : this.drawing?.element(id);
    return this.boxOf(element ?? null);
  }

  /** The box of any element of the drawing. */
  boxOf(element: Element | null): Box | null {
    const surface = this.surface?.getBoundingClientRect();
    const rect = element?.getBoundingClientRect();
    if (!surface || !rect) return null;
    return {
      left: rect.left - surface.left,
      top: rect.top - surface.top,
      right: rect.right - surface.left,
      bottom: rect.bottom - surface.top,
    };
  }
}

/** What the parts around the email share of it: its drawings, and which of them one works in. */
export class CanvasHandle implements Stage {
  private readonly views: CanvasView[] = [];
  private current: CanvasView | null = null;
  /** The element that scrolls the table. */
  scroller: HTMLElement | null = null;
  /** The list of the outline, while it is shown. */
  outline: HTMLElement | null = null;
  /** The block the pointer went down on, which a drag takes along. */
  pressed: string | null = null;
  /** Whether the focus came to the canvas by somebody's own doing: only then a key may delete. */
  onPurpose = false;

  /** Takes a drawing in; returns how to let it go. */
  add(view: CanvasView): () => void {
    this.views.push(view);
    return () => {
      this.views.splice(this.views.indexOf(view), 1);
      if (this.current === view) this.current = null;
    };
  }

  /** The drawing one works in. */
  get view(): CanvasView | null {
    return this.current ?? this.views[0] ?? null;
  }

  activate(view: CanvasView): void {
    this.current = view;
  }

  /** The drawing under a point of the window, or the one worked in. */
  viewAt(x: number): CanvasView | null {
    const under = this.views.find(({ surface }) => {
      const box = surface?.getBoundingClientRect();
      return box && x >= box.left && x <= box.right;
    });
    return under ?? this.view;
  }

  get drawing(): Drawing | null {
    return this.view?.drawing ?? null;
  }

  get surface(): HTMLElement | null {
    return this.view?.surface ?? null;
  }

  box(id: string | null): Box | null {
    return this.view?.box(id) ?? null;
  }

  /** Gives the canvas the focus; by itself when it would otherwise be nowhere. */
  focus(onPurpose = true): void {
    this.onPurpose = onPurpose;
    this.surface?.focus({ preventScroll: true });
  }

  shows(id: string): boolean {
    return this.drawing?.element(id) != null;
  }

  wordsOf(id: string): readonly string[] {
    return this.drawing?.wordsOf(id) ?? [];
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

export const ViewContext = createContext<CanvasView | null>(null);

/** The drawing that a part floats above. */
export function useView(): CanvasView {
  const view = useContext(ViewContext);
  if (!view) throw new Error("outside of a canvas");
  return view;
}
