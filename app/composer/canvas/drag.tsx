import {
  type Announcements,
  DndContext,
  DragOverlay,
  type DragStartEvent,
  KeyboardCode,
  type KeyboardCoordinateGetter,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { type ReactNode, useMemo, useRef } from "react";
import { BLOCK_TYPES, READY_LISTS } from "~/core/blocks";
import { type Carried, type Place, placeName, placesFor, samePlace } from "~/core/compose";
import { findNode } from "~/core/email";
import { useActions } from "../state/actions";
import { childrenIndex, childrenOf, nodeLabel } from "../state/nodes";
import type { ShelfThing } from "../state/shelf-things";
import { selectedIds, useComposer, useComposerStore } from "../state/store";
import { useCanvas } from "./context";
import { type LandingLine, landingLines, nearestLanding } from "./landing";
import { outlineBox } from "./outline-places";

export function thingLabel(thing: ShelfThing): string {
  if ("clipping" in thing) return thing.clipping.name;
  switch (thing.kind) {
    case "block":
      return thing.items
        ? thing.items.map(({ item }) => item.title).join(", ")
        : thing.ready
          ? READY_LISTS[thing.ready].label
          : BLOCK_TYPES[thing.type].label;
    case "row":
      return thing.columns === 1 ? "Row" : `${thing.columns} columns`;
    case "section":
      return "Section";
  }
}

/** How near the edge of the table the pointer has to be for it to scroll, and how fast it does, in px. */
const EDGE = 72;
const SPEED = { least: 3, most: 44 };

/**
 * Carries things from the shelf and across the email, by pointer or by keys: Space picks up, arrow keys go from
 * place to place, Space or Enter drops, Escape lets go. Over the email there is always a place to land.
 */
export function DragArea({ children }: { children: ReactNode }) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const actions = useActions();
  const thing = useRef<ShelfThing | null>(null);
  const places = useRef<Place[]>([]);
  const measured = useRef<{ drawn: number; places: Place[]; lines: readonly LandingLine[] } | null>(null);
  const byKeys = useRef(false);
  const scrolling = useRef<number | null>(null);
  const pointer = useRef({ x: 0, y: 0 });

  const coordinates = useMemo<KeyboardCoordinateGetter>(
    () =>
      (event, { currentCoordinates }) => {
        const forward = event.code === "ArrowDown" || event.code === "ArrowRight";
        const back = event.code === "ArrowUp" || event.code === "ArrowLeft";
        if (!forward && !back) return undefined;
        event.preventDefault();
        const { landing, set } = store.getState();
        const at = places.current.findIndex((place) => samePlace(place, landing));
        const next =
          places.current[Math.max(0, Math.min(places.current.length - 1, at + (forward ? 1 : -1)))];
        set({ landing: next ?? null });
        if (next)
          canvas.reveal(childrenOf(store.getState().email, next.parent)[next.index] ?? next.parent ?? "");
        // A small step, so that the move is noticed and announced.
        return { x: currentCoordinates.x, y: currentCoordinates.y + (forward ? 1 : -1) };
      },
    [store, canvas],
  );

  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: coordinates,
      keyboardCodes: {
        start: [KeyboardCode.Space],
        cancel: [KeyboardCode.Esc],
        end: [KeyboardCode.Space, KeyboardCode.Enter],
      },
    }),
  );

  // Lines stand in the canvas's own coordinates, so scrolling leaves them; only a new drawing moves them.
  const canvasLines = () => {
    const { email, drawn } = store.getState();
    if (measured.current?.drawn !== drawn || measured.current.places !== places.current) {
      const children = childrenIndex(email);
      const lines = landingLines(
        places.current,
        (parent) => children.get(parent) ?? [],
        (id) => canvas.box(id),
      );
      measured.current = { drawn, places: places.current, lines };
    }
    return measured.current.lines;
  };

  const land = () => {
    const { carried, email, landing, set } = store.getState();
    const view = canvas.viewAt(pointer.current.x);
    if (view && view !== canvas.view) {
      canvas.activate(view);
      measured.current = null;
    }
    const surface = canvas.surface?.getBoundingClientRect();
    const table = canvas.scroller?.getBoundingClientRect();
    if (!carried || !surface || !table) return;
    const { x, y } = pointer.current;
    const inside = (box: DOMRect) => x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
    const outline = canvas.outline?.getBoundingClientRect();
    if (outline && inside(outline)) {
      const lines = landingLines(
        places.current,
        (parent) => childrenOf(email, parent),
        outlineBox(canvas, email),
      );
      const meant = nearestLanding(lines, x - outline.left, y - outline.top)?.place ?? null;
      if (!samePlace(meant, landing)) set({ landing: meant });
      return;
    }
    const lines = inside(table) ? canvasLines() : [];
    const next = nearestLanding(lines, x - surface.left, y - surface.top)?.place ?? null;
    if (!samePlace(next, landing)) set({ landing: next });
  };

  const scroll = () => {
    scrolling.current = null;
    const table = canvas.scroller;
    if (!table || !store.getState().carried || byKeys.current) return;
    const box = table.getBoundingClientRect();
    const { x, y } = pointer.current;
    if (x < box.left || x > box.right) return;
    const pull =
      y < box.top + EDGE
        ? (y - box.top - EDGE) / EDGE
        : y > box.bottom - EDGE
          ? (y - box.bottom + EDGE) / EDGE
          : 0;
    if (pull === 0) return;
    // The nearer to the edge, the faster: slow enough to aim at its beginning, a page in a second at its end.
    const strength = Math.min(1, Math.abs(pull));
    table.scrollTop += Math.sign(pull) * (SPEED.least + (SPEED.most - SPEED.least) * strength ** 2);
    land();
    scrolling.current = requestAnimationFrame(scroll);
  };

  const start = ({ active, activatorEvent }: DragStartEvent) => {
    const { email, set } = store.getState();
    const data = active.data.current as {
      thing?: ShelfThing;
      kind?: Carried["kind"];
      id?: string;
      canvas?: boolean;
    };
    thing.current = data.thing ?? null;
    byKeys.current = !(activatorEvent instanceof PointerEvent);
    const id = data.canvas ? (canvas.pressed ?? undefined) : data.id;
    const kind = data.thing?.kind ?? (data.canvas ? "block" : data.kind) ?? "block";
    if (!data.thing && id === undefined) return;
    const several = selectedIds(store.getState());
    const also = id !== undefined && several.includes(id) ? several.filter((one) => one !== id) : [];
    const carried: Carried = id === undefined ? { kind } : { kind, id, also };
    places.current = placesFor(email, carried);
    canvas.view?.hover(null);
    set({ carried, editing: null, landing: byKeys.current ? firstPlace(id) : null });
    if (activatorEvent instanceof PointerEvent) {
      stopFollowing();
      following.current = follow;
      window.addEventListener("pointermove", follow);
      follow(activatorEvent);
    }
  };

  /** By keys a journey starts at the place after where the thing stands, or after the selection. */
  const firstPlace = (id: string | undefined): Place | null => {
    const { email, selection } = store.getState();
    const from = id ?? selection;
    const at = from === null ? undefined : findNode(email, from);
    const after = at && places.current.find((place) => place.parent === at.parent && place.index > at.index);
    return after ?? places.current[0] ?? null;
  };

  // The pointer is followed by ourselves: the library's distances count scrolling in, which we do too.
  const follow = (event: PointerEvent) => {
    pointer.current = { x: event.clientX, y: event.clientY };
    land();
    scrolling.current ??= requestAnimationFrame(scroll);
  };
  const following = useRef<((event: PointerEvent) => void) | null>(null);
  const stopFollowing = () => {
    if (following.current) window.removeEventListener("pointermove", following.current);
    following.current = null;
  };

  const end = (drop: boolean) => {
    const { carried, landing, set } = store.getState();
    stopFollowing();
    if (scrolling.current !== null) cancelAnimationFrame(scrolling.current);
    scrolling.current = null;
    set({ carried: null, landing: null });
    if (!drop || !carried || !landing) return;
    if (carried.id !== undefined) actions.move(carried.id, landing);
    else if (thing.current) actions.add(thing.current, landing);
    canvas.focus();
  };

  const announcements = useMemo<Announcements>(() => {
    const where = () => {
      const { email, landing } = store.getState();
      return landing ? placeName(email, landing) : "not over the email";
    };
    return {
      onDragStart: () => `Picked up. Now ${where()}.`,
      onDragMove: () => where(),
      onDragOver: () => undefined,
      onDragEnd: () => undefined,
      onDragCancel: () => "Let go; nothing has moved.",
    };
  }, [store]);

  return (
    <DndContext
      sensors={sensors}
      autoScroll={false}
      onDragStart={start}
      onDragEnd={() => end(true)}
      onDragCancel={() => end(false)}
      accessibility={{
        announcements,
        restoreFocus: false,
        screenReaderInstructions: {
          draggable: "Press Space to pick up, arrow keys to choose a place, Space to drop, Escape to let go.",
        },
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        <CarriedTab thing={thing} />
      </DragOverlay>
    </DndContext>
  );
}

function CarriedTab({ thing }: { thing: { readonly current: ShelfThing | null } }) {
  const carried = useComposer((state) => state.carried);
  const email = useComposer((state) => state.email);
  if (!carried) return null;
  const found = carried.id === undefined ? undefined : findNode(email, carried.id);
  const several = carried.also?.length ? `${carried.also.length + 1} blocks` : null;
  const label = several ?? (found ? nodeLabel(found) : thing.current ? thingLabel(thing.current) : "");
  return (
    <div className="mt-6 ml-6 w-max max-w-48 truncate rounded-md bg-mulberry px-2.5 py-1 font-medium text-white shadow-lg">
      {label}
    </div>
  );
}
