import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { DEFAULT_INDICATORS } from '@/core/flags/indicators';
import { briefView } from './brief';
import { keepPosition, putOff, markSeen, undoAnswer } from '../act/answers';
import { roundsView } from './rounds';
import { settingsForm } from '@/core/forms/settings';
import { courseSettings, saveSettings } from '../act/settings';
import { pickedFor } from '@/core/acts/pick';
import { addToTray, clearTray, tray } from '../act/tray';
import { trayCsv } from '../export/tray';
import { requireCourse } from '../access/viewer';
import { eq } from 'drizzle-orm';
import { acts } from '@/data/schema';
import { addNote, removeNote } from '../act/notes';

const small = withSmallCourse();

const rounds = (asked: { filter?: string; student?: number } = {}) =>
  roundsView(small.course.instructor, 'NAV', asked);
const idOf = async (external: string) => (await small.course.student(external)).enrolmentId;

describe('the queue', () => {
  it('holds who needs something, with reasons as sentences', async () => {
    const view = await rounds();
    expect(view.students).toBe(4);
    const [first] = view.rows;
    expect(first).toMatchObject({ name: 'Ömer Yıldız', level: 'act', section: 'Monday' });
    expect(first!.reasons.map((r) => r.kind)).toEqual(['not seen', 'behind', 'low time']);
    // The last event is of Monday afternoon: on Wednesday nobody's silence grows by it.
    expect(view.stale).toBe('no data since Mon 26 Oct');
    expect(first!.reasons[0]!.head).toBe('No login for 11 teaching days.');
    expect(first!.reasons[1]!.rest).toBe('Chart exercise 2, Chart exercise 3, Tides quiz.');
    expect(view.brief?.student.name).toBe('Ömer Yıldız');
    expect(view.brief?.weeks.filter((w) => w.own != null)).toHaveLength(5);
    expect(view.ribbon).toHaveLength(15);
  });
  it('does not say that nothing has come once the term is over', async () => {
    const fixed = process.env.LANTERN_NOW;
    process.env.LANTERN_NOW = '2027-06-30T09:00:00Z';
    try {
      expect((await rounds()).stale).toBeNull();
    } finally {
      process.env.LANTERN_NOW = fixed;
    }
  });
  it('filters by reason, and falls back on what it knows for nonsense', async () => {
    expect((await rounds({ filter: 'behind' })).rows.map((r) => r.name)).toEqual(['Ömer Yıldız']);
    expect((await rounds({ filter: 'everyone' })).rows).toHaveLength(4);
    expect((await rounds({ filter: 'nonsense', student: 999_999 })).filter).toBe('all');
  });
  it('remembers where the instructor was, on any device', async () => {
    const bo = await idOf('s3');
    // Looking alone keeps nothing: a page that reads does not write.
    expect(await rounds({ filter: 'everyone', student: bo })).toMatchObject({ isKept: false });
    expect((await rounds()).filter).toBe('all');
    await keepPosition(small.course.instructor, 'NAV', { filter: 'everyone', enrolmentId: bo });
    expect(await rounds()).toMatchObject({ filter: 'everyone', selected: bo, isKept: true });
    await keepPosition(small.course.instructor, 'NAV', { filter: 'slipping', enrolmentId: null });
    // What hid somebody another day hides nobody today.
    expect((await rounds()).filter).toBe('all');
    await keepPosition(small.course.instructor, 'NAV', { filter: 'all', enrolmentId: null });
    expect((await rounds()).filter).toBe('all');
    await expect(
      keepPosition(small.course.stranger, 'NAV', { filter: 'all', enrolmentId: null }),
    ).rejects.toThrow(/no such course/);
  });
});

