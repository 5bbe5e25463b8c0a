import { spanWords } from '../calendar/spanWords';
import { type ViewFrame } from '../views/frame';
import { groupName } from '../views/scope';
import { compareRows } from './order';
import type { SheetCell, SheetTable } from './sheet';

/** A column of a file. */
interface FileColumn<R> {
  readonly head: string;
  readonly cell: (row: R) => SheetCell;
}

/** A column of a table, on screen, on paper and in files. */
export interface Column<R> {
  readonly key: string;
  readonly label: string;
  /** The definition of the figure, behind an “i”. */
  readonly means?: string;
  readonly right?: boolean;
  /** Sentences break into lines; names and figures stay on one. */
  readonly wraps?: boolean;
  /** What rows are sorted by, and what stands in files; null is what is not known. */
  readonly value: (row: R) => string | number | null;
  /** The value as it is read; where absent, the value as it is. */
  readonly words?: (row: R) => string;
  /** Columns of a file, where they are otherwise: none for what is only on screen. */
  readonly file?: readonly FileColumn<R>[];
}

/** What an address says about a table: its order, its filter; anything in it may be nonsense. */
export type AskedTable = Readonly<Record<string, string | null | undefined>>;

/** A share as per cent; of what is not known, nothing. */
export const percent = (share: number | null | undefined): number | null =>
  share == null ? null : 100 * share;

/** A table of a view: it stands once, and the screen, the print and the files read it. */
export interface Table<V extends Shown, R> {
  /** In the name of a file. */
  readonly name: string | ((view: V) => string);
  /** Order where none is asked for: the key of a column, with `-` for the other way round. */
  readonly usual: string;
  readonly columns: (view: V, asked: AskedTable) => readonly Column<R>[];
  /** The rows asked for, in whatever order. */
  readonly rows: (view: V, asked: AskedTable) => readonly R[];
  /** What they are narrowed to, as a file says it. */
  readonly filter: (view: V, asked: AskedTable) => string;
}

type Shown = Pick<ViewFrame, 'course' | 'scope'>;

export interface Sort {
  readonly by: string;
  readonly down: boolean;
}

/** `minutes-` is by minutes, the most first. */
export const sortOf = (text: string): Sort => ({ by: text.replace(/-$/, ''), down: text.endsWith('-') });
export const sortText = ({ by, down }: Sort): string => `${by}${down ? '-' : ''}`;

/** Rows in an order; by a column that is not there they stay as they are. */
export function inOrder<R>(
  rows: readonly R[],
  columns: readonly Column<R>[],
  { by, down }: Sort,
): readonly R[] {
  const column = columns.find((c) => c.key === by);
  return column ? [...rows].sort(compareRows(column.value, down)) : rows;
}

const rounded = (cell: SheetCell): SheetCell =>
  typeof cell === 'number' ? Math.round(cell * 100) / 100 : cell;

/** A table as it stands on screen, to be handed out: same columns, same rows, same order. */
export function sheetOf<V extends Shown, R>(table: Table<V, R>, view: V, asked: AskedTable): SheetTable {
  const { course, scope } = view;
  const { window, zone, now } = scope;
  const columns = table.columns(view, asked);
  const rows = inOrder(table.rows(view, asked), columns, sortOf(asked.sort || table.usual));
  const file = columns.flatMap((c) => c.file ?? [{ head: c.label, cell: c.value }]);
  const name = typeof table.name === 'string' ? table.name : table.name(view);
  return {
    name: `${course.code}-${name}-${window.from}_${window.to}`,
    about: [
      ['Course', `${course.code} ${course.title}`],
      ['Table', name],
      ['Window', spanWords(window)],
      ['Before', window.before ? spanWords(window.before) : 'none'],
      ['Group', groupName(scope) ?? 'all sections'],
      ['Kind', scope.kind ?? 'all kinds'],
      ['Filter', table.filter(view, asked)],
      ['Times in', zone],
      ['Made', new Date(now).toISOString()],
    ],
    head: file.map((f) => f.head),
    rows: rows.map((row) => file.map((f) => rounded(f.cell(row)))),
    zone,
  };
}

/** A column that files call otherwise. */
export const called = <R>(head: string, cell: (row: R) => SheetCell): readonly FileColumn<R>[] => [
  { head, cell },
];

/** An instant as a file holds it. */
export const at = (instant: number | null): SheetCell => (instant == null ? null : { at: instant });
