import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseCodeFrom, freeCode, isCourseCode, LONGEST_CODE } from './courseCode';

describe('the code of a course', () => {
  it.each(['NAV', 'a', '9', 'NAV-101', 'A'.repeat(LONGEST_CODE)])('may be %s', (code) => {
    expect(isCourseCode(code)).toBe(true);
  });

  it.each(['', '-NAV', 'NAV 101', 'NAV/101', '..', 'Ä1', 'NAV\n', 'A'.repeat(LONGEST_CODE + 1)])(
    'may not be %j',
    (code) => {
      expect(isCourseCode(code)).toBe(false);
    },
  );

  it('is made of whatever a course is called elsewhere', () => {
    expect(courseCodeFrom('RAD 1')).toBe('RAD-1');
    expect(courseCodeFrom('Métier / été')).toBe('Me-tier-e-te');
    expect(courseCodeFrom('航海')).toBe('course');
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => isCourseCode(courseCodeFrom(text))));
  });

  it('stays as it is where it is one already, and ends in no hyphen', () => {
    const code = fc.stringMatching(/^[A-Za-z0-9]([A-Za-z0-9]|-[A-Za-z0-9]){0,9}$/);
    fc.assert(fc.property(code, (text) => courseCodeFrom(text) === text));
  });

  it('is told apart from those taken, however many they are', () => {
    expect(freeCode('NAV', new Set())).toBe('NAV');
    expect(freeCode('NAV', new Set(['NAV', 'NAV-2']))).toBe('NAV-3');
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 1, max: 120 }), (text, n) => {
        const code = courseCodeFrom(text);
        const taken = new Set<string>();
        for (let i = 0; i < n; i++) taken.add(freeCode(code, taken));
        return taken.size === n && [...taken].every(isCourseCode);
      }),
    );
  });
});
