import { goesBackIntoClass, LEAST_GRADES, READ_DOWN_SHARE } from '../gradebook/readDown';
import { TURN } from '../gradebook/turns';
import { median, quantile } from '../statistics/quantile';
import type { StudentFacts, WeeklyFacts, WorkFacts } from './facts';

/** Somebody or something an answer names. */
export interface Named {
  readonly kind: 'student' | 'work';
  readonly id: number;
  readonly name: string;
  readonly note: string;
}

/** One answer: a sentence, its list, its next step, and the rule that made it. */
export interface Answer {
  readonly id: string;
  readonly question: string;
  readonly sentence: string;
  readonly rule: string;
  readonly list: readonly Named[];
  /** Why its students go to the tray; null where nobody is to be written to. */
  readonly reason: string | null;
}

/** A standing that rose by so many points in the window is an improvement worth a word. */
const IMPROVED = 3;
const MOST_LISTED = 8;
/** From this share of the class on, an outcome is a matter for the whole class. */
const OUTCOME_SHARE = 0.25;

const students = (list: readonly StudentFacts[], note: (s: StudentFacts) => string): Named[] =>
  list.map((s) => ({ kind: 'student', id: s.id, name: s.name, note: note(s) }));
const some = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
const round = (n: number) => Math.round(n * 10) / 10;

/** The answers of a window, in the order in which they are read. Each says the rule it comes from. */
export function weeklyAnswers(facts: WeeklyFacts): Answer[] {
  return [
    whatChanged(facts),
    finishedAll(facts),
    improved(facts),
    checkOn(facts),
    notSeen(facts),
    backIntoClass(facts),
    helpers(facts),
    comesDue(facts),
  ];
}

function whatChanged({ students: all, openedFlags, closedFlags }: WeeklyFacts): Answer {
  const now = median(all.map((s) => s.minutes)) ?? 0;
  const known = all.flatMap((s) => (s.minutesBefore == null ? [] : [s.minutesBefore]));
  const before = known.length > 0 ? median(known)! : null;
  const time =
    before == null || before === 0
      ? `The median is ${Math.round(now)} minutes on task`
      : `The median time on task went from ${Math.round(before)} to ${Math.round(now)} minutes`;
  const moved = all
    .filter((s) => s.minutesBefore != null && Math.abs(s.minutes - s.minutesBefore) >= 60)
    .sort((a, b) => Math.abs(b.minutes - b.minutesBefore!) - Math.abs(a.minutes - a.minutesBefore!))
    .slice(0, MOST_LISTED);
  return {
    id: 'changed',
    question: 'What changed',
    sentence: `${time}; ${some(openedFlags, 'reason', 'reasons')} opened and ${closedFlags} closed.`,
    rule: `Medians over the students in view, in the window and in the one before; flags by the day they opened or closed. Listed: the ${MOST_LISTED} whose time moved most, from an hour on.`,
    list: students(moved, (s) => `${Math.round(s.minutesBefore!)} → ${Math.round(s.minutes)} min`),
    reason: 'time on task changed by an hour or more',
  };
}

function finishedAll({ students: all }: WeeklyFacts): Answer {
  const asked = all.filter((s) => s.due > 0);
  const done = asked.filter((s) => s.onTime === s.due && s.missing === 0);
  return {
    id: 'finished',
    question: 'Whom to praise',
    sentence:
      asked.length === 0
        ? 'Nothing was due in these days.'
        : `${done.length} of ${asked.length} handed in everything on time and miss nothing at all.`,
    rule: 'Everything due in the window was handed in on time, and nothing is missing from before.',
    list: students(done, (s) => `${s.onTime} of ${s.due} on time`),
    reason: 'handed in everything on time',
  };
}

function improved({ students: all }: WeeklyFacts): Answer {
  const rise = (s: StudentFacts) =>
    s.standing != null && s.standingBefore != null ? s.standing - s.standingBefore : -Infinity;
  const best = all
    .filter((s) => rise(s) >= IMPROVED || s.turned === 'up')
    .sort((a, b) => Math.max(rise(b), 0) - Math.max(rise(a), 0) || (b.turnChange ?? 0) - (a.turnChange ?? 0))
    .slice(0, MOST_LISTED);
  return {
    id: 'improved',
    question: 'Whose work got better',
    sentence:
      best.length === 0
        ? 'Nobody’s standing rose by much.'
        : `${best[0]!.name} improved most${best.length > 1 ? `, and ${some(best.length - 1, 'other', 'others')}` : ''}.`,
    rule: `Standing now at least ${IMPROVED} points over that of the day before the window, or work in the window at least ${TURN.points} points better against the class than before it.`,
    list: students(best, (s) =>
      rise(s) >= IMPROVED
        ? `standing ${Math.round(s.standingBefore!)} → ${Math.round(s.standing!)} %`
        : `+${round(s.turnChange!)} against the class`,
    ),
    reason: 'work got better',
  };
}

