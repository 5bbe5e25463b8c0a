import type { Meeting } from '@/core/calendar/meetings';
import type { Term } from '@/core/calendar/term';
import { addDays, instantOf, localDate, startOfDay, weekday } from '@/core/calendar/zone';
import type { ActivityRecord, OutcomeRecord } from '@/core/course/records';
import { HOUR_MS, type Instant } from '@/core/units';

/** The week of the term in which the demo stands, and how long its term is. */
const CURRENT_WEEK = 9;
const WEEKS = 15;
const BREAK_WEEK = 7;
/** Zones tried in turn for one that changes its clocks in the weeks gone by, so that the demo holds such a day. */
const ZONES = ['Europe/Lisbon', 'America/Halifax', 'Australia/Hobart', 'America/Santiago'];

const changesClocks = (zone: string, from: string, days: number): boolean => {
  for (let d = 0; d < days; d++) {
    const hours = (startOfDay(addDays(from, d + 1), zone) - startOfDay(addDays(from, d), zone)) / HOUR_MS;
    if (hours !== 24) return true;
  }
  return false;
};

/** A term laid so that `now` falls in its ninth week. */
export function demoTerm(now: Instant): Term {
  const laid = ZONES.map((zone) => {
    const today = localDate(now, zone);
    return { zone, start: addDays(today, 1 - weekday(today) - 7 * (CURRENT_WEEK - 1)) };
  });
  const { zone, start } =
    laid.find((l) => changesClocks(l.zone, l.start, 7 * (CURRENT_WEEK - 1))) ??
    laid.find((l) => changesClocks(l.zone, l.start, 7 * WEEKS)) ??
    laid[0]!;
  const breakStart = addDays(start, 7 * (BREAK_WEEK - 1));
  return {
    zone,
    start,
    weeks: WEEKS,
    breaks: [{ name: 'Reading week', from: breakStart, to: addDays(breakStart, 6) }],
  };
}

/** Name of a term by the month in which it starts. */
export function termName(term: Term): string {
  const month = Number(term.start.slice(5, 7));
  const season =
    month >= 8 && month <= 11
      ? 'Autumn'
      : month >= 3 && month <= 5
        ? 'Spring'
        : month >= 6 && month <= 7
          ? 'Summer'
          : 'Winter';
  return `${season} ${term.start.slice(0, 4)}`;
}

export const SECTIONS: readonly { name: string; meetings: readonly Meeting[] }[] = [
  { name: 'Monday evening', meetings: [{ weekday: 1, startMinute: 18 * 60, minutes: 120 }] },
  { name: 'Saturday', meetings: [{ weekday: 6, startMinute: 10 * 60, minutes: 150 }] },
  { name: 'Online', meetings: [] },
];

const OUTCOMES: readonly [id: string, title: string, before: string[]][] = [
  ['chart', 'Chart symbols and datums', []],
  ['fix', 'Position fixing', ['chart']],
  ['compass', 'Compass error', []],
  ['reckoning', 'Estimated position', ['fix', 'compass']],
  ['heights', 'Tidal heights', ['chart']],
  ['streams', 'Tidal streams', ['heights']],
  ['passage', 'Passage planning', ['reckoning', 'streams']],
  ['lights', 'Lights and shapes', []],
  ['buoys', 'Buoyage', ['lights']],
  ['electronic', 'Electronic charts', ['fix']],
];

export const outcomeRecords = (): OutcomeRecord[] =>
  OUTCOMES.map(([id, title, prerequisites]) => ({ id, title, prerequisites, parent: null }));

/** Weekday and minute at which a kind of work falls due; Sunday is 7. */
type Due = { day: number; minute: number };
const SUNDAY_NIGHT: Due = { day: 7, minute: 23 * 60 + 59 };
const WEDNESDAY_NIGHT: Due = { day: 3, minute: 23 * 60 + 59 };
const FRIDAY_EVENING: Due = { day: 5, minute: 20 * 60 };
const SATURDAY_NOON: Due = { day: 6, minute: 12 * 60 };

interface Work {
  id: string;
  title: string;
  kind: ActivityRecord['kind'];
  category: keyof typeof CATEGORIES;
  points: number;
  /** Week in which it falls due; null for no due date. */
  week: number | null;
  due: Due;
  minutes: number;
  outcomes: string[];
}

const CATEGORIES = {
  'Chart work': { weight: 25, drop: 0 },
  Quizzes: { weight: 20, drop: 1 },
  'Passage plans': { weight: 25, drop: 0 },
  'Practice log': { weight: 10, drop: 0 },
  Exams: { weight: 20, drop: 0 },
} as const;

