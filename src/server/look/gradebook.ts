import { and, count, eq, gt, isNotNull, isNull, or } from 'drizzle-orm';
import * as yup from 'yup';
import { isResource } from '@/core/course/kinds';
import { USUAL_BANDS } from '@/core/gradebook/bands';
import { summarise } from '@/core/gradebook/distribution';
import { standingNow } from '@/core/gradebook/standing';
import { isLate } from '@/core/gradebook/status';
import type { Instant } from '@/core/units';
import { STATUS_LETTERS, type GradebookView, type GradeRow } from '@/core/views/gradebook';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
import { enrolments, scores } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import type { ActivityRow, CourseModel, CourseRow } from '@/data/queries/courseModel';
import type { FullScore } from '@/data/queries/scores';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { viewSetting } from '../access/viewSettings';
import { bookSince } from '@/core/course/bookSince';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import { cellStatus, joinedAt } from '../snapshot/cellStatus';
import { openView } from './frame';

export const gradebookSettings = yup.object({ hidesStanding: yup.boolean().required() });

/** The graded works of a course, in the order of its categories and due dates. */
export function gradebookColumns(course: CourseModel): ActivityRow[] {
  const place = new Map(course.categories.map((c, i) => [c.id, i]));
  const due = (a: ActivityRow) => a.dueAt?.getTime() ?? Infinity;
  return course.activities
    .filter((a) => !isResource(a.kind))
    .sort(
      (a, b) =>
        (place.get(a.categoryId ?? -1) ?? Infinity) - (place.get(b.categoryId ?? -1) ?? Infinity) ||
        (due(a) === due(b) ? 0 : due(a) - due(b)) ||
        a.position - b.position,
    );
}

/** The row of one student in the gradebook. */
export function gradeRow(
  course: CourseModel,
  columns: readonly ActivityRow[],
  person: RosterEntry,
  own: ReadonlyMap<string, FullScore>,
  asOf: Instant,
): GradeRow {
  const joined = joinedAt(course, person);
  let statuses = '';
  let missing = 0;
  const late: number[] = [];
  const points = columns.map((activity, i) => {
    const score = own.get(String(activity.id));
    const status = cellStatus(activity, score, joined, asOf);
    statuses += STATUS_LETTERS[status];
    if (status === 'missing') missing++;
    if (status === 'graded' && isLate({ due: activity.dueAt?.getTime() ?? null }, score, asOf)) late.push(i);
    return score?.points ?? null;
  });
  return {
    ...rowPerson(person),
    standing: standingNow(bookSince(course, joined), own, asOf),
    missing,
    statuses,
    points,
    late,
  };
}

/** The gradebook of a course in the scope asked for. */
export async function gradebookView(viewer: Viewer, code: string, asked: AskedScope): Promise<GradebookView> {
  const { row, snapshot, course, scope, people, frame } = await openView(viewer, code, asked);
  const all = await snapshot.scores();
  const columns = gradebookColumns(course).filter((a) => scope.kind == null || a.kind === scope.kind);
  const asOf = now();
  const none = new Map<string, FullScore>();
  const rows = people.map((p) => gradeRow(course, columns, p, all.get(p.enrolmentId) ?? none, asOf));
  const settings = await viewSetting(viewer, row, 'gradebook', gradebookSettings);
  return {
    ...frame,
    categories: course.categories.map(({ id, name, weight, dropLowest }) => ({
      id,
      name,
      weight,
      dropLowest,
    })),
    columns: columns.map((a, i) => ({
      id: a.id,
      title: a.title,
      kind: a.kind,
      categoryId: a.categoryId,
      points: a.points,
      due: a.dueAt?.getTime() ?? null,
      outcomes: outcomeTitles(course, a.id),
      summary: summarise(
        rows.flatMap((r) => {
          const points = r.points[i];
          return r.statuses[i] === STATUS_LETTERS.graded && points != null ? [points] : [];
        }),
      ),
    })),
    rows,
    standing: summarise(rows.flatMap((r) => (r.standing == null ? [] : [r.standing]))),
    bands: row.bands ?? USUAL_BANDS,
    studentsSeeStanding: row.showsStanding,
    hidesStanding: settings?.hidesStanding ?? false,
  };
}

/** How many works handed in wait for a grade, for the rail. */
export async function awaitingCount(course: CourseRow): Promise<number> {
  const { orm } = await database();
  const [found] = await orm
    .select({ n: count() })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, course.id),
        eq(enrolments.status, 'active'),
        isNotNull(scores.submittedAt),
        eq(scores.excused, false),
        // Graded but not returned yet waits too: the student has nothing in hand.
        or(isNull(scores.points), isNull(scores.returnedAt), gt(scores.returnedAt, nowDate())),
      ),
    );
  return found?.n ?? 0;
}
