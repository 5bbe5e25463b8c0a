import type { FileKind, RecordOf } from '@/core/course/records';
import { FILE_KINDS } from '@/core/course/records';
import { carryRows, carryText, placeRows, type CarriedRow, type CarriedText } from '@/core/formats/table';
import type { CourseFiles, ReadOf, ReadUploads, StatementFile } from './readFiles';

/** Messages on their way at a time, so that they do not pile up before who takes them in; then the sender waits for a word. */
export const AHEAD = 8;

/** Rows carried together: few enough that to take them in keeps nobody waiting. */
const TOGETHER = 2000;
/** Statements carried together: each is made of many pieces. */
const STATEMENTS_TOGETHER = 250;

type AnyRow = CarriedRow<RecordOf[FileKind]>;
type AnyStatement = StatementFile['rows'][number];

/** What a reading thread sends of what it read, in this order: its heads, then the rows of each file. */
export type Carried =
  | { readonly heads: Heads }
  | { readonly kind: FileKind; readonly rows: readonly AnyRow[] }
  | { readonly statements: number; readonly rows: readonly AnyStatement[] }
  | { readonly end: true };

/** What was read but for the rows. */
interface Heads extends Omit<ReadUploads, 'files' | 'statements'> {
  readonly files: readonly (readonly [FileKind, Head])[];
  readonly statements: readonly Omit<StatementFile, 'rows'>[];
}

interface Head extends Omit<ReadOf<FileKind>, 'rows' | 'source'> {
  readonly text: CarriedText | null;
}

/** Cuts what was read into messages that are each taken in at once. */
export function* carry({ files, statements, ...rest }: ReadUploads): Generator<Carried> {
  const present = FILE_KINDS.flatMap((kind) => {
    const file = files[kind] as ReadOf<FileKind> | undefined;
    return file ? [[kind, file] as const] : [];
  });
  yield {
    heads: {
      ...rest,
      files: present.map(([kind, { rows: _, source, ...head }]) => [
        kind,
        { ...head, text: carryText({ source }) },
      ]),
      statements: statements.map(({ rows: _, ...head }) => head),
    },
  };
  for (const [kind, file] of present)
    for (const rows of pieces(carryRows(file) as Iterable<AnyRow>, TOGETHER)) yield { kind, rows };
  for (const [i, file] of statements.entries())
    for (const rows of pieces(file.rows, STATEMENTS_TOGETHER)) yield { statements: i, rows };
  yield { end: true };
}

function* pieces<T>(all: Iterable<T>, together: number): Generator<T[]> {
  let piece: T[] = [];
  for (const one of all) {
    piece.push(one);
    if (piece.length < together) continue;
    yield piece;
    piece = [];
  }
  if (piece.length > 0) yield piece;
}

/** Puts messages together again to what was read. */
export class Uncarried {
  private heads: Heads | null = null;
  private readonly rows = new Map<FileKind, ReadOf<FileKind>['rows'][number][]>();
  private readonly statements: AnyStatement[][] = [];

  /** Takes one message in. Returns what was read once it was the last. */
  take(message: Carried): ReadUploads | null {
    if ('heads' in message) {
      this.heads = message.heads;
      for (const [kind] of message.heads.files) this.rows.set(kind, []);
      this.statements.push(...message.heads.statements.map(() => []));
      return null;
    }
    if ('kind' in message) {
      const head = this.heads!.files.find(([kind]) => kind === message.kind)![1];
      const placed = placeRows(message.rows, head.text ?? NO_TEXT);
      for (const row of placed) this.rows.get(message.kind)!.push(row);
      return null;
    }
    if ('statements' in message) {
      for (const row of message.rows) this.statements[message.statements]!.push(row);
      return null;
    }
    return this.whole();
  }

  private whole(): ReadUploads {
    const { files, statements, ...rest } = this.heads!;
    return {
      ...rest,
      files: Object.fromEntries(
        files.map(([kind, { text: _, ...head }]) => [kind, { ...head, rows: this.rows.get(kind) }]),
      ) as CourseFiles,
      statements: statements.map((head, i) => ({ ...head, rows: this.statements[i]! })),
    };
  }
}

/** For rows that hold their cells themselves. */
const NO_TEXT: CarriedText = { delimiter: ',', bytes: new Uint8Array() };
