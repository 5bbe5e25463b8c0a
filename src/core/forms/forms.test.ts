import { checkInForm } from './checkIn';
import { talkNoteForm, talkTimesForm } from './talk';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_INDICATORS } from '../flags/indicators';
import { MERGE_FIELDS } from '../messages/fields';
import { docOf } from '../messages/doc';
import { stepForm, stepsForm, textForm } from './message';
import { noteForm, seenForm } from './note';
import { faultOf } from './rules';
import { bandsForm, settingsForm } from './settings';
import { activityForm, courseForm, newCourseForm, sectionForm, studentForm } from './setup';

const COURSE = {
  title: 'Coastal Navigation',
  termName: 'Autumn 2026',
  zone: 'Europe/Lisbon',
  termStart: '2026-09-21',
  termWeeks: 14,
  breaks: [{ name: 'Half term', from: '2026-11-02', to: '2026-11-06' }],
  unitId: null,
  missing: 'zero',
  attempts: null,
};
const WORK = {
  id: null,
  title: 'Tidal heights',
  kind: 'assignment',
  categoryId: null,
  points: 20,
  opens: null,
  due: Date.UTC(2026, 9, 12, 21, 59),
  closes: null,
  attempts: null,
  minutes: 45,
  outcomeIds: [3],
};
const STEP = { activityId: null, title: 'Read it again', minutes: 20, on: '2026-11-26', why: '' };

describe('the forms of the set-up', () => {
  it.each([
    ['a whole course', {}, undefined],
    ['blanks for a title', { title: '  ' }, 'The title is empty.'],
    ['a zone that is none', { zone: 'Lisbon' }, '“Lisbon” is not a time zone like Europe/Lisbon.'],
    ['no number of weeks', { termWeeks: null }, 'Weeks: write a number.'],
    ['half a week', { termWeeks: 1.5 }, 'Weeks: write a whole number.'],
    ['too many weeks', { termWeeks: 61 }, 'Weeks: at most 60.'],
    [
      'a day that does not exist',
      { termStart: '2026-02-30' },
      '“2026-02-30” names a day that does not exist.',
    ],
    ['no day', { termStart: '' }, 'Choose a day.'],
    [
      'a break without a name',
      { breaks: [{ name: '', from: '2026-11-02', to: '2026-11-02' }] },
      'The name of a break is empty.',
    ],
    ['no breaks at all', { breaks: undefined }, expect.any(String)],
    ['text for a number', { termWeeks: '14' }, 'Weeks: write a number.'],
  ])('course: %s', (_, change, said) => {
    expect(faultOf(courseForm, { ...COURSE, ...change })).toEqual(said);
  });

  it('an assignment may have neither points nor dates, but no half minute', () => {
    expect(faultOf(activityForm, { ...WORK, points: null, due: null, minutes: null })).toBeUndefined();
    expect(faultOf(activityForm, { ...WORK, minutes: 2.5 })).toBe('Minutes: write a whole number.');
    expect(faultOf(activityForm, { ...WORK, due: Date.UTC(1900, 0) })).toBe('This lies too far back.');
    expect(faultOf(activityForm, { ...WORK, points: undefined })).toBeDefined();
  });

  it('a section meets at minutes of a day, or elsewhere on a day', () => {
    const section = (minutes: unknown) => ({
      id: null,
      name: 'Evening',
      meetings: [{ weekday: 3, startMinute: 1080, minutes }],
      exceptions: [
        { on: '2026-10-07', instead: null },
        { on: '2026-10-14', instead: { startMinute: 1140, minutes: 60 } },
      ],
    });
    expect(faultOf(sectionForm, section(120))).toBeUndefined();
    expect(faultOf(sectionForm, section(0))).toBe('Minutes: at least 1.');
  });

  it('a student has an address or none, and a course a plain code', () => {
    const student = { id: null, externalId: 's1', given: 'Tomasz', family: 'Okonedo', sectionId: null };
    expect(faultOf(studentForm, { ...student, email: null })).toBeUndefined();
    expect(faultOf(studentForm, { ...student, email: 'tomasz' })).toBe('That is not an e-mail address.');
    expect(faultOf(newCourseForm, { ...COURSE, code: 'NAV 120' })).toMatch(/letters, digits and hyphens/);
  });
});

