'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  useEffect,
  useImperativeHandle,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
  type Ref,
} from 'react';
import type { GradeFilter, SortKey } from '@/core/tables/gradeFilters';
import type { GradebookView, GradeRow } from '@/core/views/gradebook';
import { useNarrow } from '../parts/useNarrow';
import { cellLabel } from './cellLabel';
import { GridHead } from './GridHead';
import { GridNames } from './GridNames';
import { GridRow } from './GridRow';
import { CELL, HEAD, NARROW_NAME, NARROW_ROW, NAME, ROW, STANDING, SUMMARIES } from './gridSizes';

export interface GridHandle {
  readonly focus: () => void;
}

interface Props {
  readonly view: GradebookView;
  readonly rows: readonly GradeRow[];
  /** Columns that are shown, as places in `view.columns`. */
  readonly places: readonly number[];
  readonly filter: GradeFilter | null;
  readonly sort: SortKey;
  readonly hidesStanding: boolean;
  readonly picked: ReadonlySet<number>;
  readonly handle: Ref<GridHandle>;
  readonly onSort: (by: SortKey) => void;
  readonly onPick: (row: GradeRow) => void;
  readonly onPickCell: (row: GradeRow, place: number) => void;
  readonly onColumn: (place: number) => void;
  readonly onOpen: (row: GradeRow, place: number) => void;
  readonly onScore: (row: GradeRow, place: number, typed: string) => string | null;
  readonly onExcuse: (row: GradeRow, place: number) => void;
  readonly onPaste: (text: string, row: number, column: number) => void;
}

/**
 * The gradebook as a grid: head, names and class figures pinned, only what is in sight drawn. Moves like a grid by
 * the arrow keys, Home, End and the page keys; typing a figure or Enter edits a score.
 */
