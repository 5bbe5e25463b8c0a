import type { StripWeek } from '@/core/views/brief';

/** A week as its strips draw it; nothing is drawn of what is to come. */
export interface StripRow {
  readonly week: number;
  readonly isBreak: boolean;
  readonly days: number | null;
  readonly rest: number | null;
  readonly inClass: number | null;
  readonly outside: number | null;
  readonly median: number | null;
  readonly done: number | null;
  readonly open: number | null;
  readonly expected: number | null;
  readonly standing: number | null;
  readonly band: [number, number] | null;
}

export const stripRow = (w: StripWeek): StripRow => ({
  week: w.week,
  isBreak: w.isBreak,
  days: w.own?.days ?? null,
  rest: w.own ? 7 - w.own.days : null,
  inClass: w.own?.minutesInClass ?? null,
  outside: w.own?.minutesOutside ?? null,
  median: w.classMedianMinutes,
  done: w.own?.done ?? null,
  open: w.own ? w.own.expected - w.own.done : null,
  expected: w.own?.expected ?? null,
  standing: w.own?.standing ?? null,
  band: w.classStanding ? [w.classStanding.low, w.classStanding.high] : null,
});