describe('answers', () => {
  it('put off takes out of the queue until the day, and can be taken back', async () => {
    const omer = await idOf('s2');
    const mark = await putOff(small.course.instructor, 'NAV', omer, '2026-11-02');
    const after = await rounds({ filter: 'all' });
    expect(after.rows.map((r) => r.enrolmentId)).not.toContain(omer);
    expect(after).toMatchObject({ nextReturn: '2026-11-02' });
    expect((await rounds({ filter: 'answered' })).rows[0]!.mark).toMatchObject({
      action: 'put off',
      by: 'Ines Calloway',
    });
    await undoAnswer(small.course.instructor, 'NAV', mark);
    expect((await rounds({ filter: 'all' })).rows[0]!.enrolmentId).toBe(omer);
  });
  it('come back when their day has come', async () => {
    const omer = await idOf('s2');
    const mark = await putOff(small.course.instructor, 'NAV', omer, '2026-10-30');
    const fixed = process.env.LANTERN_NOW;
    process.env.LANTERN_NOW = '2026-10-30T09:00:00Z';
    expect((await rounds({ filter: 'all' })).rows[0]!.enrolmentId).toBe(omer);
    process.env.LANTERN_NOW = fixed;
    await undoAnswer(small.course.instructor, 'NAV', mark);
  });
  it('seen needs a reason, and stands in the brief', async () => {
    const omer = await idOf('s2');
    expect(() => markSeen(small.course.instructor, 'NAV', omer, '  ')).toThrow('Say in a word');
    const mark = await markSeen(small.course.instructor, 'NAV', omer, 'Talked after class');
    const brief = (await briefView(small.course.instructor, 'NAV', omer)).brief;
    expect(brief.marks[0]).toMatchObject({
      action: 'seen',
      reason: 'Talked after class',
      by: 'Ines Calloway',
    });
    await undoAnswer(small.course.instructor, 'NAV', mark);
  });
  it('is one act with the flags that it answers, by their ids', async () => {
    const omer = await idOf('s2');
    const { reasons } = (await briefView(small.course.instructor, 'NAV', omer)).brief;
    const mark = await putOff(small.course.instructor, 'NAV', omer, '2026-11-02');
    const note = await addNote(small.course.instructor, 'NAV', omer, {
      kind: 'talk',
      on: '2026-10-27',
      text: 'Will hand in on Friday',
    });
    const { orm } = small.test.db;
    const own = await orm.select().from(acts).where(eq(acts.enrolmentId, omer)).orderBy(acts.id);
    expect(own).toMatchObject([
      {
        kind: 'put off',
        followUpOn: '2026-11-02',
        answers: reasons.map(({ id, kind, level }) => ({ flag: id, kind, level })),
      },
      { kind: 'talk', on: '2026-10-27', answers: [], noteId: note },
    ]);
    expect(reasons.length).toBeGreaterThan(0);
    // A talk answers nothing: what was put off stays so. With its note it goes.
    expect((await rounds({ filter: 'answered' })).rows.map((r) => r.enrolmentId)).toContain(omer);
    await removeNote(small.course.instructor, 'NAV', note);
    await undoAnswer(small.course.instructor, 'NAV', mark);
    expect(await orm.select().from(acts).where(eq(acts.enrolmentId, omer))).toEqual([]);
  });
  it('refuses a day that is not after today, or years away', async () => {
    const omer = await idOf('s2');
    await expect(putOff(small.course.instructor, 'NAV', omer, '2026-10-28')).rejects.toThrow('after today');
    await expect(putOff(small.course.instructor, 'NAV', omer, '2029-01-01')).rejects.toThrow('within');
  });
});

describe('the tray', () => {
  it('keeps the first reason, and exports who is in it', async () => {
    const [a, b] = [await idOf('s1'), await idOf('s2')];
    await addToTray(
      small.course.instructor,
      'NAV',
      [{ students: [a, b], ...pickedFor('behind', 'behind') }],
      {
        source: 'rounds',
      },
    );
    await addToTray(small.course.instructor, 'NAV', [{ students: [b], ...pickedFor('not seen') }]);
    const row = await requireCourse(small.course.instructor, 'look', 'NAV');
    expect(await tray(small.course.instructor, row)).toEqual([
      { enrolmentId: a, ...pickedFor('behind', 'behind'), source: 'rounds' },
      { enrolmentId: b, ...pickedFor('behind', 'behind'), source: 'rounds' },
    ]);
    expect(await trayCsv(small.course.instructor, 'NAV')).toContain(
      'Yıldız,Ömer,Monday,omer@gone.students.example,behind,',
    );
    await clearTray(small.course.instructor, 'NAV', [a]);
    expect(await tray(small.course.instructor, row)).toHaveLength(1);
    await clearTray(small.course.instructor, 'NAV', null);
    expect(await tray(small.course.instructor, row)).toEqual([]);
  });
  it('is begun anew where that is asked for', async () => {
    const [a, b] = [await idOf('s1'), await idOf('s2')];
    const me = small.course.instructor;
    await addToTray(me, 'NAV', [{ students: [a], ...pickedFor('one') }], { source: 'rounds' });
    await addToTray(me, 'NAV', [{ students: [b], ...pickedFor('two') }], { source: 'lists', anew: true });
    const row = await requireCourse(me, 'look', 'NAV');
    expect((await tray(me, row)).map((t) => [t.enrolmentId, t.source])).toEqual([[b, 'lists']]);
    const of = pickedFor('x', 'missing assignment', 999_999);
    await expect(addToTray(me, 'NAV', [{ students: [a], ...of }])).rejects.toThrow('no such assignment');
    await clearTray(me, 'NAV', null);
  });
  it('refuses somebody who is not in the course', async () => {
    await expect(
      addToTray(small.course.instructor, 'NAV', [{ students: [999_999], ...pickedFor('x') }]),
    ).rejects.toThrow('not in this course');
  });
});

