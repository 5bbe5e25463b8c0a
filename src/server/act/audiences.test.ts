import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import type { AudienceForm } from '@/core/forms/audience';
import { docOf } from '@/core/messages/doc';
import { gradeSelection } from '@/core/tables/gradeSelection';
import type { Selection } from '@/core/rules/selection';
import { FILTERS, gradeMatches } from '@/core/tables/gradeFilters';
import { activities, audiences, enrolments } from '@/data/schema';
import { requireCourse } from '../access/viewer';
import { audiencesView, traitCells } from '../look/audiences';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { gradebookView } from '../look/gradebook';
import { listsView } from '../look/lists';
import { removeAudience, saveAudience } from './audiences';
import { sendMessages } from './compose';

const small = withSmallCourse();
const me = () => small.course.instructor;
const view = (where?: Selection) => audiencesView(me(), 'NAV', { where: where && JSON.stringify(where) });
const work = async (externalId: string) =>
  (await small.test.db.orm.select().from(activities).where(eq(activities.externalId, externalId)))[0]!.id;
const form = (over: Partial<AudienceForm> = {}): AudienceForm => ({
  id: null,
  name: 'Low on charts',
  where: { all: [] },
  added: [],
  removed: [],
  ...over,
});
const save = (over: Partial<AudienceForm>) => saveAudience(me(), 'NAV', form(over));
const idOf = async (student: string) => (await small.course.student(student)).enrolmentId;

beforeEach(() => small.test.db.orm.delete(audiences));

describe('what students can be chosen by', () => {
  it('is what the gradebook and the lists say', async () => {
    const w3 = await work('w3');
    const q1 = await work('q1');
    const { people, about } = await view();
    const keys = [
      `score:${w3}`,
      `status:${q1}`,
      `late:${w3}`,
      'standing',
      'missing',
      'section',
      'minutes:28',
    ];
    const cells = await traitCells(me(), 'NAV', keys);
    const book = await gradebookView(me(), 'NAV', { g: 'all', k: 'all' });
    const place = book.columns.findIndex((c) => c.id === w3);
    const rowOf = new Map(book.rows.map((r) => [r.enrolmentId, r]));
    // The withdrawn are in no audience.
    expect(people.map((p) => p.id)).toEqual(book.rows.map((r) => r.enrolmentId));
    expect(people).toHaveLength(4);
    expect(cells[`score:${w3}`]).toEqual(people.map((p) => rowOf.get(p.id)!.points[place]));
    expect(cells.standing).toEqual(people.map((p) => rowOf.get(p.id)!.standing));
    expect(cells.missing).toEqual(people.map((p) => rowOf.get(p.id)!.missing));
    const missing = await listsView(me(), 'NAV', { list: 'missing', g: 'all', k: 'all' });
    const missed = missing.works.filter((l) => l.activityId === q1).map((l) => l.enrolmentId);
    expect(people.filter((_, i) => cells[`status:${q1}`]![i] === 'missing').map((p) => p.id)).toEqual(missed);
    expect(missed).toHaveLength(1);
    // s3 handed exercise 3 in a day late.
    const late = people.findIndex((p) => p.name === 'Bo Li');
    expect(cells[`late:${w3}`]!.map((c) => c === 'yes')).toEqual(people.map((_, i) => i === late));
    expect(cells['minutes:28']!.every((c) => typeof c === 'number')).toBe(true);
    expect(about.works.map((w) => w.title)).not.toContain('Fixing in four pages');
  });

  it('holds who was written to, how long ago, and who has not read it', async () => {
    const who = await idOf('s3');
    const cellsOf = async (key: string) => (await traitCells(me(), 'NAV', [key]))[key];
    expect(await cellsOf('written:7')).toEqual(['no', 'no', 'no', 'no']);
    await sendMessages(me(), 'NAV', [
      {
        key: crypto.randomUUID(),
        subject: 'A word',
        doc: docOf('Hello.'),
        reason: 'behind',
        about: 'other',
        activityId: null,
        recipients: [{ enrolmentId: who, plan: null }],
      },
    ]);
    const { people } = await view();
    expect(await cellsOf('written:7')).toEqual(people.map((p) => (p.id === who ? 'yes' : 'no')));
    expect(await cellsOf('unread')).toEqual(people.map((p) => (p.id === who ? 'yes' : 'no')));
    expect(await cellsOf('unanswered')).toEqual(people.map((p) => (p.id === who ? 'yes' : 'no')));
    expect(await cellsOf('plan')).toEqual(['none', 'none', 'none', 'none']);
  });
});

