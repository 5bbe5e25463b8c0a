import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ABOUTS, type About } from '../acts/pick';
import { listed } from '../format';
import { MERGE_FIELDS, mergeValues, type MergeFacts } from './fields';
import type { StudentMeasures } from '../measures/studentMeasures';
import { docText } from './docText';
import { mailHtml, mailText } from './mailText';
import { keptFileName, messageIdOf } from './messageId';
import { starterFor } from './starters';
import { parseTemplate, render } from './template';

const facts: MergeFacts = {
  givenName: 'Łucja',
  courseTitle: 'Coastal Navigation',
  missingTitles: ['Chart exercise 4', 'Tidal heights quiz', 'Watch diary'],
  measured: { rhythm: { daysSince: 9 }, standing: { standing: 63.6 } } as StudentMeasures,
  nextStep: 'Tidal heights in four pages',
  assignment: {
    title: 'Tidal heights quiz',
    score: '4 of 10',
    due: 'Sun 22 Nov 23:59',
    notOpened: ['Reading a tide table'],
    answer: 'B',
  },
  outcomes: ['Tidal heights', 'Tidal streams'],
  instructorName: 'Ines Calloway',
};
const nobody: MergeFacts = {
  ...facts,
  missingTitles: [],
  measured: null,
  nextStep: null,
  assignment: null,
  outcomes: [],
};
const fill = (template: string, f = facts) => render(parseTemplate(template).parts, mergeValues(f));

describe('templates', () => {
  it('fill every field', () => {
    const all = MERGE_FIELDS.map((f) => `{${f}}`).join('; ');
    expect(fill(all).text).toBe(
      'Łucja; Coastal Navigation; Chart exercise 4, Tidal heights quiz and Watch diary; 9 days; 64 %; Tidal heights in four pages; Tidal heights quiz; 4 of 10; Tidal heights and Tidal streams; Sun 22 Nov 23:59; Reading a tide table; B; Ines Calloway',
    );
  });
  it('use the fallback where a field is empty, and say where there is none', () => {
    expect(fill('{standing | not graded yet}', nobody)).toEqual({ text: 'not graded yet', holes: [] });
    expect(fill('{standing}', nobody)).toEqual({ text: '', holes: ['standing'] });
    expect(fill('{standing | not graded yet}').text).toBe('64 %');
    expect(fill('{standing |}', nobody)).toEqual({ text: '', holes: [] });
  });
  it('do not mind case and spaces, and keep a doubled brace', () => {
    expect(fill('{ First   Name } {{x}').text).toBe('Łucja {x}');
  });
  it('name what is wrong, with its line', () => {
    expect(parseTemplate('a\n{nickname}').errors).toEqual([
      { line: 2, reason: expect.stringContaining('“nickname”') },
    ]);
    expect(parseTemplate('a\n\n{first name').errors).toEqual([
      { line: 3, reason: expect.stringContaining('not closed') },
    ]);
    expect(parseTemplate('{first {name}').errors).toHaveLength(2);
  });
  it('leave any text without braces as it is', () => {
    fc.assert(
      fc.property(
        fc.string().filter((s) => !s.includes('{')),
        (text) => {
          expect(fill(text)).toEqual({ text, holes: [] });
        },
      ),
    );
  });
  it('never repeat a field inside a field: what is filled in is not read again', () => {
    expect(fill('{first name}', { ...facts, givenName: '{standing}' }).text).toBe('{standing}');
  });
});

describe('texts to begin with', () => {
  it.each(ABOUTS)('%s: is valid, and has no hole even for who has nothing', (kind) => {
    const { subject, doc } = starterFor(kind);
    for (const text of [subject, docText(doc)]) {
      expect(parseTemplate(text).errors).toEqual([]);
      expect(fill(text, nobody).holes).toEqual([]);
    }
  });
});

describe('a text for a reason', () => {
  const texts = (about: About) =>
    [starterFor(about).subject, docText(starterFor(about).doc)].map((t) => fill(t).text);
  it('praises for praise, names a missing assignment, and says score and outcome of a low one', () => {
    expect(texts('on time')[0]).toBe('Everything in on time: well done');
    expect(texts('missing assignment')[0]).toBe('Tidal heights quiz is still open');
    const [subject, body] = texts('low score');
    expect(subject).toBe('Your result in Tidal heights quiz');
    expect(body).toContain(
      'You scored 4 of 10 in Tidal heights quiz. It was about Tidal heights and Tidal streams',
    );
    expect(texts('low standing')[1]).toContain('Tidal heights');
  });
});

describe('mail', () => {
  it('lists things as one says them', () => {
    expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listed)).toEqual(['', 'a', 'a and b', 'a, b and c']);
  });
  it('carries the plan and the way home', () => {
    const text = mailText('Hello', {
      steps: [{ title: 'Quiz', minutes: 20, on: '2026-11-26' }],
      home: 'http://x/home',
    });
    expect(text).toBe(
      'Hello\n\nYour plan\n1. Quiz, about 20 min, by Thu 26 Nov\n\n--\nYou can read this and tick off your steps at http://x/home\n',
    );
    const bare = { steps: [], home: 'http://x/home' };
    expect(mailText('Hello', bare)).not.toContain('Your plan');
    expect(mailText('Hello', bare)).not.toContain('a talk');
    expect(mailText('Hello', { ...bare, talks: true })).toContain('a time for a talk at http://x/home');
    expect(mailHtml('<p>Hello</p>', { ...bare, talks: true })).toContain(
      'a talk at <a href="http://x/home">',
    );
  });
  it('has one id a recipient, and a file name that is no path', () => {
    const id = messageIdOf(12, 'k-1');
    expect(id).toBe('<12.k-1@ready-lantern.example>');
    expect(keptFileName(id)).toBe('12.k-1@ready-lantern.example.eml');
    expect(keptFileName('<../../etc/passwd@x>')).not.toContain('/');
  });
});
