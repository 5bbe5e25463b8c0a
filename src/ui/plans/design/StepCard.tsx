'use client';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { minutesText, weekdayAndTime } from '@/core/format';
import type { DesignStep } from '@/core/plans/design';
import type { StepMove } from '@/core/plans/edit';
import { classes } from '../../parts/classes';

const KEYS: Readonly<Record<string, StepMove>> = {
  ArrowLeft: 'earlier',
  ArrowRight: 'later',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

const KIND_WORDS: Readonly<Record<Exclude<DesignStep['kind'], 'activity'>, string>> = {
  practice: 'practice',
  talk: 'talk',
  text: 'task',
  lesson: 'lesson',
  attempt: 'another attempt',
};

/** A step of a plan design: it opens on a click, and moves by its grip or by Alt with an arrow. */
export function StepCard({
  group,
  step,
  kind,
  zone,
  setName,
  onOpen,
  onMove,
}: {
  readonly group: string;
  readonly step: DesignStep;
  /** What the activity is that it is of. */
  readonly kind: string | null;
  readonly zone: string;
  /** The set it is in, where one of two is enough. */
  readonly setName: string | null;
  readonly onOpen: () => void;
  readonly onMove: (move: StepMove) => void;
}) {
  const id = `${group}/${step.id}`;
  const {
    setNodeRef: dragRef,
    transform,
    isDragging,
    listeners,
  } = useDraggable({ id, data: { group, step: step.id } });
  const { setNodeRef: dropRef, isOver } = useDroppable({ id: `on ${id}`, data: { group, before: step.id } });
  const what = step.kind === 'activity' ? (kind ?? 'not in the course any more') : KIND_WORDS[step.kind];
  const lesson = step.lesson ? ` · ${weekdayAndTime(step.lesson.at, zone)}` : '';
  return (
    <li
      ref={(node) => {
        dragRef(node);
        dropRef(node);
      }}
      style={
        transform
          ? {
              transform: `translate(${transform.x}px, ${transform.y}px)`,
              zIndex: 20,
              position: 'relative',
            }
          : undefined
      }
      className={classes(
        'border-line bg-panel flex w-52 items-stretch rounded-md border',
        step.kind === 'attempt' && 'border-dashed',
        isOver && !isDragging && 'border-l-amber border-l-[3px]',
        isDragging && 'shadow-lg',
      )}
    >
      <span
        {...listeners}
        aria-hidden
        className="text-muted hover:text-ink grid w-5 shrink-0 cursor-grab touch-none place-items-center"
      >
        <GripVertical className="size-3.5" />
      </span>
      <button
        type="button"
        onClick={onOpen}
        aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight Alt+ArrowUp Alt+ArrowDown"
        data-step={step.id}
        onKeyDown={(e) => {
          const move = e.altKey ? KEYS[e.key] : undefined;
          if (!move) return;
          e.preventDefault();
          onMove(move);
        }}
        className="hover:bg-amber-wash/60 min-w-0 flex-1 rounded-r-md px-1.5 py-1.5 text-left"
      >
        <span className="line-clamp-2 block leading-5 font-semibold">{step.title || what}</span>
        <span className="text-muted block truncate text-[13px]">
          {what} · {minutesText(step.minutes)}
          {setName ? ` · ${setName}` : ''}
          {lesson}
        </span>
      </button>
    </li>
  );
}
