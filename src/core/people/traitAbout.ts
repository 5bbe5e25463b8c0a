import { GROUP_SAYS, LEVEL_SAYS, PLAN_SAYS, STATUS_SAYS } from './traitWords';
import { MASTERY_LEVELS } from '../outcomes/mastery';
import { measureOf } from '../measures/registry';
import type { CellStatus } from '../gradebook/status';
import { nounOf, type Trait } from './trait';

/** What there is in a course that students can be chosen by. */
export interface ClassAbout {
  readonly works: readonly { readonly id: number; readonly title: string; readonly points: number | null }[];
  readonly sections: readonly string[];
  readonly groups: readonly { readonly id: number; readonly name: string }[];
  readonly outcomes: readonly { readonly id: number; readonly title: string }[];
  readonly audiences: readonly { readonly id: number; readonly name: string }[];
  /** Whether it is asked for a rule that looks at one assignment each time. */
  readonly ofWork?: boolean;
}

/** A value that a trait can have, and how a sentence says that somebody has it. */
export interface TraitValue {
  readonly value: string;
  readonly label: string;
  /** "with Chart exercise 4 not handed in" */
  readonly phrase: string;
}

/** A trait as it is asked for and read: a number with its unit, or one of some values. */
export type TraitAbout =
  | {
      readonly kind: 'number';
      /** "minutes", "a score" */
      readonly noun: string;
      /** What stands behind a number: " %", " of 20". */
      readonly unit: string;
      /** What stands behind it all: " in the last 7 days", " on Chart exercise 4". */
      readonly span: string;
    }
  | { readonly kind: 'choice'; readonly values: readonly TraitValue[] };

const inDays = (days: number | undefined): string =>
  days == null ? '' : days === 1 ? ' today' : ` in the last ${days} days`;

const UNITS: Partial<Record<string, string>> = {
  'per cent': ' %',
  'points a week': ' points a week',
  points: ' points',
};

const yesNo = (label: readonly [string, string], yes: string, no: string): TraitAbout => ({
  kind: 'choice',
  values: [
    { value: 'yes', label: label[0], phrase: yes },
    { value: 'no', label: label[1], phrase: no },
  ],
});

/** What a trait is in a course; null if what it is about is not there (any more). */
export function traitAbout(trait: Trait, course: ClassAbout): TraitAbout | null {
  const work = 'work' in trait ? course.works.find((w) => w.id === trait.work) : undefined;
  switch (trait.of) {
    case 'measure':
      return {
        kind: 'number',
        noun: nounOf(trait.measure)!,
        unit: UNITS[measureOf(trait.measure).unit] ?? '',
        span: inDays(trait.days),
      };
    case 'score':
      return work?.points == null
        ? null
        : { kind: 'number', noun: 'a score', unit: ` of ${work.points}`, span: ` on ${work.title}` };
    case 'percent':
      return work?.points == null
        ? null
        : { kind: 'number', noun: 'a score', unit: ' %', span: ` on ${work.title}` };
    case 'status':
      return work
        ? {
            kind: 'choice',
            values: (Object.keys(STATUS_SAYS) as CellStatus[]).map((status) => ({
              value: status,
              label: STATUS_SAYS[status],
              phrase: `with ${work.title} ${STATUS_SAYS[status]}`,
            })),
          }
        : null;
    case 'late':
      return work
        ? yesNo(
            ['late', 'not late'],
            `with ${work.title} handed in late`,
            `with ${work.title} not handed in late`,
          )
        : null;
    case 'opened':
      return work
        ? yesNo(
            ['opened', 'not opened'],
            `who opened ${work.title}${inDays(trait.days)}`,
            `who did not open ${work.title}${inDays(trait.days)}`,
          )
        : null;
    case 'flag':
      return {
        kind: 'choice',
        values: [
          { value: 'act', label: 'act', phrase: `flagged “${trait.flag}” as act` },
          { value: 'watch', label: 'watch', phrase: `flagged “${trait.flag}” as watch` },
          { value: 'none', label: 'no flag', phrase: `without the flag “${trait.flag}”` },
        ],
      };
    case 'outcome': {
      const outcome = course.outcomes.find((o) => o.id === trait.outcome);
      return outcome
        ? {
            kind: 'choice',
            values: MASTERY_LEVELS.filter((l) => l !== 'too little data').map((level) => ({
              value: level,
              label: level,
              phrase: `${LEVEL_SAYS[level]} ${outcome.title}`,
            })),
          }
        : null;
    }
    case 'section':
      return {
        kind: 'choice',
        values: course.sections.map((s) => ({ value: s, label: s, phrase: `in the section ${s}` })),
      };
    case 'group': {
      const group = course.groups.find((g) => g.id === trait.group);
      return group ? yesNo(GROUP_SAYS, `in the group ${group.name}`, `not in the group ${group.name}`) : null;
    }
    case 'audience': {
      const audience = course.audiences.find((a) => a.id === trait.audience);
      return audience ? yesNo(GROUP_SAYS, `in “${audience.name}”`, `not in “${audience.name}”`) : null;
    }
    case 'this':
      if (!course.ofWork) return null;
      return trait.what === 'begun'
        ? yesNo(['begun', 'not begun'], 'who have begun it', 'who have not begun it')
        : trait.what === 'time'
          ? {
              kind: 'number',
              noun: 'time on its material',
              unit: ' % of the class’s median',
              span: '',
            }
          : { kind: 'number', noun: 'a score', unit: ' %', span: ' on it' };
    case 'written':
      return yesNo(
        ['written to', 'not written to'],
        `written to${inDays(trait.days)}`,
        `not written to${inDays(trait.days)}`,
      );
    case 'plan':
      return {
        kind: 'choice',
        values: Object.entries(PLAN_SAYS).map(([value, { label, phrase }]) => ({ value, label, phrase })),
      };
    case 'unanswered':
      return yesNo(
        ['yes', 'no'],
        'who have not answered the last message',
        'with no message left unanswered',
      );
    case 'unread':
      return yesNo(['yes', 'no'], 'with a message not read yet', 'with no message left unread');
  }
}
