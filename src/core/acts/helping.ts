import type { LocalDate } from '../units';

/** How far it is with one student helping another: each is asked in turn, and either may decline. */
export const HELPING_STATES = [
  'asked who is helped',
  'asked the helper',
  'agreed',
  'declined',
  'closed',
] as const;
export type HelpingState = (typeof HELPING_STATES)[number];

/** What comes of an answer: who would be helped is asked first, and the helper only with their consent. */
export function afterAnswer(state: HelpingState, yes: boolean): HelpingState | null {
  if (state !== 'asked who is helped' && state !== 'asked the helper') return null;
  if (!yes) return 'declined';
  return state === 'asked who is helped' ? 'asked the helper' : 'agreed';
}

/** One student helping another, as either of them sees it: the topic and the consent, nothing of scores. */
export interface OwnHelping {
  readonly id: number;
  readonly side: 'helper' | 'helped';
  /** The other's name, once the one who would be helped agreed that it is told; null before. */
  readonly other: string | null;
  readonly topic: string;
  readonly until: LocalDate;
  readonly state: HelpingState;
  readonly asksMe: boolean;
  readonly by: string;
}

/** The same as those who teach see it. */
export interface HelpingLine {
  readonly id: number;
  readonly helper: { readonly enrolmentId: number; readonly name: string };
  readonly helped: { readonly enrolmentId: number; readonly name: string };
  readonly topic: string;
  readonly until: LocalDate;
  readonly state: HelpingState;
  readonly own: boolean;
}
