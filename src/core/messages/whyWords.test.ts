import { expect, test } from 'vitest';
import { ABOUTS } from '../acts/pick';
import { whyWords } from './whyWords';

test('the line names the assignment where it is about one', () => {
  expect(whyWords('missing assignment', 'Tidal heights')).toBe(
    'You got this because “Tidal heights” is not handed in.',
  );
  expect(whyWords('low score', null)).toBe('You got this because of your score on an assignment.');
  expect(whyWords('other', 'Tidal heights')).toBeNull();
});

test('no line states minutes, a threshold or a judgement of the student', () => {
  for (const about of ABOUTS) {
    const line = whyWords(about, null);
    if (line) expect(line).not.toMatch(/\d|minute|risk|lazy|fail|weak|threshold/i);
  }
});
