import { count, minutesText, oneDigit, whole } from '../format';
import type { FlagDetail } from './detail';

/** A reason in two parts: what was seen, and what to hold it against. */
export interface Reason {
  readonly head: string;
  readonly rest: string;
}

/** A value under a limit, rounded so that it still reads as under it. */
const underLimit = (value: number, limit: number): string =>
  Math.round(value) < limit ? whole(value) : (Math.floor(value * 10) / 10).toFixed(1);
const oneDecimal = (value: number) => (Math.round(value * 10) / 10).toFixed(1);
/** The reason of a flag as a sentence with its numbers. It describes what was seen and never the person. */
export function reasonOf(detail: FlagDetail, titleOf: (activity: string) => string): Reason {
  switch (detail.kind) {
    case 'not seen': {
      const head = detail.never
        ? `Not one login in ${count(detail.silence, 'teaching day')} since joining.`
        : `No login for ${count(detail.silence, 'teaching day')}.`;
      if (detail.usualGap == null) return { head, rest: 'No earlier rhythm to compare with.' };
      const every = detail.usualGap === 1 ? 'every day' : `every ${count(detail.usualGap, 'day')}`;
      return { head, rest: `Usually ${every}; longest before this, ${detail.longestGap}.` };
    }
    case 'behind': {
      const titles = detail.missing.map(titleOf);
      const shown = titles.slice(0, 3).join(', ');
      const more = titles.length > 3 ? ` and ${titles.length - 3} more` : '';
      return {
        head: `${titles.length} of ${count(detail.expected, 'assignment')} missing.`,
        rest: `${shown}${more}.`,
      };
    }
    case 'low standing':
      return {
        head: `Standing ${underLimit(detail.standing, detail.limit)} %, under ${oneDigit(detail.limit)} %.`,
        rest:
          detail.highestPossible == null ? '' : `Highest still possible: ${whole(detail.highestPossible)} %.`,
      };
    case 'slipping': {
      const from =
        detail.before != null && detail.standing != null
          ? ` Standing ${whole(detail.before)} % four weeks ago, ${whole(detail.standing)} % now.`
          : '';
      return {
        head: `Falling ${oneDecimal(-detail.relativePerWeek)} points a week against the class.`,
        rest: `Over ${count(detail.works, 'graded assignment')}.${from}`,
      };
    }
    case 'low time':
      return {
        head: `${minutesText(detail.minutes)} on task in the last ${count(detail.days, 'day')}.`,
        rest: `Class median: ${minutesText(detail.classMedian)}.`,
      };
    case 'effort without progress': {
      const { minutes, classMedian, days, standing, usual } = detail;
      const beside = usual
        ? `Those with about as much time mostly stand at ${whole(usual[0])} to ${whole(usual[1])} %`
        : 'Results in the lowest third';
      return {
        head: `${minutesText(minutes)} in the last ${count(days, 'day')}, standing ${whole(standing)} %.`,
        rest: `${beside}; class median ${minutesText(classMedian)}.`,
      };
    }
  }
}
