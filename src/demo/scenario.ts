import { meetingSpans } from '@/core/calendar/meetings';
import { isBreak, type Term } from '@/core/calendar/term';
import { addDays, instantOf, localDate, startOfDay } from '@/core/calendar/zone';
import {
  type ActivityRecord,
  type AttemptRecord,
  type EventRecord,
  type GradebookRecord,
  type ItemRecord,
} from '@/core/course/records';
import { isResource, type EventKind } from '@/core/course/kinds';
import { DAY_MS, HOUR_MS, MINUTE_MS, SECOND_MS, type Instant } from '@/core/units';
import { beside, type Beside, type MadeAttempt } from './beside';
import { itemRecords } from './items';
import { activityRecords, demoTerm, outcomeRecords, SECTIONS } from './course';
import { demoStudents, type DemoStudent } from './people';
import { seeded, type Random } from './random';

export interface Scenario extends Beside {
  readonly term: Term;
  readonly outcomes: ReturnType<typeof outcomeRecords>;
  readonly activities: readonly ActivityRecord[];
  readonly items: readonly ItemRecord[];
  readonly students: readonly DemoStudent[];
  readonly gradebook: readonly GradebookRecord[];
  readonly attempts: readonly AttemptRecord[];
  readonly events: readonly EventRecord[];
}

export interface ScenarioOptions {
  readonly now: Instant;
  readonly seed?: number;
  /** 73 makes the demo; more are for measuring. */
  readonly students?: number;
  /** How often each work is there; 1 makes the demo. */
  readonly copies?: number;
}

/** How much harder or easier than usual a work is, as a share of its points. */
const DIFFICULTY: Readonly<Record<string, number>> = {
  'exam-middle': -0.29,
  'quiz-heights': -0.23,
  'chart-4': -0.2,
  'log-heights': -0.22,
  'log-bearings': 0.12,
  'log-deviation': 0.1,
};

/** The main course as records: the same seed and instant give the same, to the last event. */
export function scenario({ now, seed = 110, students: count, copies }: ScenarioOptions): Scenario {
  const term = demoTerm(now);
  const students = demoStudents(term, count);
  const activities = activityRecords(term, copies);
  const outcomes = outcomeRecords().map((o) => o.id);
  const gradebook: GradebookRecord[] = [];
  const attempts: MadeAttempt[] = [];
  const events: EventRecord[] = [];
  students.forEach((student, place) => {
    const life = new StudentTerm(student, term, activities, outcomes, now, seeded(seed * 1000 + place));
    life.live();
    gradebook.push(...life.scores);
    attempts.push(...life.attempts);
    events.push(
      ...life.events.map((e, i) => ({ ...e, id: `${student.roster.id}-${String(i + 1).padStart(5, '0')}` })),
    );
  });
  events.sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
  const more = beside(term, students, activities, attempts, now, seed);
  return {
    term,
    outcomes: outcomeRecords(),
    activities,
    items: itemRecords(activities),
    students,
    gradebook,
    attempts,
    events,
    ...more,
  };
}

/** Now and then somebody gets up for a while; by the clock, so that the chance of everything else stays as it is. */
function pauseAfter(at: Instant): number {
  const second = Math.floor(at / SECOND_MS);
  return second % 151 === 0 ? (8 + (Math.floor(second / 151) % 46)) * MINUTE_MS : 0;
}

/** A share as the points of an assignment can say it: half points, and whole ones for the questions of a quiz. */
function inSteps(share: number, { kind, points }: ActivityRecord): number {
  const steps = points! * (kind === 'quiz' ? 1 : 2);
  return Math.round(share * steps) / steps;
}

/** The points of a share, without what a product of decimals leaves over. */
const inPoints = (share: number, { points }: ActivityRecord): number => Math.round(share * points! * 2) / 2;

/** A sitting turns to so many activities at most. */
const TOPICS = 4;

/** One student's term: when they sit down, what they do, what they hand in and what they get for it. */
class StudentTerm {
  readonly scores: GradebookRecord[] = [];
  readonly attempts: MadeAttempt[] = [];
  readonly events: Omit<EventRecord, 'id'>[] = [];
  /** First and last instant of their term. */
  private readonly from: Instant;
  private readonly until: Instant;

  constructor(
    private readonly student: DemoStudent,
    private readonly term: Term,
    private readonly activities: readonly ActivityRecord[],
    private readonly outcomes: readonly string[],
    private readonly now: Instant,
    private readonly random: Random,
  ) {
    const { joined, left } = student.roster;
    const { name } = student.habit;
    this.from = startOfDay(joined ?? term.start, term.zone);
    const away = name === 'stopped' ? 10 : name === 'strong and stopped' ? 9 : 0;
    const stops = left ? startOfDay(left, term.zone) : now - away * DAY_MS;
    this.until = Math.min(now, stops);
  }