export function Grid({
  view,
  rows,
  places,
  filter,
  sort,
  hidesStanding: hidden,
  picked,
  handle,
  onSort,
  onPick,
  onPickCell,
  onColumn,
  onOpen,
  onScore,
  onExcuse,
  onPaste,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const finished = useRef(false);
  const [at, setAt] = useState({ row: 0, column: 0 });
  const [editing, setEditing] = useState<{ readonly text: string; readonly error: string | null } | null>(
    null,
  );
  const narrow = useNarrow();
  // On a phone the names leave room for the points; the standing is the order's and the brief's to show.
  const hidesStanding = hidden || narrow;
  const high = narrow ? NARROW_ROW : ROW;
  const fixed = (narrow ? NARROW_NAME : NAME) + (hidesStanding ? 0 : STANDING);
  const active = {
    row: Math.min(at.row, rows.length - 1),
    column: Math.min(at.column, places.length - 1),
  };
  // The rows and columns that it hands out are read anew with every drawing; nothing of it is kept.
  // eslint-disable-next-line react-hooks/incompatible-library
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => high,
    overscan: 1,
    scrollPaddingStart: HEAD,
    paddingStart: 0,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: places.length,
    getScrollElement: () => box.current,
    estimateSize: () => CELL,
    overscan: 1,
    scrollPaddingStart: fixed,
  });
  // The virtual list keeps the sizes it measured first.
  useEffect(() => down.measure(), [down, high]);
  useImperativeHandle(handle, () => ({ focus: () => box.current?.focus() }), []);

  const goTo = (row: number, column: number) => {
    const next = {
      row: Math.max(0, Math.min(rows.length - 1, row)),
      column: Math.max(0, Math.min(places.length - 1, column)),
    };
    setAt(next);
    // The head and the names cover what scrolls under them.
    const element = box.current;
    if (!element) return;
    const top = next.row * high;
    const left = next.column * CELL;
    const height = element.clientHeight - HEAD;
    const width = element.clientWidth - fixed;
    if (top < element.scrollTop) element.scrollTop = top;
    else if (top + high > element.scrollTop + height) element.scrollTop = top + high - height;
    if (left < element.scrollLeft) element.scrollLeft = left;
    else if (left + CELL > element.scrollLeft + width) element.scrollLeft = left + CELL - width;
  };
  const current = rows[active.row];
  const place = places[active.column];
  const page = Math.max(1, Math.floor(((box.current?.clientHeight ?? 500) - HEAD) / high) - 1);

  const onKeyDown = (event: KeyboardEvent) => {
    // The buttons of the head and the boxes of the names keep their own keys.
    if (event.target !== box.current) return;
    if (editing || !current || place == null) return;
    const { row, column } = active;
    const far = event.ctrlKey || event.metaKey;
    const moves: Record<string, () => void> = {
      ArrowDown: () => goTo(far ? rows.length - 1 : row + 1, column),
      ArrowUp: () => goTo(far ? 0 : row - 1, column),
      ArrowRight: () => goTo(row, far ? places.length - 1 : column + 1),
      ArrowLeft: () => goTo(row, far ? 0 : column - 1),
      PageDown: () => goTo(row + page, column),
      PageUp: () => goTo(row - page, column),
      Home: () => goTo(far ? 0 : row, 0),
      End: () => goTo(far ? rows.length - 1 : row, places.length - 1),
    };
    const keys: Record<string, () => void> = {
      Enter: () => edit(''),
      F2: () => edit(String(current.points[place] ?? '')),
      Delete: () => edit(''),
      ' ': () => onPick(current),
      t: () => onPickCell(current, place),
      o: () => onOpen(current, place),
      e: () => onExcuse(current, place),
      h: () => onColumn(place),
    };
    const action = moves[event.key] ?? (far || event.altKey ? undefined : keys[event.key]);
    if (action) {
      event.preventDefault();
      action();
    } else if (!far && !event.altKey && /^\d$/.test(event.key)) {
      event.preventDefault();
      edit(event.key);
    }
  };
  const edit = (text: string) => {
    if (place == null || view.columns[place]!.points == null) return;
    finished.current = false;
    setEditing({ text: text || String(current?.points[place] ?? ''), error: null });
  };
  const finish = (move: number) => {
    // Leaving the field is an end too, and so is taking it away after the first.
    if (finished.current) return;
    if (!editing || !current || place == null) return;
    const error = onScore(current, place, editing.text);
    if (error) {
      setEditing({ ...editing, error });
      return;
    }
    finished.current = true;
    setEditing(null);
    box.current?.focus();
    if (move !== 0) goTo(active.row + move, active.column);
  };
  const paste = (event: ClipboardEvent) => {
    if (editing || !current) return;
    const text = event.clipboardData.getData('text/plain');
    if (text.trim() === '') return;
    event.preventDefault();
    onPaste(text, active.row, active.column);
  };

  const total = fixed + places.length * CELL;
  const visible = across.getVirtualItems();
  const from = visible.at(0)?.index ?? 0;
  const to = visible.at(-1)?.index ?? -1;
  // React Compiler would keep the first functions; these are stable enough by reference for memo to work.
  const focusCell = useRef<(row: number, column: number) => void>(() => undefined);
  const openCell = useRef<(row: number, column: number) => void>(() => undefined);
  useEffect(() => {
    focusCell.current = (row, column) => {
      setEditing(null);
      setAt({ row, column });
    };
    openCell.current = (row, column) => onOpen(rows[row]!, places[column]!);
  });
  const [stable] = useState(() => ({
    focus: (row: number, column: number) => focusCell.current(row, column),
    open: (row: number, column: number) => openCell.current(row, column),
  }));
  const input = (
    <input
      autoFocus
      aria-label={
        current && place != null ? `Points, ${cellLabel(current, view.columns[place]!, place)}` : ''
      }
      aria-invalid={editing?.error != null}
      aria-describedby={editing?.error ? 'grade-error' : undefined}
      className="bg-panel border-amber w-full rounded border px-1 text-right outline-none"
      value={editing?.text ?? ''}
      inputMode="decimal"
      onChange={(e) => setEditing({ text: e.target.value, error: null })}
      onFocus={(e) => e.target.setSelectionRange(e.target.value.length, e.target.value.length)}
      onBlur={() => editing && !editing.error && finish(0)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') {
          finished.current = true;
          setEditing(null);
          box.current?.focus();
        } else if (e.key === 'Enter' || e.key === 'Tab') {
          e.preventDefault();
          finish(e.shiftKey ? -1 : 1);
        }
      }}
    />
  );

  return (
    <>
      <p
        id="grade-error"
        role="alert"
        className={editing?.error ? 'text-plum mb-1 font-semibold' : 'sr-only'}
      >
        {editing?.error ?? ''}
      </p>
      <div
        ref={box}
        role="grid"
        tabIndex={0}
        aria-label="Gradebook"
        aria-rowcount={rows.length + 2 + SUMMARIES.length}
        aria-colcount={places.length + 2}
        aria-activedescendant={current && place != null ? `cell-${active.row}-${active.column}` : undefined}
        onKeyDown={onKeyDown}
        onPaste={paste}
        className="border-line bg-panel relative h-[calc(100vh-17.5rem)] min-h-96 overflow-auto rounded-lg border"
      >
        <div style={{ width: total, height: HEAD + rows.length * high }} className="relative">
          <GridHead
            view={view}
            places={places}
            from={from}
            to={to}
            fixed={fixed}
            sort={sort}
            hidesStanding={hidesStanding}
            onSort={onSort}
            onColumn={onColumn}
          />
          <GridNames
            code={view.course.code}
            shown={down.getVirtualItems().map((r) => r.index)}
            rows={rows}
            sort={sort}
            width={fixed}
            high={high}
            hidesStanding={hidesStanding}
            picked={picked}
            onPick={onPick}
          />
          {down.getVirtualItems().map((r) => {
            const row = rows[r.index]!;
            const isActive = r.index === active.row;
            return (
              <GridRow
                key={row.enrolmentId}
                view={view}
                row={row}
                index={r.index}
                places={places}
                from={from}
                to={to}
                fixed={fixed}
                high={high}
                filter={filter}
                active={isActive ? active.column : null}
                editor={isActive && editing ? input : null}
                onFocus={stable.focus}
                onOpen={stable.open}
              />
            );
          })}
        </div>
      </div>
    </>
  );
}
