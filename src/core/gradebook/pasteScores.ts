import { parseScore } from './scoreEntry';

/** A cell that a paste reaches. */
export interface PasteTarget {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly student: string;
  readonly activity: string;
  readonly maximum: number | null;
  readonly points: number | null;
  /** Why it cannot be graded; null if it can. */
  readonly closed: string | null;
}

export interface PasteChange {
  readonly target: PasteTarget;
  readonly typed: string;
  readonly points: number | null;
}

export interface PasteReject {
  readonly line: number;
  readonly student: string | null;
  readonly typed: string;
  readonly reason: string;
}

/** What a pasted block would do. */
export interface PastePreview {
  readonly changes: readonly PasteChange[];
  readonly unchanged: number;
  readonly rejected: readonly PasteReject[];
}

/** Pasted text as rows of cells: lines of a column, or a block with tabs, as spreadsheets hand it over. */
export function pastedCells(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, '\n').split('\n');
  while (lines.length > 0 && lines.at(-1)!.trim() === '') lines.pop();
  return lines.map((line) => line.split('\t').map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')));
}

/**
 * What pasting scores from a cell on would change: row by row down the students as they are sorted, column by column
 * to the right. Empty cells leave what stands. What cannot be read or has no place is rejected with its line; the rest
 * can still go in.
 *
 * @param grid grid[row][column]: the cells from the one that has the focus, down and to the right
 */
export function previewPaste(text: string, grid: readonly (readonly PasteTarget[])[]): PastePreview {
  const changes: PasteChange[] = [];
  const rejected: PasteReject[] = [];
  let unchanged = 0;
  pastedCells(text).forEach((cells, row) => {
    cells.forEach((typed, column) => {
      if (typed === '') return;
      const target = grid[row]?.[column];
      const reject = (reason: string) =>
        rejected.push({ line: row + 1, student: target?.student ?? null, typed, reason });
      if (!grid[row]) return reject('there is no student left in the list');
      if (!target) return reject('there is no assignment to the right of the last');
      if (target.closed) return reject(target.closed);
      const read = parseScore(typed, target.maximum);
      if (!read.ok) return reject(read.reason);
      if (read.value === target.points) unchanged++;
      else changes.push({ target, typed, points: read.value });
    });
  });
  return { changes, unchanged, rejected };
}
