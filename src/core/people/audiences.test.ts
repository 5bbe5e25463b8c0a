import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FLAG_KINDS } from '../flags/indicators';
import type { Selection } from '../rules/selection';
import { pickOfAudience } from './pickOfAudience';
import { audienceMembers, circleOf, faultsIn } from './savedAudience';
import { selectionSentence } from './selectionWords';
import { firstTest, moved, retested } from './testEdits';
import { CHOSEN_BY, MOST_DAYS, ofDays, traitKey, traitOf, type Trait } from './trait';
import { traitAbout, type ClassAbout } from './traitAbout';
import { traitChoices } from './traitChoices';

const course: ClassAbout = {
  works: [
    { id: 4, title: 'Chart exercise 4', points: 20 },
    { id: 5, title: 'Log book', points: null },
  ],
  sections: ['Monday evening', 'Online'],
  groups: [{ id: 2, name: 'Harbour cadets' }],
  outcomes: [{ id: 3, title: 'Tidal heights' }],
  audiences: [{ id: 7, name: 'Behind on charts' }],
};

const id = fc.integer({ min: 1, max: 999_999_999 });
const days = fc.integer({ min: 1, max: MOST_DAYS });
const trait: fc.Arbitrary<Trait> = fc.oneof(
  fc
    .tuple(fc.constantFrom(...CHOSEN_BY), days)
    .map(([measure, d]): Trait => ({ of: 'measure', measure, ...(ofDays(measure) ? { days: d } : {}) })),
  fc
    .tuple(fc.constantFrom('score' as const, 'percent' as const, 'status' as const, 'late' as const), id)
    .map(([of, work]): Trait => ({ of, work })),
  fc.tuple(id, days).map(([work, d]): Trait => ({ of: 'opened', work, days: d })),
  fc.constantFrom(...FLAG_KINDS).map((flag): Trait => ({ of: 'flag', flag })),
  id.map((outcome): Trait => ({ of: 'outcome', outcome })),
  id.map((group): Trait => ({ of: 'group', group })),
  id.map((audience): Trait => ({ of: 'audience', audience })),
  days.map((d): Trait => ({ of: 'written', days: d })),
  fc
    .constantFrom('section' as const, 'plan' as const, 'unread' as const, 'unanswered' as const)
    .map((of): Trait => ({ of })),
);

describe('the name of a trait', () => {
  it('is read back as the trait it stands for', () => {
    fc.assert(
      fc.property(trait, (t) => {
        expect(traitOf(traitKey(t))).toEqual(t);
      }),
    );
  });
  it.each([
    '',
    'minutes',
    'minutes:0',
    'minutes:7:7',
    'score',
    'score:x',
    'score:007',
    'flag:fine',
    'name',
    '__proto__',
  ])('“%s” is none', (key) => expect(traitOf(key)).toBeNull());
});

