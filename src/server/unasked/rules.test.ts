import { and, eq, inArray, sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { file, withSmallCourse } from '../../../tests/support/course';
import type { RuleForm } from '@/core/forms/rule';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import { DEFAULT_GUARDS } from '@/core/unasked/guards';
import type { DryRun } from '@/core/views/rules';
import { ended } from '../../../tests/support/job';
import {
  activities,
  activityOutcomes,
  acts,
  checkIns,
  courses,
  courseStaff,
  enrolments,
  messages,
  occasions,
  outcomes,
  persons,
  recipients,
  ruleCourses,
  rules,
  scores,
} from '@/data/schema';
import { evaluateNow } from '../derive/evaluation';
import { importFiles } from '../intake/intake';
import { wouldHave } from './dryRun';
import { actUnasked } from './act';
import {
  answerWaiting,
  beginDryRun,
  closeWord,
  endRule,
  moveRule,
  saveGuards,
  saveRule,
  switchRule,
} from './manage';
import { rulesView } from './view';

const small = withSmallCourse();
const db = () => small.test.db;
const me = () => small.course.instructor;
const course = () => small.course.courseId;

/** The clock that everything asks. */
const clock = (instant: string) => void (process.env.LANTERN_NOW = instant);

const form = (starter: string, over: Partial<RuleForm> = {}): RuleForm => {
  const numbers = usualNumbers(starter);
  const { name, make } = RULE_STARTERS[starter]!;
  return { id: null, name, starter, numbers, parts: make(numbers), ...over };
};
const onNow = async (starter: string, over: Partial<RuleForm> = {}) => {
  const id = await saveRule(me(), 'NAV', form(starter, over));
  await switchRule(me(), 'NAV', id, true);
  return id;
};
const idOf = async (student: string) => (await small.course.student(student)).enrolmentId;
const workId = async (external: string) =>
  (
    await db()
      .orm.select({ id: activities.id })
      .from(activities)
      .where(and(eq(activities.courseId, course()), eq(activities.externalId, external)))
  )[0]!.id;

const outcomeId = async (external: string) =>
  (
    await db()
      .orm.select({ id: outcomes.id })
      .from(outcomes)
      .where(and(eq(outcomes.courseId, course()), eq(outcomes.externalId, external)))
  )[0]!.id;

let quizzes = 0;
/** A quiz that nobody has a grade for yet. Its id in files; its title is "Quiz 3". */
async function newQuiz(): Promise<string> {
  const externalId = `quiz${++quizzes}`;
  const title = `Quiz ${quizzes}`;
  await db()
    .orm.insert(activities)
    .values({ courseId: course(), externalId, title, kind: 'quiz', points: 10, position: 90 + quizzes });
  await db()
    .orm.update(courses)
    .set({ setupRev: sql`${courses.setupRev} + 1` })
    .where(eq(courses.id, course()));
  return externalId;
}

/** Grades come in as a file, and the rules look. */
async function graded(...lines: string[]): Promise<void> {
  const text = ['student_id,activity_id,submitted,graded,returned,points,excused', ...lines].join('\n');
  await importFiles(
    db(),
    course(),
    me().userId,
    [file('gradebook.csv', text)],
    Date.parse(process.env.LANTERN_NOW!),
  );
  await look();
}
async function look(): Promise<void> {
  await evaluateNow(db(), course());
  await actUnasked(db(), course());
}
const states = async (rule: number) =>
  (
    await db()
      .orm.select({ key: occasions.key, state: occasions.state, why: occasions.why })
      .from(occasions)
      .where(eq(occasions.ruleId, rule))
      .orderBy(occasions.id)
  ).map((o) => `${o.key}: ${o.state}${o.why ? `, ${o.why}` : ''}`);
const sentBy = async (rule: number) =>
  db()
    .orm.select({
      recipientId: recipients.id,
      enrolmentId: recipients.enrolmentId,
      subject: recipients.subject,
      body: recipients.body,
    })
    .from(occasions)
    .innerJoin(recipients, eq(recipients.id, occasions.recipientId))
    .where(eq(occasions.ruleId, rule));

beforeEach(async () => {
  clock('2026-10-28T12:00:00Z');
  await db().orm.delete(messages);
  await db().orm.delete(rules);
  await db().orm.delete(ruleCourses);
  await db().orm.delete(checkIns);
});

describe('a rule that writes by itself', () => {
  it('writes once to who is graded after it was switched on, and not again when the grade is changed', async () => {
    const quiz = await newQuiz();
    const id = await onNow('praise');
    await look();
    // Grades from before it are past.
    expect(await states(id)).toEqual([]);
    clock('2026-10-28T14:00:00Z');
    await graded(
      `s2,${quiz},2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,9,no`,
      `s4,${quiz},2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,5,no`,
    );
    expect(await sentBy(id)).toMatchObject([
      {
        enrolmentId: await idOf('s2'),
        subject: `Well done in Quiz ${quizzes}`,
        body: expect.stringContaining(`You scored 9 of 10 in Quiz ${quizzes}`) as string,
      },
    ]);
    await look();
    clock('2026-10-28T15:00:00Z');
    await graded(`s2,${quiz},2026-10-28T13:00:00Z,2026-10-28T14:30:00Z,2026-10-28T14:30:00Z,10,no`);
    expect(await states(id)).toHaveLength(1);
    const [only] = await db().orm.select().from(messages);
    expect(only).toMatchObject({ reason: 'rule: Praise', about: 'high score', saysWhy: true });
    expect(await db().orm.select().from(messages)).toHaveLength(1);
    // Nobody has looked at the student: what they are flagged for stays to be handled in Rounds.
    const done = await db().orm.select().from(acts).where(eq(acts.kind, 'by rule'));
    expect(done).toMatchObject([{ enrolmentId: await idOf('s2'), answers: [] }]);
  });

  it('waits for the end of the quiet hours, and asks once more then', async () => {
    const quiz = await newQuiz();
    const id = await onNow('praise');
    clock('2026-10-28T21:00:00Z');
    await graded(
      `s1,${quiz},2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,10,no`,
      `s3,${quiz},2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,10,no`,
    );
    expect(await states(id)).toHaveLength(2);
    expect(await sentBy(id)).toEqual([]);
    await db()
      .orm.update(scores)
      .set({ excused: true })
      .where(and(eq(scores.enrolmentId, await idOf('s1')), eq(scores.activityId, await workId(quiz))));
    await db().orm.update(courses).set({ rev: 1000 }).where(eq(courses.id, course()));
    await db()
      .orm.update(enrolments)
      .set({ rev: 1000 })
      .where(eq(enrolments.id, await idOf('s1')));
    clock('2026-10-29T06:59:00Z');
    await actUnasked(db(), course());
    expect(await sentBy(id)).toEqual([]);
    clock('2026-10-29T07:00:00Z');
    await actUnasked(db(), course());
    expect((await sentBy(id)).map((s) => s.enrolmentId)).toEqual([await idOf('s3')]);
    expect((await states(id)).sort()[0]).toContain('held, excused');
  });

  it('is held back by a student who said that something is in the way', async () => {
    const id = await onNow('praise');
    const { enrolmentId } = await small.course.student('s4');
    await db()
      .orm.insert(checkIns)
      .values({
        courseId: course(),
        enrolmentId,
        how: 'not well',
        inTheWay: ['health'],
        word: '',
        at: new Date('2026-10-27T12:00:00Z'),
      });
    clock('2026-10-28T16:00:00Z');
    const quiz = await newQuiz();
    await graded(`s4,${quiz},2026-10-28T13:00:00Z,2026-10-28T15:30:00Z,2026-10-28T15:30:00Z,10,no`);
    expect(await states(id)).toEqual([`graded ${await workId(quiz)}: held, pause`]);
  });
});

describe('a message that asks first', () => {
  it('waits with its text and its numbers, goes at a yes, and is dropped at a no', async () => {
    const base = form('praise');
    const asks = { ...base, parts: { ...base.parts, then: { ...base.parts.then, approve: true } } };
    const id = await onNow('praise', asks);
    clock('2026-10-28T14:10:00Z');
    const quiz = await newQuiz();
    await graded(
      `s1,${quiz},2026-10-28T14:00:00Z,2026-10-28T14:00:00Z,2026-10-28T14:00:00Z,9,no`,
      `s2,${quiz},2026-10-28T14:00:00Z,2026-10-28T14:00:00Z,2026-10-28T14:00:00Z,10,no`,
    );
    const view = await rulesView(me(), 'NAV');
    expect(view.waiting.map((l) => [l.rule, l.assignment?.title, l.facts[0], l.fault])).toEqual([
      ['Praise', `Quiz ${quizzes}`, 'score 100 % on it', null],
      ['Praise', `Quiz ${quizzes}`, 'score 90 % on it', null],
    ]);
    expect(view.waiting[0]!.text).toContain('You scored 10 of 10');
    expect(await sentBy(id)).toEqual([]);
    const [ten, nine] = view.waiting;
    expect(await answerWaiting(me(), 'NAV', [ten!.id], true)).toBe(1);
    expect(await answerWaiting(me(), 'NAV', [nine!.id], false)).toBe(1);
    await actUnasked(db(), course());
    expect((await sentBy(id)).map((s) => s.enrolmentId)).toEqual([await idOf('s2')]);
    expect((await rulesView(me(), 'NAV')).log.map((l) => l.state).sort()).toEqual(['declined', 'sent']);
    await expect(answerWaiting(me(), 'NAV', [ten!.id], true)).rejects.toThrow('None of these waits any more');
    await expect(answerWaiting(small.course.stranger, 'NAV', [ten!.id], true)).rejects.toThrow();
  });

  it('goes in the name of the colleague who approved it', async () => {
    const base = form('praise');
    const asks = { ...base, parts: { ...base.parts, then: { ...base.parts.then, approve: true } } };
    const id = await onNow('praise', asks);
    const colleague = small.course.stranger;
    await db().orm.insert(courseStaff).values({ courseId: course(), userId: colleague.userId });
    clock('2026-10-28T14:20:00Z');
    const quiz = await newQuiz();
    await graded(`s4,${quiz},2026-10-28T14:15:00Z,2026-10-28T14:15:00Z,2026-10-28T14:15:00Z,10,no`);
    const [line] = (await rulesView(colleague, 'NAV')).waiting;
    await answerWaiting(colleague, 'NAV', [line!.id], true);
    await actUnasked(db(), course());
    const [sent] = await sentBy(id);
    const [message] = await db()
      .orm.select({ userId: messages.userId })
      .from(messages)
      .innerJoin(recipients, eq(recipients.messageId, messages.id))
      .where(eq(recipients.id, sent!.recipientId));
    expect(message!.userId).toBe(colleague.userId);
    await db()
      .orm.delete(courseStaff)
      .where(and(eq(courseStaff.courseId, course()), eq(courseStaff.userId, colleague.userId)));
  });

  it('does not go once its rule was changed, switched off or ended', async () => {
    const base = form('praise');
    const asks = { ...base, parts: { ...base.parts, then: { ...base.parts.then, approve: true } } };
    const id = await onNow('praise', asks);
    clock('2026-10-28T15:10:00Z');
    const quiz = await newQuiz();
    await graded(`s3,${quiz},2026-10-28T15:00:00Z,2026-10-28T15:00:00Z,2026-10-28T15:00:00Z,9,no`);
    expect((await states(id))[0]).toContain('waiting');
    await saveRule(me(), 'NAV', { ...asks, id, numbers: { percent: 70 } });
    expect((await states(id))[0]).toContain('held, the rule was changed');
    // Changed, it does not look at what is past.
    await look();
    expect(await states(id)).toHaveLength(1);
    await endRule(me(), 'NAV', id);
    expect((await rulesView(me(), 'NAV')).rules).toEqual([]);
  });
});

describe('a word to the instructor', () => {
  it('stands with its draft until it is done, and is opened again', async () => {
    const quiz = await newQuiz();
    await db()
      .orm.insert(activityOutcomes)
      .values({ activityId: await workId(quiz), outcomeId: await outcomeId('heights') });
    const own: RuleForm = {
      id: null,
      name: 'Under half',
      starter: null,
      numbers: {},
      parts: {
        when: { on: 'graded', which: { work: await workId(quiz) } },
        where: { measure: 'this:percent', is: '<', value: 50 },
        about: 'low score',
        then: { ...form('hard work').parts.then },
      },
    };
    const id = await saveRule(me(), 'NAV', own);
    await switchRule(me(), 'NAV', id, true);
    clock('2026-10-28T16:10:00Z');
    await graded(`s3,${quiz},2026-10-28T16:00:00Z,2026-10-28T16:00:00Z,2026-10-28T16:00:00Z,2,no`);
    const [word] = (await rulesView(me(), 'NAV')).words;
    expect(word).toMatchObject({ name: 'Bo Li', about: 'low score', weakest: ['Tidal heights'] });
    expect(await sentBy(id)).toEqual([]);
    await closeWord(me(), 'NAV', word!.id, true);
    expect((await rulesView(me(), 'NAV')).words).toEqual([]);
    await closeWord(me(), 'NAV', word!.id, false);
    expect((await rulesView(me(), 'NAV')).words).toHaveLength(1);
  });
});

describe('what a rule rests on', () => {
  it('is looked at when it is saved, and a rule whose assignment goes pauses and says why', async () => {
    const [made] = await db()
      .orm.insert(activities)
      .values({
        courseId: course(),
        externalId: 'q9',
        title: 'Radio quiz',
        kind: 'quiz',
        points: 10,
        position: 99,
      })
      .returning();
    await db()
      .orm.update(courses)
      .set({ setupRev: sql`${courses.setupRev} + 1` })
      .where(eq(courses.id, course()));
    const own = form('praise', { starter: null });
    const about = {
      ...own,
      parts: { ...own.parts, when: { on: 'graded' as const, which: { work: made!.id } } },
    };
    const id = await saveRule(me(), 'NAV', about);
    await switchRule(me(), 'NAV', id, true);
    await db().orm.delete(activities).where(eq(activities.id, made!.id));
    await db()
      .orm.update(courses)
      .set({ setupRev: sql`${courses.setupRev} + 1` })
      .where(eq(courses.id, course()));
    await look();
    const [line] = (await rulesView(me(), 'NAV')).rules;
    expect(line).toMatchObject({
      state: 'paused',
      why: 'The assignment it is about is not in the course any more.',
    });
    await expect(switchRule(me(), 'NAV', id, true)).rejects.toThrow('not in the course any more');
  });

  it('may go between the decision and the sending: then nothing is said of it', async () => {
    const quiz = await newQuiz();
    const id = await onNow('praise');
    clock('2026-10-28T21:00:00Z');
    await graded(`s1,${quiz},2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,2026-10-28T20:30:00Z,10,no`);
    await db()
      .orm.delete(activities)
      .where(eq(activities.id, await workId(quiz)));
    clock('2026-10-29T08:00:00Z');
    await actUnasked(db(), course());
    expect(await sentBy(id)).toEqual([]);
    expect((await states(id))[0]).toContain('held, the assignment is gone');
  });

  it('asks first where it would write to more than half of the class at once', async () => {
    const quiz = await newQuiz();
    const id = await onNow('praise');
    const ids = await db()
      .orm.insert(persons)
      .values(Array.from({ length: 12 }, (_, i) => ({ externalId: `many${i}`, given: 'M', family: `${i}` })))
      .returning();
    const places = await db()
      .orm.insert(enrolments)
      .values(ids.map((p) => ({ courseId: course(), personId: p.id })))
      .returning();
    clock('2026-10-28T14:00:00Z');
    await graded(
      ...ids.map(
        (p) => `${p.externalId},${quiz},2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,10,no`,
      ),
    );
    const all = await states(id);
    expect(all).toHaveLength(places.length);
    expect(all[0]).toContain('waiting, 12 students at once: it asks first');
    await db()
      .orm.delete(persons)
      .where(
        inArray(
          persons.id,
          ids.map((p) => p.id),
        ),
      );
  });

  it('must be somebody: a rule on everybody is refused, a starter is there once, and others’ rules are not changed', async () => {
    const everybody = form('not seen', { starter: null });
    const { ruleForm } = await import('@/core/forms/rule');
    expect(() =>
      ruleForm.validateSync(
        { ...everybody, parts: { ...everybody.parts, where: { all: [] } } },
        { strict: true },
      ),
    ).toThrow('would write to every student');
    const id = await saveRule(me(), 'NAV', form('praise'));
    await expect(saveRule(me(), 'NAV', form('praise'))).rejects.toThrow('this rule already');
    await expect(switchRule(small.course.stranger, 'NAV', id, true)).rejects.toThrow();
  });

  it('may be too old: it is unknown then, writes to nobody and says since when', async () => {
    const id = await onNow('not seen');
    clock('2026-11-04T13:00:00Z');
    await look();
    expect(await states(id)).toEqual([]);
    expect((await rulesView(me(), 'NAV')).rules[0]!.stale).toMatch(/^no data since /);
  });

  it('is nothing while the clock is set back', async () => {
    const id = await onNow('praise');
    await look();
    clock('2026-10-27T12:00:00Z');
    const quiz = await newQuiz();
    await graded(`s2,${quiz},2026-10-27T11:00:00Z,2026-10-27T11:00:00Z,2026-10-27T11:00:00Z,10,no`);
    expect(await states(id)).toEqual([]);
  });
});

describe('another time zone', () => {
  it('set for the course in between makes no weekly rule look twice at a week', async () => {
    const { parts } = form('not seen');
    const id = await saveRule(me(), 'NAV', {
      id: null,
      name: 'Each Thursday',
      starter: null,
      numbers: {},
      parts: {
        ...parts,
        when: { on: 'weekly', weekday: 4, minute: 8 * 60 },
        where: { all: [{ measure: 'standing', is: '<', value: 101 }] },
        then: { ...parts.then, do: 'word' },
      },
    });
    await switchRule(me(), 'NAV', id, true);
    clock('2026-10-29T09:00:00Z');
    await graded();
    const first = await states(id);
    expect(first.length).toBeGreaterThan(0);
    expect(first.every((s) => s.startsWith('week 2026-10-29: word'))).toBe(true);
    // Eight o'clock comes again, four hours later.
    await db().orm.update(courses).set({ zone: 'America/New_York' }).where(eq(courses.id, course()));
    clock('2026-10-29T13:00:00Z');
    await graded();
    expect(await states(id)).toEqual(first);
    await db().orm.update(courses).set({ zone: 'Europe/Lisbon' }).where(eq(courses.id, course()));
  });
});

describe('a place in the class', () => {
  it('is one among all, however few were graded', async () => {
    const quiz = await newQuiz();
    const place = form('hard work', { starter: null, name: 'Lowest quarter' });
    const where = { measure: 'standing', is: 'lowest' as const, percent: 25 };
    const id = await saveRule(me(), 'NAV', { ...place, parts: { ...place.parts, where } });
    await switchRule(me(), 'NAV', id, true);
    clock('2026-10-28T14:00:00Z');
    // The best of the class alone is graded: lowest of one, and not of all.
    await graded(`s1,${quiz},2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,2026-10-28T13:00:00Z,10,no`);
    expect(await states(id)).toEqual([]);
  });
});

describe('order and guards', () => {
  it('let the rule higher in the list write first', async () => {
    const low = await onNow('praise');
    const high = await onNow('praise', { ...form('praise'), starter: null, name: 'Full marks' });
    await moveRule(me(), 'NAV', high, true);
    const moved = await rulesView(me(), 'NAV');
    expect(moved.rules.map((r) => r.id)).toEqual([high, low]);
    // Order and limits are shared: who changed them is on record.
    expect(moved.changes[0]).toMatchObject({ by: 'Ines Calloway', what: 'moved the rule “Full marks” up' });
    clock('2026-10-28T17:10:00Z');
    const quiz = await newQuiz();
    await graded(`s4,${quiz},2026-10-28T17:00:00Z,2026-10-28T17:00:00Z,2026-10-28T17:00:00Z,10,no`);
    expect((await sentBy(high)).length).toBe(1);
    expect((await states(low))[0]).toContain('held, about the same');
  });

  it('are kept, with what held before', async () => {
    const before = await saveGuards(me(), 'NAV', { ...DEFAULT_GUARDS, mostAWeek: 1 });
    expect(before).toEqual(DEFAULT_GUARDS);
    const view = await rulesView(me(), 'NAV');
    expect(view.guards.mostAWeek).toBe(1);
    expect(view.changes[0]!.what).toContain('at most 1 a week');
  });
});

describe('a dry run', () => {
  it('says what would have been sent, with texts, as a job', async () => {
    const job = await beginDryRun(me(), 'NAV', form('praise'));
    const found = await ended<DryRun>(me().userId, job);
    // One of the quiz before had 90 per cent.
    expect(found.lines.map((l) => [l.name, l.subject, l.held])).toContainEqual([
      'Łucja Wójcik',
      'Well done in Tides quiz',
      null,
    ]);
    expect(found.weeks.reduce((n, w) => n + w.messages, 0)).toBe(found.messages);
  });

  it('of days gone by is what happened when they were gone through one by one', async () => {
    // The rule of silence, looked at each morning from its fourth week on; s2 stopped on the sixteenth.
    clock('2026-10-20T00:30:00Z');
    const own: RuleForm = {
      ...form('not seen', { starter: null, name: 'Nine days' }),
      parts: {
        ...form('not seen').parts,
        where: { measure: 'silence', is: '>=', value: 9 },
        then: { ...form('not seen').parts.then, approve: false },
      },
    };
    const id = await saveRule(me(), 'NAV', own);
    await switchRule(me(), 'NAV', id, true);
    for (let day = 20; day <= 28; day++) {
      clock(`2026-10-${day}T12:30:00Z`);
      await actUnasked(db(), course());
    }
    const live = (await sentBy(id)).map((s) => s.enrolmentId);
    expect(live).toEqual([await idOf('s2')]);
    await db().orm.delete(messages);
    const [row] = await db().orm.select().from(courses).where(eq(courses.id, course()));
    const { all } = await wouldHave(db(), row!, own.parts);
    expect(all.filter((w) => w.held == null).map((w) => w.student)).toEqual(live);
    const [occasion] = await db().orm.select().from(occasions).where(eq(occasions.ruleId, id));
    expect(all.map((w) => w.key)).toEqual([occasion!.key]);
  });
});
