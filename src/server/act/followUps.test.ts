import { randomUUID } from 'node:crypto';
import { beforeEach, describe, expect, it } from 'vitest';
import { eq } from 'drizzle-orm';
import { withSmallCourse } from '../../../tests/support/course';
import { docOf } from '@/core/messages/doc';
import {
  acts,
  checkIns,
  helpings,
  letters,
  messages,
  notes,
  recipients,
  replies,
  reviewTimes,
} from '@/data/schema';
import { briefView } from '../look/brief';
import { conversationView } from '../look/conversation';
import { roundsView } from '../look/rounds';
import { studentHome } from '../look/student';
import { remindOfReview } from '../remind/review';
import { checkIn, removeCheckIn } from './checkIn';
import { callBack, sendMessages } from './compose';
import { answerMessage } from './conversation';
import { closeFollowUp, moveFollowUp } from './followUps';
import { answerHelp, askForHelp, closeHelping } from './helpings';
import { addNote, addPassing, addTalkNote, closeAgreement, removeNote } from './notes';
import { reviewTime } from '@/data/queries/reviewTime';
import { setReviewTime } from './reviewTime';

const small = withSmallCourse();
const me = () => small.course.instructor;
const TODAY = '2026-10-28';
const DAY_MS = 86_400_000;

beforeEach(async () => {
  for (const table of [acts, notes, replies, messages, helpings, checkIns, letters, reviewTimes])
    await small.test.db.orm.delete(table);
});

const rounds = () => roundsView(me(), 'NAV', { scope: {} });
const due = async () => (await rounds()).followUps.lines;
/** Makes the day to look again of all acts one that has come. */
const daysGoBy = () => small.test.db.orm.update(acts).set({ followUpOn: TODAY });
const write = async (student: string, lookAgainOn: string | null) => {
  const { enrolmentId } = await small.course.student(student);
  const { messageId } = await sendMessages(
    me(),
    'NAV',
    [
      {
        key: randomUUID(),
        subject: 'A word',
        doc: docOf('Shall we talk?'),
        reason: 'behind by three',
        about: 'behind',
        activityId: null,
        recipients: [{ enrolmentId, plan: null }],
      },
    ],
    null,
    { offersTalk: false, saysWhy: false, lookAgainOn },
  );
  return messageId;
};
const answer = async (student: string, messageId: number, text: string) => {
  const { viewer } = await small.course.student(student);
  const [copy] = await small.test.db.orm.select().from(recipients).where(eq(recipients.messageId, messageId));
  await answerMessage(viewer, { recipient: copy!.id, key: randomUUID(), text });
};

describe('a follow-up', () => {
  it('is due on its day, says what has happened since, and is closed or set to another day', async () => {
    const { enrolmentId } = await small.course.student('s3');
    await addNote(me(), 'NAV', enrolmentId, {
      kind: 'call',
      on: '2026-10-17',
      text: 'Will hand exercise 3 in.',
      followUpOn: '2026-10-30',
    });
    expect(await due()).toEqual([]);
    await daysGoBy();
    const [line] = await due();
    expect(line).toMatchObject({ name: 'Bo Li', kind: 'call', own: true, about: 'Will hand exercise 3 in.' });
    expect(line!.happened.handedIn).toContain('Chart exercise 3');
    await moveFollowUp(me(), 'NAV', line!.actId, '2026-10-31');
    expect(await due()).toEqual([]);
    await daysGoBy();
    await closeFollowUp(me(), 'NAV', line!.actId);
    expect(await due()).toEqual([]);
    await closeFollowUp(me(), 'NAV', line!.actId, false);
    expect(await due()).toHaveLength(1);
  });

  it.each([
    ['today', TODAY, 'a day after today'],
    ['a day too far off', '2027-12-01', 'within 120 days'],
  ])('is refused for %s', async (_, on, words) => {
    const { enrolmentId } = await small.course.student('s3');
    const note = { kind: 'note' as const, on: TODAY, text: 'x', followUpOn: on };
    await expect(addNote(me(), 'NAV', enrolmentId, note)).rejects.toThrow(words);
    await expect(write('s3', on)).rejects.toThrow(words);
  });

  it('is due at once when an answer comes, whatever its day was, and if there was none', async () => {
    for (const day of ['2026-11-20', null]) {
      const messageId = await write('s3', day);
      expect(await due()).toEqual([]);
      await answer('s3', messageId, 'Can I come on Friday?');
      const [line] = await due();
      expect(line).toMatchObject({ kind: 'messaged', answered: 'Can I come on Friday?', due: TODAY });
      const { enrolmentId } = await small.course.student('s3');
      const { followUp } = await conversationView(me(), 'NAV', enrolmentId);
      expect(followUp).toEqual({ actId: line!.actId, on: TODAY });
      await closeFollowUp(me(), 'NAV', line!.actId);
      for (const table of [acts, replies, messages]) await small.test.db.orm.delete(table);
    }
  });

  it('is closed by the next message with a day of its own, and opened again if that is called back', async () => {
    await write('s3', '2026-11-01');
    await daysGoBy();
    expect(await due()).toHaveLength(1);
    const messageId = await write('s3', '2026-11-10');
    expect(await due()).toEqual([]);
    await small.test.db.orm.update(messages).set({ goneAt: null }).where(eq(messages.id, messageId));
    await callBack(me(), 'NAV', messageId);
    expect(await due()).toHaveLength(1);
  });

  it('of those who teach the course only', async () => {
    await write('s3', '2026-11-01');
    const [act] = await small.test.db.orm.select().from(acts);
    await expect(closeFollowUp(small.course.stranger, 'NAV', act!.id)).rejects.toThrow();
    await expect(moveFollowUp(small.course.stranger, 'NAV', act!.id, '2026-11-02')).rejects.toThrow();
    await expect(closeFollowUp(me(), 'NAV', act!.id + 1)).rejects.toThrow('no such follow-up');
  });
});

