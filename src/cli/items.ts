import { faultOf, parseCsv, plainCell, repeatedColumn, type CsvTable } from '@/core/formats/csv';
import { numberOf, type TableSpec } from '@/core/formats/table';
import { analyseItems, type AnsweredItem } from '@/core/items/analysis';
import { inputError, InputError, readRows, readText } from './input';

interface KeyRow {
  readonly item: string;
  readonly key: string;
}

const keySpec: TableSpec<KeyRow> = {
  required: ['item', 'key'],
  optional: [],
  read: (row) => ({ item: row.required('item'), key: row.required('key') }),
};

export interface ItemsOptions {
  readonly key: string | null;
  /** What stands in a cell that was left out, beside nothing. */
  readonly omitted: string | null;
  readonly ignore: readonly string[];
}

/** The options that are right, by item; an item named again has one more. */
function keysOf(file: string): Map<string, string[]> {
  const keys = new Map<string, string[]>();
  for (const { item, key } of readRows(file, keySpec)) keys.set(item, [...(keys.get(item) ?? []), key]);
  return keys;
}

function tableOf(file: string): CsvTable {
  const table = parseCsv(readText(file));
  if (!table.ok) throw new InputError([`${file}: ${table.reason}`]);
  // Items are called as they are written; whoever answered is found however that is written.
  const header = (table.value.names ?? table.value.header).map((name) =>
    name.toLowerCase() === 'student' ? 'student' : name,
  );
  const twice = repeatedColumn(header, header);
  if (twice) throw new InputError([`${file}: ${twice}`]);
  return { ...table.value, header };
}

/** What is wrong with rows: cells that do not fit the header, and a student who is there twice. */
function faultsOf({ header, rows }: CsvTable): string[] {
  const student = header.indexOf('student');
  const seen = new Map<string, number>();
  return rows.flatMap((row) => {
    const fault = faultOf(row, header);
    if (fault) return [`line ${row.line}${fault.field ? `, ${fault.field}` : ''}: ${fault.reason}`];
    if (student < 0) return [];
    const name = (row.cells[student] ?? '').trim();
    if (name === '') return [`line ${row.line}, student: is empty`];
    const before = seen.get(name);
    seen.set(name, row.line);
    return before == null
      ? []
      : [
          `line ${row.line}, student: “${name}” is there already in line ${before}; give one attempt a student`,
        ];
  });
}

/**
 * `items`: item analysis of a table with a row a student and a column an item, as JSON. With a key the cells are options,
 * and only its items count; without one they are scores.
 */
export function itemsCommand(file: string, { key, omitted, ignore }: ItemsOptions): string {
  const table = tableOf(file);
  const { header, rows, delimiter } = table;
  const faults = faultsOf(table);
  if (faults.length > 0) throw inputError(file, faults);
  const aside = ['student', ...ignore];
  const missing = ignore.find((name) => !header.includes(name));
  if (missing !== undefined) throw new InputError([`${file}: there is no column “${missing}” to ignore`]);
  const keys = key == null ? null : keysOf(key);
  const names = keys ? [...keys.keys()] : header.filter((name) => !aside.includes(name));
  const absent = names.find((name) => !header.includes(name));
  if (absent !== undefined)
    throw new InputError([`${file}: there is no column “${absent}”, which the key names`]);
  if (names.length === 0) throw new InputError([`${file}: there is no item in it`]);
  const items = names.map((item): AnsweredItem => {
    const at = header.indexOf(item);
    const cells = rows.map(({ cells: all }) => plainCell((all[at] ?? '').trim()));
    const left = cells.map((cell) => cell === '' || cell === omitted);
    const right = keys?.get(item);
    if (right)
      return {
        item,
        scores: Float64Array.from(cells, (cell, i) => (!left[i] && right.includes(cell) ? 1 : 0)),
        omitted: left.filter(Boolean).length,
        choices: cells.map((cell, i) => (left[i] ? null : cell)),
        keys: right,
      };
    const scores = cells.map((cell, i) => (left[i] ? 0 : numberOf(cell, delimiter !== ',')));
    scores.forEach((score, i) => {
      if (score == null)
        faults.push(`line ${rows[i]!.line}, ${item}: “${cells[i]!.slice(0, 40)}” is not a number`);
    });
    return { item, scores: scores.map((s) => s ?? 0), omitted: left.filter(Boolean).length };
  });
  if (faults.length > 0) throw inputError(file, faults);
  const { n, k, mean, sd, alpha, kr20, sem, items: found } = analyseItems(items);
  return `${JSON.stringify({
    n,
    k,
    mean,
    sd,
    alpha,
    kr20,
    sem,
    items: found.map((f) => ({
      item: f.item,
      difficulty: f.difficulty,
      sd: f.sd,
      item_total: f.itemTotal,
      item_rest: f.itemRest,
      d27: f.d27,
      alpha_if_deleted: f.alphaIfDeleted,
      omitted: f.omitted,
      options: f.options.map((o) => ({
        option: o.option,
        key: o.key,
        count: o.count,
        upper27: o.upper27,
        lower27: o.lower27,
        mean_total: o.meanTotal,
        r_total: o.rTotal,
        r_rest: o.rRest,
      })),
    })),
  })}\n`;
}
