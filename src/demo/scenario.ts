import { CONTRIBUTIONS, type EventKind } from '@/core/course/kinds';
import { meetingSpans } from '@/core/calendar/meetings';
import { isBreak, type Term } from '@/core/calendar/term';
import { addDays, instantOf, localDate, startOfDay } from '@/core/calendar/zone';
import {
  type ActivityRecord,
  type AttemptRecord,
  type EventRecord,
  type GradebookRecord,
} from '@/core/course/records';
import { isResource } from '@/core/course/kinds';
import { DAY_MS, HOUR_MS, MINUTE_MS, SECOND_MS, type Instant } from '@/core/units';
import { beside, type Beside } from './beside';
import { activityRecords, demoTerm, outcomeRecords, SECTIONS } from './course';
import { demoStudents, type DemoStudent } from './people';
import { seeded, type Random } from './random';

export interface Scenario extends Beside {
  readonly term: Term;
  readonly outcomes: ReturnType<typeof outcomeRecords>;
  readonly activities: readonly ActivityRecord[];
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
  'exam-middle': -0.24,
  'quiz-heights': -0.08,
  'log-bearings': 0.12,
  'log-deviation': 0.1,
};

/** The main course as records: the same seed and instant give the same, to the last event. */
export function scenario({ now, seed = 110, students: count, copies }: ScenarioOptions): Scenario {
  const term = demoTerm(now);
  const students = demoStudents(term, count);
  const activities = activityRecords(term, copies);
  const gradebook: GradebookRecord[] = [];
  const attempts: AttemptRecord[] = [];
  const events: EventRecord[] = [];
  students.forEach((student, place) => {
    const life = new StudentTerm(student, term, activities, now, seeded(seed * 1000 + place));
    life.live();
    gradebook.push(...life.scores);
    attempts.push(...life.attempts);
    events.push(
      ...life.events.map((e, i) => ({ ...e, id: `${student.roster.id}-${String(i + 1).padStart(5, '0')}` })),
    );
  });
  events.sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
  const more = beside(term, students, activities, attempts, now, seed);
  return { term, outcomes: outcomeRecords(), activities, students, gradebook, attempts, events, ...more };
}

/** Now and then somebody gets up for a while; by the clock, so that the chance of everything else stays as it is. */
function pauseAfter(at: Instant): number {
  const second = Math.floor(at / SECOND_MS);
  return second % 151 === 0 ? (8 + (Math.floor(second / 151) % 46)) * MINUTE_MS : 0;
}

/** One student's term: when they sit down, what they do, what they hand in and what they get for it. */
class StudentTerm {
  readonly scores: GradebookRecord[] = [];
  readonly attempts: AttemptRecord[] = [];
  readonly events: Omit<EventRecord, 'id'>[] = [];
  /** First and last instant of their term. */
  private readonly from: Instant;
  private readonly until: Instant;