describe('texts and steps', () => {
  it('a text says something in a line, and its braces hold merge fields', () => {
    expect(faultOf(textForm, { subject: 'A word', doc: docOf('Hello {first name | you}') })).toBeUndefined();
    expect(faultOf(textForm, { subject: ' ', doc: docOf('Hello') })).toBe('The subject is empty.');
    expect(faultOf(textForm, { subject: 'a\nb', doc: docOf('Hello') })).toBe('The subject must be one line.');
    expect(faultOf(textForm, { subject: 'A word', doc: docOf('x'.repeat(20_001)) })).toBe(
      'The message is longer than 20,000 characters.',
    );
    expect(faultOf(textForm, { subject: '{nobody}', doc: docOf('Hello') })).toMatch(/^The subject, line 1: /);
    const nickname = { type: 'field', attrs: { name: 'nickname', fallback: null } };
    expect(
      faultOf(textForm, {
        subject: 'A word',
        doc: { type: 'doc', content: [{ type: 'paragraph', content: [nickname] }] },
      }),
    ).toMatch(/^There is no merge field “nickname”\./);
    expect(faultOf(textForm, { subject: 'A word', doc: docOf(' \n\n') })).toBe('The message is empty.');
  });

  it('takes every merge field with any plain fallback', () => {
    const fallback = fc.stringMatching(/^[A-Za-z ,.]{0,30}$/);
    fc.assert(
      fc.property(fc.constantFrom(...MERGE_FIELDS), fallback, (field, text) => {
        expect(faultOf(textForm, { subject: 'A word', doc: docOf(`{${field} | ${text}}`) })).toBeUndefined();
      }),
    );
  });

  it('a step has a title, whole minutes and a day', () => {
    expect(faultOf(stepForm, STEP)).toBeUndefined();
    expect(faultOf(stepForm, { ...STEP, title: ' ' })).toBe('A step has no title.');
    expect(faultOf(stepForm, { ...STEP, minutes: null })).toBe('A step has no minutes.');
    expect(faultOf(stepForm, { ...STEP, minutes: 0.5 })).toBe('A step’s minutes must be whole.');
    expect(faultOf(stepsForm, { steps: Array.from({ length: 21 }, () => ({ ...STEP, key: 'k' })) })).toBe(
      'A plan has at most 20 steps.',
    );
  });

  it('a note may end with a blank or a new line, but must say something', () => {
    const note = { kind: 'talk', on: '2026-11-25', followUpOn: null, text: 'Agreed on Friday.\n' };
    expect(faultOf(noteForm, note)).toBeUndefined();
    expect(faultOf(noteForm, { ...note, text: ' \n' })).toBe('Write a word or two.');
    expect(faultOf(seenForm, { reason: 'Ill, and known ' })).toBeUndefined();
  });
});

describe('thresholds', () => {
  it('those that ship are sound, and act is never milder than watch', () => {
    const settings = { sessionGapMinutes: 30, indicators: DEFAULT_INDICATORS };
    expect(faultOf(settingsForm, settings)).toBeUndefined();
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 50 }), (watch, act) => {
        const said = faultOf(settingsForm, {
          ...settings,
          indicators: { ...DEFAULT_INDICATORS, behind: { watch, act } },
        });
        expect(said).toBe(act < watch ? 'Behind, act must not be under watch.' : undefined);
      }),
    );
  });

  it('set apart for a part of the class are held to the same', () => {
    const said = (own: object) =>
      faultOf(settingsForm, {
        sessionGapMinutes: 30,
        indicators: { ...DEFAULT_INDICATORS, apart: [own] },
      });
    const own = { part: 's3', kind: 'low standing', watch: 70, act: 60 };
    expect(said(own)).toBeUndefined();
    expect(said({ ...own, act: 71 })).toBe('Low standing, act must not be over watch.');
    expect(said({ ...own, watch: Number.NaN })).toBeDefined();
    expect(said({ ...own, part: 'everybody' })).toBeDefined();
    expect(said({ part: 'm2', kind: 'not seen', watch: 9, act: 8 })).toBe(
      'Not seen, act must not be under watch.',
    );
  });

  it('high begins above low', () => {
    const other = { low: 60, high: 85 };
    expect(faultOf(bandsForm, { practice: { low: 70, high: 71 }, other })).toBeUndefined();
    expect(faultOf(bandsForm, { practice: { low: 70, high: 70 }, other })).toBe(
      'High has to begin above low.',
    );
  });
});

describe('talks', () => {
  const times = {
    id: null,
    repeat: 'weekly',
    firstOn: '2026-11-24',
    lastOn: '2026-12-15',
    from: 840,
    until: 900,
    minutes: 20,
    place: 'Room 2',
    seats: 1,
    open: false,
    except: [],
  };
  it.each([
    [{}, undefined],
    [{ until: 840 }, 'The end must come after the start.'],
    [{ minutes: 61 }, 'Not even one talk fits between start and end.'],
    [{ lastOn: '2026-11-20' }, 'The last day lies before the first.'],
    [{ lastOn: '2028-11-20' }, 'Times can come for at most 400 days; choose an earlier day.'],
    [{ repeat: 'once', lastOn: '2026-11-20' }, undefined],
    [{ place: ' ' }, 'The place is empty.'],
    [{ except: ['2026-02-30'] }, expect.stringContaining('30') as string],
    [{ seats: 0 }, 'How many at once: at least 1.'],
  ])('times with %j', (over, fault) => {
    expect(faultOf(talkTimesForm, { ...times, ...over })).toEqual(fault);
  });
  it('a note of a talk has what was agreed as a whole, or nothing of it', () => {
    const note = { on: '2026-11-25', text: '', agreed: null };
    const agreed = { goal: 'Hand in', step: 'Exercise 3', on: '2026-12-02', said: '' };
    expect(faultOf(talkNoteForm, note)).toBeUndefined();
    expect(faultOf(talkNoteForm, { ...note, agreed })).toBeUndefined();
    expect(faultOf(talkNoteForm, { ...note, agreed: { ...agreed, step: ' ' } })).toBe(
      'Say what comes first.',
    );
    expect(faultOf(talkNoteForm, { ...note, agreed: undefined })).toBeDefined();
  });
  it('how it goes is one of three, and what is in the way one of five', () => {
    const said = { course: 'NAV', how: 'well', inTheWay: ['time', 'health'], word: '' };
    expect(faultOf(checkInForm, said)).toBeUndefined();
    expect(faultOf(checkInForm, { ...said, how: 'fine' })).toBe('Choose how it goes.');
    expect(faultOf(checkInForm, { ...said, inTheWay: ['money'] })).toBeDefined();
  });
});