function checkOn({ students: all }: WeeklyFacts): Answer {
  const list = all
    .filter((s) => s.newActs.length > 0 || s.turned === 'down')
    .sort((a, b) => b.newActs.length - a.newActs.length || (a.turnChange ?? 0) - (b.turnChange ?? 0));
  return {
    id: 'check',
    question: 'Whom to check on',
    sentence:
      list.length === 0
        ? 'Nobody came newly over a threshold.'
        : `${some(list.length, 'student', 'students')} came newly over a threshold or turned down.`,
    rule: `A reason of level act opened in the window, or work in the window at least ${TURN.points} points worse against the class than before it.`,
    list: students(list, (s) => s.newActs[0] ?? `${round(s.turnChange!)} against the class`),
    reason: 'came newly over a threshold',
  };
}

function notSeen({ students: all }: WeeklyFacts): Answer {
  const list = all.filter((s) => s.days === 0);
  return {
    id: 'away',
    question: 'Who has not logged in',
    sentence:
      list.length === 0
        ? 'Everybody was there.'
        : `${list.length} of ${all.length} did not log in in these days.`,
    rule: 'No day with anything recorded in the window.',
    list: students(list, (s) => `${some(s.silence, 'teaching day', 'teaching days')} away`),
    reason: 'did not log in',
  };
}

function backIntoClass({ works, outcomes, students: all }: WeeklyFacts): Answer {
  const bad = works
    .filter((w) => w.inWindow && goesBackIntoClass(w.low, w.graded))
    .sort((a, b) => b.low / b.graded - a.low / a.graded);
  const weak = weakOutcomes(outcomes, all);
  const parts = [
    bad.length > 0 ? `${bad.map((w) => w.title).join(', ')} went badly for many` : '',
    weak[0] ? `“${weak[0].title}” is not yet there for ${weak[0].behind.length} of ${weak[0].known}` : '',
  ].filter(Boolean);
  return {
    id: 'class',
    question: 'What to take back into class',
    sentence: parts.length === 0 ? 'Nothing went badly for many.' : `${parts.join('; ')}.`,
    rule: `Works due or graded in the window with a low score for at least ${Math.round(100 * READ_DOWN_SHARE)} % of at least ${LEAST_GRADES} graded; and the outcome that is “not yet” for most, from ${Math.round(100 * OUTCOME_SHARE)} % of those with enough evidence on.`,
    list: bad.map((w: WorkFacts) => ({
      kind: 'work',
      id: w.id,
      name: w.title,
      note: `${w.low} of ${w.graded} low`,
    })),
    reason: null,
  };
}

interface WeakOutcome {
  readonly id: number;
  readonly title: string;
  readonly behind: readonly StudentFacts[];
  readonly known: number;
}

/** Outcomes that a good part of those with enough evidence have not yet reached, the weakest first. */
function weakOutcomes(
  outcomes: WeeklyFacts['outcomes'],
  all: readonly StudentFacts[],
  least = OUTCOME_SHARE,
): WeakOutcome[] {
  return outcomes
    .map((o) => {
      const known = all.filter((s) => (s.outcomes.get(o.id) ?? 'too little data') !== 'too little data');
      return {
        ...o,
        behind: known.filter((s) => s.outcomes.get(o.id) === 'not yet'),
        known: known.length,
      };
    })
    .filter((o) => o.known > 0 && o.behind.length / o.known >= least)
    .sort((a, b) => b.behind.length / b.known - a.behind.length / a.known);
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
  for (const outcome of weakOutcomes(outcomes, all, 0.05)) {
    for (const behind of outcome.behind) {
      const can = steady.filter((s) => s.outcomes.get(outcome.id) === 'secure' && !taken.has(s.id));
      const helper = can.find((s) => s.section === behind.section) ?? can[0];
      if (!helper || taken.has(behind.id)) continue;
      taken.add(helper.id);
      taken.add(behind.id);
      const where = helper.section === behind.section ? `, both ${helper.section ?? 'without section'}` : '';
      list.push({
        kind: 'student',
        id: helper.id,
        name: helper.name,
        note: `could help ${behind.name} with “${outcome.title}”${where}`,
      });
      if (list.length === MOST_LISTED) break;
    }
    if (list.length === MOST_LISTED) break;
  }
  return {
    id: 'helpers',
    question: 'Who could help others',
    sentence:
      list.length === 0
        ? 'No pair comes to mind: nobody steady is secure in what others have not yet.'
        : `${some(list.length, 'pair', 'pairs')} could work together.`,
    rule: 'Helpers stand in the upper quarter, miss nothing, were there in the window, are no longer silent than twice their usual gap, and are secure in an outcome that the other has not yet; the same section first, each person once.',
    list,
    reason: 'could help others',
  };
}

function comesDue({ works, students: all }: WeeklyFacts): Answer {
  const list = works.filter((w) => w.comesDue).sort((a, b) => (a.due ?? 0) - (b.due ?? 0));
  return {
    id: 'due',
    question: 'What comes due',
    sentence:
      list.length === 0
        ? 'Nothing is due in the next seven days.'
        : `${some(list.length, 'work is', 'works are')} due in the next seven days.`,
    rule: 'Works due within seven days from now; handed in and opened so far by the students in view.',
    list: list.map((w) => ({
      kind: 'work',
      id: w.id,
      name: w.title,
      note: `${w.handedIn} of ${all.length} handed in, ${w.opened} opened it`,
    })),
    reason: null,
  };
}
