import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ActivityRecord, RosterRecord } from '../course/records';
import { ACTIVITY_FIELDS, keepUnsaid, ROSTER_FIELDS } from './unsaid';

const known: RosterRecord = {
  id: 's1',
  given: 'Ida',
  family: 'Wren',
  email: 'ida@x.example',
  section: 'Monday',
  status: 'withdrawn',
  joined: '2026-09-28',
  left: '2026-10-10',
};
const bare: RosterRecord = {
  ...known,
  family: 'Wren-Okafor',
  email: null,
  section: null,
  status: 'active',
  joined: null,
  left: null,
};

describe('what a source has no column for', () => {
  it('stays as it is known, while what it says counts, even if it says nothing', () => {
    const absent = ['email', 'section', 'status', 'joined'];
    expect(keepUnsaid(bare, known, absent, ROSTER_FIELDS)).toEqual({
      ...known,
      family: 'Wren-Okafor',
      left: null,
    });
    expect(keepUnsaid(bare, known, [], ROSTER_FIELDS)).toEqual(bare);
    expect(keepUnsaid(bare, undefined, absent, ROSTER_FIELDS)).toEqual(bare);
    expect(keepUnsaid(bare, known, ['shoe_size'], ROSTER_FIELDS)).toEqual(bare);
  });

  it('all optional columns away is no change but of what must be there', () => {
    const work: ActivityRecord = {
      id: 'w1',
      title: 'Chart 1',
      kind: 'quiz',
      category: 'Work',
      categoryWeight: 40,
      dropLowest: 1,
      points: 20,
      opens: 1,
      due: 2,
      closes: 3,
      minutes: 40,
      attempts: 2,
      outcomes: ['fix'],
    };
    fc.assert(
      fc.property(fc.subarray(Object.keys(ACTIVITY_FIELDS)), (absent) => {
        const read = {
          ...work,
          kind: 'page',
          opens: null,
          closes: null,
          minutes: null,
          attempts: null,
          outcomes: [],
        } as const;
        const kept = keepUnsaid<ActivityRecord>(read, work, absent, ACTIVITY_FIELDS);
        for (const [column, field] of Object.entries(ACTIVITY_FIELDS))
          expect(kept[field]).toEqual(absent.includes(column) ? work[field] : read[field]);
        expect(kept.title).toBe(work.title);
      }),
    );
  });
});
