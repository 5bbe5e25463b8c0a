import { plainWords } from '../../people/plainText';
import type { CsvTable } from '../csv';
import { columnsOf } from './columns';
import type { DayOrder, FieldSource, Mapping, Shape } from '../../course/mapping';

/** Words that sources use for our columns (common practice), in the order in which they are believed. */
const CALLED: Readonly<Record<string, readonly string[]>> = {
  student_id: [
    'student id',
    'student no',
    'student number',
    'student',
    'learner id',
    'learner',
    'user id',
    'user name',
    'username',
    'user',
    'e mail',
    'email',
    'email address',
    'id number',
    'id',
  ],
  given_name: ['given name', 'first name', 'forename', 'name', 'full name', 'student name'],
  family_name: ['family name', 'last name', 'surname', 'name', 'full name', 'student name'],
  email: ['email', 'e mail', 'email address', 'e mail address', 'mail'],
  section: ['section', 'class', 'group', 'sections'],
  status: ['status', 'state'],
  joined: ['joined', 'enrolled', 'enrolled on', 'start date', 'begin date'],
  left: ['left', 'left on', 'end date'],
  activity_id: [
    'activity id',
    'activity',
    'assignment',
    'assignment id',
    'work',
    'task',
    'resource',
    'exercise',
    'quiz',
  ],
  title: ['title', 'name', 'assignment', 'activity'],
  kind: ['kind', 'type', 'event', 'event name', 'action'],
  category: ['category', 'group'],
  points: ['points', 'score', 'grade', 'mark', 'points possible', 'max points', 'maximum'],
  due: ['due', 'due date', 'due at', 'deadline'],
  opens: ['opens', 'open date', 'available from', 'start date'],
  closes: ['closes', 'close date', 'available until', 'lock date', 'cut off'],
  estimated_minutes: ['estimated minutes', 'minutes', 'duration'],
  submitted: ['submitted', 'submitted at', 'submitted on', 'handed in', 'submission date', 'date submitted'],
  graded: ['graded', 'graded at', 'graded on', 'date graded'],
  returned: ['returned', 'returned at', 'returned on', 'released'],
  excused: ['excused', 'exempt'],
  attempt: ['attempt', 'attempt no', 'attempt number', 'try'],
  event_id: ['event id', 'log id'],
  at: ['at', 'time', 'timestamp', 'date', 'date time', 'datetime', 'when', 'occurred at', 'answered at'],
  duration_s: ['duration s', 'duration seconds', 'seconds', 'duration'],
  day: ['day', 'date', 'session date', 'on'],
  meeting: ['meeting', 'session', 'period', 'lesson'],
  attendance: ['attendance', 'attendance status', 'attendance code', 'present', 'status', 'code', 'mark'],
  minutes: ['minutes', 'minutes present', 'minutes attended'],
  referral_id: ['referral id', 'incident id', 'report id', 'case'],
  reason: ['reason', 'incident', 'behaviour', 'behavior', 'description', 'offence'],
  outcome: ['outcome', 'action taken', 'consequence', 'resolution'],
  requirement: ['requirement', 'exam', 'required exam', 'credit', 'subject'],
  requirement_kind: ['requirement kind', 'type', 'kind'],
  needed: ['needed', 'required', 'credits needed', 'credits required', 'pass mark'],
  earned: ['earned', 'credits earned', 'credits', 'score', 'result'],
  item_id: ['item id', 'item', 'question id', 'question', 'question no'],
  answer: ['answer', 'response', 'chosen', 'option'],
  score: ['score', 'points', 'correct', 'mark'],
  outcome_id: ['outcome id', 'outcome', 'code'],
  prerequisites: ['prerequisites', 'requires'],
  part_of: ['part of', 'parent', 'parent outcome'],
};

/** What the letters of an attendance register usually mean (common practice). */
const REGISTER: Readonly<Record<string, string>> = {
  p: 'present',
  yes: 'present',
  '1': 'present',
  l: 'late',
  tardy: 'late',
  a: 'absent',
  no: 'absent',
  '0': 'absent',
  e: 'excused',
};

const plain = (text: string): string => plainWords(text).join(' ');

/** The different values of a column, in the order in which they come; null if there are more than `most`. */
export function valuesOf(table: CsvTable, column: string, most = 30): string[] | null {
  const index = table.header.indexOf(column);
  const values = new Set<string>();
  for (const { cells } of table.rows) {
    const value = (cells[index] ?? '').trim();
    if (value !== '') values.add(value);
    if (values.size > most) return null;
  }
  return [...values];
}

