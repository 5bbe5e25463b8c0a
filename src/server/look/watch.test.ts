import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { activityDays, dayTotals, enrolments, viewSettings } from '@/data/schema';
import { briefView } from './brief';
import { importFiles } from '../intake/intake';
import { courseVersion, watchCourse } from './live';
import { listsView } from './lists';
import { addNote, removeNote } from '../act/notes';
import { pickedFor } from '@/core/acts/pick';
import { addToTray, clearTray } from '../act/tray';
import { activityView, saveActivityColumns } from './activity';
import { saveSignMinutes, sessionView } from './session';
import { trendsView } from './trends';
import { weekView } from './week';
import { workView } from './work';

const small = withSmallCourse();
const code = 'NAV';
const ines = () => small.course.instructor;
const term = { w: 'term', g: 'all', k: 'all' };

describe('activity', () => {
  it('sums what each did in the window, whoever did nothing included', async () => {
    const view = await activityView(ines(), code, { ...term, w: '7d' });
    // Every other day from 28 September: 22, 24, 26 and 28 October would be days 24..30; NOW is noon of the 28th.
    const byName = new Map(view.people.map((p) => [p.family, p]));
    expect(byName.get('Yıldız')).toMatchObject({ days: 0, minutes: 0, first: null, lastSeen: '2026-10-16' });
    expect(byName.get('Wójcik')).toMatchObject({ days: 3, contributions: 0, views: 21 });
    // Eight events 150 s apart and the usual 150 s for the last: 20 minutes a sitting.
    expect(byName.get('Wójcik')!.minutes).toBeCloseTo(60);
    expect(byName.get('Wójcik')!.minutesBefore).toBeGreaterThan(0);
    expect(byName.get('Wójcik')!.weeks.map((w) => w.days)).toEqual([4, 3, 4, 3, 1]);
    expect(view.people.every((p) => Math.abs(p.inClass! + p.outside! - p.minutes) < 1e-6)).toBe(true);
  });

  it('agrees with the days it is made from, by kind of activity too', async () => {
    const view = await activityView(ines(), code, term);
    const { orm } = small.test.db;
    for (const person of view.people) {
      const days = await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, person.enrolmentId));
      expect(person.minutes).toBeCloseTo(days.reduce((s, d) => s + d.seconds, 0) / 60);
      expect(person.days).toBe(days.length);
    }
    const pages = await activityView(ines(), code, { ...term, k: 'page' });
    const [first] = pages.people.filter((p) => p.minutes > 0);
    const works = await orm
      .select()
      .from(activityDays)
      .where(eq(activityDays.enrolmentId, first!.enrolmentId));
    expect(first!.minutes).toBeCloseTo(works.reduce((s, d) => s + d.seconds, 0) / 60);
    const none = await activityView(ines(), code, { ...term, k: 'quiz' });
    expect(none.people.every((p) => p.days === 0)).toBe(true);
  });

  it('finds who never opened a page, where time falls, and what the limit makes of it', async () => {
    const pages = await activityView(ines(), code, { ...term, tab: 'resources' });
    const film = pages.resources!.find((r) => r.title === 'Heights on film')!;
    expect([film.openedBy, film.never.length]).toEqual([0, 4]);
    const page = pages.resources!.find((r) => r.title === 'Fixing in four pages')!;
    expect([page.openedBy, page.never.length]).toEqual([4, 0]);
    const { figures } = await activityView(ines(), code, { ...term, tab: 'class' });
    const hours = figures!.hours.flat().reduce((a, b) => a + b, 0);
    expect(hours).toBeCloseTo(figures!.minutes.reduce((a, b) => a + b, 0));
    const [ten, thirty, sixty] = figures!.atLimits.map((l) => l.minutes);
    expect(ten! <= thirty! && thirty! <= sixty!).toBe(true);
    expect(figures!.inClassShare).toBeGreaterThan(0);
    const { effort } = await activityView(ines(), code, { ...term, tab: 'effort' });
    expect(effort!.rows.find((e) => e.name === 'Ömer Yıldız')!.progress.completion).toBe(25);
  });

  it('keeps the columns one chose, in their order, and survives nonsense in what is stored', async () => {
    await saveActivityColumns(ines(), code, ['silence', 'days']);
    expect((await activityView(ines(), code, term)).columns).toEqual(['silence', 'days']);
    await small.test.db.orm.update(viewSettings).set({ value: { columns: 'none' } });
    expect((await activityView(ines(), code, term)).columns.length).toBeGreaterThan(5);
  });

  it('can be about those in the selection', async () => {
    const { enrolmentId } = await small.course.student('s2');
    await addToTray(ines(), code, [{ students: [enrolmentId], ...pickedFor('a test') }]);
    const view = await activityView(ines(), code, { ...term, g: 'selection' });
    expect(view.people.map((p) => p.family)).toEqual(['Yıldız']);
    await clearTray(ines(), code, null);
  });
});

