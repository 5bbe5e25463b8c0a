import { EVENT_KINDS } from '../../course/kinds';
import { SPECS } from '../courseFiles';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '../../course/kinds';
import { FILE_GUIDE } from '../fileGuide';
import { ATTENDANCE, REQUIREMENT_KINDS } from '../../course/kinds';
import { kindOfShape, type Shape } from '../../course/mapping';

export type ColumnType = 'text' | 'instant' | 'end' | 'day' | 'name' | 'words';

/** One of our columns as a mapping fills it. */
export interface MappedColumn {
  readonly name: string;
  readonly means: string;
  readonly required: boolean;
  readonly type: ColumnType;
  /** The words that it takes, where they are fixed. */
  readonly words: readonly string[];
}

const TYPES: Readonly<Record<string, ColumnType>> = {
  submitted: 'instant',
  graded: 'instant',
  returned: 'instant',
  opens: 'instant',
  at: 'instant',
  // A day alone means its end: work due on Friday may come on Friday.
  due: 'end',
  joined: 'day',
  left: 'day',
  day: 'day',
  given_name: 'name',
  family_name: 'name',
};

const WORDS: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  activities: { kind: ACTIVITY_KINDS },
  events: { kind: EVENT_KINDS },
  roster: { status: ENROLMENT_STATUSES },
  gradebook: { excused: ['yes', 'no'] },
  attendance: { attendance: ATTENDANCE },
  requirements: { requirement_kind: REQUIREMENT_KINDS },
};

/** Columns that our own files ask for and a foreign one need not have: what they say is then made or left alone. */
const NEED_NOT: Readonly<Record<string, readonly string[]>> = {
  gradebook: ['submitted', 'graded', 'returned', 'excused'],
  activities: ['category', 'points', 'due'],
  events: ['event_id'],
  referrals: ['referral_id'],
  responses: [],
};

/** Columns of a long file that the columns of a wide one stand for. */
const SPREAD: Readonly<Record<string, readonly string[]>> = {
  'wide scores': ['activity_id', 'points'],
  'wide responses': ['item_id', 'answer', 'score'],
};

/** Our columns that a mapping of a shape fills, in the order of the guide. */
export function columnsOf(shape: Shape): MappedColumn[] {
  const kind = kindOfShape(shape);
  const spec = SPECS[kind];
  const means = new Map(FILE_GUIDE[kind].map((c) => [c.name, c.means]));
  return FILE_GUIDE[kind]
    .map((c) => c.name)
    .filter((name) => !SPREAD[shape]?.includes(name))
    .map((name) => ({
      name,
      means: means.get(name) ?? '',
      required: spec.required.includes(name) && !NEED_NOT[kind]?.includes(name),
      type: WORDS[kind]?.[name] ? 'words' : (TYPES[name] ?? 'text'),
      words: WORDS[kind]?.[name] ?? [],
    }));
}
