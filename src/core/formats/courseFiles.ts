import { parseEmail } from '../course/email';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES, EVENT_KINDS } from '../course/kinds';
import type {
  ActivityRecord,
  AttemptRecord,
  EventRecord,
  FileKind,
  GradebookRecord,
  ItemRecord,
  OutcomeRecord,
  RecordOf,
  RosterRecord,
} from '../course/records';
import { parseDate } from '../calendar/day';
import { parseInstant } from '../calendar/instant';
import { attendanceSpec, referralsSpec, requirementsSpec, responsesSpec, testsSpec } from './studentRecords';
import type { TableSpec } from './table';

const list = (text: string | null) => (text ? text.split(/[|\s]+/).filter(Boolean) : []);

export const outcomesSpec: TableSpec<OutcomeRecord> = {
  most: 2000,
  required: ['outcome_id', 'title'],
  optional: ['prerequisites', 'part_of'],
  read: (row) => ({
    id: row.required('outcome_id'),
    title: row.required('title'),
    prerequisites: list(row.optional('prerequisites', 2000)),
    parent: row.optional('part_of'),
  }),
};

export const activitiesSpec: TableSpec<ActivityRecord> = {
  most: 5000,
  required: ['activity_id', 'title', 'kind', 'category', 'points', 'due'],
  optional: [
    'category_weight',
    'drop_lowest',
    'opens',
    'closes',
    'estimated_minutes',
    'attempts_allowed',
    'outcomes',
  ],
  read: (row) => {
    const kind = row.oneOf('kind', ACTIVITY_KINDS);
    const opens = row.read('opens', parseInstant);
    const due = row.read('due', parseInstant);
    const closes = row.read('closes', parseInstant);
    if (opens != null && due != null && due < opens) row.fail('due', 'is before it opens');
    const last = due ?? opens;
    if (closes != null && last != null && closes < last)
      row.fail('closes', due == null ? 'is before it opens' : 'is before it is due');
    const points = row.number('points', 0, 100_000);
    const weight = row.number('category_weight', 0, 1000);
    const drop = Math.round(row.number('drop_lowest', 0, 100) ?? 0);
    const minutes = row.number('estimated_minutes', 0, 10_000);
    const attempts = row.number('attempts_allowed', 1, 1000);
    const category = row.optional('category');
    if (points != null && category == null) row.fail('category', 'is empty though the assignment has points');
    return {
      id: row.required('activity_id'),
      title: row.required('title'),
      kind: kind ?? 'page',
      category,
      categoryWeight: category == null ? null : (weight ?? 1),
      dropLowest: category == null ? 0 : drop,
      points,
      opens,
      due,
      closes,
      minutes: minutes == null ? null : Math.round(minutes),
      attempts: attempts == null ? null : Math.round(attempts),
      outcomes: list(row.optional('outcomes', 2000)),
    };
  },
};

const piped = (text: string | null): string[] =>
  (text ?? '')
    .split('|')
    .map((part) => part.trim())
    .filter(Boolean);

export const itemsSpec: TableSpec<ItemRecord> = {
  most: 50_000,
  required: ['activity_id', 'item_id', 'key'],
  optional: ['stem', 'options', 'explanation'],
  read: (row) => {
    const options = piped(row.optional('options', 20_000)).map((part) => {
      const at = part.indexOf('=');
      return at < 0
        ? { option: part, text: '' }
        : { option: part.slice(0, at).trim(), text: part.slice(at + 1).trim() };
    });
    const keys = piped(row.optional('key', 4000));
    const names = new Set(options.map((o) => o.option));
    if (names.size < options.length) row.fail('options', 'names an option twice');
    const stray = options.length === 0 ? undefined : keys.find((k) => !names.has(k));
    if (stray != null) row.fail('key', `names “${stray}”, which is none of the options`);
    return {
      activity: row.required('activity_id'),
      item: row.required('item_id'),
      stem: row.optional('stem', 10_000),
      options,
      keys,
      explanation: row.optional('explanation', 10_000),
    };
  },
};

