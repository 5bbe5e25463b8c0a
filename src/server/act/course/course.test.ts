import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../../tests/support/course';
import type { ActivityForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { activities, courses, dayTotals, enrolments, events, sections } from '@/data/schema';
import { importFiles } from '../../intake/intake';
import { roundsView } from '../../look/rounds';
import { newCourse, removeGroup, removeUnit, saveGroup, saveUnit } from './institution';
import {
  archiveCourse,
  dueEffect,
  removeActivity,
  removeCategory,
  removeOutcome,
  removeSection,
  saveActivity,
  saveCategory,
  saveCourse,
  saveOutcome,
  saveSection,
} from './parts';
import { joinCourse, moveStudents, setJoinCode, setStatus } from './students';
import { setupView } from '../../look/setup';

const small = withSmallCourse();
const me = () => small.course.instructor;
const view = (): Promise<SetupView> => setupView(me(), 'NAV');
const work = async (title: string) => (await view()).activities.find((a) => a.title === title)!;

describe('course and term', () => {
  it('is for who teaches the course only', async () => {
    await expect(setupView(small.course.stranger, 'NAV')).rejects.toThrow(/no such/);
    const { form } = await view();
    await expect(saveCourse(small.course.stranger, 'NAV', form)).rejects.toThrow(/no such/);
    const { viewer } = await small.course.student('s1');
    await expect(setupView(viewer, 'NAV')).rejects.toThrow();
  });

  it('another zone cuts the days anew, and nonsense is refused', async () => {
    const { orm } = small.test.db;
    const { form } = await view();
    const days = async () =>
      (await orm.select().from(dayTotals)).map((d) => `${d.enrolmentId} ${d.day}`).sort();
    const before = await days();
    await saveCourse(me(), 'NAV', { ...form, zone: 'Pacific/Auckland' });
    expect(await days()).not.toEqual(before);
    await saveCourse(me(), 'NAV', form);
    expect(await days()).toEqual(before);
    await expect(saveCourse(me(), 'NAV', { ...form, zone: 'Nowhere' })).rejects.toThrow(/time zone/);
    const breaks = [{ name: 'Half-term', from: '2026-11-02', to: '2026-11-01' }];
    await expect(saveCourse(me(), 'NAV', { ...form, breaks })).rejects.toThrow(/ends before/);
  });

  it('a course is made, put aside and taken up again', async () => {
    const { form } = await view();
    await newCourse(me(), { code: 'NEW-1', ...form, title: 'New' });
    await expect(newCourse(me(), { code: 'NEW-1', ...form })).rejects.toThrow(/taken/);
    const made = await setupView(me(), 'NEW-1');
    expect([made.sections, made.activities, made.students]).toEqual([[], [], []]);
    expect([made.sameTerm, made.terms]).toEqual([['NAV'], []]);
    await archiveCourse(me(), 'NEW-1', true);
    expect((await setupView(me(), 'NEW-1')).archived).toBe(true);
    await archiveCourse(me(), 'NEW-1', false);
    const { id: top } = await saveUnit(me(), { id: null, name: 'Institute', parentId: null });
    const { id: below } = await saveUnit(me(), { id: null, name: 'Navigation', parentId: top });
    await expect(saveUnit(me(), { id: top, name: 'Institute', parentId: below })).rejects.toThrow(
      /circle: Institute → Navigation → Institute/,
    );
    await saveUnit(me(), { id: below, name: 'Seamanship', parentId: null });
    const { form: own } = await view();
    await saveCourse(me(), 'NAV', { ...own, unitId: top });
    await saveUnit(me(), { id: below, name: 'Seamanship', parentId: top });
    await expect(removeUnit(me(), top)).rejects.toThrow(/belongs to this unit: Seamanship, NAV/);
    await removeUnit(me(), below);
    expect((await view()).units).toEqual([{ id: top, name: 'Institute', parentId: null }]);
    await expect(removeUnit(me(), below)).rejects.toThrow(/no such unit/);
  });
});

describe('a term of several courses', () => {
  it('is changed in all that are named, or in none', async () => {
    const { form } = await view();
    const breaks = [{ name: 'Half-term', from: '2026-10-19', to: '2026-10-25' }];
    const other = { ...form, termName: 'Autumn, with a break', breaks };
    await expect(saveCourse(me(), 'NAV', other, ['NEW-1', 'OTHER'])).rejects.toThrow(/no such/);
    expect((await view()).form).toEqual(form);
    // What fails in the second course leaves the first as it was.
    const second =
      "create function stop() returns trigger as $$ begin raise exception 'stop'; end $$ language plpgsql";
    const { orm } = small.test.db;
    await orm.execute(second);
    await orm.execute(
      `create trigger stop before update on courses for each row when (old.code = 'NEW-1') execute function stop()`,
    );
    await expect(saveCourse(me(), 'NAV', other, ['NEW-1'])).rejects.toThrow();
    await orm.execute('drop trigger stop on courses');
    expect((await view()).form).toEqual(form);
    await saveCourse(me(), 'NAV', other, ['NEW-1']);
    const changed = await setupView(me(), 'NEW-1');
    expect(changed.form).toMatchObject({ title: 'New', termName: 'Autumn, with a break', breaks });
    expect(changed.sameTerm).toEqual(['NAV']);
    // On its own again: the other keeps what it got, and its term can be taken over.
    await saveCourse(me(), 'NAV', form);
    expect((await view()).sameTerm).toEqual([]);
    expect((await view()).terms).toMatchObject([{ termName: 'Autumn, with a break', courses: ['NEW-1'] }]);
    await newCourse(me(), { code: 'NEW-2', ...other, title: 'Newer' });
    expect((await setupView(me(), 'NEW-2')).form.breaks).toEqual(breaks);
  });
});

describe('sections', () => {
  it('a meeting moves time into class, an exception out of it', async () => {
    const { orm } = small.test.db;
    const { enrolmentId } = await small.course.student('s1');
    const inClass = async () =>
      (await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId))).reduce(
        (sum, d) => sum + d.inClassSeconds,
        0,
      );
    const [monday] = (await view()).sections.filter((s) => s.name === 'Monday');
    await saveSection(me(), 'NAV', { ...monday!, meetings: [], exceptions: [] });
    expect(await inClass()).toBe(0);
    // Sittings begin at 17:00 UTC, 18:00 in Lisbon until the clocks went back.
    const meeting = { weekday: 1, startMinute: 18 * 60, minutes: 120 };
    await saveSection(me(), 'NAV', { ...monday!, meetings: [meeting], exceptions: [] });
    const all = await inClass();
    expect(all).toBeGreaterThan(0);
    await saveSection(me(), 'NAV', {
      ...monday!,
      meetings: [meeting],
      exceptions: [{ on: '2026-09-28', instead: null }],
    });
    expect(await inClass()).toBeLessThan(all);
    await expect(removeSection(me(), 'NAV', monday!.id!)).rejects.toThrow(/move them first/);
    await expect(saveSection(me(), 'NAV', { ...monday!, id: null })).rejects.toThrow(/already/);
    const spare = await saveSection(me(), 'NAV', { id: null, name: 'Spare', meetings: [], exceptions: [] });
    await removeSection(me(), 'NAV', spare);
    await expect(removeSection(me(), 'NAV', spare)).rejects.toThrow(/no such/);
  });
});

