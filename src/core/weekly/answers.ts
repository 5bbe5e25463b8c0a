import type { About } from '../acts/pick';
import { counted, listed, minutesText, oneDigit, percentText } from '../format';
import { LEAST_GRADES, mostStruggled, MANY_SHARE, wentWords } from '../gradebook/classVerdict';
import { TURN } from '../gradebook/turns';
import { median, quantile } from '../statistics/quantile';
import type { StudentFacts, WeeklyFacts } from './facts';
import { OUTCOME_SHARE, weakOutcomes } from './weakOutcomes';

/** Somebody or something an answer names. */
export interface Named {
  readonly kind: 'student' | 'work';
  readonly id: number;
  /** Of a student, the id of every file. */
  readonly studentId?: string;
  readonly name: string;
  readonly note: string;
}

/** The parts of the weekly look, in order. */
export const WEEK_PARTS = ['Good news', 'New concerns', 'For the next class', 'Coming up'] as const;
export type WeekPart = (typeof WEEK_PARTS)[number];

/** One answer: a sentence, its list, its next step, and the rule that made it. */
export interface Answer {
  readonly id: string;
  readonly part: WeekPart;
  readonly sentence: string;
  readonly rule: string;
  readonly list: readonly Named[];
  /** Whether the list is only opened on demand: it names many. */
  readonly folded?: boolean;
  /** Why its students go to the tray; null where nobody is to be written to. */
  readonly reason: string | null;
  /** What a message to them is about. */
  readonly about?: About;
}

/** A standing that rose by so many points in the window is an improvement worth a word. */
const IMPROVED = 3;
const MOST_LISTED = 8;
/** Time that fell by so many minutes is worth a look. */
const LESS_TIME = 60;

const students = (list: readonly StudentFacts[], note: (s: StudentFacts) => string): Named[] =>
  list.map((s) => ({ kind: 'student', id: s.id, studentId: s.studentId, name: s.name, note: note(s) }));
/** "+9.5", "−3". */
const signed = (n: number) => `${n > 0 ? '+' : '−'}${oneDigit(Math.abs(n))}`;

/** The answers of a window, in the order in which they are read. Each says the rule it comes from. */
export function weeklyAnswers(facts: WeeklyFacts): Answer[] {
  return [
    standOut(facts),
    onTime(facts),
    checkOn(facts),
    notSeen(facts),
    lessTime(facts),
    forTheClass(facts),
    helpers(facts),
    comesDue(facts),
  ];
}

/** "Median 96 min on task, 118 min before", the sentence over all of the answers. */
export function timeSentence({ students: all }: WeeklyFacts): string {
  const now = median(all.map((s) => s.minutes)) ?? 0;
  const known = all.flatMap((s) => (s.minutesBefore == null ? [] : [s.minutesBefore]));
  return known.length === 0
    ? `Median time on task ${minutesText(now)}`
    : `Median time on task ${minutesText(now)}, ${minutesText(median(known)!)} before`;
}

function standOut({ students: all }: WeeklyFacts): Answer {
  const rise = (s: StudentFacts) =>
    s.standing != null && s.standingBefore != null ? s.standing - s.standingBefore : -Infinity;
  const best = all
    .filter((s) => !s.flagged && (rise(s) >= IMPROVED || s.turned === 'up'))
    .sort((a, b) => Math.max(rise(b), 0) - Math.max(rise(a), 0) || (b.turnChange ?? 0) - (a.turnChange ?? 0))
    .slice(0, MOST_LISTED);
  return {
    id: 'improved',
    part: 'Good news',
    sentence:
      best.length === 0
        ? 'Nobody’s results rose by much.'
        : best.length === 1
          ? `${best[0]!.name} stands out.`
          : `${best[0]!.name} and ${counted(best.length - 1, 'other')} stand out.`,
    rule: `Standing at least ${IMPROVED} points over that of the day before the window, or results in the window at least ${TURN.points} points better against the class than before it; nobody with an open flag. At most ${MOST_LISTED}, those who rose most.`,
    list: students(best, (s) =>
      rise(s) >= IMPROVED
        ? `standing ${percentText(s.standingBefore)} → ${percentText(s.standing)}`
        : `${signed(s.turnChange!)} points against the class`,
    ),
    reason: 'results rose',
    about: 'improved',
  };
}

function onTime({ students: all }: WeeklyFacts): Answer {
  const asked = all.filter((s) => s.due > 0);
  const done = asked.filter((s) => s.onTime === s.due && s.missing === 0 && !s.flagged);
  return {
    id: 'finished',
    part: 'Good news',
    sentence:
      asked.length === 0
        ? 'Nothing was due in these days.'
        : `${done.length} of ${asked.length} handed in everything on time.`,
    rule: 'Everything due in the window was handed in on time, nothing is missing from before, and no flag is open.',
    list: students(done, (s) => `${s.onTime} of ${s.due} on time`),
    folded: true,
    reason: 'handed in everything on time',
    about: 'on time',
  };
}

function checkOn({ students: all, openedFlags, closedFlags }: WeeklyFacts): Answer {
  const list = all
    .filter((s) => s.newActs.length > 0 || s.turned === 'down')
    .sort((a, b) => b.newActs.length - a.newActs.length || (a.turnChange ?? 0) - (b.turnChange ?? 0));
  const flags = `${counted(openedFlags, 'new flag')}, ${closedFlags} cleared`;
  return {
    id: 'check',
    part: 'New concerns',
    sentence:
      list.length === 0
        ? `Nobody is newly in need of a talk; ${flags}.`
        : `${counted(list.length, 'student')} newly ${list.length === 1 ? 'needs' : 'need'} a talk; ${flags}.`,
    rule: `A flag of level act opened in the window, or results in the window at least ${TURN.points} points worse against the class than before it.`,
    list: students(list, (s) => s.newActs[0] ?? `${signed(s.turnChange!)} points against the class`),
    reason: 'new concern',
  };
}