/** In which order a column writes its days, as far as its numbers say: a part over 12 is no month. */
export function dayOrderOf(values: readonly string[]): DayOrder {
  let order: DayOrder = 'day first';
  for (const value of values) {
    const match = /^(\d{1,4})[./-](\d{1,2})[./-]\d{1,4}/.exec(value);
    if (!match) continue;
    if (match[1]!.length === 4) return 'year first';
    if (Number(match[2]) > 12) return 'month first';
    if (Number(match[1]) > 12) order = 'day first';
  }
  return order;
}

/** A work that a column may stand for. */
export interface KnownWork {
  readonly id: string;
  readonly title: string;
}

/** The work whose id or title a column bears; a maximum or a remark in brackets does not count. */
function workNamed(column: string, works: ReadonlyMap<string, string>): string | null {
  return works.get(plain(column)) ?? works.get(plain(column.replace(/[([].*$/, ''))) ?? null;
}

/** A mapping into a shape as far as the names of the columns tell; what they do not tell is left open. */
export function suggestFields(
  table: CsvTable,
  shape: Shape,
  works: readonly KnownWork[],
  zone: string,
): Mapping {
  const byName = new Map(
    works.flatMap((w) => [[plain(w.id), w.id] as const, [plain(w.title), w.id] as const]),
  );
  const columns = columnsOf(shape);
  const names = new Map(table.header.map((h) => [plain(h), h]));
  const fields: Record<string, FieldSource> = {};
  const words: Record<string, Record<string, string>> = {};
  for (const column of columns) {
    const found = [plain(column.name), ...(CALLED[column.name] ?? [])].find((w) => names.has(w));
    if (found === undefined) continue;
    const whole = column.type === 'name' && /^(full |student )?name$/.test(found);
    const source = names.get(found)!;
    const part = !whole ? 'all' : column.name === 'given_name' ? 'given' : 'family';
    fields[column.name] = { from: 'column', column: source, part };
    if (column.type === 'words') words[column.name] = wordsFor(column.words, valuesOf(table, source) ?? []);
  }
  const taken = new Set(Object.values(fields).flatMap((f) => (f.from === 'column' ? [f.column] : [])));
  const free = table.header.filter((h) => !taken.has(h));
  const spread =
    shape === 'wide scores'
      ? free.flatMap((column) => {
          const to = workNamed(column, byName);
          return to ? [{ column, to }] : [];
        })
      : shape === 'wide responses'
        ? free.map((column) => ({ column, to: column.slice(0, 200) }))
        : [];
  const dated = columns.flatMap((c) => {
    const source = fields[c.name];
    return ['instant', 'end', 'day'].includes(c.type) && source?.from === 'column' ? [source.column] : [];
  });
  const samples = dated.flatMap((column) => {
    const index = table.header.indexOf(column);
    return table.rows.slice(0, 1000).map((r) => (r.cells[index] ?? '').trim());
  });
  return { shape, fields, spread, days: dayOrderOf(samples), zone, words };
}

function wordsFor(ours: readonly string[], values: readonly string[]): Record<string, string> {
  const meaning: Record<string, string> = {};
  for (const value of values.map((v) => v.toLowerCase())) {
    const same = ours.find((w) => w === value) ?? ours.find((w) => w === REGISTER[value]);
    const like = same ?? ours.find((w) => value.includes(w.slice(0, 5)));
    if (like) meaning[value] = like;
  }
  return meaning;
}

/** The shape that the names of a file's columns speak for most, with its mapping. */
export function suggestMapping(table: CsvTable, works: readonly KnownWork[], zone: string): Mapping {
  const tries: Shape[] = [
    'wide scores',
    'roster',
    'attendance',
    'referrals',
    'requirements',
    'responses',
    'attempts',
    'gradebook',
    'events',
    'activities',
  ];
  let best: Mapping | null = null;
  let most = -1;
  for (const shape of tries) {
    const mapping = suggestFields(table, shape, works, zone);
    const columns = columnsOf(shape);
    const missing = columns.filter((c) => c.required && !mapping.fields[c.name]).length;
    const used = new Set(Object.values(mapping.fields).map((f) => (f.from === 'column' ? f.column : '')))
      .size;
    // A column that two of ours would read from speaks for neither of them; two works speak for a wide table.
    const score = shape === 'wide scores' ? (mapping.spread.length >= 2 ? 100 : -1) : used * 2 - missing * 3;
    if (score > most) {
      most = score;
      best = mapping;
    }
  }
  return best ?? suggestFields(table, 'roster', works, zone);
}
