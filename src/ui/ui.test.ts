import type { StudentMeasures } from '@/core/measures/studentMeasures';
import { describe, expect, it } from 'vitest';
import { mergeValues } from '@/core/messages/fields';
import { docOf } from '@/core/messages/doc';
import { docText } from '@/core/messages/docText';
import { pickedFor, type About } from '@/core/acts/pick';
import type { ComposeRecipient } from '@/core/views/compose';
import { blockLabel, blocksOf, coverWords, draftSteps, previewFor, toStepInput } from './compose/draft';
import { cellLabel } from './gradebook/cellLabel';
import { classes } from './parts/classes';
import {
  counted,
  dayAndTime,
  minutesText,
  oneDigit,
  percentText,
  shortDay,
  spanText,
  weekdayAndTime,
  weekdayDay,
} from '@/core/format';
import { withScope } from './ribbon/withScope';

describe('figures and days as they are read', () => {
  it('say minutes in minutes, then in hours', () => {
    expect([0.4, 59.6, 119.4, 120, 200.2, 305, 119.6].map(minutesText)).toEqual([
      '0 min',
      '60 min',
      '119 min',
      '2 h',
      '3 h 20 min',
      '5 h 05 min',
      '2 h',
    ]);
  });
  it('count in words', () => {
    expect([
      counted(1, 'student'),
      counted(0, 'student'),
      counted(2, 'copy', 'copies'),
      counted(12_345, 'row'),
    ]).toEqual(['1 student', '0 students', '2 copies', '12,345 rows']);
    expect([percentText(null), percentText(49.5)]).toEqual(['none yet', '50 %']);
  });
  it('show instants in the zone of the course, over the change of clocks', () => {
    expect(dayAndTime(Date.parse('2026-10-24T22:30:00Z'), 'Europe/Lisbon')).toBe('24 Oct, 23:30');
    expect(dayAndTime(Date.parse('2026-10-25T22:30:00Z'), 'Europe/Lisbon')).toBe('25 Oct, 22:30');
    expect(weekdayAndTime(Date.parse('2026-11-22T23:59:00Z'), 'Europe/Lisbon')).toBe('Sun 22 Nov 23:59');
    expect([shortDay('2026-11-05'), weekdayDay('2026-11-25')]).toEqual(['5 Nov', 'Wed 25 Nov']);
  });
  it('join classes', () => expect(classes('a', false, null, undefined, 'b')).toBe('a b'));
});

