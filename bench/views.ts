import { FILE_KINDS } from '@/core/formats/courseFiles';
import { setDatabase } from '@/server/database';
import { briefView } from '@/server/brief';
import { gradebookView } from '@/server/grading/gradebook';
import { importFiles } from '@/server/intake/intake';
import { listsView } from '@/server/lists/lists';
import { roundsView } from '@/server/rounds';
import { activityView } from '@/server/watch/activity';
import { sessionView } from '@/server/watch/session';
import { trendsView } from '@/server/watch/trends';
import { weekView } from '@/server/watch/week';
import { workView } from '@/server/watch/work';
import type { Viewer } from '@/server/viewer';
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
  Lists: (v) => listsView(v, 'B', {}),
  Work: (v) => workView(v, 'B', 15, {}),
  Brief: (v) => briefView(v, 'B', 7),
};

async function timesOf(
  students: number,
  copies: number,
): Promise<{ times: Map<string, number>; events: string }> {
  const { db, courseId, userId, upload, close } = await benchCourse({ students, copies });
  setDatabase(db);
  const counts = await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  const viewer: Viewer = { userId, name: 'B', role: 'instructor', personId: null };
  const times = new Map<string, number>();
  for (const [name, view] of Object.entries(views)) {
    await view(viewer);
    times.set(name, await medianTime(9, () => view(viewer)));
  }
  await close();
  return { times, events: (counts.find((c) => c.kind === 'events')?.added ?? 0).toLocaleString('en') };
}

/** Server time of each view: 500 students by 120 works and a million events against the demo course. */
export async function benchViews(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('Views, server time');
  const small = await timesOf(73, 1);
  const large = await timesOf(500, 4);
  console.log(`  ${small.events} events of 73 students by 30 works; ${large.events} of 500 by 120`);
  for (const [name, time] of large.times) {
    const before = small.times.get(name)!;
    console.log(`  ${name}: ${ms(before)} and ${ms(time)}`);
    bound(`${name}, for 7 times the students`, time / before, 4, 'at most');
    bound(`${name}, in the large course`, time, 300, 'at most', 'ms');
  }
}