describe('work', () => {
  it('says whose status another due date changes, before it does', async () => {
    const w3 = await work('Chart exercise 3');
    const later = Date.parse('2026-11-30T22:00:00Z');
    const { changes } = await dueEffect(me(), 'NAV', w3.id!, later);
    expect(changes).toEqual([{ name: 'Ömer Yıldız', from: 'missing', to: 'not yet due' }]);
    const before = await roundsView(me(), 'NAV', { filter: 'all' });
    await saveActivity(me(), 'NAV', { ...w3, due: later });
    expect((await dueEffect(me(), 'NAV', w3.id!, later)).changes).toEqual([]);
    const after = await roundsView(me(), 'NAV', { filter: 'all' });
    expect(JSON.stringify(after.rows)).not.toBe(JSON.stringify(before.rows));
    await saveActivity(me(), 'NAV', w3);
  });

  it('is made, changed and taken away, with clear words for what cannot be', async () => {
    const w1 = await work('Chart exercise 1');
    const save = (more: Partial<ActivityForm>) => saveActivity(me(), 'NAV', { ...w1, ...more });
    await expect(save({ opens: w1.due! + 1 })).rejects.toThrow(/before it opens/);
    await expect(save({ closes: w1.due! - 1 })).rejects.toThrow(/closes before/);
    await expect(save({ categoryId: null })).rejects.toThrow(/needs a category/);
    await expect(save({ points: 5 })).rejects.toThrow(/has 17 points already/);
    await expect(save({ categoryId: 99_999 })).rejects.toThrow(/no such category/);
    await expect(removeActivity(me(), 'NAV', w1.id!)).rejects.toThrow(/scores rest on it/);
    const id = await saveActivity(me(), 'NAV', { ...w1, id: null, title: 'Extra', outcomeIds: [] });
    expect(await work('Extra')).toMatchObject({ id, points: 20 });
    await removeActivity(me(), 'NAV', id);
    const category = await saveCategory(me(), 'NAV', { id: null, name: 'Spare', weight: 5, dropLowest: 0 });
    expect((await view()).findings.map((f) => f.what)).toContain('empty category');
    await removeCategory(me(), 'NAV', category);
    await expect(removeCategory(me(), 'NAV', w1.categoryId!)).rejects.toThrow(/move them first/);
  });

  it('another kind cuts anew what rests on typical dwells', async () => {
    const page = await work('Fixing in four pages');
    await saveActivity(me(), 'NAV', { ...page, kind: 'article' });
    expect((await work('Fixing in four pages')).kind).toBe('article');
    await saveActivity(me(), 'NAV', page);
  });
});