describe('a draft', () => {
  const values = mergeValues({
    givenName: 'Bo',
    courseTitle: 'Navigation',
    missingTitles: [],
    measured: { rhythm: { daysSince: 1 }, standing: { standing: null } } as StudentMeasures,
    nextStep: 'Proposed step',
    assignment: null,
    outcomes: [],
    instructorName: 'Ines',
  });
  const recipient: ComposeRecipient = {
    enrolmentId: 7,
    name: 'Bo Li',
    section: null,
    email: null,
    active: true,
    picked: pickedFor('behind', 'behind'),
    givenName: 'Bo',
    mailCopies: true,
    lastSame: null,
    missing: [12, 13, 14],
    reasons: [],
    values,
    plan: [{ activity: '12', title: 'Quiz', minutes: 20, on: '2026-11-26', why: 'Not handed in yet' }],
  };
  it('makes steps to edit from the proposed ones, and back', () => {
    const steps = draftSteps(recipient);
    expect(steps.map(toStepInput)).toEqual([
      { activityId: 12, title: 'Quiz', minutes: 20, on: '2026-11-26', why: 'Not handed in yet' },
    ]);
    expect(new Set(steps.map((s) => s.key)).size).toBe(steps.length);
  });
  it('shows the first step of the plan as it is edited, or the proposed one without a plan', () => {
    const edited = [{ ...draftSteps(recipient)[0]!, title: 'My own words' }];
    const text = { subject: 'x', doc: docOf('{next step}') };
    const read = (steps: typeof edited | null) => docText(previewFor(text, values, steps, () => false).doc);
    expect(read(edited)).toBe('My own words');
    expect(read(null)).toBe('Proposed step');
  });
  it('is a text for each reason, or one for all', () => {
    const of = (id: number, about: About, activityId: number | null) => ({
      ...recipient,
      enrolmentId: id,
      picked: pickedFor(`${about} ${activityId}`, about, activityId),
    });
    const people = [of(1, 'improved', null), of(2, 'missing assignment', 5), of(3, 'missing assignment', 6)];
    const four = [...people, of(4, 'improved', null)];
    expect(blocksOf(four, false).map((b) => [b.about, b.activityId, b.ids])).toEqual([
      ['improved', null, [1, 4]],
      ['missing assignment', 5, [2]],
      ['missing assignment', 6, [3]],
    ]);
    expect(blocksOf(four, false).map((b, _, all) => blockLabel(b, all))).toEqual([
      'improved null',
      'missing assignment 5',
      'missing assignment 6',
    ]);
    const alike = [of(1, 'behind', null), of(2, 'slipping', null)].map((r) => ({
      ...r,
      picked: { ...r.picked, reason: 'new concern' },
    }));
    expect(blocksOf(alike, false).map((b, _, all) => blockLabel(b, all))).toEqual(['behind', 'slipping']);
    expect(blocksOf(four, true)).toEqual([
      expect.objectContaining({ about: 'other', activityId: null, ids: [1, 2, 3, 4] }),
    ]);
  });
  it('says how much of what is missing a plan covers', () => {
    expect(coverWords(draftSteps(recipient), recipient.missing)).toBe('Covers 1 of 3 missing assignments.');
    expect(coverWords([], [])).toBe('');
  });
  it('names the holes of a text, wrong braces beside them or not', () => {
    const text = { subject: '{nobody}', doc: docOf('a\n{standing}') };
    expect(previewFor(text, values, null, () => false).holes).toEqual(['standing']);
  });
});

describe('windows and addresses', () => {
  it('say a span of days once, however it lies', () => {
    expect(spanText({ from: '2026-11-19', to: '2026-11-25' })).toBe('19–25 Nov');
    expect(spanText({ from: '2026-10-28', to: '2026-11-03' })).toBe('28 Oct – 3 Nov');
    expect(spanText({ from: '2026-11-25', to: '2026-11-25' })).toBe('25 Nov');
    expect([oneDigit(12.34), oneDigit(12), oneDigit(-0.04)]).toEqual(['12.3', '12', '0']);
  });
  it('take window, group and kind along from view to view, and nothing else', () => {
    const address = new URLSearchParams('w=28d&g=2&show=away&student=7');
    expect(withScope('/c/NAV-110/trends', address)).toBe('/c/NAV-110/trends?w=28d&g=2');
    expect(withScope('/c/NAV-110/gradebook?status=missing', address)).toBe(
      '/c/NAV-110/gradebook?status=missing&w=28d&g=2',
    );
    expect(withScope('/c/NAV-110/lists', new URLSearchParams())).toBe('/c/NAV-110/lists');
  });
  it('say what a cell of the gradebook shows, the words of the cell first', () => {
    const column = { id: 1, title: 'Tides quiz', points: 10 } as Parameters<typeof cellLabel>[1];
    const row = (statuses: string, late: number[] = []) =>
      ({ given: 'Ida', family: 'Wren', statuses, points: [7], late }) as unknown as Parameters<
        typeof cellLabel
      >[0];
    const words = ['g', 'a', 'l', 'm', 'x', 'b'].map((s) => cellLabel(row(s), column, 0).split(': ')[1]);
    expect(words).toEqual(['7 of 10', 'to grade', 'late, to grade', 'missing', 'excused', 'before joining']);
    expect(cellLabel(row('g', [0]), column, 0)).toBe('Ida Wren, Tides quiz: late 7 of 10');
  });
});