  constructor(
    private readonly student: DemoStudent,
    private readonly term: Term,
    private readonly activities: readonly ActivityRecord[],
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
        this.sitting(instantOf(date, minute, term.zone), habit.sitting + random.whole(-5, 6), null);
      }
    }
  }

  /** Sittings in class, for those whose section meets. */
  private attend(): void {
    const { habit, roster } = this.student;
    const section = SECTIONS.find((s) => s.name === roster.section);
    const comes = habit.name === 'little time' ? 0.2 : 0.88;
    for (const meeting of meetingSpans(this.term, section?.meetings ?? [])) {
      if (meeting.from < this.from || meeting.until > this.until || !this.random.chance(comes)) continue;
      this.sitting(meeting.from + this.random.whole(1, 10) * MINUTE_MS, 34 + this.random.whole(-6, 6), null);
    }
  }

  /** A run of events that begins with a login, or ends with handing in if `handsIn` names a work. */
  private sitting(start: Instant, length: number, handsIn: string | null): void {
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
    const topics = this.openAt(start);
    let topic = random.pick(topics);
    for (let i = 1; i < Math.max(4, length); i++) {
      at += (8 + random.wait(70)) * SECOND_MS + pauseAfter(at);
      if (random.chance(0.25)) topic = random.pick(topics);
      const kind = this.kindFor(topic);
      const watched = kind === 'watch' && random.chance(0.5);
      add(kind, topic.id, watched ? random.whole(20, 60 * (topic.minutes ?? 10)) : null);
    }
    if (handsIn) {
      // The hand-in closes the sitting, at the very instant that the gradebook knows.
      const shift = start - at;
      for (let i = 0; i < within.length; i++) within[i] = { ...within[i]!, at: within[i]!.at + shift };
      at = start;
      add('submit', handsIn);
    }
    for (const event of within) if (event.at >= this.from && event.at <= this.until) this.events.push(event);
  }

  private openAt(at: Instant): ActivityRecord[] {
    const open = this.activities.filter(
      (a) => (a.opens ?? 0) <= at && (a.due == null || a.due > at - 7 * DAY_MS),
    );
    return open.length > 0 ? open : [this.activities[0]!];
  }

  private kindFor(topic: ActivityRecord): EventKind {
    if (topic.kind === 'video') return 'watch';
    if (isResource(topic.kind)) return this.random.chance(0.06) ? 'post' : 'view';
    if (this.random.chance(0.55)) return 'view';
    const kind: EventKind = topic.kind === 'quiz' || topic.kind === 'exam' ? 'attempt' : 'practise';
    return CONTRIBUTIONS.includes(kind) ? kind : 'view';
  }

  /** Works handed in, late, excused or left, and what came back. */
  private handIn(): void {
    const { habit } = this.student;
    const { random } = this;
    let nth = 0;
    for (const work of this.activities) {
      if (work.points == null) continue;
      const due = work.due ?? this.from + random.whole(20, 60) * DAY_MS;
      nth++;
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
      if (draw.skip < (recent ? 0.5 : habit.skips) && work.kind !== 'exam') continue;
      if (work.due == null && draw.skip < 0.6) continue;
      const late = draw.late < 0.05 && work.kind !== 'exam';
      const submitted = Math.round((late ? due + lag : due - lag) / SECOND_MS) * SECOND_MS;
      if (submitted > this.until || submitted < Math.max(this.from, work.opens ?? 0)) continue;
      this.sitting(submitted, 10 + random.whole(0, 8), work.id);
      const graded = submitted + turnaround;
      const share = this.shareOf(work, due, draw.noise, nth);
      this.tryBefore(work, submitted, share, graded <= this.now);
      this.scores.push(
        graded > this.now
          ? this.score(work, { submitted })
          : this.score(work, {
              submitted,
              graded,
              returned: graded + HOUR_MS,
              points: Math.round(share * work.points * 2) / 2,
            }),
      );
    }
  }

  /** The attempts of a work, the last of which stands in the gradebook. Its own seed: the rest of the term stays as it is. */
  private tryBefore(work: ActivityRecord, submitted: Instant, share: number, isGraded: boolean): void {
    const random = seeded(Math.round(submitted / SECOND_MS) % 1_000_003);
    const most = work.kind === 'quiz' ? 3 : work.kind === 'practice' ? 4 : 1;
    const earlier = most > 1 && random.chance(0.45) ? random.whole(1, most - 1) : 0;
    const points = work.points!;
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
        : Math.max(0.05, share - 0.1 * (all.length - 1 - i) - 0.08 * random.next());
      this.attempts.push({
        student: this.student.roster.id,
        activity: work.id,
        number: i + 1,
        submitted: instant,
        points: last && !isGraded ? null : Math.round(reached * points * 2) / 2,
      });
    });
  }

  private shareOf(work: ActivityRecord, due: Instant, noise: number, nth: number): number {
    const { habit } = this.student;
    const weeks = (due - this.from) / (7 * DAY_MS);
    // Slipping starts in the third week and goes on whatever the work.
    const fall = habit.name === 'slipping' ? -0.052 * Math.max(0, weeks - 2) : 0;
    // The weakest outcome of each is another one, so that plans differ.
    const sore = (Number(this.student.roster.id.slice(1)) + nth) % 9 === 0 ? -0.12 : 0;
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
