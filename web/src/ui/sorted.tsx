import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
} from '@dnd-kit/core'
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical } from 'lucide-react'
import { useMemo, type CSSProperties, type ReactNode } from 'react'
import { Button } from './button'

interface Item {
  id?: string
  name?: string
}

interface SortedProps {
  items: readonly Item[]
  /** Moves one of them down by so many places, or up where it is less than none. */
  move: (id: string, name: string, by: number) => void
  children: ReactNode
}

/** A list that is put in order by dragging: with the mouse, a finger, or the keys (space, arrows, space). */
export function Sorted({ items, move, children }: SortedProps) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 150, tolerance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const ids = useMemo(() => items.map(({ id }) => id!), [items])
  const nameOf = (id: string | number) => items.find((item) => item.id === id)?.name ?? ''
  const placeOf = (id: string | number) => `place ${ids.indexOf(String(id)) + 1} of ${ids.length}`
  const announcements = {
    onDragStart: ({ active }) => `${nameOf(active.id)} is picked up, ${placeOf(active.id)}.`,
    onDragOver: ({ active, over }) => over && `${nameOf(active.id)} goes to ${placeOf(over.id)}.`,
    onDragEnd: ({ active, over }) => over && `${nameOf(active.id)} is put down at ${placeOf(over.id)}.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
  } as Announcements
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictToVerticalAxis, restrictToParentElement]}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable:
            'Space picks it up, the arrows move it, space puts it down and Escape leaves it where it was.',
        },
      }}
      onDragEnd={({ active, over }) => {
        const by = over ? ids.indexOf(String(over.id)) - ids.indexOf(String(active.id)) : 0
        if (by !== 0) move(String(active.id), nameOf(active.id), by)
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  )
}

interface Row {
  /** For the row itself. */
  row: { ref: (element: HTMLElement | null) => void; style: CSSProperties }
  /** What it is dragged by. */
  grip: ReactNode
}

/** One row of a {@link Sorted} list. */
export function useSortedRow({ id, name }: Item): Row {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id: id! })
  return {
    row: {
      ref: setNodeRef,
      style: {
        transform: CSS.Translate.toString(transform),
        transition,
        ...(isDragging ? { position: 'relative', zIndex: 5, boxShadow: '0 2px 8px rgb(0 0 0 / 0.25)' } : {}),
      },
    },
    grip: (
      <Button
        look="quiet"
        ref={setActivatorNodeRef}
        className="cursor-grab touch-none px-0 text-edge"
        {...attributes}
        {...listeners}
        aria-label={`Drag ${name ?? ''}`}
        data-tip="Drag it to another place"
      >
        <GripVertical size={14} aria-hidden />
      </Button>
    ),
  }
}