describe('a work, trends, the week, lists', () => {
  const id = async (title: string) =>
    (await activityView(ines(), code, { ...term, tab: 'resources' })).resources!.find(
      (r) => r.title === title,
    )!.id;

  it('shows a work against its sections, with late and missing told apart', async () => {
    const view = await workView(ines(), code, await id('Chart exercise 3'), term);
    expect(view.summary).toMatchObject({ n: 3, median: 14 });
    expect(view.sections.find((s) => s.name === 'Online')!.summary).toMatchObject({ n: 2, median: 13.5 });
    expect(view.rows.find((r) => r.family === 'Li')).toMatchObject({ status: 'graded', late: true });
    expect(view.rows.find((r) => r.family === 'Yıldız')).toMatchObject({ status: 'missing' });
    // Handed in on 17 October at 10:00, returned on the 19th at 12:00.
    expect(view.rows.find((r) => r.family === 'Wójcik')!.feedbackHours).toBe(50);
    await expect(workView(ines(), code, 999_999, term)).rejects.toThrow(/no such assignment/);
  });

  it('sets students against the class by week and by work', async () => {
    const { enrolmentId } = await small.course.student('s1');
    const view = await trendsView(ines(), code, { ...term, student: enrolmentId });
    expect(view.rows).toHaveLength(4);
    expect(view.works.map((w) => [w.title, w.student])).toEqual([
      ['Chart exercise 1', 85],
      ['Chart exercise 2', 90],
      ['Chart exercise 3', 80],
      ['Tides quiz', 90],
    ]);
    expect(view.rows.find((r) => r.family === 'Yıldız')!.sentence).toContain('Too little data');
    expect(view.weeks.at(-1)!.week).toBe(5);
  });

  it('answers for the week with names from the course', async () => {
    const view = await weekView(ines(), code, { ...term, w: '7d' });
    const of = (name: string) => view.answers.find((a) => a.id === name)!;
    expect(of('away').list.map((n) => n.name)).toEqual(['Ömer Yıldız']);
    expect(of('due').list).toEqual([]);
    const october = await weekView(ines(), code, { ...term, w: '2026-10-12..2026-10-21' });
    expect(
      october.answers
        .find((a) => a.id === 'finished')!
        .list.map((n) => n.name)
        .sort(),
    ).toEqual(['Ida Wren', 'Łucja Wójcik']);
  });

  it('lists works by status, those due in the window if asked', async () => {
    const missing = await listsView(ines(), code, term);
    expect(missing.works.map((w) => [w.family, w.title])).toEqual([
      ['Yıldız', 'Chart exercise 2'],
      ['Yıldız', 'Chart exercise 3'],
      ['Yıldız', 'Tides quiz'],
    ]);
    expect(missing.counts).toEqual({
      missing: 3,
      late: 1,
      excused: 1,
      awaiting: 1,
      roster: 5,
      contacts: 4,
      'not-seen': 0,
      'joined-left': 1,
    });
    const gone = await listsView(ines(), code, { ...term, list: 'joined-left' });
    expect(gone.people.map((p) => p.status)).toEqual(['withdrawn']);
    const away = await listsView(ines(), code, { ...term, w: '7d', list: 'not-seen' });
    expect(away.people.map((p) => p.family)).toEqual(['Yıldız']);
    const lately = await listsView(ines(), code, { ...term, w: '2026-10-18..2026-10-28', due: 'window' });
    expect(lately.works.map((w) => w.title)).toEqual(['Chart exercise 3', 'Tides quiz']);
    const late = await listsView(ines(), code, { ...term, list: 'late' });
    expect(late.works).toEqual([expect.objectContaining({ family: 'Li', days: 1 })]);
  });

  it('are all for who teaches the course', async () => {
    const { viewer } = await small.course.student('s1');
    for (const other of [small.course.stranger, viewer]) {
      for (const view of [
        () => activityView(other, code, term),
        () => trendsView(other, code, term),
        () => weekView(other, code, term),
        () => listsView(other, code, term),
        () => sessionView(other, code, term),
        () => watchCourse(other, code),
      ])
        await expect(view()).rejects.toThrow();
    }
  });
});

