import type { DayFigures } from '../activity/dayFigures';
import type { Asked, Subject } from './measure';

/** A figure of the days chosen; null where none are chosen or nothing is at hand. */
export const inWindow =
  (pick: (figures: DayFigures) => number) =>
  (of: Subject, { window, kind }: Asked): number | null => {
    const figures = window && of.figures?.(window, kind ?? null);
    return figures ? pick(figures) : null;
  };

export const minutesOf = (figures: DayFigures | null | undefined): number | null =>
  figures ? figures.seconds / 60 : null;