describe('what was agreed', () => {
  it('is looked at on its day, whatever was written since, and closed with what became of it', async () => {
    const { enrolmentId, viewer } = await small.course.student('s3');
    const agreed = { goal: 'Hand in on time', step: 'Start on Monday', on: '2026-10-30', said: 'I will try' };
    const noteId = await addTalkNote(me(), 'NAV', enrolmentId, { on: TODAY, text: '', agreed }, null);
    await write('s3', '2026-11-10');
    const [act] = await small.test.db.orm.select().from(acts).where(eq(acts.noteId, noteId));
    expect(act).toMatchObject({ kind: 'talk', followUpOn: '2026-10-30', followedUpAt: null });
    await daysGoBy();
    const line = (await due()).find((l) => l.agreement);
    expect(line!.agreement).toMatchObject({
      goal: 'Hand in on time',
      step: 'Start on Monday',
      said: 'I will try',
    });
    await closeAgreement(me(), 'NAV', line!.agreement!.id, 'kept');
    await closeAgreement(me(), 'NAV', line!.agreement!.id, null);
    expect((await due()).some((l) => l.agreement)).toBe(true);
    await closeAgreement(me(), 'NAV', line!.agreement!.id, 'in part');
    expect((await due()).some((l) => l.agreement)).toBe(false);
    expect((await studentHome(viewer)).courses[0]!.agreements).toMatchObject([{ closedAs: 'in part' }]);
    await removeNote(me(), 'NAV', noteId);
    expect((await studentHome(viewer)).courses[0]!.agreements).toEqual([]);
  });

  it('or what was said must be there', async () => {
    const { enrolmentId } = await small.course.student('s3');
    await expect(
      addTalkNote(me(), 'NAV', enrolmentId, { on: TODAY, text: ' ', agreed: null }, null),
    ).rejects.toThrow('Write a word or two');
  });
});

