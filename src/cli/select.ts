import { ValidationError } from 'yup';
import { shorten } from '@/core/calendar/instant';
import { faultOf, parseCsv, plainCell, repeatedColumn } from '@/core/formats/csv';
import { parseJson } from '@/core/formats/json';
import { readSelection } from '@/core/rules/selectionSchema';
import { numberOf } from '@/core/formats/table';
import { needsNumbers, select, testsIn, type SelectColumn, type Selection } from '@/core/rules/selection';
import { csvOf } from './csv';
import { inputError, InputError, readText } from './input';

const WORDS = new Map([
  [true, 'yes'],
  [false, 'no'],
  [null, 'unknown'],
]);

function selectionOf(file: string): Selection {
  const json = parseJson(readText(file));
  if (!json.ok) throw new InputError([`${file}: ${json.reason}`]);
  try {
    return readSelection(json.value);
  } catch (error) {
    if (error instanceof ValidationError) throw new InputError([`${file}: ${error.message}`]);
    throw error;
  }
}

/**
 * `select`: of each student of a table whether a condition on its columns holds, as CSV in the order of the file. An empty
 * cell is not known; one that is no number refuses the file where its column is compared as a number.
 */
export function selectCommand(tableFile: string, whereFile: string): string {
  const where = selectionOf(whereFile);
  const table = parseCsv(readText(tableFile));
  if (!table.ok) throw new InputError([`${tableFile}: ${table.reason}`]);
  const { header: given, rows, delimiter } = table.value;
  const header = given.map((name) => name.trim());
  const twice = repeatedColumn(header, header);
  if (twice) throw new InputError([`${tableFile}: ${twice}`]);
  const tests = testsIn(where);
  const placeOf = new Map(header.map((name, i) => [name, i]));
  const absent = ['student', ...tests.map((t) => t.measure)].find((name) => !placeOf.has(name));
  if (absent !== undefined) throw new InputError([`${tableFile}: there is no column “${absent}”`]);

  const cellOf = (cells: readonly string[], name: string) =>
    plainCell((cells[placeOf.get(name)!] ?? '').trim());
  const faults: string[] = [];
  const numeric = new Set(tests.filter(needsNumbers).map((t) => t.measure));
  const columns = new Map<string, SelectColumn>();
  for (const row of rows) {
    const fault = faultOf(row, header);
    if (fault) faults.push(`line ${row.line}${fault.field ? `, ${fault.field}` : ''}: ${fault.reason}`);
    else if (cellOf(row.cells, 'student') === '') faults.push(`line ${row.line}, student: is empty`);
  }
  for (const name of new Set(tests.map((t) => t.measure))) {
    const texts = rows.map(({ cells }) => cellOf(cells, name) || null);
    const numbers = texts.map((text) => (text == null ? null : numberOf(text, delimiter !== ',')));
    columns.set(name, { texts, numbers });
    if (!numeric.has(name)) continue;
    texts.forEach((text, i) => {
      if (text != null && numbers[i] == null)
        faults.push(`line ${rows[i]!.line}, ${name}: “${shorten(text)}” is not a number`);
    });
  }
  if (faults.length > 0) throw inputError(tableFile, faults);

  const verdicts = select(where, (name) => columns.get(name)!, rows.length);
  const data = rows.map(({ cells }, i) => [cellOf(cells, 'student'), WORDS.get(verdicts[i]!)!]);
  return csvOf(['student', 'match'], data);
}
