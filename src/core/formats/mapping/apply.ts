import { isZone } from '../../calendar/zone';
import { no, ok, type Result } from '../../result';
import { SPECS } from '../courseFiles';
import { type FileKind, type RecordOf } from '../../course/records';
import { faultOf, repeatedColumn, type CsvRow, type CsvTable } from '../csv';
import { formatInstant, shorten } from '../../calendar/instant';
import { readRows, tooManyRejected, type ReadTable, type RejectedRow } from '../table';
import { columnsOf, type MappedColumn } from './columns';
import { parseDayIn, parseInstantIn } from './dates';
import { partOfName } from '../../course/personName';
import { kindOfShape, type FieldSource, type Mapping } from '../../course/mapping';

/** A foreign file read by a mapping: records of the kind that its shape says. */
export interface Mapped<K extends FileKind> extends ReadTable<RecordOf[K]> {
  readonly kind: K;
}

/** The cell of one of our columns, or why there is none. */
type CellOf = (row: CsvRow) => Result<string>;

function cellOf(
  column: MappedColumn,
  source: FieldSource,
  header: readonly string[],
  mapping: Mapping,
): CellOf {
  const index = source.from === 'column' ? header.indexOf(source.column) : -1;
  const words = mapping.words[column.name] ?? {};
  return (row) => {
    const raw = (source.from === 'text' ? source.text : (row.cells[index] ?? '')).trim();
    if (raw === '') return ok('');
    if (source.from === 'column' && source.part !== 'all') return ok(partOfName(raw, source.part));
    if (column.type === 'words') return ok(words[raw.toLowerCase()] ?? raw);
    if (column.type === 'day') return parseDayIn(raw.split(/[T\s]/)[0]!, mapping.days);
    if (column.type !== 'instant' && column.type !== 'end') return ok(raw);
    const at = parseInstantIn(raw, mapping.days, mapping.zone, column.type === 'end' ? 'end' : 'start');
    return at.ok ? ok(formatInstant(at.value)) : at;
  };
}

/** Columns whose content names a record, where the source has no id of its own: the same row gives the same id. */
const MADE_IDS: Readonly<Partial<Record<FileKind, readonly [string, readonly string[]]>>> = {
  events: ['event_id', ['student_id', 'at', 'kind', 'activity_id']],
  referrals: ['referral_id', ['student_id', 'day', 'reason']],
};

/** Why a file with this header cannot be read by a mapping at all; null if it can. */
function objectionTo(header: readonly string[], mapping: Mapping): string | null {
  const lacks = columnsOf(mapping.shape).find((c) => c.required && !mapping.fields[c.name]);
  if (lacks) return `the mapping does not say where ${lacks.name} comes from`;
  if (!isZone(mapping.zone)) return `there is no time zone “${shorten(mapping.zone)}”`;
  if (mapping.shape !== kindOfShape(mapping.shape) && mapping.spread.length === 0)
    return 'the mapping names no column that holds an assignment or an item';
  for (const source of [...Object.values(mapping.fields), ...mapping.spread]) {
    if (!('column' in source)) continue;
    if (!header.includes(source.column)) return `line 1: the column “${source.column}” is missing`;
    const twice = repeatedColumn(header, [source.column]);
    if (twice) return twice;
  }
  return null;
}

/**
 * Reads a foreign table by a mapping. A row of a wide table gives a record for each of its columns that holds
 * something. Errors name the line and the column of the source; rows keep the cells that stood there.
 *
 * @returns a reason if the file lacks a column of the mapping, or the mapping one of ours
 */
