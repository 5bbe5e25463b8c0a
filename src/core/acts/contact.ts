import type { Instant } from '../units';

/** By which way something was said. */
export const CONTACT_WAYS = [
  'here',
  'here and by e-mail',
  'e-mail',
  'talk',
  'call',
  'booking',
  'check-in',
] as const;
export type ContactWay = (typeof CONTACT_WAYS)[number];

/** One thing that was said between a student and those who teach them. */
export interface Contact {
  readonly at: Instant;
  readonly enrolmentId: number;
  /** Out to the student, in from them, or both in a talk. */
  readonly direction: 'out' | 'in' | 'both';
  readonly way: ContactWay;
  /** Who said it, or who was the instructor. */
  readonly by: string;
  readonly about: string;
  readonly text: string;
  /** What became of it, for a message. */
  readonly state: string;
}
