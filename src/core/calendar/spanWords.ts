import type { DaySpan } from './window';

/** "2026-11-19 to 2026-11-25", as it stands in a file. */
export const spanWords = ({ from, to }: DaySpan): string => (from === to ? from : `${from} to ${to}`);
