import { useDraggable } from "@dnd-kit/core";
import { useCallback, useEffect, useRef } from "react";
import { findNode } from "~/core/email";
import { useComposer, useComposerStore } from "../store";
import type { EditorHost } from "../text/extensions";
import { useCanvas } from "./context";
import { Drawing } from "./drawing";
import { Overlay } from "./overlay";
import { editInPlace } from "./text-editing";

/** The email as the reader gets it, in a shadow root, with what floats above it. */
export function Canvas({ host }: { host: EditorHost }) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const surface = useRef<HTMLDivElement>(null);
  const width = useComposer((state) => state.width);
  const themeWidth = 640;

  useEffect(() => {
    const element = surface.current;
    if (!element) return;
    const root = element.shadowRoot ?? element.attachShadow({ mode: "open" });
    const drawing = new Drawing(root);
    canvas.drawing = drawing;
    canvas.surface = element;
    let end: (() => void) | null = null;
    let editing: string | null = null;
    let editingKey = "";
    const finish = () => {
      end?.();
      end = null;
      if (editing) drawing.forget(editing);
      editing = null;
    };
    const draw = () => {
      const state = store.getState();
      if (editing !== null && (state.editing !== editing || state.editingKey !== editingKey)) finish();
      drawing.draw(state);
      if (state.editing !== null && editing === null) {
        const found = findNode(state.email, state.editing);
        const cell = drawing.element(state.editing);
        end =
          found?.kind === "block" && cell
            ? editInPlace(store, cell, found.node, state.editingKey, host)
            : null;
        if (end) {
          editing = state.editing;
          editingKey = state.editingKey;
        } else state.edit(null);
      }
      state.set({ drawn: state.drawn + 1 });
    };
    draw();
    const stop = store.subscribe((state, before) => {
      const changed =
        state.email !== before.email ||
        state.reader !== before.reader ||
        state.width !== before.width ||
        state.dark !== before.dark ||
        state.editing !== before.editing ||
        state.editingKey !== before.editingKey ||
        state.facts !== before.facts;
      if (changed) draw();
    });
    // Pictures that arrive, and fonts, move things.
    const resized = new ResizeObserver(() => store.setState({ drawn: store.getState().drawn + 1 }));
    resized.observe(element);
    return () => {
      stop();
      resized.disconnect();
      finish();
    };
  }, [store, canvas, host]);

  const { setNodeRef, listeners } = useDraggable({ id: "canvas", data: { canvas: true } });
  const pressed = useRef<string | null>(null);

  const blockAt = useCallback(
    (event: { nativeEvent: Event }) => canvas.drawing?.nodesAt(event.nativeEvent.composedPath()) ?? [],
    [canvas],
  );

  const press = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const nodes = blockAt(event);
    const target = nodes.find((node) => node.kind === "block") ?? nodes[0];
    const { selection, editing, select } = store.getState();
    pressed.current = target?.id === selection ? selection : null;
    if (target && editing === target.id) {
      pressed.current = target.id;
      return;
    }
    canvas.pressed = target?.kind === "block" ? target.id : null;
    if (target && (event.shiftKey || event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      pressed.current = null;
      store.getState().toggle(target.id);
      surface.current?.focus({ preventScroll: true });
      return;
    }
    // A press on one of several keeps them all, so that they can be dragged together.
    if (!(target && store.getState().also.includes(target.id))) select(target?.id ?? null);
    surface.current?.focus({ preventScroll: true });
    if (canvas.pressed)
      (listeners?.onPointerDown as ((event: React.PointerEvent) => void) | undefined)?.(event);
  };
  const click = (event: React.MouseEvent) => {
    event.preventDefault();
    const { selection, also, edit } = store.getState();
    if (also.length > 0) return;
    if (selection === null || (pressed.current !== selection && event.detail < 2)) return;
    const key = canvas.drawing?.wordsAt(event.nativeEvent.composedPath(), selection);
    if (key !== undefined) edit(selection, key);
  };

  return (
    <div
      className="relative mx-auto shadow-[0_0_0_1px_var(--color-line)]"
      style={{ width: width === "phone" ? 375 : themeWidth }}
      data-canvas-frame
    >
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: keys are heard on the window, wherever the focus is */}
      <div
        ref={(element) => {
          surface.current = element;
          setNodeRef(element);
        }}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: keys walk the blocks from here
        tabIndex={0}
        role="group"
        aria-label="The email. Arrow keys walk the blocks, Enter edits, Alt with arrows moves."
        data-testid="canvas"
        className="outline-offset-4"
        onPointerDown={press}
        onClick={click}
        // Links and pictures would be dragged by the browser itself, which ends our own drag.
        onDragStart={(event) => event.preventDefault()}
        onPointerMove={(event) => {
          const nodes = blockAt(event);
          canvas.hover((nodes.find((node) => node.kind === "block") ?? nodes[0])?.id ?? null);
        }}
        onPointerLeave={() => canvas.hover(null)}
      />
      <Overlay />
    </div>
  );
}
