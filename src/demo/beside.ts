import { meetingSpans } from '@/core/calendar/meetings';
import type { Term } from '@/core/calendar/term';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import type {
  ActivityRecord,
  AttemptRecord,
  OutsideResult,
  AttendanceRecord,
  ReferralRecord,
  RequirementRecord,
  ResponseRecord,
} from '@/core/course/records';
import type { Attendance } from '@/core/course/kinds';
import { HOUR_MS, type Instant } from '@/core/units';
import { SECTIONS } from './course';
import { CHOICES, itemName, ITEMS, keyOf, NUMERIC, WRONG_KEY } from './items';
import type { DemoStudent } from './people';
import { seeded, type Random } from './random';

/** What a course has on record beside work and activity. */
export interface Beside {
  readonly attendance: readonly AttendanceRecord[];
  readonly referrals: readonly ReferralRecord[];
  readonly requirements: readonly RequirementRecord[];
  readonly responses: readonly ResponseRecord[];
  readonly tests: readonly OutsideResult[];
}

/** An attempt with the share that was reached, graded or not. */
export interface MadeAttempt extends AttemptRecord {
  readonly share: number;
}

const REPORTS = [
  ['Left the chart room in the middle of an exercise', 'Talk after class'],
  ['Phone in use during the watch exercise', null],
  ['Late back from the harbour visit, group had to wait', 'Apologised to the group'],
] as const;

/** Attendance at the meetings of each section, a few referrals, credits and exams, and the answers of the quizzes. */
export function beside(
  term: Term,
  students: readonly DemoStudent[],
  activities: readonly ActivityRecord[],
  attempts: readonly MadeAttempt[],
  now: Instant,
  seed: number,
): Beside {
  const quizzes = new Set(activities.filter((a) => a.kind === 'quiz').map((a) => a.id));
  const placeOf = new Map(students.map((s, i) => [s.roster.id, i]));
  const of = (place: number) => seeded(seed * 7919 + place);
  return {
    attendance: students.flatMap((s, i) => attendanceOf(term, s, now, of(i))),
    referrals: students.flatMap((s, i) => referralsOf(term, s, i, now)),
    requirements: students.flatMap((s, i) => requirementsOf(term, s, of(i + 10_000))),
    responses: attempts
      .filter((a) => quizzes.has(a.activity))
      .flatMap((a, i) => responsesOf(a, placeOf.get(a.student)!, of(i + 20_000))),
    tests: students.flatMap((s, i) => resultsOf(term, s, i, now)),
  };
}

function attendanceOf(
  term: Term,
  { roster, habit }: DemoStudent,
  now: Instant,
  random: Random,
): AttendanceRecord[] {
  const meetings = SECTIONS.find((s) => s.name === roster.section)?.meetings ?? [];
  const comes =
    { stopped: 0.7, 'strong and stopped': 0.75, 'little time': 0.45, behind: 0.8 }[habit.name as string] ??
    0.93;
  return meetingSpans(term, meetings).flatMap(({ from, until }): AttendanceRecord[] => {
    const day = localDate(from, term.zone);
    if (until > now || (roster.joined && day < roster.joined) || (roster.left && day > roster.left))
      return [];
    const there = random.chance(comes);
    const late = random.chance(0.07);
    const excused = random.chance(0.35);
    const word: Attendance = there ? (late ? 'late' : 'present') : excused ? 'excused' : 'absent';
    const whole = Math.round((until - from) / 60_000);
    return [
      {
        student: roster.id,
        day,
        meeting: '',
        attendance: word,
        minutes: word === 'present' ? whole : word === 'late' ? whole - 15 : null,
      },
    ];
  });
}

function referralsOf(term: Term, { roster }: DemoStudent, place: number, now: Instant): ReferralRecord[] {
  const report = place % 24 === 1 ? REPORTS[Math.floor(place / 24) % REPORTS.length] : undefined;
  const day = addDays(term.start, 15 + (place % 20));
  if (!report || day > localDate(now, term.zone)) return [];
  return [{ id: `R-${roster.id}`, student: roster.id, day, reason: report[0], outcome: report[1] }];
}

