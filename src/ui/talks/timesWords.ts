import { clockText } from '@/core/calendar/clock';
import { weekday } from '@/core/calendar/zone';
import { counted, shortDay, weekdayDay } from '@/core/format';
import type { TalkTimesForm } from '@/core/forms/talk';
import type { Repeat } from '@/core/talks/times';

export const REPEAT_WORDS: Readonly<Record<Repeat, string>> = {
  once: 'Once',
  weekly: 'Each week',
  'every two weeks': 'Every two weeks',
};

const WEEKDAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];

/** "Tuesdays, 14:00 to 15:00, until 15 Dec" */
export function timesWords({ repeat, firstOn, lastOn, from, until }: TalkTimesForm): string {
  const span = `${clockText(from)} to ${clockText(until % 1440)}`;
  if (repeat === 'once') return `${weekdayDay(firstOn)}, ${span}`;
  const every = repeat === 'weekly' ? '' : ' every two weeks';
  return `${WEEKDAYS[weekday(firstOn) - 1]}${every}, ${span}, until ${shortDay(lastOn)}`;
}

/** "20 min each, 2 at once, Room 2.14" */
export const timesMore = ({ minutes, seats, place }: TalkTimesForm): string =>
  `${minutes} min each, ${seats === 1 ? 'one at a time' : `${counted(seats, 'student')} at once`}, ${place}`;