describe('outcomes', () => {
  it('form a tree with prerequisites; circles are refused and named', async () => {
    const [fix, heights] = (await view()).outcomes;
    await expect(saveOutcome(me(), 'NAV', { ...fix!, before: [heights!.id!] })).rejects.toThrow(
      /circle: Tidal heights → Position fixing → Tidal heights/,
    );
    const part = await saveOutcome(me(), 'NAV', { id: null, title: 'Part', parentId: fix!.id, before: [] });
    await expect(saveOutcome(me(), 'NAV', { ...fix!, parentId: part })).rejects.toThrow(/part of.*circle/);
    expect((await view()).findings.map((f) => f.what)).toContain('outcome not covered');
    await expect(removeOutcome(me(), 'NAV', fix!.id!)).rejects.toThrow(/build on it/);
    await removeOutcome(me(), 'NAV', part);
  });
});

describe('students', () => {
  it('are moved, withdrawn and taken back with nothing lost', async () => {
    const { orm } = small.test.db;
    const { enrolmentId } = await small.course.student('s4');
    const state = async () => ({
      events: (await orm.select().from(events).where(eq(events.enrolmentId, enrolmentId))).length,
      days: await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId)),
    });
    const before = await state();
    const [monday] = await orm
      .select()
      .from(sections)
      .where(and(eq(sections.name, 'Monday'), eq(sections.courseId, small.course.courseId)));
    expect(await moveStudents(me(), 'NAV', [enrolmentId], monday!.id)).toBe(1);
    expect(await moveStudents(me(), 'NAV', [enrolmentId], null)).toBe(1);
    expect(await setStatus(me(), 'NAV', [enrolmentId], 'withdrawn')).toBe(1);
    expect((await roundsView(me(), 'NAV', { filter: 'all' })).rows.map((q) => q.enrolmentId)).not.toContain(
      enrolmentId,
    );
    await setStatus(me(), 'NAV', [enrolmentId], 'active');
    const after = await state();
    expect(after.events).toBe(before.events);
    expect(after.days.map((d) => d.seconds)).toEqual(before.days.map((d) => d.seconds));
    const [place] = await orm.select().from(enrolments).where(eq(enrolments.id, enrolmentId));
    expect([place!.status, place!.leftOn]).toEqual(['active', null]);
    await expect(moveStudents(me(), 'NAV', [enrolmentId, 99_999], null)).rejects.toThrow(/no such student/);
    await expect(moveStudents(me(), 'NAV', [enrolmentId], 99_999)).rejects.toThrow(/no such section/);
  });

  it('join by code, and not without', async () => {
    const { viewer } = await small.course.student('s1');
    const { form } = await view();
    await newCourse(me(), { code: 'JOIN-1', ...form, title: 'Joined' });
    const joinCode = await setJoinCode(me(), 'JOIN-1', true);
    expect(joinCode).toMatch(/^[A-HJKMNP-Z2-9]{8}$/);
    await expect(joinCourse(viewer, 'WRONGONE')).rejects.toThrow(/No course/);
    expect(await joinCourse(viewer, `${joinCode!.slice(0, 4)}-${joinCode!.slice(4).toLowerCase()}`)).toBe(
      'Joined',
    );
    await joinCourse(viewer, joinCode!);
    expect((await setupView(me(), 'JOIN-1')).students).toHaveLength(1);
    await expect(joinCourse(me(), joinCode!)).rejects.toThrow();
    await setJoinCode(me(), 'JOIN-1', false);
    await expect(joinCourse(viewer, joinCode!)).rejects.toThrow(/No course/);
  });
});