describe('two hundred open pages of a course', () => {
  it('are told by one look at the database', async () => {
    const versions = await Promise.all(Array.from({ length: 200 }, () => watchCourse(ines(), code)));
    const { orm } = small.test.db;
    const select = orm.select.bind(orm);
    let asked = 0;
    orm.select = ((...args: Parameters<typeof select>) => {
      asked++;
      return select(...args);
    }) as typeof orm.select;
    try {
      const told = await Promise.all(versions.map((version) => version()));
      expect(new Set(told).size).toBe(1);
      expect(told[0]).toBe(await courseVersion(small.course.courseId));
      // One for all pages, one for the line above.
      expect(asked).toBeLessThanOrEqual(2);
      expect(asked).toBeGreaterThan(0);
    } finally {
      orm.select = select as typeof orm.select;
    }
  });
});

describe('the session check', () => {
  it('tells apart who opened nothing and who is at work, live as things come in', async () => {
    const before = await courseVersion(small.course.courseId);
    const [head] = FILES.events.split('\n');
    const lines = [
      's1-live-1,s1,2026-10-28T11:30:00Z,view,w1,',
      's1-live-2,s1,2026-10-28T11:40:00Z,practise,w1,',
      's3-live-1,s3,2026-10-28T11:30:00Z,view,w1,',
      's3-live-2,s3,2026-10-28T11:35:00Z,view,w2,',
      's4-live-1,s4,2026-10-28T11:30:00Z,view,q1,',
      's4-live-2,s4,2026-10-28T11:50:00Z,submit,q1,',
    ];
    const { db } = small.test;
    await importFiles(
      db,
      small.course.courseId,
      ines().userId,
      [file('e.csv', [head, ...lines].join('\n'))],
      Date.parse(NOW),
    );
    expect(await courseVersion(small.course.courseId)).not.toBe(before);
    const view = await sessionView(ines(), code, { ...term, back: 60 });
    expect(Object.fromEntries(view.rows.map((r) => [r.name, r.state]))).toEqual({
      // Nothing since 11:40 and 11:35; it is noon and the period runs.
      'Łucja Wójcik': 'stopped',
      'Ömer Yıldız': 'nothing opened',
      'Bo Li': 'stopped',
      'Ida Wren': 'done',
    });
    expect(view.rows.find((r) => r.name === 'Łucja Wójcik')!.pieces).toEqual([
      expect.objectContaining({ title: 'Chart exercise 1', contributions: 1, handedIn: false, planned: 40 }),
    ]);
  });

  it('can be set to a meeting, then it is about that section', async () => {
    const any = await sessionView(ines(), code, { ...term, back: 15 });
    const monday = any.meetings[0]!;
    // Mondays at 18:00 in Lisbon, which is UTC after 25 October 2026 (tz database).
    expect(new Date(monday.from).toISOString()).toBe('2026-10-26T18:00:00.000Z');
    const view = await sessionView(ines(), code, { ...term, meeting: monday.from });
    expect(view.rows.map((r) => r.name).sort()).toEqual(['Ömer Yıldız', 'Łucja Wójcik']);
    expect(view.until - view.from).toBe(2 * 3_600_000);
  });

  it('opens on the meeting that runs, else the last of the section, and on no Saturday morning', async () => {
    const { sections } = (await sessionView(ines(), code, term)).scope;
    const monday = String(sections.find((s) => s.name === 'Monday')!.id);
    const last = await sessionView(ines(), code, { ...term, w: '7d', g: monday });
    expect(new Date(last.meeting!.from).toISOString()).toBe('2026-10-26T18:00:00.000Z');
    expect([last.running, last.back]).toEqual([false, null]);
    // The ribbon chooses other days: the last meeting of those.
    const before = await sessionView(ines(), code, { ...term, w: '2026-10-12..2026-10-20', g: monday });
    expect(new Date(before.meeting!.from).toISOString()).toBe('2026-10-19T17:00:00.000Z');
    // A section that never meets has a day back.
    const online = String(sections.find((s) => s.name === 'Online')!.id);
    expect((await sessionView(ines(), code, { ...term, g: online })).back).toBe(24 * 60);
  });

  it('has the same minutes for a meeting as the days have in class', async () => {
    const [head] = FILES.events.split('\n');
    const at = (minute: number) =>
      new Date(Date.parse('2026-10-26T18:00:00Z') + minute * 60_000).toISOString();
    const lines = [-9, 3, 21, 44, 70, 71, 96, 118, 125].map(
      (minute, i) => `s1-meets-${i},s1,${at(minute)},${i % 2 ? 'view' : 'practise'},w${1 + (i % 3)},`,
    );
    // The last thing of a sitting, ten minutes before the end: its dwell may not run past it.
    lines.push(`s2-meets-0,s2,${at(110)},view,w1,`);
    const files = [file('e.csv', [head, ...lines].join('\n'))];
    await importFiles(small.test.db, small.course.courseId, ines().userId, files, Date.parse(NOW));
    const meeting = Date.parse('2026-10-26T18:00:00Z');
    const view = await sessionView(ines(), code, { ...term, meeting });
    const minutes = new Map(view.rows.map((r) => [r.name, r.minutes]));
    for (const id of ['s1', 's2']) {
      const { enrolmentId } = await small.course.student(id);
      const { report } = await sessionView(ines(), code, {
        ...term,
        w: '2026-10-26..2026-10-26',
        student: enrolmentId,
      });
      expect(report!.inClass).toBeGreaterThan(0);
      expect(minutes.get(report!.name)).toBeCloseTo(report!.inClass, 6);
      const sum = report!.lines.reduce((total, l) => total + l.minutes, report!.elsewhere);
      expect(sum).toBeCloseTo(report!.minutes, 6);
    }
  });

  it('keeps how long before the end the sign comes, for each instructor', async () => {
    expect((await sessionView(ines(), code, term)).signMinutes).toBe(10);
    await saveSignMinutes(ines(), code, 0);
    expect((await sessionView(ines(), code, term)).signMinutes).toBe(0);
    const { viewer } = await small.course.student('s1');
    await expect(saveSignMinutes(viewer, code, 5)).rejects.toThrow();
  });
});

