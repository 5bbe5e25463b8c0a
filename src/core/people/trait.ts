import { FLAG_KINDS, type FlagKind } from '../flags/indicators';
import { MEASURES, type MeasureKey } from '../measures/registry';

/** What students are chosen by: a measure, something of one assignment, where they belong, what was said to them. */
export type Trait =
  | { readonly of: 'measure'; readonly measure: MeasureKey; readonly days?: number }
  | { readonly of: 'score' | 'percent' | 'status' | 'late'; readonly work: number }
  | { readonly of: 'opened'; readonly work: number; readonly days: number }
  | { readonly of: 'flag'; readonly flag: FlagKind }
  | { readonly of: 'outcome'; readonly outcome: number }
  | { readonly of: 'group'; readonly group: number }
  | { readonly of: 'audience'; readonly audience: number }
  | { readonly of: 'written'; readonly days: number }
  /** Of the assignment that a rule looks at a student for. */
  | { readonly of: 'this'; readonly what: ThisTrait }
  | { readonly of: 'section' | 'plan' | 'unread' | 'unanswered' };

/** What a rule can ask of the assignment that is its occasion. */
export const THIS_TRAITS = ['percent', 'time', 'begun'] as const;
export type ThisTrait = (typeof THIS_TRAITS)[number];

/** Measures that people can be chosen by. */
export const CHOSEN_BY = (Object.keys(MEASURES) as MeasureKey[]).filter((key) => nounOf(key) != null);

export function nounOf(key: MeasureKey): string | undefined {
  const found = MEASURES[key];
  return 'noun' in found ? found.noun : undefined;
}

/** Whether a measure is of the last so many days. */
export const ofDays = (key: MeasureKey): boolean =>
  MEASURES[key].needs.some((need) => need === 'window' || need === 'days');

/** Longest stretch of days that can be asked for. */
export const MOST_DAYS = 365;

/** A trait as the name of a column: what a condition calls its measure. */
export function traitKey(trait: Trait): string {
  switch (trait.of) {
    case 'measure':
      return trait.days == null ? trait.measure : `${trait.measure}:${trait.days}`;
    case 'score':
    case 'percent':
    case 'status':
    case 'late':
      return `${trait.of}:${trait.work}`;
    case 'opened':
      return `opened work:${trait.work}:${trait.days}`;
    case 'flag':
      return `flag:${trait.flag}`;
    case 'outcome':
      return `outcome:${trait.outcome}`;
    case 'group':
      return `group:${trait.group}`;
    case 'audience':
      return `audience:${trait.audience}`;
    case 'written':
      return `written:${trait.days}`;
    case 'this':
      return `this:${trait.what}`;
    case 'section':
    case 'plan':
    case 'unread':
    case 'unanswered':
      return trait.of;
  }
}

/** The trait that a name stands for; null if there is none of that name. */
export function traitOf(key: string): Trait | null {
  const [head = '', ...rest] = key.split(':');
  const [first, second] = rest.map((text) => (/^\d{1,9}$/.test(text) ? Number(text) : null));
  const days = (n: number | null | undefined) => (n != null && n >= 1 && n <= MOST_DAYS ? n : null);
  const found = ((): Trait | null => {
    switch (head) {
      case 'score':
      case 'percent':
      case 'status':
      case 'late':
        return first == null ? null : { of: head, work: first };
      case 'opened work':
        return first == null || days(second) == null ? null : { of: 'opened', work: first, days: second! };
      case 'flag': {
        const flag = FLAG_KINDS.find((kind) => kind === rest[0]);
        return flag ? { of: 'flag', flag } : null;
      }
      case 'outcome':
        return first == null ? null : { of: 'outcome', outcome: first };
      case 'group':
        return first == null ? null : { of: 'group', group: first };
      case 'audience':
        return first == null ? null : { of: 'audience', audience: first };
      case 'written':
        return days(first) == null ? null : { of: 'written', days: first! };
      case 'this': {
        const what = THIS_TRAITS.find((t) => t === rest[0]);
        return what ? { of: 'this', what } : null;
      }
      case 'section':
      case 'plan':
      case 'unread':
      case 'unanswered':
        return { of: head };
      default: {
        const measure = CHOSEN_BY.find((m) => m === head);
        if (!measure) return null;
        if (!ofDays(measure)) return { of: 'measure', measure };
        return days(first) == null ? null : { of: 'measure', measure, days: first! };
      }
    }
  })();
  // One name for one trait: what is written otherwise, or has more behind it, is none.
  return found && traitKey(found) === key ? found : null;
}
