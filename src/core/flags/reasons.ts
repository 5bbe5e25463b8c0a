import { count, whole } from '../format';
import type { FlagDetail } from './detail';

/** A reason in two parts: what was seen, and what to hold it against. */
export interface Reason {
  readonly head: string;
  readonly rest: string;
}

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
        head: `${titles.length} of ${count(detail.expected, 'work')} missing:`,
        rest: `${shown}${more}.`,
      };
    }
    case 'low standing': {
      const best =
        detail.highestPossible == null ? '' : ` Highest still possible: ${whole(detail.highestPossible)} %.`;
      // "50 %, under 50 %" would read like a mistake.
      const shown =
        whole(detail.standing) === whole(detail.limit) ? oneDecimal(detail.standing) : whole(detail.standing);
      return { head: `Standing ${shown} %,`, rest: `under ${whole(detail.limit)} %.${best}` };
    }
    case 'slipping': {
      const from =
        detail.before != null && detail.standing != null
          ? ` Standing ${whole(detail.before)} % four weeks ago, ${whole(detail.standing)} % now.`
          : '';
      return {
        head: `Falling ${oneDecimal(-detail.relativePerWeek)} points a week against the class`,
        rest: `over ${detail.works} graded works.${from}`,
      };
    }
    case 'low time':
      return {
        head: `${whole(detail.minutes)} min on task in ${detail.days} days;`,
        rest: `class median ${whole(detail.classMedian)} min.`,
      };
    case 'effort without progress':
      return {
        head: `${whole(detail.minutes)} min in ${detail.days} days, standing ${whole(detail.standing)} %.`,
        rest: `Time over the class median (${whole(detail.classMedian)} min), results in the lowest third.`,
      };
  }
}