export const rosterSpec: TableSpec<RosterRecord> = {
  most: 50_000,
  required: ['student_id', 'given_name', 'family_name'],
  optional: ['email', 'section', 'status', 'joined', 'left'],
  read: (row) => ({
    id: row.required('student_id'),
    given: row.required('given_name'),
    family: row.required('family_name'),
    email: row.read('email', parseEmail),
    section: row.optional('section'),
    status: row.text('status') === '' ? 'active' : (row.oneOf('status', ENROLMENT_STATUSES) ?? 'active'),
    joined: row.read('joined', parseDate),
    left: row.read('left', parseDate),
  }),
};

export const gradebookSpec: TableSpec<GradebookRecord> = {
  required: ['student_id', 'activity_id', 'submitted', 'graded', 'returned', 'points', 'excused'],
  optional: ['own_due', 'extra_attempts'],
  read: (row) => ({
    student: row.required('student_id'),
    activity: row.required('activity_id'),
    submitted: row.read('submitted', parseInstant),
    graded: row.read('graded', parseInstant),
    returned: row.read('returned', parseInstant),
    points: row.number('points', 0, 1_000_000),
    excused: row.yesNo('excused'),
    due: row.read('own_due', parseInstant),
    extra: Math.round(row.number('extra_attempts', 0, 1000) ?? 0),
  }),
};

export const attemptsSpec: TableSpec<AttemptRecord> = {
  required: ['student_id', 'activity_id', 'attempt', 'submitted', 'points'],
  optional: [],
  read: (row) => {
    const number = row.requiredNumber('attempt', 1, 1000);
    return {
      student: row.required('student_id'),
      activity: row.required('activity_id'),
      number: Math.round(number),
      submitted: row.requiredAs('submitted', parseInstant, 0),
      points: row.number('points', 0, 1_000_000),
    };
  },
};

export const eventsSpec: TableSpec<EventRecord> = {
  required: ['event_id', 'student_id', 'at', 'kind'],
  optional: ['activity_id', 'duration_s'],
  read: (row) => ({
    at: row.requiredAs('at', parseInstant, 0),
    id: row.required('event_id'),
    student: row.shared('student_id'),
    kind: row.oneOf('kind', EVENT_KINDS) ?? 'other',
    activity: row.optionalShared('activity_id'),
    duration: row.number('duration_s', 0, 1_000_000),
  }),
};

export const SPECS: { readonly [K in FileKind]: TableSpec<RecordOf[K]> } = {
  outcomes: outcomesSpec,
  activities: activitiesSpec,
  items: itemsSpec,
  roster: rosterSpec,
  gradebook: gradebookSpec,
  attempts: attemptsSpec,
  attendance: attendanceSpec,
  referrals: referralsSpec,
  requirements: requirementsSpec,
  responses: responsesSpec,
  tests: testsSpec,
  events: eventsSpec,
};

/** Which of the course files a header belongs to, by its columns; null if none. */
export function fileKindOf(header: readonly string[]): FileKind | null {
  const has = (...names: string[]) => names.every((name) => header.includes(name));
  if (has('event_id')) return 'events';
  if (has('student_id', 'item_id')) return 'responses';
  if (has('item_id', 'key')) return 'items';
  if (has('student', 'outcome', 'share')) return 'tests';
  if (has('referral_id')) return 'referrals';
  if (has('student_id', 'attendance')) return 'attendance';
  if (has('student_id', 'requirement')) return 'requirements';
  if (has('student_id', 'activity_id', 'attempt')) return 'attempts';
  if (has('student_id', 'activity_id')) return 'gradebook';
  if (has('student_id') && (has('given_name') || has('family_name'))) return 'roster';
  if (has('outcome_id')) return 'outcomes';
  if (has('activity_id')) return 'activities';
  return null;
}
