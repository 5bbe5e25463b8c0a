import * as yup from 'yup';
import { GAP_MINUTES } from '../activity/dwell';
import { number, part, whole } from './rules';

/** A limit that is not milder than another one of its group. */
const notUnder = (what: string) =>
  [yup.ref<number>('watch'), `${what}, act must not be under watch.`] as const;
const notOver = (what: string) => [yup.ref<number>('watch'), `${what}, act must not be over watch.`] as const;

/** The thresholds of a course: act is never less severe than watch. */
export const settingsForm = part({
  sessionGapMinutes: whole('The session limit', GAP_MINUTES.least, GAP_MINUTES.most),
  indicators: part({
    notSeen: part({
      watchDays: whole('Not seen, watch', 1, 60),
      actDays: whole('Not seen, act', 1, 90).min(
        yup.ref('watchDays'),
        'Not seen, act must not be under watch.',
      ),
      ownQuantile: number('Not seen, own rhythm', 0, 1),
    }),
    behind: part({
      watch: whole('Behind, watch', 1, 50),
      act: whole('Behind, act', 1, 50).min(...notUnder('Behind')),
    }),
    lowStanding: part({
      watch: number('Low standing, watch', 0, 100),
      act: number('Low standing, act', 0, 100).max(...notOver('Low standing')),
      leastWorks: whole('Low standing, graded assignments', 1, 50),
    }),
    slipping: part({
      watch: number('Slipping, watch', 0.1, 50),
      act: number('Slipping, act', 0.1, 50).min(...notUnder('Slipping')),
      maxP: number('Slipping, largest p', 0.001, 1),
    }),
    lowTime: part({
      windowDays: whole('Low time, days', 1, 60),
      watch: number('Low time, watch', 0, 100),
      act: number('Low time, act', 0, 100).max(...notOver('Low time')),
      leastMedianMinutes: whole('Low time, least class median', 0, 10_000),
    }),
    effort: part({ windowDays: whole('Effort without progress, days', 7, 120) }),
  }),
});
export type SettingsForm = yup.InferType<typeof settingsForm>;

const cuts = (what: string) =>
  part({
    low: number(`${what}, low`, 0, 100),
    high: number(`${what}, high`, 0, 100).moreThan(yup.ref('low'), 'High has to begin above low.'),
  });
/** Where low scores end and high ones begin, in per cent of full points. */
export const bandsForm = part({ practice: cuts('Practice'), other: cuts('Everything else') });