describe('who may', () => {
  it('another instructor and a student may neither look nor change', async () => {
    const omer = await idOf('s2');
    const { viewer } = await small.course.student('s1');
    for (const who of [small.course.stranger, viewer]) {
      await expect(roundsView(who, 'NAV', {})).rejects.toThrow(/may not|no such/);
      await expect(briefView(who, 'NAV', omer)).rejects.toThrow(/may not|no such/);
      await expect(putOff(who, 'NAV', omer, '2026-11-02')).rejects.toThrow(/may not|no such/);
      await expect(addToTray(who, 'NAV', [{ students: [omer], ...pickedFor('x') }])).rejects.toThrow(
        /may not|no such/,
      );
      await expect(trayCsv(who, 'NAV')).rejects.toThrow(/may not|no such/);
      await expect(courseSettings(who, 'NAV')).rejects.toThrow(/may not|no such/);
    }
  });
  it('an instructor’s own course does not open the students of another', async () => {
    await expect(briefView(small.course.stranger, 'OTHER', await idOf('s2'))).rejects.toThrow(
      'no such student',
    );
  });
});

describe('thresholds', () => {
  it('decide at once who comes up', async () => {
    const before = await courseSettings(small.course.instructor, 'NAV');
    const strict = {
      ...before,
      indicators: { ...before.indicators, lowStanding: { watch: 90, act: 89, leastWorks: 1 } },
    };
    await saveSettings(small.course.instructor, 'NAV', strict);
    expect((await rounds({ filter: 'low standing' })).rows.length).toBeGreaterThan(2);
    await saveSettings(small.course.instructor, 'NAV', before);
    // Back inside once: the flags stay until a second evaluation on another day.
    expect(
      (await rounds({ filter: 'low standing' })).rows.some((r) => r.reasons.some((x) => x.insideSince)),
    ).toBe(true);
  });
  it('move time on task with the session limit', async () => {
    const before = await courseSettings(small.course.instructor, 'NAV');
    const minutes = async () =>
      (await briefView(small.course.instructor, 'NAV', await idOf('s1'))).brief.weeks[0]!.own!.minutesInClass;
    const usual = await minutes();
    await saveSettings(small.course.instructor, 'NAV', { ...before, sessionGapMinutes: 120 });
    expect(await minutes()).toBeGreaterThanOrEqual(usual);
    await saveSettings(small.course.instructor, 'NAV', before);
    expect(await minutes()).toBeCloseTo(usual, 9);
  });
  it('are refused where act is less severe than watch, or out of range', () => {
    const settings = (behind: { watch: number; act: number }, sessionGapMinutes = 30) => ({
      sessionGapMinutes,
      indicators: { ...DEFAULT_INDICATORS, behind },
    });
    expect(settingsForm.isValidSync(settings({ watch: 2, act: 3 }))).toBe(true);
    expect(() => settingsForm.validateSync(settings({ watch: 4, act: 3 }))).toThrow(
      'Behind, act must not be under watch',
    );
    expect(() => settingsForm.validateSync(settings({ watch: 2, act: 3 }, 4))).toThrow('at least 5');
    expect(() => settingsForm.validateSync(settings({ watch: 2, act: 3 }, Number.NaN))).toThrow(
      'write a number',
    );
  });
});
