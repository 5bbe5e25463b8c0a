import * as yup from 'yup';
import { GAP_MINUTES } from '../activity/dwell';
import { isPart, type PartOfClass } from '../course/parts';
import { LIMITED_KINDS, type ApartLimits, type LimitedKind } from '../flags/indicators';
import { INDICATOR_NUMBERS, LIMIT_KEYS, type IndicatorKey } from '../flags/numbers';
import { number, part, whole } from './rules';

/** A number of the indicators, between what it lies. */
const numberOf = (key: IndicatorKey) => {
  const { label, least, most, step } = INDICATOR_NUMBERS[key];
  return step === 1 ? whole(label, least, most) : number(label, least, most);
};

/** Limits of which the one to act from is not milder than the one to watch from (in the field `from`), whatever way they go. */
const limits = (kind: LimitedKind, from = 'watch') => {
  const { watch, act } = LIMIT_KEYS[kind];
  const falls = kind === 'low standing' || kind === 'low time';
  const what = INDICATOR_NUMBERS[act].label;
  const severe = falls
    ? numberOf(act).max(yup.ref<number>(from), `${what} must not be over watch.`)
    : numberOf(act).min(yup.ref<number>(from), `${what} must not be under watch.`);
  return { watch: numberOf(watch), act: severe };
};

const APART = Object.fromEntries(
  LIMITED_KINDS.map((kind) => [
    kind,
    part({
      part: yup.mixed<PartOfClass>(isPart).required('Choose a section or a group.'),
      kind: yup.string().oneOf([kind]).required(),
      ...limits(kind),
    }).noUnknown(),
  ]),
) as unknown as Readonly<Record<LimitedKind, yup.Schema<ApartLimits>>>;

const apart = yup.lazy((value: unknown) => {
  const kind = typeof value === 'object' && value !== null && 'kind' in value ? value.kind : null;
  return APART[LIMITED_KINDS.find((k) => k === kind) ?? 'behind'];
});

/** Most sections and groups with limits of their own. */
const MOST_APART = 60;

const notSeen = limits('not seen', 'watchDays');

/** The thresholds of a course: act is never less severe than watch. */
export const settingsForm = part({
  sessionGapMinutes: whole('The session limit', GAP_MINUTES.least, GAP_MINUTES.most),
  indicators: part({
    notSeen: part({
      watchDays: notSeen.watch,
      actDays: notSeen.act,
      ownQuantile: numberOf('notSeen.ownQuantile'),
    }),
    behind: part(limits('behind')),
    lowStanding: part({ ...limits('low standing'), leastWorks: numberOf('lowStanding.leastWorks') }),
    slipping: part({ ...limits('slipping'), maxP: numberOf('slipping.maxP') }),
    lowTime: part({
      windowDays: numberOf('lowTime.windowDays'),
      ...limits('low time'),
      leastMedianMinutes: numberOf('lowTime.leastMedianMinutes'),
    }),
    effort: part({ windowDays: numberOf('effort.windowDays') }),
    apart: yup
      .array(apart as unknown as yup.Schema<ApartLimits>)
      .max(MOST_APART, `At most ${MOST_APART} limits are set apart.`),
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
