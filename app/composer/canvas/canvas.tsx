import { useDraggable } from "@dnd-kit/core";
import { useCallback, useEffect, useRef, useState } from "react";
import { wordsOf } from "~/core/blocks";
import { findNode } from "~/core/email";
import { FOCUS_HOME } from "../../ui/focus";
import { shownEmail } from "../state/language";
import { useComposer, useComposerStore } from "../state/store";
import { shownTheme } from "../state/theme";
import { engineNow, loadEngine } from "../words/load";
import { useWriting } from "../words/writing";
import { CanvasView, type Device, useCanvas, ViewContext } from "./context";
import { Drawing } from "./drawing";
import { Overlay } from "./overlay";

/** How wide a phone's screen is, and how much of the table's colour shows beside the email on a desktop, in px. */
const PHONE = 375;
const MARGIN = 20;

/** How wide the email stands on the table, in px: as its theme says, or its widest section. */
export function useDeskWidth(): number {
  return useComposer((state) => {
    const { email } = state;
    const theme = shownTheme(state);
    return Math.max(...[theme.width, ...email.sections.map(({ width }) => width ?? 0)]) + 2 * MARGIN;
  });
}

/** The email as the reader gets it, in a shadow root, with what floats above it. */
export function Canvas({ device }: { device: Device }) {
  const writing = useWriting();
  const store = useComposerStore();
  const canvas = useCanvas();
  const surface = useRef<HTMLDivElement>(null);
  const [view] = useState(() => new CanvasView(device));
  const desk = useDeskWidth();

  useEffect(() => {
    view.device = device;
    view.redraw();
  }, [view, device]);

  useEffect(() => {
    const element = surface.current;
    if (!element) return;
    const root = element.shadowRoot ?? element.attachShadow({ mode: "open" });
    const drawing = new Drawing(root);
    view.drawing = drawing;
    view.surface = element;
    const leave = canvas.add(view);
    let end: (() => void) | null = null;
    let editing: string | null = null;
    let editingKey = "";
    /** Which words the block has: a table is drawn anew when rows come or go while one writes in it. */
    let places = "";
    const placesOf = (id: string) => {
      const found = findNode(shownEmail(store.getState()), id);
      return found?.kind === "block"
        ? wordsOf(found.node)
            .map(({ path }) => path)
            .join("\n")
        : "";
    };
    const finish = () => {
      end?.();
      end = null;
      if (editing) drawing.forget(editing);
      editing = null;
    };
    const draw = () => {
      const state = store.getState();
      // Words are written in the drawing one works in; the other shows them as they come.
      const here = canvas.view === view;
      if (editing !== null && (!here || state.editing !== editing || state.editingKey !== editingKey))
        finish();
      else if (editing !== null && placesOf(editing) !== places) finish();
      drawing.draw(state, { narrow: view.device === "phone", kept: editing });
      const engine = engineNow();
      if (here && state.editing !== null && editing === null && !engine) void loadEngine().then(draw);
      else if (here && state.editing !== null && editing === null) {
        const found = findNode(shownEmail(state), state.editing);
        const cell = drawing.element(state.editing);
        end =
          found?.kind === "block" && cell && engine
            ? engine.editInPlace(writing, cell, found.node, state.editingKey)
            : null;
        if (end) {
          editing = state.editing;
          editingKey = state.editingKey;
          places = placesOf(editing);
        } else state.edit(null);
      }
      state.set({ drawn: state.drawn + 1 });
    };
    draw();
    view.redraw = draw;
    performance.mark("drawn");
    const stop = store.subscribe((state, before) => {
      const changed =
        state.email !== before.email ||
        state.reader !== before.reader ||
        state.width !== before.width ||
        state.dark !== before.dark ||
        state.trial !== before.trial ||
        state.editing !== before.editing ||
        state.editingKey !== before.editingKey ||
        state.facts !== before.facts;
      if (changed) draw();
    });
    // Pictures that arrive, and fonts, move things.
    const resized = new ResizeObserver(() => store.setState({ drawn: store.getState().drawn + 1 }));
    resized.observe(element);
    return () => {
      view.redraw = () => undefined;
      stop();
      resized.disconnect();
      finish();
      leave();
    };
  }, [store, canvas, writing, view]);

  const { setNodeRef, listeners } = useDraggable({ id: `canvas ${device}`, data: { canvas: true } });
  const pressed = useRef<string | null>(null);

  const nodesUnder = useCallback(
    (event: { nativeEvent: Event }) => view.drawing?.nodesAt(event.nativeEvent.composedPath()) ?? [],
    [view],
  );

  const press = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const nodes = nodesUnder(event);
    const target = nodes.find((node) => node.kind === "block") ?? nodes[0];
    const { selection, editing, select, edit, both, width, set } = store.getState();
    const elsewhere = canvas.view !== view;
    if (elsewhere) {
      edit(null);
      canvas.activate(view);
    }
    if (both && width !== view.device) set({ width: view.device });
    pressed.current = target?.id === selection && !elsewhere ? selection : null;
    if (target && editing === target.id && !elsewhere) {
      pressed.current = target.id;
      return;
    }
    canvas.pressed = target?.kind === "block" ? target.id : null;
    if (target && (event.shiftKey || event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      pressed.current = null;
      if (event.shiftKey) store.getState().selectTo(target.id);
      else store.getState().toggle(target.id);
      canvas.focus();
      return;
    }
    // A press on one of several keeps them all, so that they can be dragged together.
    if (!(target && store.getState().also.includes(target.id))) select(target?.id ?? null);
    canvas.focus();
    if (canvas.pressed)
      (listeners?.onPointerDown as ((event: React.PointerEvent) => void) | undefined)?.(event);
  };
  const click = (event: React.MouseEvent) => {
    event.preventDefault();
    const { selection, also, edit, select, set, lock } = store.getState();
    if (also.length > 0) {
      // The press kept several for dragging them; without a drag it meant this one.
      const one = canvas.pressed;
      if (one && !(event.shiftKey || event.ctrlKey || event.metaKey)) select(one);
      return;
    }
    if (selection === null) return;
    const path = event.nativeEvent.composedPath();
    const empty = path.find((it) => it instanceof HTMLElement && it.dataset.choose !== undefined);
    if (empty && !lock) {
      set({ choosing: { id: selection, path: (empty as HTMLElement).dataset.choose ?? "" } });
      return;
    }
    if (pressed.current !== selection && event.detail < 2) return;
    const key = view.drawing?.wordsAt(path, selection);
    if (key !== undefined) edit(selection, key);
  };

  return (
    <ViewContext.Provider value={view}>
      <div
        className="relative shrink-0 shadow-[0_0_0_1px_var(--color-line)] max-sm:w-full!"
        style={{ width: device === "phone" ? PHONE : desk }}
        data-canvas-frame={device}
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
          aria-label={`The email${device === "phone" ? " on a phone" : ""}. Arrow keys walk the blocks, Enter edits, Alt with arrows moves.`}
          data-testid={device === "phone" && store.getState().both ? "canvas-beside" : "canvas"}
          className="outline-offset-4"
          {...FOCUS_HOME}
          onPointerDown={press}
          onMouseDown={(event) => {
            // A press beside the words of the block being written, as on a button's face, leaves the cursor in them.
            const { editing } = store.getState();
            const path = event.nativeEvent.composedPath();
            const inWords = path.some((it) => it instanceof HTMLElement && it.isContentEditable);
            if (editing !== null && !inWords && nodesUnder(event).some(({ id }) => id === editing))
              event.preventDefault();
          }}
          onClick={click}
          // Links and pictures would be dragged by the browser itself, which ends our own drag.
          onDragStart={(event) => event.preventDefault()}
          onPointerMove={(event) => {
            const nodes = nodesUnder(event);
            view.hover((nodes.find((node) => node.kind === "block") ?? nodes[0])?.id ?? null);
          }}
          onPointerLeave={() => view.hover(null)}
        />
        <Overlay />
      </div>
    </ViewContext.Provider>
  );
}