function notSeen({ students: all }: WeeklyFacts): Answer {
  const list = all.filter((s) => s.days === 0);
  return {
    id: 'away',
    part: 'New concerns',
    sentence:
      list.length === 0
        ? 'Everybody logged in.'
        : `${list.length} of ${all.length} ${list.length === 1 ? 'has' : 'have'} not logged in.`,
    rule: 'No day with anything recorded in the window.',
    list: students(list, (s) => `${counted(s.silence, 'teaching day')} away`),
    reason: 'has not logged in',
    about: 'not seen',
  };
}

function lessTime({ students: all }: WeeklyFacts): Answer {
  const loss = (s: StudentFacts) => (s.minutesBefore == null ? 0 : s.minutesBefore - s.minutes);
  const list = all
    .filter((s) => s.days > 0 && loss(s) >= LESS_TIME)
    .sort((a, b) => loss(b) - loss(a))
    .slice(0, MOST_LISTED);
  return {
    id: 'changed',
    part: 'New concerns',
    sentence:
      list.length === 0
        ? 'Nobody who logged in spent an hour less than before.'
        : `${counted(list.length, 'student')} spent an hour or more less than before.`,
    rule: `Minutes on task in the window, at least ${LESS_TIME} under those of as many teaching days before; of whom logged in. At most ${MOST_LISTED}, those who lost most.`,
    list: students(list, (s) => `${minutesText(s.minutesBefore!)} → ${minutesText(s.minutes)}`),
    reason: 'time on task dropped by an hour or more',
    about: 'low time',
  };
}

function forTheClass({ works, outcomes, students: all }: WeeklyFacts): Answer {
  const bad = mostStruggled(works.filter((w) => w.inWindow));
  const weak = weakOutcomes(outcomes, all)[0];
  const parts = [
    bad.length > 0 ? `Many struggled with ${listed(bad.map((w) => w.title))}` : '',
    weak ? `${weak.title} is “not yet” for ${weak.behind.length} of ${weak.known}` : '',
  ].filter(Boolean);
  return {
    id: 'class',
    part: 'For the next class',
    sentence:
      parts.length === 0 ? 'Nothing to reteach to the class.' : `${parts.join('; ')}: reteach to the class.`,
    rule: `Assignments due or graded in the window with a low score for at least ${Math.round(100 * MANY_SHARE)} % of at least ${LEAST_GRADES} graded; and, of the whole term, the outcome that is “not yet” for most, from ${Math.round(100 * OUTCOME_SHARE)} % of those with enough evidence on.`,
    list: bad.map((w) => ({
      kind: 'work',
      id: w.id,
      name: w.title,
      note: wentWords(w).slice(w.title.length + 2),
    })),
    reason: null,
  };
}

function helpers({ students: all, outcomes }: WeeklyFacts): Answer {
  const standings = all.flatMap((s) => (s.standing == null ? [] : [s.standing]));
  const upper = quantile(standings, 0.75) ?? Infinity;
  const steady = all.filter(
    (s) =>
      s.standing != null &&
      s.standing >= upper &&
      s.missing === 0 &&
      s.days > 0 &&
      s.silence <= 2 * Math.max(1, s.usualGap ?? 1),
  );
  const list: Named[] = [];
  const taken = new Set<number>();
  for (const outcome of weakOutcomes(outcomes, all, 0)) {
    for (const behind of outcome.behind) {
      const can = steady.filter((s) => s.outcomes.get(outcome.id) === 'secure' && !taken.has(s.id));
      const helper = can.find((s) => s.section === behind.section) ?? can[0];
      if (!helper || taken.has(behind.id)) continue;
      taken.add(helper.id);
      taken.add(behind.id);
      const where =
        helper.section === behind.section && helper.section != null ? `, both ${helper.section}` : '';
      list.push({
        kind: 'student',
        id: helper.id,
        studentId: helper.studentId,
        name: helper.name,
        note: `could help ${behind.name} with ${outcome.title}${where}`,
      });
      if (list.length === MOST_LISTED) break;
    }
    if (list.length === MOST_LISTED) break;
  }
  return {
    id: 'helpers',
    part: 'For the next class',
    sentence:
      list.length === 0 ? 'No pairs to suggest.' : `${counted(list.length, 'pair')} could work together.`,
    rule: 'Helpers stand in the upper quarter, miss nothing, logged in, are silent for no more than twice their usual gap, and are secure in an outcome that is “not yet” for the other; the same section first, each person once.',
    list,
    reason: 'could help others',
  };
}

function comesDue({ works, students: all }: WeeklyFacts): Answer {
  const list = works.filter((w) => w.comesDue).sort((a, b) => (a.due ?? 0) - (b.due ?? 0));
  return {
    id: 'due',
    part: 'Coming up',
    sentence:
      list.length === 0
        ? 'Nothing is due in the next seven days.'
        : `${counted(list.length, 'assignment')} ${list.length === 1 ? 'is' : 'are'} due in the next seven days.`,
    rule: 'Assignments due within seven days from now; handed in and opened so far by the students in view.',
    list: list.map((w) => ({
      kind: 'work',
      id: w.id,
      name: w.title,
      note: `${w.handedIn} of ${all.length} handed in, ${w.opened} opened it`,
    })),
    reason: null,
  };
}