describe('groups', () => {
  it('hold students of the viewer’s courses, with whoever answers for them', async () => {
    const { enrolmentId } = await small.course.student('s2');
    const id = await saveGroup(me(), 'NAV', {
      id: null,
      name: 'Crew',
      memberIds: [enrolmentId],
      staffIds: [],
    });
    expect((await view()).groups).toEqual([
      { id, name: 'Crew', memberIds: [enrolmentId], staffIds: [me().userId] },
    ]);
    expect((await setupView(small.course.stranger, 'OTHER').catch(() => null))?.groups ?? []).toEqual([]);
    const seen = await roundsView(me(), 'NAV', { filter: 'all', scope: { g: `m${id}` } });
    expect(seen.rows.map((r) => r.enrolmentId)).toEqual([enrolmentId]);
    await expect(removeGroup(small.course.stranger, id)).rejects.toThrow(/no such/);
    await expect(
      saveGroup(me(), 'NAV', { id, name: 'Crew', memberIds: [99_999], staffIds: [] }),
    ).rejects.toThrow(/no such student/);
    // A colleague who answers for it, too, may change it and keeps whom they do not teach, but puts nobody in.
    const staffIds = [small.course.stranger.userId];
    await saveGroup(me(), 'NAV', { id, name: 'Crew', memberIds: [enrolmentId], staffIds });
    const theirs = { id, name: 'Watch crew', memberIds: [enrolmentId], staffIds: [me().userId] };
    await saveGroup(small.course.stranger, 'OTHER', theirs);
    expect((await view()).groups).toMatchObject([{ name: 'Watch crew', memberIds: [enrolmentId] }]);
    const other = (await small.course.student('s1')).enrolmentId;
    await expect(
      saveGroup(small.course.stranger, 'OTHER', { ...theirs, memberIds: [enrolmentId, other] }),
    ).rejects.toThrow(/no such student/);
    await removeGroup(me(), id);
  });
});

describe('check-up', () => {
  it('follows what is mended', async () => {
    const what = async () => (await view()).findings.map((f) => f.what);
    expect(await what()).toContain('section without meetings');
    const undated = { ...(await work('Final quiz')), due: null };
    await saveActivity(me(), 'NAV', undated);
    expect(await what()).toContain('no due date');
    const text = `${FILES.events.split('\n')[0]}\nz1,unknown,2026-10-28T10:00:00Z,view,r1,`;
    await importFiles(
      small.test.db,
      small.course.courseId,
      me().userId,
      [file('e.csv', text)],
      Date.parse(NOW),
    );
    expect(await what()).toContain('waiting rows');
    const [row] = await small.test.db.orm
      .select()
      .from(activities)
      .where(and(eq(activities.id, undated.id!), eq(activities.courseId, small.course.courseId)));
    expect(row!.dueAt).toBeNull();
    const [course] = await small.test.db.orm
      .select()
      .from(courses)
      .where(eq(courses.id, small.course.courseId));
    expect(course!.evaluatedAt).not.toBeNull();
  });
});
