import type { About } from '../acts/pick';
import { docOf } from '../messages/doc';
import { starterFor } from '../messages/starters';
import type { Selection } from '../rules/selection';
import type { RuleParts, Then, When } from './rule';

/** A number in the sentence of a starter. */
export interface StarterNumber {
  readonly key: string;
  /** What it is, read out. */
  readonly label: string;
  readonly usual: number;
  readonly least: number;
  readonly most: number;
}

/** A rule to begin with: one sentence with its numbers. */
export interface RuleStarter {
  readonly name: string;
  /** Words, and numbers by their keys: `{percent}`. */
  readonly sentence: string;
  readonly numbers: readonly StarterNumber[];
  readonly make: (numbers: Readonly<Record<string, number>>) => RuleParts;
}

const number = (key: string, label: string, usual: number, least: number, most: number): StarterNumber => ({
  key,
  label,
  usual,
  least,
  most,
});

const QUIZ: When = { on: 'graded', which: { kind: 'quiz' } };

/** A text by a rule: it states no minutes and supposes no laziness, as little recorded time may be work on paper. */
const writes = (
  about: About,
  how: Partial<Then> & { readonly text?: { readonly subject: string; readonly body: string } } = {},
): Then => {
  const { text, ...rest } = how;
  const { subject, doc } = text ? { subject: text.subject, doc: docOf(text.body) } : starterFor(about);
  return { do: 'message', approve: false, withPlan: false, offersTalk: false, subject, doc, ...rest };
};

const percent = (is: '<' | '>=', value: number): Selection => ({ measure: 'this:percent', is, value });

/** The rules to begin with, by their keys. Their numbers are common practice, and each can be changed in its place. */
export const RULE_STARTERS: Readonly<Record<string, RuleStarter>> = {
  praise: {
    name: 'Praise',
    sentence: 'When a quiz is graded at {percent} % or more, praise the student.',
    numbers: [number('percent', 'Praise from, per cent', 85, 1, 100)],
    make: (n) => ({
      when: QUIZ,
      where: percent('>=', n.percent!),
      about: 'high score',
      then: writes('high score'),
    }),
  },
  reminder: {
    name: 'Back to the material',
    sentence:
      'When a quiz is graded under {percent} % and the time on its material was under {share} % of the class’s median, name what has not been opened yet.',
    numbers: [
      number('percent', 'Score under, per cent', 60, 1, 100),
      number('share', 'Time under, per cent of the median', 50, 1, 100),
    ],
    make: (n) => ({
      when: QUIZ,
      where: { all: [percent('<', n.percent!), { measure: 'this:time', is: '<', value: n.share! }] },
      about: 'low score',
      then: writes('low score', {
        approve: true,
        text: {
          subject: 'Before we go on from {assignment | the quiz}',
          body: 'Hello {first name | there},\n\nYou scored {score | lower than I had hoped} in {assignment | the quiz}. It was about {outcome | what we did in class}, and we will need that again.\n\nThese are worth a look: {not opened yet | the pages of that week, once more}.\n\nIf you have been over it on paper, or something else is in the way, tell me: a short answer is enough.\n\n{instructor}',
        },
      }),
    }),
  },
  'hard work': {
    name: 'Hard work, low score',
    sentence:
      'When a quiz is graded under {percent} % although the time on its material was at least {share} % of the class’s median, tell me, not the student.',
    numbers: [
      number('percent', 'Score under, per cent', 60, 1, 100),
      number('share', 'Time from, per cent of the median', 100, 1, 300),
    ],
    make: (n) => ({
      when: QUIZ,
      where: { all: [percent('<', n.percent!), { measure: 'this:time', is: '>=', value: n.share! }] },
      about: 'effort without progress',
      then: writes('effort without progress', { do: 'word', offersTalk: true }),
    }),
  },
  'not seen': {
    name: 'Not seen',
    sentence: 'When somebody has not been seen for {days} teaching days, ask how things are.',
    numbers: [number('days', 'Teaching days not seen', 7, 2, 60)],
    make: (n) => ({
      when: { on: 'holds', days: 0 },
      where: { measure: 'silence', is: '>=', value: n.days! },
      about: 'not seen',
      then: writes('not seen', { approve: true }),
    }),
  },
  'due soon': {
    name: 'Due and not begun',
    sentence: 'Remind a student {hours} hours before something is due that they have not begun.',
    numbers: [number('hours', 'Hours before it is due', 48, 2, 336)],
    make: (n) => ({
      when: { on: 'due', which: { any: true }, hours: n.hours! },
      where: { measure: 'this:begun', is: '=', value: 'no' },
      about: 'due soon',
      then: writes('due soon'),
    }),
  },
  'back again': {
    name: 'Back after a silence',
    sentence: 'When somebody comes back after {days} teaching days or more, welcome them.',
    numbers: [number('days', 'Teaching days away', 7, 2, 60)],
    make: (n) => ({
      when: { on: 'holds', days: 0 },
      where: { measure: 'backAfter', is: '>=', value: n.days! },
      about: 'back again',
      then: writes('back again', { approve: true }),
    }),
  },
  improved: {
    name: 'Improved',
    sentence:
      'When the last three graded assignments lie {points} points or more over those before, against the class, say so.',
    numbers: [number('points', 'Points against the class', 8, 1, 60)],
    make: (n) => ({
      when: { on: 'graded', which: { any: true } },
      where: { measure: 'gain', is: '>=', value: n.points! },
      about: 'improved',
      then: writes('improved'),
    }),
  },
};

export const usualNumbers = (key: string): Record<string, number> =>
  Object.fromEntries((RULE_STARTERS[key]?.numbers ?? []).map((n) => [n.key, n.usual]));
