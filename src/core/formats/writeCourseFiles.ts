import type { FileKind, RecordOf } from '../course/records';
import { formatInstant } from '../calendar/instant';
import type { Instant } from '../units';

/** A record of each of our own files. */
export type FileRecords = { readonly [K in FileKind]: readonly RecordOf[K][] };

type Cell = string | number | null;
const instant = (at: Instant | null): string | null => (at == null ? null : formatInstant(at));

/** Columns of our own files in order, and how a record fills them: the counterpart of the specs that read them. */
const WRITERS: {
  [K in FileKind]: { head: readonly string[]; cells: (r: FileRecords[K][number]) => Cell[] };
} = {
  outcomes: {
    head: ['outcome_id', 'title', 'prerequisites', 'part_of'],
    cells: (o) => [o.id, o.title, o.prerequisites.join('|'), o.parent],
  },
  activities: {
    head: [
      'activity_id',
      'title',
      'kind',
      'category',
      'category_weight',
      'drop_lowest',
      'points',
      'opens',
      'due',
      'closes',
      'estimated_minutes',
      'attempts_allowed',
      'outcomes',
    ],
    cells: (a) => [
      a.id,
      a.title,
      a.kind,
      a.category,
      a.categoryWeight,
      a.category == null ? null : a.dropLowest,
      a.points,
      instant(a.opens),
      instant(a.due),
      instant(a.closes),
      a.minutes,
      a.attempts,
      a.outcomes.join('|'),
    ],
  },
  items: {
    head: ['activity_id', 'item_id', 'stem', 'options', 'key', 'explanation'],
    cells: (i) => [
      i.activity,
      i.item,
      i.stem,
      i.options.map((o) => (o.text === '' ? o.option : `${o.option}=${o.text}`)).join('|'),
      i.keys.join('|'),
      i.explanation,
    ],
  },
  roster: {
    head: ['student_id', 'given_name', 'family_name', 'email', 'section', 'status', 'joined', 'left'],
    cells: (r) => [r.id, r.given, r.family, r.email, r.section, r.status, r.joined, r.left],
  },
  gradebook: {
    head: [
      'student_id',
      'activity_id',
      'submitted',
      'graded',
      'returned',
      'points',
      'excused',
      'own_due',
      'extra_attempts',
    ],
    cells: (g) => [
      g.student,
      g.activity,
      instant(g.submitted),
      instant(g.graded),
      instant(g.returned),
      g.points,
      g.excused ? 'yes' : 'no',
      instant(g.due),
      g.extra === 0 ? null : g.extra,
    ],
  },
  attempts: {
    head: ['student_id', 'activity_id', 'attempt', 'submitted', 'points'],
    cells: (a) => [a.student, a.activity, a.number, instant(a.submitted), a.points],
  },
  attendance: {
    head: ['student_id', 'day', 'meeting', 'attendance', 'minutes'],
    cells: (a) => [a.student, a.day, a.meeting, a.attendance, a.minutes],
  },
  referrals: {
    head: ['referral_id', 'student_id', 'day', 'reason', 'outcome'],
    cells: (r) => [r.id, r.student, r.day, r.reason, r.outcome],
  },
  requirements: {
    head: ['student_id', 'requirement', 'requirement_kind', 'needed', 'earned', 'day'],
    cells: (r) => [r.student, r.requirement, r.kind, r.needed, r.earned, r.day],
  },
  responses: {
    head: ['student_id', 'activity_id', 'item_id', 'attempt', 'answer', 'at', 'score', 'seconds', 'hints'],
    cells: (r) => [
      r.student,
      r.activity,
      r.item,
      r.attempt,
      r.answer,
      instant(r.at),
      r.score,
      r.seconds,
      r.hints,
    ],
  },
  tests: {
    head: ['student', 'outcome', 'at', 'share', 'weight'],
    cells: (r) => [r.student, r.outcome, instant(r.at), r.share, r.weight],
  },
  events: {
    head: ['event_id', 'student_id', 'at', 'kind', 'activity_id', 'duration_s'],
    cells: (e) => [e.id, e.student, instant(e.at), e.kind, e.activity, e.duration],
  },
};

/** Head and rows of one of our own files. */
export function fileTable<K extends FileKind>(
  kind: K,
  records: FileRecords[K],
): { readonly head: readonly string[]; readonly rows: Cell[][] } {
  const { head, cells } = WRITERS[kind];
  return { head, rows: (records as readonly FileRecords[K][number][]).map(cells) };
}
