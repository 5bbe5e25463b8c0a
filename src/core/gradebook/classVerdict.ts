import { listed } from '../format';
import { bandWords, type BandCuts } from './bands';

/** From this share of low scores on, an assignment is a matter of the class rather than of single students: our own threshold. */
export const MANY_SHARE = 1 / 3;
/** Fewer grades say nothing about a class. */
export const LEAST_GRADES = 10;

/** How an assignment went for a class, as far as it has been graded. */
export interface Went {
  readonly title: string;
  readonly low: number;
  readonly graded: number;
  /** Titles of the outcomes it covers. */
  readonly outcomes: readonly string[];
  readonly cuts: BandCuts;
}

export type ClassVerdict = 'many struggled' | 'single students' | 'too few grades';

/** Whether so many low scores out of so many are a matter of the class. The one rule of every view. */
export function classVerdict({ low, graded }: Pick<Went, 'low' | 'graded'>): ClassVerdict {
  if (graded < LEAST_GRADES) return 'too few grades';
  return low / graded >= MANY_SHARE ? 'many struggled' : 'single students';
}

/** "Chart exercise 4: 24 of 71 under 60 % (Tidal heights and Estimated position)" */
export const wentWords = ({ title, low, graded, outcomes, cuts }: Went): string =>
  `${title}: ${low} of ${graded} ${bandWords('low', cuts)}${outcomes.length > 0 ? ` (${listed(outcomes)})` : ''}`;

/** The verdict as a sentence about one assignment whose title stands above it. */
export function verdictSentence(went: Went): string {
  const { low, graded, outcomes, cuts } = went;
  const have = `${low} of ${graded} scored ${bandWords('low', cuts)}`;
  switch (classVerdict(went)) {
    case 'many struggled':
      return `Many struggled: ${have}. Reteach ${outcomes.length > 0 ? listed(outcomes) : 'it'} to the class.`;
    case 'single students':
      return `${have}: help these students rather than the class.`;
    case 'too few grades':
      return `Only ${graded} graded so far: too few to say how the class did.`;
  }
}

/** The worst of those in which many struggled first. */
export const mostStruggled = <W extends Pick<Went, 'low' | 'graded'>>(all: readonly W[]): W[] =>
  all.filter((w) => classVerdict(w) === 'many struggled').sort((a, b) => b.low / b.graded - a.low / a.graded);
