import type { LocalDate } from '../units';
import { addDays } from '../calendar/zone';

/** How a word in passing went. */
export const PASSING_RESULTS = ['talked', 'will do it', 'needs help', 'all is well', 'not there'] as const;
export type PassingResult = (typeof PASSING_RESULTS)[number];

/** The results as they read in the history. */
export const PASSING_WORDS: Readonly<Record<PassingResult, string>> = {
  talked: 'Talked in passing',
  'will do it': 'Talked in passing: will do it',
  'needs help': 'Talked in passing: needs help',
  'all is well': 'Talked in passing: all is well',
  'not there': 'Was not there',
};

/** Days until one looks again after a word in passing; null where there is nothing to look at. */
const LOOK_AGAIN_DAYS: Readonly<Record<PassingResult, number | null>> = {
  talked: 7,
  'will do it': 3,
  'needs help': 1,
  'all is well': null,
  'not there': 2,
};

/** The day to look again after a word in passing. */
export function lookAgainAfter(result: PassingResult, on: LocalDate): LocalDate | null {
  const days = LOOK_AGAIN_DAYS[result];
  return days == null ? null : addDays(on, days);
}

/** Whether somebody was spoken to: who was not there was not. */
export const wasSpokenTo = (result: PassingResult): boolean => result !== 'not there';
