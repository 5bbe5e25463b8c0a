import { LEVEL_CHANGES, levelChange, type LevelChange } from '@/core/outcomes/changed';
import { classMastery } from '@/core/outcomes/evidence';
import { addDays, startOfDay } from '@/core/calendar/zone';
import type { OutcomeChangesView } from '@/core/views/outcomeItems';
import { readLearning, readNorms } from '@/data/queries/learning';
import type { Viewer } from '../access/viewer';
import { database } from '../base/database';
import { inTurns } from '../base/turns';
import { outcomeParts } from '../derive/masteries';
import { openView } from './frame';
import type { AskedScope } from './scope';

/**
 * What became of each outcome over the window: the levels at its end beside those when the window before it ended, by what
 * is on record today.
 */
export async function outcomeChanges(
  viewer: Viewer,
  code: string,
  asked: AskedScope,
): Promise<OutcomeChangesView> {
  const { row, snapshot, course, scope, people } = await openView(viewer, code, asked, { evaluated: true });
  const db = await database();
  const learning = await readLearning(db, row.id, await readNorms(db, row.id));
  const record = await snapshot.record();
  const zone = row.zone;
  const from = startOfDay(scope.window.from, zone);
  const until = Math.min(scope.now, startOfDay(addDays(scope.window.to, 1), zone) - 1);
  const parts = outcomeParts(course);
  const levels = async (at: number) =>
    (await inTurns(classMastery(record, parts, course.covers, learning, at))).students;
  const [before, after] = [await levels(from - 1), await levels(until)];
  const changes = course.outcomes.map(({ id, title }) => {
    const key = String(id);
    const students: Record<LevelChange, { id: number; name: string }[]> = {
      'newly secure': [],
      'still learning': [],
      slipped: [],
    };
    for (const { enrolmentId, name } of people) {
      const was = before.get(enrolmentId)?.get(key);
      const is = after.get(enrolmentId)?.get(key);
      if (!was || !is) continue;
      const within = is.askedAt != null && is.askedAt >= from;
      const change = levelChange(was.level, is.level, within);
      if (change) students[change].push({ id: enrolmentId, name });
    }
    return { outcome: id, title, students };
  });
  return {
    window: scope.window,
    changes: changes
      .filter((c) => LEVEL_CHANGES.some((l) => c.students[l].length > 0))
      .sort(
        (a, b) =>
          b.students['newly secure'].length - a.students['newly secure'].length ||
          b.students.slipped.length - a.students.slipped.length,
      ),
  };
}
