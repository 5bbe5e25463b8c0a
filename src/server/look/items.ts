import { inArray } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import { lookAtQuiz } from '@/core/items/look';
import { sittingOf } from '@/core/items/sittings';
import type { ItemsView, QuizChoice } from '@/core/views/items';
import { answersTo } from '@/data/queries/responses';
import { answersNow } from '@/data/schema';
import { database } from '../base/database';
import { type Viewer } from '../access/viewer';
import { openView } from './frame';
import { type AskedScope } from './scope';

/** The items of a quiz and their answers; without one asked for, of the latest that is over. */
export async function itemsView(
  viewer: Viewer,
  code: string,
  asked: AskedScope & { readonly work?: number },
): Promise<ItemsView> {
  const { course, people, scope, frame } = await openView(viewer, code, asked);
  const db = await database();
  const shown = new Map(people.map((p) => [p.enrolmentId, p.name]));
  const ids = course.activities.map((a) => a.id);
  const answered =
    ids.length === 0
      ? []
      : await db.orm
          .selectDistinct({ work: answersNow.activityId, student: answersNow.enrolmentId })
          .from(answersNow)
          .where(inArray(answersNow.activityId, ids));
  const sat = groupBy(
    answered.filter((r) => shown.has(r.student)),
    (r) => r.work,
  );
  const quizzes = course.activities
    .filter((a) => sat.has(a.id))
    .sort((a, b) => (b.dueAt?.getTime() ?? 0) - (a.dueAt?.getTime() ?? 0))
    .map(({ id, title }): QuizChoice => ({ id, title, students: sat.get(id)!.length }));
  const over = new Set(
    course.activities.flatMap((a) => (a.dueAt != null && a.dueAt.getTime() <= scope.now ? [a.id] : [])),
  );
  // Of one that is still open only some answers are there.
  const quiz =
    quizzes.find((q) => q.id === asked.work) ?? quizzes.find((q) => over.has(q.id)) ?? quizzes[0] ?? null;
  const rows = quiz ? await answersTo(db, quiz.id) : [];
  const sitting = sittingOf(rows.filter((r) => shown.has(r.student)));
  return {
    ...frame,
    quizzes,
    quiz,
    look: lookAtQuiz(sitting),
    unscored: sitting.unscored,
    names: Object.fromEntries(sitting.students.map((id) => [id, shown.get(id)!])),
  };
}
