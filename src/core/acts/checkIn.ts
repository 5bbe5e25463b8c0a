import { DAY_MS, type Instant } from '../units';

/** How it goes, as a student says. */
export const HOWS = ['well', 'so so', 'not well'] as const;
export type How = (typeof HOWS)[number];

/** What is in the way, as a student says. */
export const IN_THE_WAY = ['time', 'the material', 'access', 'health', 'other'] as const;
export type InTheWay = (typeof IN_THE_WAY)[number];

/** What a student said of how it goes: circumstances, and never a score. */
export interface CheckIn {
  readonly id: number;
  readonly how: How;
  readonly inTheWay: readonly InTheWay[];
  readonly word: string;
  readonly at: Instant;
}

/** Days for which automatic messages pause after a student said what is in the way. */
export const PAUSE_DAYS = 7;

/** Until when automatic messages to a student pause; null if nothing is in the way. */
export const pausedUntil = ({
  inTheWay,
  how,
  at,
}: Pick<CheckIn, 'how' | 'inTheWay' | 'at'>): Instant | null =>
  inTheWay.length > 0 || how === 'not well' ? at + PAUSE_DAYS * DAY_MS : null;
