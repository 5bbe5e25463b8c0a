import { groupBy } from '@/core/groupBy';
import { firstAnswers } from '@/core/items/firstAnswers';
import { keysByScores } from '@/core/items/sittings';
import { withParts } from '@/core/outcomes/coverage';
import type { ItemBehind, OutcomeItemsView, StudentBehind } from '@/core/views/outcomeItems';
import { answersTo, itemsOf } from '@/data/queries/responses';
import { loadCourseModel } from '@/data/queries/courseModel';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { roster } from '../snapshot/roster';

/** A wrong first answer, with the item that it was given to. */
interface Missed {
  readonly student: number;
  readonly item: string;
  readonly answer: string;
  readonly key: string;
}

/** The items behind an outcome and its parts: what was answered, and what is taken for what, by the class and by each student. */
export async function outcomeItems(
  viewer: Viewer,
  code: string,
  outcomeId: number,
): Promise<OutcomeItemsView> {
  const row = await requireCourse(viewer, 'look', code);
  const db = await database();
  const course = await loadCourseModel(db, row.id);
  if (!course.outcomes.some((o) => o.id === outcomeId)) throw notFound('outcome of this course');
  const people = (await roster(row.id)).filter((p) => p.status === 'active');
  const active = new Set(people.map((p) => p.enrolmentId));
  const parts = withParts(outcomeId, course.outcomes);
  const behind = course.activities.filter((a) =>
    (course.covers.get(String(a.id)) ?? []).some((o) => parts.has(Number(o))),
  );
  const items: ItemBehind[] = [];
  const missed: Missed[] = [];
  const seen = new Map<number, { seen: number; right: number }>();
  for (const activity of behind) {
    const stored = new Map((await itemsOf(db, activity.id)).map((i) => [i.item, i]));
    const answers = (await answersTo(db, activity.id)).filter((a) => active.has(a.student));
    for (const { item, by } of firstAnswers(answers)) {
      const known = stored.get(item);
      if (known?.treatment === 'dropped') continue;
      const first = [...by.values()];
      const keys = known?.keys ?? keysByScores(first);
      const wrong = first.filter((a) => a.score != null && a.score < 1 && a.answer.trim() !== '');
      const [most] = [...groupBy(wrong, (a) => a.answer.trim())].sort((a, b) => b[1].length - a[1].length);
      const scored = first.flatMap((a) => a.score ?? []);
      items.push({
        activityId: activity.id,
        assignment: activity.title,
        item,
        stem: known?.stem ?? null,
        answered: first.length,
        right: scored.length === 0 ? null : scored.reduce((sum, s) => sum + s, 0) / scored.length,
        keys,
        wrong: most
          ? {
              answer: most[0],
              text: known?.options.find((o) => o.option === most[0])?.text ?? '',
              count: most[1].length,
            }
          : null,
      });
      for (const a of first) {
        const own = seen.get(a.student) ?? { seen: 0, right: 0 };
        seen.set(a.student, { seen: own.seen + 1, right: own.right + (a.score ?? 0) });
      }
      missed.push(
        ...wrong.map((a) => ({
          student: a.student,
          item: `${activity.title}, ${item}`,
          answer: a.answer.trim(),
          key: keys.join(' or '),
        })),
      );
    }
  }
  const missedBy = groupBy(missed, (m) => m.student);
  return {
    items: items.sort((a, b) => (a.right ?? 2) - (b.right ?? 2)),
    students: people
      .map(({ enrolmentId, name }): StudentBehind => {
        const own = seen.get(enrolmentId);
        return {
          enrolmentId,
          name,
          seen: own?.seen ?? 0,
          of: items.length,
          right: own ? own.right / own.seen : null,
          wrong: (missedBy.get(enrolmentId) ?? []).map(({ item, answer, key }) => ({ item, answer, key })),
        };
      })
      .sort((a, b) => (a.right ?? 2) - (b.right ?? 2) || a.name.localeCompare(b.name, 'en')),
  };
}
