import { writeCsv } from '@/core/formats/csv';
import type { FileKind } from '@/core/formats/courseFiles';
import { formatInstant } from '@/core/formats/instant';
import type { Instant } from '@/core/units';
import type { Scenario } from './scenario';

const instant = (at: Instant | null) => (at == null ? null : formatInstant(at));

/** A scenario as the files that a course hands over: what the importer reads. */
export function scenarioFiles(s: Scenario): Record<FileKind, string> {
  return {
    outcomes: writeCsv(
      ['outcome_id', 'title', 'prerequisites'],
      s.outcomes.map((o) => [o.id, o.title, o.prerequisites.join('|')]),
    ),
    activities: writeCsv(
      [
        'activity_id',
        'title',
        'kind',
        'category',
        'category_weight',
        'drop_lowest',
        'points',
        'opens',
        'due',
        'estimated_minutes',
        'attempts_allowed',
        'outcomes',
      ],
      s.activities.map((a) => [
        a.id,
        a.title,
        a.kind,
        a.category,
        a.categoryWeight,
        a.category == null ? null : a.dropLowest,
        a.points,
        instant(a.opens),
        instant(a.due),
        a.minutes,
        a.attempts,
        a.outcomes.join('|'),
      ]),
    ),
    roster: writeCsv(
      ['student_id', 'given_name', 'family_name', 'email', 'section', 'status', 'joined', 'left'],
      s.students.map(({ roster: r }) => [
        r.id,
        r.given,
        r.family,
        r.email,
        r.section,
        r.status,
        r.joined,
        r.left,
      ]),
    ),
    gradebook: writeCsv(
      ['student_id', 'activity_id', 'submitted', 'graded', 'returned', 'points', 'excused'],
      s.gradebook.map((g) => [
        g.student,
        g.activity,
        instant(g.submitted),
        instant(g.graded),
        instant(g.returned),
        g.points,
        g.excused ? 'yes' : 'no',
      ]),
    ),
    attempts: writeCsv(
      ['student_id', 'activity_id', 'attempt', 'submitted', 'points'],
      s.attempts.map((a) => [a.student, a.activity, a.number, instant(a.submitted), a.points]),
    ),
    events: writeCsv(
      ['event_id', 'student_id', 'at', 'kind', 'activity_id', 'duration_s'],
      s.events.map((e) => [e.id, e.student, instant(e.at), e.kind, e.activity, e.duration]),
    ),
  };
}
