import { FILE_KINDS } from '@/core/course/records';
import type { Database } from '@/data/database';
import { setDatabase } from '@/server/base/database';
import { briefView } from '@/server/look/brief';
import { gradebookView } from '@/server/look/gradebook';
import { importFiles } from '@/server/intake/intake';
import { itemsView } from '@/server/look/items';
import { listsView } from '@/server/look/lists';
import { outcomesView } from '@/server/look/outcomes';
import { roundsView } from '@/server/look/rounds';
import { activityView } from '@/server/look/activity';
import { sessionView } from '@/server/look/session';
import { trendsView } from '@/server/look/trends';
import { weekView } from '@/server/look/week';
import { workView } from '@/server/look/work';
import type { Viewer } from '@/server/access/viewer';
import { benchCourse, NOW } from './course';
import { bound, medianTime, ms } from './measure';

const views: Record<string, (viewer: Viewer) => Promise<unknown>> = {
  Rounds: (v) => roundsView(v, 'B', { filter: 'all' }),
  Gradebook: (v) => gradebookView(v, 'B', {}),
  'Activity, students': (v) => activityView(v, 'B', { w: '7d' }),
  'Activity, term': (v) => activityView(v, 'B', { w: 'term' }),
  'Activity, class': (v) => activityView(v, 'B', { w: '28d', tab: 'class' }),
  'Activity, pages': (v) => activityView(v, 'B', { w: '28d', tab: 'resources' }),
  'Activity, effort': (v) => activityView(v, 'B', { w: '28d', tab: 'effort' }),
  'Session check': (v) => sessionView(v, 'B', { back: 60 }),
  Trends: (v) => trendsView(v, 'B', { w: '28d' }),
  'Weekly look': (v) => weekView(v, 'B', { w: '7d' }),
  Outcomes: (v) => outcomesView(v, 'B', {}),
  Items: (v) => itemsView(v, 'B', {}),
  Lists: (v) => listsView(v, 'B', {}),
  Work: (v) => workView(v, 'B', 15, {}),
  Brief: (v) => briefView(v, 'B', 7),
};

interface Side {
  readonly db: Database;
  readonly viewer: Viewer;
  readonly events: string;
  readonly close: () => Promise<void>;
}

async function sideOf(students: number, copies: number): Promise<Side> {
  const { db, courseId, userId, upload, close } = await benchCourse({ students, copies });
  setDatabase(db);
  const counts = await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  return {
    db,
    viewer: { userId, name: 'B', role: 'instructor', personId: null },
    events: (counts.find((c) => c.kind === 'events')?.added ?? 0).toLocaleString('en'),
    close,
  };
}

/**
 * Server time of each view: 500 students by 120 works and a million events against the demo course. Both are open, and
 * each view is measured in the one right after the other, so that both meet the machine in the same mood.
 */
export async function benchViews(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('Views, server time');
  const small = await sideOf(73, 1);
  const large = await sideOf(500, 4);
  console.log(`  ${small.events} events of 73 students by 30 works; ${large.events} of 500 by 120`);
  for (const [name, view] of Object.entries(views)) {
    const time = async ({ db, viewer }: Side) => {
      setDatabase(db);
      await view(viewer);
      return medianTime(9, () => view(viewer));
    };
    const [before, after] = [await time(small), await time(large)];
    console.log(`  ${name}: ${ms(before)} and ${ms(after)}`);
    bound(`${name}, for 7 times the students`, after / before, 4, 'at most');
    bound(`${name}, in the large course`, after, 300, 'at most', 'ms');
  }
  await small.close();
  await large.close();
}