describe('a condition in words', () => {
  it.each<[Selection, string]>([
    [{ all: [] }, 'Every student.'],
    [{ any: [] }, 'Nobody yet.'],
    [{ all: [{ any: [] }] }, 'Nobody yet.'],
    [
      {
        all: [
          { measure: 'score:4', is: '<', value: 12 },
          { measure: 'written:7', is: 'in', value: ['no'] },
        ],
      },
      'Students with a score under 12 of 20 on Chart exercise 4 and not written to in the last 7 days.',
    ],
    [
      { measure: 'status:4', is: 'in', value: ['missing', 'excused'] },
      'Students with Chart exercise 4 not handed in or excused.',
    ],
    [
      {
        all: [
          { measure: 'section', is: 'in', value: ['Online'] },
          {
            not: {
              any: [
                { measure: 'minutes:28', is: '>=', value: 90 },
                { measure: 'group:2', is: '=', value: 'yes' },
              ],
            },
          },
          { measure: 'standing', is: 'lowest', percent: 15, after: 5 },
        ],
      },
      'Students in the section Online, not (with minutes of at least 90 in the last 28 days or in the group Harbour cadets), and among the 15 % after the lowest 5 % by standing.',
    ],
    [
      { measure: 'percent:4', is: 'between', value: 40, to: 60 },
      'Students with a score from 40 to 60 % on Chart exercise 4.',
    ],
    [
      { measure: 'flag:behind', is: 'in', value: ['act', 'watch'] },
      'Students flagged “behind” as act or watch.',
    ],
    [{ measure: 'opened work:5:1', is: 'in', value: ['no'] }, 'Students who did not open Log book today.'],
    [{ measure: 'score:9', is: '<', value: 1 }, 'Students (by something that is gone).'],
  ])('%j', (where, said) => expect(selectionSentence(where, course)).toBe(said));

  it('can be said of every row that can be begun', () => {
    for (const choice of traitChoices(course)) {
      const made = choice.make(null)!;
      const about = traitAbout(made, course)!;
      const test = firstTest(made, about, course);
      expect(faultsIn(test, course), choice.value).toEqual([]);
      expect(selectionSentence(test, course), choice.value).not.toMatch(/undefined|null|NaN|\(/);
    }
  });
});

describe('an audience', () => {
  const ids = [1, 2, 3, 4];
  const cells: Record<string, (number | string | null)[]> = { 'score:4': [8, 15, null, 11] };
  const under: Selection = { measure: 'score:4', is: '<', value: 12 };
  const members = (added: number[], removed: number[]) =>
    audienceMembers({ where: under, added, removed }, ids, (key) => cells[key]!);

  it('counts those of whom it is not known apart', () => {
    expect(members([], [])).toEqual({ match: [1, 4], unknown: [3] });
  });
  it('keeps whom a hand put in or took out, known or not', () => {
    expect(members([3, 2], [4])).toEqual({ match: [1, 2, 3], unknown: [] });
    expect(members([], [3])).toEqual({ match: [1, 4], unknown: [] });
    // Somebody who is not in the class any more is in no audience of it.
    expect(members([99], []).match).toEqual([1, 4]);
  });
  it('says what it asks for that is gone', () => {
    expect(faultsIn({ measure: 'score:9', is: '<', value: 1 }, course)).toEqual([
      'It asks for an assignment that is not in the course any more.',
    ]);
    expect(faultsIn({ any: [{ measure: 'group:9', is: 'in', value: ['yes'] }] }, course)).toEqual([
      'It asks for a group that is not in the course any more.',
    ]);
    expect(faultsIn({ measure: 'section', is: 'in', value: ['Friday'] }, course)).toEqual([
      'It asks for “Friday”, which is not in the course any more.',
    ]);
    expect(faultsIn({ measure: 'section', is: '<', value: 3 }, course)).toHaveLength(1);
    expect(faultsIn({ measure: 'score:4', is: '=', value: 'a lot' }, course)).toHaveLength(1);
    expect(faultsIn({ measure: 'colour', is: 'known' }, course)).toHaveLength(1);
  });
  it('that would rest on itself is found, by whatever way', () => {
    const asks = (audience: number): Selection => ({
      not: { measure: `audience:${audience}`, is: 'in', value: ['yes'] },
    });
    const all = new Map([
      [1, asks(2)],
      [2, asks(3)],
      [3, { all: [] }],
    ]);
    const whereOf = (n: number) => all.get(n);
    expect(circleOf(3, asks(3), whereOf)).toEqual([3, 3]);
    expect(circleOf(3, asks(1), whereOf)).toEqual([3, 1, 2, 3]);
    expect(circleOf(1, asks(2), whereOf)).toBeNull();
    expect(circleOf(4, asks(99), whereOf)).toBeNull();
  });
});

describe('editing', () => {
  it('keeps the numbers of a test that is asked in another way or elsewhere', () => {
    expect(retested({ measure: 'standing', is: '<', value: 60 }, 'between')).toEqual({
      measure: 'standing',
      is: 'between',
      value: 60,
      to: 60,
    });
    const minutes = traitAbout(traitOf('minutes:7')!, course);
    expect(
      moved({ measure: 'minutes:7', is: '<', value: 45 }, traitOf('minutes:28')!, course, minutes),
    ).toEqual({
      measure: 'minutes:28',
      is: '<',
      value: 45,
    });
    expect(moved({ measure: 'minutes:7', is: '<', value: 45 }, traitOf('score:4')!, course, minutes)).toEqual(
      {
        measure: 'score:4',
        is: '<',
        value: 12,
      },
    );
  });
});

describe('why the students of an audience are selected', () => {
  it.each<[Selection, string, number | null]>([
    [{ measure: 'score:4', is: '<', value: 12 }, 'low score', 4],
    [{ all: [{ measure: 'percent:4', is: '>=', value: 85 }] }, 'high score', 4],
    [{ measure: 'status:5', is: 'in', value: ['missing'] }, 'missing assignment', 5],
    [{ measure: 'flag:slipping', is: 'in', value: ['act'] }, 'slipping', null],
    [{ measure: 'section', is: 'in', value: ['Online'] }, 'other', null],
  ])('%j', (where, about, activityId) =>
    expect(pickOfAudience(where, course)).toMatchObject({ about, activityId }),
  );
});