const chartWork = (n: number, week: number, outcomes: string[]): Work => ({
  id: `chart-${n}`,
  title: `Chart exercise ${n}`,
  kind: 'assignment',
  category: 'Chart work',
  points: 20,
  week,
  due: SUNDAY_NIGHT,
  minutes: 50,
  outcomes,
});
const quiz = (id: string, title: string, week: number, outcomes: string[]): Work => ({
  id: `quiz-${id}`,
  title,
  kind: 'quiz',
  category: 'Quizzes',
  points: 10,
  week,
  due: WEDNESDAY_NIGHT,
  minutes: 20,
  outcomes,
});
const plan = (n: number, title: string, week: number): Work => ({
  id: `plan-${n}`,
  title,
  kind: 'assignment',
  category: 'Passage plans',
  points: 50,
  week,
  due: SUNDAY_NIGHT,
  minutes: 90,
  outcomes: ['passage', 'reckoning'],
});
const log = (id: string, title: string, week: number | null, outcomes: string[]): Work => ({
  id: `log-${id}`,
  title,
  kind: 'practice',
  category: 'Practice log',
  points: 5,
  week,
  due: FRIDAY_EVENING,
  minutes: 25,
  outcomes,
});
const exam = (id: string, title: string, week: number, outcomes: string[]): Work => ({
  id: `exam-${id}`,
  title,
  kind: 'exam',
  category: 'Exams',
  points: 100,
  week,
  due: SATURDAY_NOON,
  minutes: 120,
  outcomes,
});

const WORKS: readonly Work[] = [
  chartWork(1, 1, ['chart']),
  quiz('symbols', 'Chart symbols quiz', 2, ['chart']),
  chartWork(2, 2, ['fix']),
  log('bearings', 'Bearings practice', 2, ['fix']),
  quiz('fix', 'Three-point fix quiz', 3, ['fix']),
  log('deviation', 'Deviation card practice', 3, ['compass']),
  quiz('compass', 'Compass error quiz', 4, ['compass']),
  chartWork(3, 4, ['compass', 'reckoning']),
  plan(1, 'Harbour passage plan', 4),
  quiz('heights', 'Tidal heights quiz', 5, ['heights']),
  chartWork(4, 5, ['heights', 'reckoning']),
  log('heights', 'Tidal heights practice', 5, ['heights']),
  quiz('streams', 'Tidal streams quiz', 6, ['streams']),
  log('streams', 'Tidal streams practice', 6, ['streams']),
  exam('middle', 'Mid-term examination', 6, ['heights', 'streams', 'compass', 'fix']),
  quiz('lights', 'Lights and shapes quiz', 8, ['lights']),
  chartWork(5, 8, ['streams', 'reckoning']),
  plan(2, 'Estuary passage plan', 8),
  quiz('buoys', 'Buoyage quiz', 9, ['buoys']),
  log('buoys', 'Buoyage practice', 9, ['buoys']),
  chartWork(6, 9, ['electronic', 'fix']),
  quiz('electronic', 'Electronic charts quiz', 10, ['electronic']),
  chartWork(7, 11, ['electronic', 'streams']),
  quiz('night', 'Night pilotage quiz', 11, ['lights', 'buoys']),
  plan(3, 'Coastal passage plan', 11),
  quiz('safety', 'Restricted visibility quiz', 12, ['lights']),
  chartWork(8, 13, ['passage']),
  plan(4, 'Overnight passage plan', 14),
  exam('final', 'Final examination', 15, ['passage', 'streams', 'reckoning']),
  log('open', 'Watch diary', null, ['passage']),
];

/**
 * All activities of the course: thirty works in five categories, and two ungraded resources an outcome. More `copies`
 * of the works are for measuring.
 */
export function activityRecords(term: Term, copies = 1): ActivityRecord[] {
  const at = (week: number, due: Due) =>
    instantOf(addDays(term.start, (week - 1) * 7 + due.day - 1), due.minute, term.zone);
  const works = WORKS.map((w): ActivityRecord => ({
    id: w.id,
    title: w.title,
    kind: w.kind,
    category: w.category,
    categoryWeight: CATEGORIES[w.category].weight,
    dropLowest: CATEGORIES[w.category].drop,
    points: w.points,
    opens: at(w.week == null ? 1 : Math.max(1, w.week - 1), { day: 1, minute: 8 * 60 }),
    due: w.week == null ? null : at(w.week, w.due),
    closes: null,
    minutes: w.minutes,
    attempts: w.kind === 'quiz' ? 3 : w.kind === 'practice' ? null : 1,
    outcomes: w.outcomes,
  }));
  const resources = OUTCOMES.flatMap(([id, title], i): ActivityRecord[] => {
    const open = at(Math.min(WEEKS, 1 + Math.floor(i * 1.3)), { day: 1, minute: 8 * 60 });
    const base = {
      category: null,
      categoryWeight: null,
      dropLowest: 0,
      points: null,
      attempts: null,
      opens: open,
      due: null,
      closes: null,
    };
    return [
      {
        ...base,
        id: `film-${id}`,
        title: `${title}, worked on the chart`,
        kind: 'video',
        minutes: 12 + (i % 3) * 4,
        outcomes: [id],
      },
      {
        ...base,
        id: `page-${id}`,
        title: `${title} in four pages`,
        kind: 'page',
        minutes: 15 + (i % 2) * 5,
        outcomes: [id],
      },
    ];
  });
  const parts = Array.from({ length: copies }, (_, i) =>
    i === 0
      ? works
      : works.map((w) => ({ ...w, id: `${w.id}-${i + 1}`, title: `${w.title}, part ${i + 1}` })),
  );
  return [...parts.flat(), ...resources];
}