describe('a word in passing', () => {
  const passing = async (over = {}) => ({
    key: randomUUID(),
    student: (await small.course.student('s2')).enrolmentId,
    result: 'will do it' as const,
    text: '',
    on: TODAY,
    ...over,
  });
  it('logs the talk, handles the flags and sets the day to look again, once however often it is sent', async () => {
    const form = await passing();
    const waits = async () => (await rounds()).rows.some((r) => r.enrolmentId === form.student);
    expect(await waits()).toBe(true);
    const ids = [await addPassing(me(), 'NAV', form), await addPassing(me(), 'NAV', form)];
    expect(new Set(ids).size).toBe(1);
    expect(await waits()).toBe(false);
    const { brief } = await briefView(me(), 'NAV', form.student);
    expect(brief.more!.notes).toMatchObject([
      { kind: 'talk', text: 'Talked in passing: will do it', on: TODAY },
    ]);
    const kinds = (await small.test.db.orm.select().from(acts)).map((a) => [a.kind, a.followUpOn]);
    expect(kinds).toEqual([
      ['talk', '2026-10-31'],
      ['seen', null],
    ]);
    await removeNote(me(), 'NAV', ids[0]!);
    expect(await waits()).toBe(true);
  });
  it('with somebody who was not there handles nothing', async () => {
    const form = await passing({ result: 'not there', text: 'Ill, says Bo' });
    await addPassing(me(), 'NAV', form);
    expect((await rounds()).rows.some((r) => r.enrolmentId === form.student)).toBe(true);
    const { brief } = await briefView(me(), 'NAV', form.student);
    expect(brief.more!.notes).toMatchObject([{ kind: 'note', text: 'Ill, says Bo' }]);
  });
  it('is refused to others, for a day to come, and under the key of somebody else', async () => {
    const form = await passing();
    await expect(addPassing(small.course.stranger, 'NAV', form)).rejects.toThrow();
    await expect(addPassing(me(), 'NAV', { ...form, on: '2026-10-29' })).rejects.toThrow(
      'a day that has come',
    );
  });
});

describe('help from another student', () => {
  it('is asked of who is helped first, then of the helper, who learns the topic and the name only', async () => {
    const helped = await small.course.student('s3');
    const helper = await small.course.student('s1');
    const id = await askForHelp(me(), 'NAV', {
      helped: helped.enrolmentId,
      helper: helper.enrolmentId,
      topic: 'tidal heights',
      until: '2026-11-11',
    });
    const of = async (s: typeof helped) => (await studentHome(s.viewer)).courses[0]!.helpings;
    expect(await of(helped)).toMatchObject([
      { side: 'helped', asksMe: true, other: null, topic: 'tidal heights' },
    ]);
    expect(await of(helper)).toEqual([]);
    await expect(answerHelp(helper.viewer, id, true)).rejects.toThrow('no such question');
    await answerHelp(helped.viewer, id, true);
    const [asked] = await of(helper);
    expect(asked).toMatchObject({ side: 'helper', asksMe: true, other: 'Bo Li' });
    expect(Object.keys(asked!).sort()).toEqual(
      ['asksMe', 'by', 'id', 'other', 'side', 'state', 'topic', 'until'].sort(),
    );
    expect(await of(helped)).toMatchObject([{ other: null, asksMe: false }]);
    await answerHelp(helper.viewer, id, true);
    expect(await of(helped)).toMatchObject([{ other: 'Łucja Wójcik', state: 'agreed' }]);
    const texts = (await small.test.db.orm.select().from(letters)).map((l) => l.body);
    expect(texts).toHaveLength(2);
    expect(texts.join(' ')).not.toMatch(/%|score|grade|missing/);
    await closeHelping(helper.viewer, id, null);
    expect(await of(helped)).toEqual([]);
    await expect(closeHelping(me(), id, 'NAV')).rejects.toThrow('no such helping');
  });

  it('may be declined by either, and the helper never hears of a no', async () => {
    const helped = await small.course.student('s3');
    const helper = await small.course.student('s1');
    const form = {
      helped: helped.enrolmentId,
      helper: helper.enrolmentId,
      topic: 'heights',
      until: '2026-11-11',
    };
    const id = await askForHelp(me(), 'NAV', form);
    await expect(askForHelp(me(), 'NAV', form)).rejects.toThrow('asked already');
    await answerHelp(helped.viewer, id, false);
    expect((await studentHome(helper.viewer)).courses[0]!.helpings).toEqual([]);
    const { brief } = await briefView(me(), 'NAV', helped.enrolmentId);
    expect(brief.more!.helpings).toMatchObject([{ state: 'declined' }]);
    // A no stands in Rounds today, not on the day on which the help was to end.
    const due = async () =>
      (await roundsView(me(), 'NAV', {})).followUps.lines.map((l) => [l.enrolmentId, l.kind]);
    expect(await due()).toEqual([[helped.enrolmentId, 'paired']]);
    const again = await askForHelp(me(), 'NAV', { ...form, topic: 'streams' });
    // Asked anew, the new day stands for both; closed, there is nothing to look at.
    await closeHelping(me(), again, 'NAV');
    expect(await due()).toEqual([]);
  });

  it.each([
    ['with themselves', 's3', 's3', '2026-11-11', 'somebody else'],
    ['of who has left', 's3', 's5', '2026-11-11', 'active in this course'],
    ['until a day gone by', 's3', 's1', TODAY, 'a day after today'],
  ])('is not asked %s', async (_, a, b, until, words) => {
    const [helped, helper] = [await small.course.student(a), await small.course.student(b)];
    await expect(
      askForHelp(me(), 'NAV', { helped: helped.enrolmentId, helper: helper.enrolmentId, topic: 'x', until }),
    ).rejects.toThrow(words);
  });
});

