import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meetingSpans } from '../calendar/meetings';
import { findCircle, outcomeCircle } from '../outcomes/prerequisites';
import { checkUp, type CheckedCourse } from './checkUp';
import { dueChange } from './dueChange';

const good: CheckedCourse = {
  sections: [{ id: 1, name: 'Monday', meetings: 1 }],
  categories: [
    { id: 1, name: 'Chart work', weight: 60 },
    { id: 2, name: 'Quizzes', weight: 40 },
  ],
  works: [
    { id: 1, title: 'Chart 1', kind: 'assignment', due: 5, points: 20, categoryId: 1, outcomes: 1 },
    { id: 2, title: 'Quiz 1', kind: 'quiz', due: 5, points: 10, categoryId: 2, outcomes: 1 },
    { id: 3, title: 'A page', kind: 'page', due: null, points: null, categoryId: null, outcomes: 0 },
  ],
  outcomes: [{ id: 1, title: 'Fixing', covered: true, levels: [] }],
  students: [
    { id: 1, name: 'Ida Wren', email: 'ida@x.example', status: 'active', sectionId: 1, hasEvents: true },
  ],
  waitingRows: 0,
};
const found = (more: Partial<CheckedCourse>) => checkUp({ ...good, ...more }).map((f) => f.what);

describe('check-up', () => {
  it('finds nothing in a course that is whole', () => expect(checkUp(good)).toEqual([]));

  it('finds each thing that misleads', () => {
    const [work, quiz] = good.works;
    const [ida] = good.students;
    expect(found({ works: [{ ...work!, due: null }, quiz!] })).toEqual(['no due date']);
    expect(found({ categories: [{ ...good.categories[0]!, weight: 50 }, good.categories[1]!] })).toEqual([
      'weights',
    ]);
    expect(found({ works: [work!, { ...quiz!, categoryId: null }] })).toEqual([
      'weights',
      'empty category',
      'no category',
    ]);
    expect(
      found({ outcomes: [...good.outcomes, { id: 2, title: 'Tides', covered: false, levels: [] }] }),
    ).toEqual(['outcome not covered']);
    expect(found({ works: [work!, { ...quiz!, outcomes: 0 }] })).toEqual(['assignment without outcome']);
    expect(found({ sections: [{ id: 1, name: 'Online', meetings: 0 }] })).toEqual([
      'section without meetings',
    ]);
    expect(found({ students: [{ ...ida!, sectionId: null, email: null }] })).toEqual([
      'no section',
      'no address',
    ]);
    expect(found({ students: [{ ...ida!, hasEvents: false }] })).toEqual(['no events']);
    expect(found({ students: [ida!, { ...ida!, id: 2, email: 'other@x.example', sectionId: 2 }] })).toEqual([
      'twice on the roster',
    ]);
    expect(found({ students: [ida!, { ...ida!, id: 2, status: 'withdrawn', hasEvents: false }] })).toEqual(
      [],
    );
    expect(found({ waitingRows: 2 })).toEqual(['waiting rows']);
  });
});

describe('an outcome at which nearly everybody has the same level', () => {
  const levels = (alike: number, others: number) => [
    ...Array.from({ length: alike }, () => 'developing' as const),
    ...Array.from({ length: others }, () => 'secure' as const),
  ];
  it.each([
    [86, 14, ['outcome tells nobody apart']],
    [85, 15, []],
    [4, 0, []],
    [5, 0, ['outcome tells nobody apart']],
  ])('%d of one level and %d of another', (alike, others, what) => {
    const outcome = { ...good.outcomes[0]!, levels: levels(alike, others) };
    expect(found({ outcomes: [outcome] })).toEqual(what);
  });
  it('is named with its count', () => {
    const outcome = { ...good.outcomes[0]!, levels: levels(9, 1) };
    const [finding] = checkUp({ ...good, outcomes: [outcome] });
    expect(finding!.names).toEqual(['Fixing: 9 of 10 “developing”']);
  });
});

