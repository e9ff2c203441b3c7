import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";

/** So far a press moves before it is a drag, in px. */
const DISTANCE = 4;

/** A list whose items are dragged to another place by their grips; by keys their buttons move them. */
export function Sorted({
  ids,
  onMove,
  children,
}: {
  ids: readonly (string | number)[];
  onMove(from: number, to: number): void;
  children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DISTANCE } }));
  const keys = ids.map(String);
  const end = ({ active, over }: DragEndEvent) => {
    const [from, to] = [keys.indexOf(String(active.id)), keys.indexOf(String(over?.id))];
    if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[({ transform }) => ({ ...transform, x: 0 })]}
      onDragEnd={end}
    >
      <SortableContext items={keys} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** One item of such a list; `children` puts its grip somewhere. */
export function SortedItem({
  id,
  className,
  children,
}: {
  id: string | number;
  className: string;
  children(grip: ReactNode): ReactNode;
}) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: String(id) });
  return (
    <li
      ref={setNodeRef}
      className={`${className} ${isDragging ? "relative z-10 bg-paper opacity-90 shadow-lg" : ""}`}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
    >
      {children(
        <span
          aria-hidden
          data-grip
          className="-ml-1 grid size-6 cursor-grab touch-none place-items-center text-ink-soft hover:text-ink active:cursor-grabbing"
          {...listeners}
        >
          <GripVertical className="size-4" />
        </span>,
      )}
    </li>
  );
}