describe('how it goes', () => {
  it('is seen by those who teach, one for a day, and gone when it is removed', async () => {
    const { viewer, enrolmentId } = await small.course.student('s1');
    const form = { course: 'NAV', how: 'so so' as const, inTheWay: [], word: '' };
    await checkIn(viewer, form);
    const id = await checkIn(viewer, {
      ...form,
      how: 'not well',
      inTheWay: ['health', 'time'],
      word: ' A cold ',
    });
    const { brief } = await briefView(me(), 'NAV', enrolmentId);
    expect(brief.checkIn).toMatchObject({ how: 'not well', inTheWay: ['health', 'time'], word: 'A cold' });
    expect((await studentHome(viewer)).courses[0]!.checkIn).toMatchObject({ id });
    const other = await small.course.student('s3');
    await expect(removeCheckIn(other.viewer, id)).rejects.toThrow('no such word');
    await expect(checkIn(me(), form)).rejects.toThrow();
    await expect(checkIn(viewer, { ...form, course: 'RAD' })).rejects.toThrow('no such course');
    await removeCheckIn(viewer, id);
    expect((await briefView(me(), 'NAV', enrolmentId)).brief.checkIn).toBeNull();
  });
});

describe('what comes along with a form', () => {
  it('is not stored: nobody sets the time of another, or ties a note to a talk', async () => {
    const other = small.course.stranger.userId;
    const time = { weekday: 5, minute: 540, userId: other, courseId: 999 };
    await setReviewTime(me(), 'NAV', time);
    expect(await small.test.db.orm.select().from(reviewTimes)).toEqual([
      { userId: me().userId, courseId: small.course.courseId, weekday: 5, minute: 540 },
    ]);
    const { enrolmentId } = await small.course.student('s3');
    const note = { kind: 'note' as const, on: TODAY, text: 'x', key: 'taken', talkId: 1, userId: other };
    await addNote(me(), 'NAV', enrolmentId, note);
    await addNote(me(), 'NAV', enrolmentId, note);
    for (const row of await small.test.db.orm.select().from(notes))
      expect(row).toMatchObject({ userId: me().userId, key: null, talkId: null });
  });
});

describe('the weekly time', () => {
  it('reminds of what is unfinished, names nobody, and comes again in a week', async () => {
    const time = { weekday: 5, minute: 9 * 60 };
    const at = await setReviewTime(me(), 'NAV', time);
    expect(new Date(at!).toISOString()).toBe('2026-10-30T09:00:00.000Z');
    expect(await reviewTime(small.test.db, me().userId, small.course.courseId)).toEqual(time);
    const payload = { userId: me().userId, courseId: small.course.courseId };
    await remindOfReview(small.test.db, { ...payload, at: at! });
    await remindOfReview(small.test.db, { ...payload, at: at! });
    const all = await small.test.db.orm.select().from(letters);
    expect(all).toHaveLength(1);
    expect(all[0]!.subject).toMatch(/^NAV: \d+ students? in Rounds/);
    expect(all[0]!.body).toContain('/c/NAV/rounds');
    expect(all[0]!.body).not.toMatch(/Bo|Li|Ömer|Yıldız/);
    // Changed meanwhile: the reminder of the time before says nothing.
    await setReviewTime(me(), 'NAV', { ...time, weekday: 1 });
    await remindOfReview(small.test.db, { ...payload, at: at! + 7 * DAY_MS });
    await setReviewTime(me(), 'NAV', null);
    await remindOfReview(small.test.db, { ...payload, at: Date.parse('2026-11-02T09:00:00Z') });
    expect(await small.test.db.orm.$count(letters)).toBe(1);
    expect(await reviewTime(small.test.db, me().userId, small.course.courseId)).toBeNull();
  });
});