describe('circles', () => {
  it('names the way round', () => {
    const edges: Record<string, string[]> = { a: ['b'], b: ['c'], c: ['a'], d: ['a'] };
    expect(findCircle(Object.keys(edges), (id) => edges[id]!)).toEqual(['a', 'b', 'c', 'a']);
    expect(outcomeCircle(new Map([['x', { id: 'x', prerequisites: ['x'] }]]))).toEqual({
      among: 'prerequisites',
      ids: ['x', 'x'],
    });
    const parents = [
      { id: 'x', prerequisites: ['gone'], parent: 'y' },
      { id: 'y', prerequisites: [], parent: 'x' },
    ];
    expect(outcomeCircle(new Map(parents.map((o) => [o.id, o])))).toMatchObject({ among: 'parents' });
  });

  it('finds none where every edge leads to a smaller number, and always one after closing a path', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(20), fc.nat(20)), { maxLength: 60 }), (pairs) => {
        const down = new Map<string, string[]>();
        for (const [a, b] of pairs) {
          if (a === b) continue;
          const from = String(Math.max(a, b));
          down.set(from, [...(down.get(from) ?? []), String(Math.min(a, b))]);
        }
        const next = (id: string) => down.get(id) ?? [];
        expect(findCircle(down.keys(), next)).toBeNull();
        fc.pre(down.size > 0);
        const [[from, to]] = [...down] as [[string, string[]]];
        const closed = (id: string) => (id === to[0] ? [...next(id), from] : next(id));
        const circle = findCircle(down.keys(), closed)!;
        expect(circle[0]).toBe(circle.at(-1));
        circle.slice(1).forEach((id, i) => expect(closed(circle[i]!)).toContain(id));
      }),
    );
  });
});

describe('another due instant', () => {
  const score = (submitted: number | null) => ({
    activity: 'w',
    points: null,
    submitted,
    returned: null,
    excused: false,
  });
  it('says whose status changes, and leaves extensions alone', () => {
    const students = [
      { id: 1, score: undefined },
      { id: 2, score: score(15) },
      { id: 3, score: { ...score(null), due: 100 } },
      { id: 4, score: score(5) },
    ];
    expect(dueChange(students, true, 10, 20, 30)).toEqual([{ id: 2, from: 'late', to: 'awaiting grade' }]);
    expect(dueChange(students, true, 10, 50, 30)).toEqual([
      { id: 1, from: 'missing', to: 'not yet due' },
      { id: 2, from: 'late', to: 'awaiting grade' },
    ]);
    expect(dueChange(students, true, 50, null, 30)).toEqual([
      { id: 1, from: 'not yet due', to: 'no due date' },
    ]);
  });
});

describe('meetings with exceptions', () => {
  const term = {
    zone: 'Europe/Lisbon',
    start: '2026-10-19',
    weeks: 2,
    breaks: [{ name: 'b', from: '2026-10-26', to: '2026-10-30' }],
  };
  const monday = { weekday: 1, startMinute: 18 * 60, minutes: 120 };
  const days = (exceptions: Parameters<typeof meetingSpans>[2]) =>
    meetingSpans(term, [monday], exceptions).map((s) => new Date(s.from).toISOString());
  it('falls out, moves to another hour, meets a second time, and meets in a break if it says so', () => {
    expect(days([])).toEqual(['2026-10-19T17:00:00.000Z']);
    expect(days([{ on: '2026-10-19', instead: null }])).toEqual([]);
    expect(days([{ on: '2026-10-19', instead: { startMinute: 600, minutes: 60 } }])).toEqual([
      '2026-10-19T09:00:00.000Z',
    ]);
    // Summer time ended on 25 October 2026 (tz database, EU rules): 18:00 is 18:00 UTC from then on.
    expect(
      days([
        { on: '2026-10-26', instead: { startMinute: 18 * 60, minutes: 60 } },
        { on: '2026-10-26', instead: { startMinute: 20 * 60, minutes: 60 } },
      ]),
    ).toEqual(['2026-10-19T17:00:00.000Z', '2026-10-26T18:00:00.000Z', '2026-10-26T20:00:00.000Z']);
  });
});
