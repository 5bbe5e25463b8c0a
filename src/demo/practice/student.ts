import { createHash } from 'node:crypto';
import { type ActivityRecord } from '@/core/course/records';
import { isResource } from '@/core/course/kinds';
import { formatDuration } from '@/core/formats/xapi/duration';
import { VERB_OF } from '@/core/formats/xapi/verbs';
import { uuidFromHash } from '@/core/formats/uuid';
import { formatInstant } from '@/core/calendar/instant';
import { MINUTE_MS, SECOND_MS, type Instant } from '@/core/units';
import type { DemoStudent } from '../people';
import { seeded, type Random } from '../random';

/** What the practice room sends: a statement as another system would word it. */
export type SentStatement = Readonly<Record<string, unknown>> & { readonly id: string };

export const HOME = 'https://practice.saltmarsh.example';
const ADL = 'http://adlnet.gov/expapi/verbs/';

const uuidOf = (text: string): string => uuidFromHash(createHash('sha1').update(text).digest('hex'));

/** One simulated student: sits down now and then, works on a few things by their own habits, and leaves. */
export class PracticeStudent {
  /** When they do the next thing. */
  next: Instant;
  private left = 0;
  private count = 0;
  private readonly random: Random;
  /** The quiz or practice under way. */
  private quiz: ActivityRecord | null = null;
  /** Quizzes handed in: each is taken once. */
  private readonly taken: Set<string>;

  /**
   * @param handedIn ids of the works that the student has handed in already
   * @param start when the room opened; part of the ids, so that another evening is another set of statements
   * @param pace so many times faster than life
   */
  constructor(
    private readonly student: DemoStudent,
    private readonly activities: readonly ActivityRecord[],
    handedIn: Iterable<string>,
    seed: number,
    private readonly start: Instant,
    private readonly pace: number,
  ) {
    this.random = seeded(seed);
    this.taken = new Set(handedIn);
    this.next = start + this.wait(8 * MINUTE_MS);
  }

  /** What they do at `next`; sets when they do the one after. */
  step(): SentStatement {
    const at = this.next;
    if (this.left === 0) {
      this.left = this.random.whole(4, 14);
      this.next = at + this.wait(MINUTE_MS);
      return this.say(at, VERB_OF.login, null);
    }
    this.left--;
    this.next = at + this.wait(this.left === 0 ? 25 * MINUTE_MS : 3 * MINUTE_MS);
    if (this.quiz) return this.finish(at, this.quiz);
    const activity = this.random.pick(this.activities);
    if (activity.kind === 'video')
      return this.say(at, VERB_OF.watch, activity, { seconds: 40 + this.random.whole(0, 300) });
    if (isResource(activity.kind)) return this.say(at, VERB_OF.view, activity);
    if (activity.kind === 'discussion') return this.say(at, VERB_OF.post, activity);
    if (activity.kind === 'practice' || this.mayTake(activity, at)) {
      this.quiz = activity;
      this.taken.add(activity.id);
      // Whoever begins one does not leave before it is done.
      if (this.left === 0) this.next = at + this.wait(3 * MINUTE_MS);
      this.left = Math.max(this.left, 1);
      return this.say(at, VERB_OF.attempt, activity);
    }
    if (activity.kind === 'quiz') return this.say(at, VERB_OF.view, activity);
    return this.say(at, VERB_OF.practise, activity);
  }

  /** Whether a quiz is still to be taken: it is not due yet, and not handed in. */
  private mayTake({ id, kind, due }: ActivityRecord, at: Instant): boolean {
    return kind === 'quiz' && !this.taken.has(id) && (due == null || at < due);
  }

  private finish(at: Instant, activity: ActivityRecord): SentStatement {
    this.quiz = null;
    const scaled = Math.min(1, Math.max(0, Math.round((0.72 + 0.14 * this.random.normal()) * 100) / 100));
    return this.say(at, `${ADL}${scaled >= 0.5 ? 'passed' : 'failed'}`, activity, { scaled });
  }

  private wait(mean: number): number {
    return Math.max(SECOND_MS, this.random.wait(mean)) / this.pace;
  }

  private say(
    at: Instant,
    verb: string,
    activity: ActivityRecord | null,
    { seconds, scaled }: { seconds?: number; scaled?: number } = {},
  ): SentStatement {
    const { id, given, family, email } = this.student.roster;
    const result = {
      ...(seconds == null ? {} : { duration: formatDuration(seconds) }),
      ...(scaled == null ? {} : { score: { scaled }, success: scaled >= 0.5, completion: true }),
    };
    return {
      id: uuidOf(`${this.start} ${id} ${++this.count}`),
      // Half of the systems one meets know people by address, half by an account.
      actor: {
        objectType: 'Agent',
        name: `${given} ${family}`,
        ...(email && this.count % 2 === 0
          ? { mbox: `mailto:${email}` }
          : { account: { homePage: HOME, name: id } }),
      },
      verb: { id: verb },
      object: activity
        ? {
            objectType: 'Activity',
            id: `${HOME}/works/${encodeURIComponent(activity.id)}`,
            definition: { name: { en: activity.title } },
          }
        : { objectType: 'Activity', id: `${HOME}/`, definition: { name: { en: 'Practice room' } } },
      ...(Object.keys(result).length > 0 ? { result } : {}),
      timestamp: formatInstant(Math.round(at)),
    };
  }
}
