import type { FileKind } from '../course/records';
import { counted, listed } from '../format';

/** What a file looked like when it was read for a course. */
export interface FileShape {
  readonly parts: readonly {
    readonly kind: FileKind | 'statements';
    readonly columns: readonly string[];
    readonly rows: number;
    /** Rows of people, or about work, that the course does not have, and others that cannot go in. */
    readonly astray: number;
    /** Rows that were there before. */
    readonly known: number;
  }[];
}

/** A file with less than this share of the rows of the last is looked at first. */
const LEAST_SHARE = 2 / 3;
/** A share of rows that belong to nobody here, beyond which a file is taken for one of another course. */
const MOST_ASTRAY = 1 / 2;

/** Kinds whose files may hold only what is new: how long one is says nothing. */
const grows = (kind: string, known: number): boolean =>
  (kind === 'events' || kind === 'statements') && known === 0;

/**
 * Why a file looks unlike the last that went in, in sentences: another kind of file, other columns, a third fewer rows, or
 * most of its rows of people and work that the course does not have. None if it looks like it.
 */
export function unlike(last: FileShape, now: FileShape): string[] {
  const reasons: string[] = [];
  const before = new Map(last.parts.map((p) => [p.kind, p]));
  const gone = last.parts.filter((p) => !now.parts.some((n) => n.kind === p.kind));
  if (gone.length > 0)
    reasons.push(`It brings no ${listed(gone.map((p) => p.kind))} any more, as the last did.`);
  for (const part of now.parts) {
    const was = before.get(part.kind);
    if (!was) {
      reasons.push(`It brings ${part.kind}, which the last did not.`);
      continue;
    }
    reasons.push(...otherColumns(was.columns, part.columns));
    if (part.rows < was.rows * LEAST_SHARE && !grows(part.kind, part.known))
      reasons.push(
        `It has ${part.rows.toLocaleString('en')} of the ${counted(was.rows, 'row')} of the last (${part.kind}).`,
      );
    const stray = part.rows > 0 ? part.astray / part.rows : 0;
    if (stray > MOST_ASTRAY && was.astray <= was.rows * MOST_ASTRAY)
      reasons.push(
        `${part.astray.toLocaleString('en')} of its ${counted(part.rows, 'row')} are about people or work that this course does not have. Is it of another course?`,
      );
  }
  return reasons;
}

function otherColumns(was: readonly string[], now: readonly string[]): string[] {
  const quoted = (names: readonly string[]) => listed(names.slice(0, 5).map((n) => `“${n}”`));
  const fresh = now.filter((c) => !was.includes(c));
  const gone = was.filter((c) => !now.includes(c));
  return [
    ...(gone.length > 0
      ? [`${gone.length === 1 ? 'A column is' : 'Columns are'} missing: ${quoted(gone)}.`]
      : []),
    ...(fresh.length > 0
      ? [`${fresh.length === 1 ? 'A column is' : 'Columns are'} new: ${quoted(fresh)}.`]
      : []),
  ];
}