function requirementsOf(term: Term, { roster, habit }: DemoStudent, random: Random): RequirementRecord[] {
  const survival = Math.round(100 * Math.min(1, Math.max(0.2, habit.ability + 0.1 * random.normal())));
  return [
    {
      student: roster.id,
      requirement: 'Credits of the first year',
      kind: 'credits',
      needed: 60,
      earned: Math.min(60, Math.round(habit.ability * 12) * 5),
      day: null,
    },
    {
      student: roster.id,
      requirement: 'Sea survival exam',
      kind: 'exam',
      needed: 60,
      earned: random.chance(0.85) ? survival : 0,
      day: addDays(term.start, -20),
    },
  ];
}

/** Every third student came with the result of an entry test in chart symbols. */
const TESTED = 3;

function resultsOf(term: Term, { roster, habit }: DemoStudent, place: number, now: Instant): OutsideResult[] {
  const at = startOfDay(addDays(term.start, 2), term.zone) + 10 * HOUR_MS;
  if (place % TESTED !== 1 || at > now || (roster.joined && roster.joined > addDays(term.start, 2)))
    return [];
  const share = Math.round(20 * Math.min(1, Math.max(0.25, habit.ability))) / 20;
  return [{ student: roster.id, outcome: 'chart', at, share, weight: 4 }];
}

/** Share of the points from which somebody knows what the wrong key does not. */
const KNOWS_FROM = 0.6;

/** What stands in a wrong answer to the item that asks for a number: often the unit is forgotten, mostly it is too low. */
function wrongNumber(random: Random): string {
  if (random.chance(0.35)) return NUMERIC.right.replace(/ m$/, '');
  return random.chance(0.95) ? random.pick(['3.1 m', '2.9 m', '2.6 m']) : '3.9 m';
}

/** What stands in an answer, right or wrong; those who are misled by a wrong key give what is in truth right. */
function answerOf(quiz: string, item: number, right: boolean, misled: boolean, random: Random): string {
  const key = keyOf(quiz, item);
  const wrong = random.pick(CHOICES.filter((c) => c !== key));
  if (item === NUMERIC.at) return right ? NUMERIC.right : wrongNumber(random);
  if (right) return key;
  return misled && item === WRONG_KEY.at ? WRONG_KEY.known : wrong;
}

/** Every so many students rush through what they do not know, and every so many take a hint. */
const RUSHES = 23;
const ASKS = 11;

/** How long an answer took: most think about it, somebody who rushes does not read what they get wrong. */
const secondsFor = (rushes: boolean, right: boolean, random: Random): number =>
  rushes && !right ? 2 + Math.round(random.next()) : Math.round(14 + 40 * random.next() ** 2);

/** Items grow harder one by one; as many are right as the attempt has points, mostly the easier ones. */
function responsesOf(attempt: MadeAttempt, place: number, random: Random): ResponseRecord[] {
  const ease = Array.from({ length: ITEMS }, (_, i) => ({ i, ease: 2.2 * random.normal() - i }));
  const points = Math.round(attempt.share * ITEMS);
  const misled = attempt.activity === WRONG_KEY.quiz && attempt.share >= KNOWS_FROM && points < ITEMS;
  const solved = new Set(
    ease
      .filter((e) => !(misled && e.i === WRONG_KEY.at))
      .sort((a, b) => b.ease - a.ease)
      .slice(0, points)
      .map((e) => e.i),
  );
  return Array.from({ length: ITEMS }, (_, i): ResponseRecord => {
    const right = solved.has(i);
    return {
      student: attempt.student,
      activity: attempt.activity,
      item: itemName(i),
      attempt: attempt.number,
      answer: answerOf(attempt.activity, i, right, misled, random),
      at: attempt.submitted - (ITEMS - i) * 45_000,
      score: right ? 1 : 0,
      seconds: secondsFor(place % RUSHES === 5, right, random),
      hints: place % ASKS === 3 && i % 4 === 2 ? 1 : 0,
    };
  });
}
