import { describe, expect, it } from 'vitest';
import type { MasteryLevel } from '../outcomes/mastery';
import { weeklyAnswers } from './answers';
import type { StudentFacts, WeeklyFacts, WorkFacts } from './facts';

const student = (id: number, known: Partial<StudentFacts> = {}): StudentFacts => ({
  id,
  studentId: `s${id}`,
  name: `Student ${id}`,
  section: 'Monday',
  days: 4,
  minutes: 100,
  minutesBefore: 100,
  due: 2,
  onTime: 1,
  missing: 0,
  standing: 70,
  standingBefore: 70,
  turned: null,
  turnChange: null,
  newActs: [],
  flagged: false,
  silence: 0,
  usualGap: 1,
  outcomes: new Map(),
  ...known,
});
const work = (id: number, known: Partial<WorkFacts> = {}): WorkFacts => ({
  id,
  title: `Work ${id}`,
  due: 1,
  graded: 12,
  low: 1,
  outcomes: ['Tidal heights'],
  cuts: { low: 60, high: 85 },
  inWindow: true,
  comesDue: false,
  handedIn: 0,
  opened: 0,
  ...known,
});
const answers = (known: Partial<WeeklyFacts>) => {
  const facts = { students: [], works: [], outcomes: [], openedFlags: 0, closedFlags: 0, ...known };
  return new Map(weeklyAnswers(facts).map((a) => [a.id, a]));
};
const ids = (a: { list: readonly { id: number }[] } | undefined) => a!.list.map((n) => n.id);

describe('the weekly look', () => {
  it('praises who handed in everything on time, misses nothing from before and has no flag', () => {
    const found = answers({
      students: [
        student(1, { onTime: 2 }),
        student(2, { onTime: 2, missing: 1 }),
        student(3, { due: 0, onTime: 0 }),
        student(4, { onTime: 2, flagged: true }),
      ],
    });
    expect(ids(found.get('finished'))).toEqual([1]);
    expect(found.get('finished')!.sentence).toContain('1 of 3');
  });

  it('names who stands out, the most first, nobody who is flagged, and says how', () => {
    const found = answers({
      students: [
        student(1, { standing: 74 }),
        student(2, { standing: 80 }),
        student(3, { standing: 72.9 }),
        student(4, { turned: 'up', turnChange: 12.34 }),
        student(5, { standing: 99, flagged: true }),
      ],
    });
    expect(ids(found.get('improved'))).toEqual([2, 1, 4]);
    expect(found.get('improved')!.list.map((n) => n.note)).toEqual([
      'standing 70 % → 80 %',
      'standing 70 % → 74 %',
      '+12.3 points against the class',
    ]);
  });

  it('checks on new reasons to act and on turns down, and names who was not there', () => {
    const found = answers({
      students: [
        student(1, { turned: 'down', turnChange: -9 }),
        student(2, { newActs: ['No login for 9 days.'] }),
        student(3, { days: 0, silence: 1 }),
      ],
    });
    expect(ids(found.get('check'))).toEqual([2, 1]);
    expect(found.get('away')!.list).toEqual([
      { kind: 'student', id: 3, studentId: 's3', name: 'Student 3', note: '1 teaching day away' },
    ]);
  });

  it('reteaches what a third struggled with, and nothing outside the window', () => {
    const found = answers({
      works: [work(1, { low: 4 }), work(2, { low: 9, inWindow: false }), work(3, { low: 9, graded: 9 })],
    });
    expect(ids(found.get('class'))).toEqual([1]);
    expect(found.get('class')!.reason).toBeNull();
  });

  it('pairs who is secure and steady with who is not yet there, the same section first, each once', () => {
    const level = (l: MasteryLevel) => new Map([[7, l]]);
    const found = answers({
      outcomes: [{ id: 7, title: 'Tidal heights' }],
      students: [
        student(1, { standing: 95, section: 'Online', outcomes: level('secure') }),
        student(2, { standing: 95, outcomes: level('secure') }),
        student(3, { standing: 95, outcomes: level('secure'), silence: 9 }),
        student(4, { standing: 40, outcomes: level('not yet') }),
        student(5, { standing: 40, outcomes: level('not yet') }),
        student(6, { standing: 50, outcomes: level('developing') }),
      ],
    });
    expect(ids(found.get('helpers'))).toEqual([2, 1]);
    expect(found.get('helpers')!.list[0]!.note).toBe('could help Student 4 with Tidal heights, both Monday');
    expect(found.get('class')!.sentence).toContain('Tidal heights is “not yet” for 2 of 6');
  });

  it('lists what comes due in order, and has a rule and a sentence for everything even without data', () => {
    const found = answers({
      works: [work(1, { comesDue: true, due: 9 }), work(2, { comesDue: true, due: 5 })],
    });
    expect(ids(found.get('due'))).toEqual([2, 1]);
    for (const answer of answers({}).values()) {
      expect(answer.sentence).toMatch(/\.$/);
      expect(answer.rule.length).toBeGreaterThan(20);
      expect(answer.list).toEqual([]);
    }
  });
});