  live(): void {
    this.study();
    this.attend();
    this.handIn();
    this.events.sort((a, b) => a.at - b.at);
  }

  /** Sittings of their own, on the days they study; fewer in the break. */
  private study(): void {
    const { habit } = this.student;
    const { random, term } = this;
    for (let date = localDate(this.from, term.zone); ; date = addDays(date, 1)) {
      if (startOfDay(date, term.zone) >= this.until) return;
      const chance = isBreak(term, date) ? habit.daily * 0.3 : habit.daily;
      if (!random.chance(chance)) continue;
      const sittings = random.chance(0.5) ? 2 : 1;
      for (let s = 0; s < sittings; s++) {
        const minute = Math.min(
          23 * 60 + 30,
          Math.max(6 * 60, Math.round(19 * 60 - s * 300 + 110 * random.normal())),
        );
        this.sitting(instantOf(date, minute, term.zone), habit.sitting + random.whole(-5, 6));
      }
    }
  }

  /** Sittings in class, for those whose section meets. */
  private attend(): void {
    const { habit, roster } = this.student;
    const section = SECTIONS.find((s) => s.name === roster.section);
    const comes = habit.name === 'little time' ? 0.2 : 0.88;
    for (const meeting of meetingSpans(this.term, section?.meetings ?? [])) {
      // Of a meeting that runs there is what has happened by now.
      if (meeting.from < this.from || meeting.from > this.until || !this.random.chance(comes)) continue;
      this.sitting(meeting.from + this.random.whole(1, 10) * MINUTE_MS, 34 + this.random.whole(-6, 6));
    }
  }

  /** A run of events that begins with a login. */
  private sitting(start: Instant, length: number): void {
    const { random, student } = this;
    const within: Omit<EventRecord, 'id'>[] = [];
    let at = start;
    const add = (kind: EventKind, activity: string | null, duration: number | null = null) =>
      within.push({
        student: student.roster.id,
        at: Math.round(at / SECOND_MS) * SECOND_MS,
        kind,
        activity,
        duration,
      });
    add('login', null);
    const open = this.openAt(start);
    const topics = Array.from({ length: TOPICS }, () => random.pick(open));
    let topic = random.pick(topics);
    for (let i = 1; i < Math.max(4, length); i++) {
      at += (8 + random.wait(70)) * SECOND_MS + pauseAfter(at);
      if (random.chance(0.25)) topic = random.pick(topics);
      const kind = this.kindFor(topic);
      const watched = kind === 'watch' && random.chance(0.5);
      add(kind, topic.id, watched ? random.whole(20, 60 * (topic.minutes ?? 10)) : null);
    }
    this.keep(within);
  }

  /**
   * A run of events on one assignment that ends with what closes it, at the very instant that the gradebook knows:
   * opened, worked on about as long as it takes, handed in.
   */
  private workOn(work: ActivityRecord, ends: Instant, closing: EventKind, random: Random, part = 1): void {
    const pace = Math.min(1.25, Math.max(0.4, this.student.habit.sitting / 26));
    const minutes = (work.minutes ?? 20) * part * pace * (0.55 + 0.5 * random.next());
    const within: Omit<EventRecord, 'id'>[] = [];
    const add = (at: Instant, kind: EventKind, activity: string | null) =>
      within.unshift({
        student: this.student.roster.id,
        at: Math.round(at / SECOND_MS) * SECOND_MS,
        kind,
        activity,
        duration: null,
      });
    add(ends, closing, work.id);
    const answers = work.kind === 'quiz' || work.kind === 'exam' ? 'attempt' : 'practise';
    let at = ends;
    while (ends - at < minutes * MINUTE_MS) {
      at -= (10 + random.wait(90)) * SECOND_MS;
      add(at, random.chance(0.45) ? 'view' : answers, work.id);
    }
    add(at - 15 * SECOND_MS, 'view', work.id);
    add(at - 40 * SECOND_MS, 'login', null);
    this.keep(within);
  }

  private keep(events: readonly Omit<EventRecord, 'id'>[]): void {
    for (const event of events) if (event.at >= this.from && event.at <= this.until) this.events.push(event);
  }

  /** What they may turn to: an exam is there on its day only. */
  private openAt(at: Instant): ActivityRecord[] {
    const open = this.activities.filter(
      (a) => a.kind !== 'exam' && (a.opens ?? 0) <= at && (a.due == null || a.due > at - 7 * DAY_MS),
    );
    return open.length > 0 ? open : [this.activities[0]!];
  }

