import { backAfter } from './backAfter';
import { completionShare } from './completionShare';
import { contributions } from './contributions';
import { daysActive } from './daysActive';
import { daysSince } from './daysSince';
import { effortShortfall } from './effortShortfall';
import { first } from './first';
import { flagLevel } from './flagLevel';
import { gain } from './gain';
import { goalLead } from './goalLead';
import { goalNewly } from './goalNewly';
import { goalPace } from './goalPace';
import { goalShare } from './goalShare';
import { inClass } from './inClass';
import { last } from './last';
import type { Measure } from './measure';
import { minutes } from './minutes';
import { minutesBefore } from './minutesBefore';
import { missing } from './missing';
import { openedOnly } from './openedOnly';
import { outside } from './outside';
import { silence } from './silence';
import { silencePlace } from './silencePlace';
import { silenceToUsual } from './silenceToUsual';
import { standing } from './standing';
import { standingPlace } from './standingPlace';
import { timeToClass } from './timeToClass';
import { trend } from './trend';
import { trendChance } from './trendChance';
import { usualGap } from './usualGap';
import { views } from './views';

/** Every measure by its key. A new one is a file of its own and a line here; whatever asks by key then knows it. */
export const MEASURES = {
  days: daysActive,
  minutes,
  minutesBefore,
  inClass,
  outside,
  views,
  contributions,
  opened: openedOnly,
  first,
  last,
  usualGap,
  silence,
  silencePlace,
  backAfter,
  silenceToUsual,
  daysSince,
  missing,
  completion: completionShare,
  standing,
  standingPlace,
  trend,
  trendChance,
  gain,
  timeToClass,
  effortShortfall,
  goalShare,
  goalPace,
  goalNewly,
  goalLead,
  flag: flagLevel,
} satisfies Readonly<Record<string, Measure>>;

export type MeasureKey = keyof typeof MEASURES;

/** A measure by its key, whatever it needs. */
export const measureOf = (key: MeasureKey): Measure => MEASURES[key];