export function applyMapping(table: CsvTable, mapping: Mapping): Result<Mapped<FileKind>> {
  const { header, rows, delimiter } = table;
  const kind = kindOfShape(mapping.shape);
  const named = columnsOf(mapping.shape).filter((c) => mapping.fields[c.name]);
  const wide = mapping.shape !== kind;
  const against = objectionTo(header, mapping);
  if (against) return no(against);
  const cells = named.map((c) => cellOf(c, mapping.fields[c.name]!, header, mapping));
  const spread = mapping.spread.map((s) => ({ to: s.to, index: header.indexOf(s.column), column: s.column }));
  const [itemColumn, valueColumn] =
    mapping.shape === 'wide scores' ? (['activity_id', 'points'] as const) : (['item_id', 'answer'] as const);
  const made = MADE_IDS[kind] && !mapping.fields[MADE_IDS[kind][0]] ? MADE_IDS[kind] : null;
  const ours = [
    ...named.map((c) => c.name),
    ...(wide ? [itemColumn, valueColumn] : []),
    ...(made ? [made[0]] : []),
  ];

  const out: CsvRow[] = [];
  /** The row of the source that each of ours comes from, and the column of a wide one. */
  const origins: { readonly row: CsvRow; readonly column: string | null }[] = [];
  const rejected: RejectedRow[] = [];
  const put = (row: CsvRow, values: string[], column: string | null) => {
    const all = made
      ? [
          ...values,
          made[1]
            .map((c) => values[ours.indexOf(c)] ?? '')
            .join(' | ')
            .slice(0, 200),
        ]
      : values;
    // The line stands for the place in `origins` until the rows are read.
    out.push({ line: origins.length, cells: all, fault: null });
    origins.push({ row, column });
  };
  for (const row of rows) {
    const many = tooManyRejected(rejected);
    if (many != null) return no(many);
    const fault = faultOf(row, header);
    if (fault) {
      rejected.push({ line: row.line, ...fault, cells: row.cells });
      continue;
    }
    const values: string[] = [];
    let wrong: { field: string; reason: string } | null = null;
    cells.forEach((read, i) => {
      const cell = read(row);
      if (!cell.ok) wrong ??= { field: sourceOf(mapping, named[i]!.name), reason: cell.reason };
      values.push(cell.ok ? cell.value : '');
    });
    if (wrong) {
      rejected.push({ line: row.line, cells: row.cells, ...(wrong as { field: string; reason: string }) });
      continue;
    }
    if (!wide) put(row, values, null);
    for (const { to, index, column } of spread) {
      const value = (row.cells[index] ?? '').trim();
      if (value !== '') put(row, [...values, to, value], column);
    }
  }
  const spec = SPECS[kind];
  const read = readRows<RecordOf[FileKind]>(
    { header: ours, rows: out, delimiter },
    { required: [], optional: [...spec.required, ...spec.optional], read: (row) => spec.read(row) },
  );
  if (!read.ok) return read;
  const names = [...spec.required, ...spec.optional];
  const plain = Object.fromEntries(names.map((name) => [name, sourceOf(mapping, name)]));
  const byColumn = new Map(
    spread.map(({ column }) => [column, { ...plain, [itemColumn]: column, [valueColumn]: column }]),
  );
  const calledAt = (place: number): Readonly<Record<string, string>> =>
    byColumn.get(origins[place]!.column ?? '') ?? plain;
  const back = <T extends { line: number }>(r: T) => {
    const { row } = origins[r.line]!;
    return { ...r, line: row.line, cells: row.cells };
  };
  const all = [
    ...rejected,
    ...read.value.rejected.map((r) => ({ ...back(r), field: calledAt(r.line)[r.field] ?? r.field })),
  ].sort((a, b) => a.line - b.line);
  const { absent } = read.value;
  return ok({
    kind,
    absent,
    header,
    rows: read.value.rows.map((r) => ({ ...back(r), called: calledAt(r.line) })) as never,
    rejected: all,
  });
}

/** The column of the source that one of ours comes from; our own name where there is none. */
function sourceOf(mapping: Mapping, name: string): string {
  const source = mapping.fields[name];
  return source?.from === 'column' ? source.column : name;
}