  private kindFor(topic: ActivityRecord): EventKind {
    if (topic.kind === 'video') return 'watch';
    if (isResource(topic.kind)) return this.random.chance(0.06) ? 'post' : 'view';
    // A quiz is answered when it is handed in; before that its page is only looked at.
    if (topic.kind === 'quiz') return 'view';
    return this.random.chance(topic.kind === 'practice' ? 0.45 : 0.25) ? 'practise' : 'view';
  }

  /** Works handed in, late, excused or left, and what came back. */
  private handIn(): void {
    const { habit } = this.student;
    const { random } = this;
    for (const work of this.activities) {
      if (work.points == null) continue;
      const due = work.due ?? this.from + random.whole(20, 60) * DAY_MS;
      const draw = {
        skip: random.next(),
        late: random.next(),
        excused: random.next(),
        noise: random.normal(),
      };
      const lag = random.wait(9 * HOUR_MS) + random.whole(1, 50) * MINUTE_MS;
      const turnaround = random.whole(30, 100) * HOUR_MS;
      if (due < this.from || (work.kind === 'exam' ? due : (work.opens ?? 0)) > this.until) continue;
      if (draw.excused < 0.008) {
        this.scores.push(this.score(work, { excused: true }));
        continue;
      }
      const recent = habit.name === 'behind' && due > this.now - 30 * DAY_MS;
      if (draw.skip < (recent ? 0.88 : habit.skips) && work.kind !== 'exam') continue;
      if (work.due == null && draw.skip < 0.6) continue;
      const late = draw.late < 0.05 && work.kind !== 'exam';
      const submitted = Math.round((late ? due + lag : due - lag) / SECOND_MS) * SECOND_MS;
      if (submitted > this.until || submitted < Math.max(this.from, work.opens ?? 0)) continue;
      this.workOn(work, submitted, 'submit', random);
      const graded = submitted + turnaround;
      const share = inSteps(this.shareOf(work, due, draw.noise), work);
      this.tryBefore(work, submitted, share, graded <= this.now);
      this.scores.push(
        graded > this.now
          ? this.score(work, { submitted })
          : this.score(work, {
              submitted,
              graded,
              returned: graded + HOUR_MS,
              points: inPoints(share, work),
            }),
      );
    }
  }

  /** The attempts of a work, the last of which stands in the gradebook. Its own seed: the rest of the term stays as it is. */
  private tryBefore(work: ActivityRecord, submitted: Instant, share: number, isGraded: boolean): void {
    const random = seeded(Math.round(submitted / SECOND_MS) % 1_000_003);
    const most = work.kind === 'quiz' ? 3 : work.kind === 'practice' ? 4 : 1;
    const earlier = most > 1 && random.chance(0.45) ? random.whole(1, most - 1) : 0;
    let at = submitted;
    const before: Instant[] = [];
    for (let i = 0; i < earlier; i++) {
      at -= random.whole(25, 600) * MINUTE_MS;
      if (at > Math.max(this.from, work.opens ?? 0)) before.unshift(at);
    }
    [...before, submitted].forEach((instant, i, all) => {
      const last = i === all.length - 1;
      const reached = last
        ? share
        : inSteps(Math.max(0.05, share - 0.1 * (all.length - 1 - i) - 0.08 * random.next()), work);
      if (!last) this.workOn(work, instant, 'attempt', random, 0.6);
      this.attempts.push({
        student: this.student.roster.id,
        activity: work.id,
        number: i + 1,
        submitted: instant,
        points: last && !isGraded ? null : inPoints(reached, work),
        share: reached,
      });
    });
  }

  private shareOf(work: ActivityRecord, due: Instant, noise: number): number {
    const { habit } = this.student;
    const weeks = (due - this.from) / (7 * DAY_MS);
    // Slipping starts in the third week and goes on whatever the work.
    const fall = habit.name === 'slipping' ? -0.052 * Math.max(0, weeks - 2) : 0;
    // The weakest outcome of each is another one, so that plans differ.
    const weakest = this.outcomes[Number(this.student.roster.id.slice(1)) % this.outcomes.length]!;
    const sore = work.outcomes.includes(weakest) ? -0.3 / work.outcomes.length : 0;
    const share = habit.ability + (DIFFICULTY[work.id] ?? 0) + fall + sore + 0.07 * noise;
    return Math.min(1, Math.max(0.08, share));
  }

  private score(
    work: ActivityRecord,
    known: Partial<Omit<GradebookRecord, 'student' | 'activity'>>,
  ): GradebookRecord {
    return {
      student: this.student.roster.id,
      activity: work.id,
      submitted: null,
      graded: null,
      returned: null,
      points: null,
      excused: false,
      due: null,
      extra: 0,
      ...known,
    };
  }
}