describe('a saved audience', () => {
  it('stays live, filters a view, and is asked for by another', async () => {
    const w3 = await work('w3');
    const low = await save({ where: { measure: `score:${w3}`, is: '<', value: 15 } });
    const line = async () => (await view()).saved.find((l) => l.id === low)!;
    expect(await line()).toMatchObject({ match: 2, unknown: 1, by: me().name });
    const book = await gradebookView(me(), 'NAV', { g: `a${low}`, k: 'all' });
    expect(book.rows.map((r) => r.given).sort()).toEqual(['Bo', 'Ida']);
    const rest = await save({
      name: 'The rest',
      where: { not: { measure: `audience:${low}`, is: 'in', value: ['yes'] } },
    });
    expect((await view()).saved.find((l) => l.id === rest)).toMatchObject({ match: 1, unknown: 1 });
    await save({ id: low, where: { measure: `score:${w3}`, is: '<', value: 14 }, added: [await idOf('s2')] });
    expect(await line()).toMatchObject({ match: 2, unknown: 0 });
    await expect(removeAudience(me(), 'NAV', low)).rejects.toThrow('“The rest” asks for this audience');
    await expect(
      save({ id: low, where: { measure: `audience:${rest}`, is: 'in', value: ['yes'] } }),
    ).rejects.toThrow('“Low on charts” would rest on itself, by way of “The rest”.');
    await removeAudience(me(), 'NAV', rest);
    expect(await removeAudience(me(), 'NAV', low)).toMatchObject({
      name: 'Low on charts',
      added: [await idOf('s2')],
    });
  });

  it('says what is gone, and is known of nobody then', async () => {
    // As it stands after its assignment was removed.
    const id = await save({});
    const where: Selection = { measure: 'status:999999', is: 'in', value: ['missing'] };
    await small.test.db.orm.update(audiences).set({ where }).where(eq(audiences.id, id));
    const line = (await view()).saved.find((l) => l.id === id)!;
    expect(line.faults).toEqual(['It asks for an assignment that is not in the course any more.']);
    expect(line).toMatchObject({ match: 0, unknown: 4 });
  });

  it('refuses a name that is taken, people of other courses, and who may not', async () => {
    await save({});
    await expect(save({})).rejects.toThrow('There is an audience called “Low on charts” already.');
    await expect(save({ name: 'Others', added: [999_999] })).rejects.toThrow('not in this course');
    await expect(save({ name: 'Nonsense', where: { measure: 'colour', is: 'known' } })).rejects.toThrow(
      'nothing called',
    );
    await expect(saveAudience(small.course.stranger, 'NAV', form({ name: 'x' }))).rejects.toThrow();
    await expect(audiencesView(small.course.stranger, 'NAV', {})).rejects.toThrow();
    await expect(
      traitCells((await small.course.student('s1')).viewer, 'NAV', ['standing']),
    ).rejects.toThrow();
  });

  it('leaves whoever withdraws', async () => {
    const { orm } = small.test.db;
    const who = await idOf('s1');
    const id = await save({ added: [who] });
    const count = async () => (await view()).saved.find((l) => l.id === id)!.match;
    expect(await count()).toBe(4);
    await orm.update(enrolments).set({ status: 'withdrawn' }).where(eq(enrolments.id, who));
    expect(await count()).toBe(3);
    await orm.update(enrolments).set({ status: 'active' }).where(eq(enrolments.id, who));
  });
});

it('a filter of the gradebook as an audience is the same students, for each column', async () => {
  const view = await gradebookView(me(), 'NAV', { w: 'term', g: 'all', k: 'all' });
  const traits = await classTraits(await snapshotOf(await requireCourse(me(), 'look', 'NAV')));
  let some = 0;
  for (const [place, column] of view.columns.entries())
    for (const filter of FILTERS) {
      const rows = view.rows.filter((r) => gradeMatches(r, column, place, filter, view.bands));
      const where = gradeSelection(filter, column, view.bands);
      const { match } = await traits.members({ where, added: [], removed: [] });
      expect(
        [...match].sort((a, b) => a - b),
        `${column.title}: ${filter}`,
      ).toEqual(rows.map((r) => r.enrolmentId).sort((a, b) => a - b));
      some += rows.length;
    }
  expect(some).toBeGreaterThan(5);
});