describe('the brief', () => {
  it('tells what happened since the last talk', async () => {
    const { enrolmentId } = await small.course.student('s1');
    const before = (await briefView(ines(), code, enrolmentId)).brief;
    expect(before.more!.sinceTalk).toBeNull();
    await addNote(ines(), code, enrolmentId, { kind: 'note', on: '2026-10-27', text: 'A remark' });
    const id = await addNote(ines(), code, enrolmentId, {
      kind: 'talk',
      on: '2026-10-16',
      text: 'Agreed on two hours',
    });
    const { more } = (await briefView(ines(), code, enrolmentId)).brief;
    expect(more!.notes.map((n) => [n.kind, n.by, n.own])).toEqual([
      ['note', 'Ines Calloway', true],
      ['talk', 'Ines Calloway', true],
    ]);
    expect(more!.sinceTalk).toMatchObject({
      on: '2026-10-16',
      handedIn: ['Chart exercise 3', 'Tides quiz'],
      returned: [
        { title: 'Chart exercise 3', percent: 80 },
        { title: 'Tides quiz', percent: 90 },
      ],
    });
    await removeNote(ines(), code, id);
    expect((await briefView(ines(), code, enrolmentId)).brief.more!.sinceTalk).toBeNull();
  });

  it('takes no empty note, none about tomorrow, and none from who may not', async () => {
    const { enrolmentId, viewer } = await small.course.student('s1');
    const note = { kind: 'note' as const, on: '2026-10-27', text: 'x' };
    await expect(addNote(ines(), code, enrolmentId, { ...note, text: '  ' })).rejects.toThrow(
      /a word or two/,
    );
    await expect(addNote(ines(), code, enrolmentId, { ...note, on: '2026-10-29' })).rejects.toThrow(
      /has come/,
    );
    await expect(addNote(viewer, code, enrolmentId, note)).rejects.toThrow();
    await expect(addNote(small.course.stranger, code, enrolmentId, note)).rejects.toThrow();
    expect(await small.test.db.orm.select().from(enrolments)).toHaveLength(5);
  });
});
