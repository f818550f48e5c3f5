import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import type { ReactNode } from 'react';

/** A list whose items are dragged by their handle, or moved with the keyboard from it: Space, arrows, Space. */
export function SortableList({
  keys,
  move,
  children,
}: {
  readonly keys: readonly string[];
  readonly move: (key: string, to: number) => void;
  readonly children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) move(String(active.id), keys.indexOf(String(over.id)));
      }}
    >
      <SortableContext items={[...keys]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** One item with its handle. */
export function SortableItem({
  id,
  label,
  children,
  className = '',
}: {
  readonly id: string;
  readonly label: string;
  readonly children: ReactNode;
  readonly className?: string;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex items-start gap-1 ${isDragging ? 'relative z-10 bg-wash shadow-md' : ''} ${className}`}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        className="flex min-h-6 min-w-6 shrink-0 cursor-grab items-center justify-center text-ink-soft"
        {...attributes}
        {...listeners}
        aria-label={`Move ${label}`}
      >
        <GripVertical size={14} aria-hidden="true" />
      </button>
      <div className="min-w-0 flex-1">{children}</div>
    </li>
  );
}
