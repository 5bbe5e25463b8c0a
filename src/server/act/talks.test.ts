import { writeFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import ICAL from 'ical.js';
import { simpleParser, type ParsedMail } from 'mailparser';
import MailComposer from 'nodemailer/lib/mail-composer';
import PostalMime from 'postal-mime';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { docOf } from '@/core/messages/doc';
import type { TalkTimesForm } from '@/core/forms/talk';
import { courses, enrolments, letters, messages, persons, recipients, talks, talkTimes } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { rereadConfig } from '../base/config';
import { studentHome } from '../look/student';
import { talkFile, talksView } from '../look/talks';
import { sendLetter } from '../mail/letters';
import { conversationView } from '../look/conversation';
import { arriving } from '../staging/staging';
import { takeMail } from '../mail/incoming';
import { workOff } from '../work';
import { composeView, sendMessages } from './compose';
import { addTalkNote } from './notes';
import { cancelTalk, takeTalk } from './talks';
import { removeTalkTimes, saveTalkTimes } from './talkTimes';

const small = withSmallCourse();
const me = () => small.course.instructor;
let out: MailStandIn;
const box = () => join(small.test.folder, 'mail');

beforeAll(async () => {
  out = await startMailStandIn(box());
  process.env.SMTP_URL = `smtp://127.0.0.1:${out.port}`;
  process.env.LANTERN_MAIL_STANDIN = 'yes';
  rereadConfig();
});
afterAll(async () => {
  await out.close();
  for (const name of ['SMTP_URL', 'LANTERN_MAIL_STANDIN']) delete process.env[name];
  rereadConfig();
});
beforeEach(async () => {
  await workOff(small.test.db);
  for (const file of readdirSync(box())) rmSync(join(box(), file));
  const { orm } = small.test.db;
  for (const table of [letters, talks, talkTimes, messages]) await orm.delete(table);
});

/** Thursday 29 October, 14:00 to 15:00 in Lisbon, which keeps UTC in winter; the day after the test's now. */
const THURSDAY: TalkTimesForm = {
  id: null,
  repeat: 'weekly',
  firstOn: '2026-10-29',
  lastOn: '2026-11-26',
  from: 14 * 60,
  until: 15 * 60,
  minutes: 20,
  place: 'Room 2.14',
  seats: 1,
  open: true,
  except: [],
};
const at = (text: string) => Date.parse(text);
const TWO = at('2026-10-29T14:00:00Z');
const TWENTY_PAST = TWO + 1_200_000;
const give = (over: Partial<TalkTimesForm> = {}) => saveTalkTimes(me(), 'NAV', { ...THURSDAY, ...over });
const offersOf = async (student: string) => {
  const { viewer } = await small.course.student(student);
  return (await studentHome(viewer)).courses[0]!.offers;
};
/** What the stand-in has kept so far, read by mailparser. */
async function mailFor(address: string): Promise<ParsedMail[]> {
  await workOff(small.test.db);
  const all = await Promise.all(readdirSync(box()).map((f) => simpleParser(readFileSync(join(box(), f)))));
  return all.filter((m) => [m.to ?? []].flat().some((t) => t.value.some((v) => v.address === address)));
}
const calendarIn = (mail: ParsedMail) => {
  const file = mail.attachments.find((a) => a.contentType === 'text/calendar')!;
  const calendar = new ICAL.Component(ICAL.parse(file.content.toString()));
  const event = calendar.getFirstSubcomponent('vevent')!;
  const value = (name: string) => event.getFirstPropertyValue(name);
  return { method: calendar.getFirstPropertyValue('method'), value };
};

describe('times for a talk', () => {
  it('are offered to everybody where they are open, else to whom a message offers them', async () => {
    const times = await give({ open: false });
    expect(await offersOf('s1')).toEqual([]);
    const { enrolmentId } = await small.course.student('s1');
    expect((await composeView(me(), 'NAV', [])).talks).toEqual({ free: 9, next: TWO });
    await sendMessages(
      me(),
      'NAV',
      [
        {
          key: randomUUID(),
          subject: 'Come by',
          doc: docOf('Let us talk.'),
          reason: 'low score',
          about: 'low score',
          activityId: null,
          recipients: [{ enrolmentId, plan: null }],
        },
      ],
      null,
      { offersTalk: true, saysWhy: true, lookAgainOn: '2026-11-04' },
    );
    const [offer] = await offersOf('s1');
    // Three weeks of Thursdays, three talks each.
    expect(offer!.slots).toHaveLength(9);
    expect(offer!.slots[0]).toMatchObject({ startsAt: TWO, times, place: 'Room 2.14', seats: 1 });
    expect(await offersOf('s3')).toEqual([]);
    const [mail] = await mailFor('lucja@students.example');
    expect(mail!.text).toContain('Choose a time for a talk at');
    const { viewer } = await small.course.student('s1');
    const [own] = (await studentHome(viewer)).courses[0]!.messages;
    expect(own).toMatchObject({
      offersTalk: true,
      why: 'You got this because of your score on an assignment.',
    });
  });

  it('cannot be offered where there are none, and leave exceptions out', async () => {
    const { enrolmentId } = await small.course.student('s1');
    const sending = sendMessages(
      me(),
      'NAV',
      [
        {
          key: randomUUID(),
          subject: 'Come by',
          doc: docOf('Let us talk.'),
          reason: '',
          about: 'other',
          activityId: null,
          recipients: [{ enrolmentId, plan: null }],
        },
      ],
      null,
      { offersTalk: true, saysWhy: false, lookAgainOn: null },
    );
    await expect(sending).rejects.toThrow('no free times to offer');
    await give({ except: ['2026-10-29', '2026-11-05'] });
    expect((await offersOf('s1'))[0]!.slots.map((s) => s.on)).toEqual([
      '2026-11-12',
      '2026-11-12',
      '2026-11-12',
    ]);
  });

  it('stay their owner’s, whatever else comes along with the form', async () => {
    const id = await give();
    const more = { ...THURSDAY, id, userId: small.course.stranger.userId, courseId: 999 };
    await saveTalkTimes(me(), 'NAV', more);
    const [row] = await small.test.db.orm.select().from(talkTimes).where(eq(talkTimes.id, id));
    expect(row).toMatchObject({ userId: me().userId, courseId: small.course.courseId });
  });

  it('of a course that is archived are nobody’s to take', async () => {
    const times = await give();
    const { viewer } = await small.course.student('s1');
    const archive = (archivedAt: Date | null) =>
      small.test.db.orm.update(courses).set({ archivedAt }).where(eq(courses.id, small.course.courseId));
    await archive(new Date());
    expect(await offersOf('s1')).toEqual([]);
    await expect(takeTalk(viewer, { times, startsAt: TWO })).rejects.toThrow('no such time for you');
    await archive(null);
    expect(await offersOf('s1')).toHaveLength(1);
  });

  it('are their owner’s to change and remove; what is booked stays', async () => {
    const id = await give();
    const { viewer } = await small.course.student('s1');
    await takeTalk(viewer, { times: id, startsAt: TWO });
    await expect(removeTalkTimes(small.course.stranger, 'NAV', id)).rejects.toThrow();
    await saveTalkTimes(me(), 'NAV', { ...THURSDAY, id, place: 'Library' });
    await removeTalkTimes(me(), 'NAV', id);
    const view = await talksView(me(), 'NAV');
    expect(view.times).toEqual([]);
    expect(view.coming).toMatchObject([{ name: 'Łucja Wójcik', startsAt: TWO, place: 'Room 2.14' }]);
    await expect(saveTalkTimes(me(), 'NAV', { ...THURSDAY, id })).rejects.toThrow('no such times of yours');
  });
});

describe('a talk', () => {
  it('is taken, moved and cancelled; both get it for their calendar, by one UID', async () => {
    const times = await give();
    const { viewer } = await small.course.student('s1');
    const id = await takeTalk(viewer, { times, startsAt: TWO });
    expect(await takeTalk(viewer, { times, startsAt: TWO })).toBe(id);
    await workOff(small.test.db);
    expect(await takeTalk(viewer, { times, startsAt: TWENTY_PAST })).toBe(id);
    await workOff(small.test.db);
    const [moved] = (await studentHome(viewer)).courses[0]!.talks;
    expect(moved).toMatchObject({ id, startsAt: TWENTY_PAST, place: 'Room 2.14' });
    await cancelTalk(viewer, { talk: id, why: 'I am ill' });
    await cancelTalk(viewer, { talk: id, why: 'again' });
    expect((await studentHome(viewer)).courses[0]!.talks).toEqual([]);
    const inOrder = (all: ParsedMail[]) =>
      all.sort((a, b) => Number(calendarIn(a).value('sequence')) - Number(calendarIn(b).value('sequence')));
    const mine = inOrder(await mailFor('lucja@students.example'));
    const files = mine.map(calendarIn);
    expect(files.map((f) => [f.method, f.value('sequence'), f.value('status')])).toEqual([
      ['REQUEST', 0, 'CONFIRMED'],
      ['REQUEST', 1, 'CONFIRMED'],
      ['CANCEL', 2, 'CANCELLED'],
    ]);
    expect(new Set(files.map((f) => f.value('uid'))).size).toBe(1);
    expect((files[1]!.value('dtstart') as ICAL.Time).toJSDate().getTime()).toBe(TWENTY_PAST);
    expect(mine[2]!.text).toContain('“I am ill”');
    const theirs = inOrder(await mailFor('ines@example.org'));
    expect(theirs.map((m) => calendarIn(m).method)).toEqual(['PUBLISH', 'PUBLISH', 'PUBLISH']);
    expect(calendarIn(theirs[2]!).value('status')).toBe('CANCELLED');
    // Sent by a machine, with a way out for the student (RFC 3834; RFC 2369).
    expect(mine[0]!.headers.get('auto-submitted')).toBe('auto-generated');
    expect(JSON.stringify(mine[0]!.headers.get('list'))).toContain('/home');
    const raw = readdirSync(box()).map((f) => readFileSync(join(box(), f)));
    const read = await Promise.all(raw.map((bytes) => PostalMime.parse(bytes)));
    expect(
      read.filter((m) => m.attachments.some((a) => a.mimeType === 'text/calendar')).length,
    ).toBeGreaterThan(5);
  });

  it('is reminded of the day before, and not of where it was before it moved', async () => {
    const times = await give({ firstOn: '2026-11-05' });
    const { viewer } = await small.course.student('s1');
    const first = at('2026-11-05T14:00:00Z');
    await takeTalk(viewer, { times, startsAt: first });
    await takeTalk(viewer, { times, startsAt: first + 1_200_000 });
    const waiting = await small.test.db.orm.select().from(letters).where(eq(letters.mailState, 'queued'));
    const reminders = waiting.filter((l) => l.key.endsWith('reminder'));
    expect(reminders.map((l) => l.goesAt.getTime())).toEqual([
      first + 1_200_000 - 86_400_000,
      first + 1_200_000 - 86_400_000,
    ]);
    // Whoever left the course meanwhile is not reminded.
    const own = reminders.find((l) => l.personId != null)!;
    const { enrolmentId } = await small.course.student('s1');
    const status = (to: 'active' | 'withdrawn') =>
      small.test.db.orm.update(enrolments).set({ status: to }).where(eq(enrolments.id, enrolmentId));
    await status('withdrawn');
    await sendLetter(small.test.db, { letterId: own.id }, { last: false });
    await status('active');
    const [after] = await small.test.db.orm.select().from(letters).where(eq(letters.id, own.id));
    expect(after!.mailState).toBe('left out');
  });

  it('is told here only to who wants no e-mail', async () => {
    const times = await give();
    const { viewer, personId } = await small.course
      .student('s3')
      .then((s) => ({ ...s, personId: s.viewer.personId! }));
    const copies = (on: boolean) =>
      small.test.db.orm.update(persons).set({ mailCopies: on }).where(eq(persons.id, personId));
    await copies(false);
    await takeTalk(viewer, { times, startsAt: TWO });
    await workOff(small.test.db);
    await copies(true);
    const all = await small.test.db.orm.select().from(letters).where(eq(letters.personId, personId));
    expect(all.find((l) => l.calendar != null)!.mailState).toBe('turned off');
  });

  it('goes to one of two who press at once; the other is told', async () => {
    const times = await give();
    const [one, two] = [await small.course.student('s1'), await small.course.student('s3')];
    const race = await Promise.allSettled(
      [one, two].map((s) => takeTalk(s.viewer, { times, startsAt: TWO })),
    );
    expect(race.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected']);
    const lost = race.find((r) => r.status === 'rejected')!;
    expect(String(lost.reason)).toContain('Somebody has just taken this time');
    const stored = await small.test.db.orm
      .select()
      .from(talks)
      .where(and(eq(talks.timesId, times), eq(talks.seat, 1)));
    expect(stored).toHaveLength(1);
  });

  it('has as many seats as were given, and an instructor is in one at a time', async () => {
    const pair = await give({ seats: 2 });
    const late = await give({ from: 14 * 60 + 10, until: 14 * 60 + 30, minutes: 20 });
    const [one, two, three] = await Promise.all(['s1', 's3', 's4'].map((s) => small.course.student(s)));
    await takeTalk(one!.viewer, { times: pair, startsAt: TWO });
    await takeTalk(two!.viewer, { times: pair, startsAt: TWO });
    await expect(takeTalk(three!.viewer, { times: pair, startsAt: TWO })).rejects.toThrow('just taken');
    await expect(takeTalk(three!.viewer, { times: late, startsAt: TWO + 600_000 })).rejects.toThrow(
      'just taken',
    );
    expect((await offersOf('s4'))[0]!.slots.some((s) => s.on === '2026-10-29' && s.times === late)).toBe(
      false,
    );
  });

  it.each([
    ['a time that nobody gave', TWO + 60_000, 'not offered any more'],
    ['a time gone by', at('2026-10-28T12:10:00Z'), 'too close, or gone by'],
    ['a time far off', TWO + 60 * 7 * 86_400_000, 'not offered any more'],
  ])('is refused for %s', async (_, startsAt, words) => {
    const times = await give();
    const { viewer } = await small.course.student('s1');
    await expect(takeTalk(viewer, { times, startsAt })).rejects.toThrow(words);
  });

  it('is of those who hold it: nobody else takes, cancels or reads it', async () => {
    const times = await give({ open: false });
    const one = await small.course.student('s1');
    const other = await small.course.student('s3');
    await expect(takeTalk(one.viewer, { times, startsAt: TWO })).rejects.toThrow('no such time for you');
    await saveTalkTimes(me(), 'NAV', { ...THURSDAY, id: times });
    await expect(takeTalk(me(), { times, startsAt: TWO })).rejects.toThrow();
    const id = await takeTalk(one.viewer, { times, startsAt: TWO });
    await expect(cancelTalk(other.viewer, { talk: id, why: '' })).rejects.toThrow('no such talk');
    await expect(cancelTalk(small.course.stranger, { talk: id, why: '' })).rejects.toThrow();
    await expect(talkFile(other.viewer, id)).rejects.toThrow('no such talk');
    expect((await talkFile(one.viewer, id)).text).toContain('ATTENDEE');
    expect((await talkFile(me(), id)).text).not.toContain('ATTENDEE');
    await cancelTalk(me(), { talk: id, why: '' });
    expect((await talksView(me(), 'NAV')).coming).toEqual([]);
  });

  it('is not moved to and fro without end: both sides get word of each change', async () => {
    const times = await give();
    const { viewer } = await small.course.student('s1');
    const id = await takeTalk(viewer, { times, startsAt: TWO });
    await small.test.db.orm.update(talks).set({ sequence: 29 });
    await expect(takeTalk(viewer, { times, startsAt: TWENTY_PAST })).rejects.toThrow('a lot of changes');
    // Whoever cannot come can still say so.
    await cancelTalk(viewer, { talk: id, why: '' });
    expect((await talksView(me(), 'NAV')).coming).toEqual([]);
  });

  it('is changed by no calendar file that comes by e-mail, whoever sent it', async () => {
    const times = await give();
    const { viewer, enrolmentId } = await small.course.student('s1');
    const id = await takeTalk(viewer, { times, startsAt: TWO });
    const { messageId } = await sendMessages(me(), 'NAV', [
      {
        key: randomUUID(),
        subject: 'See you',
        doc: docOf('Until then.'),
        reason: '',
        about: 'other',
        activityId: null,
        recipients: [{ enrolmentId, plan: null }],
      },
    ]);
    const [copy] = await small.test.db.orm
      .select()
      .from(recipients)
      .where(eq(recipients.messageId, messageId));
    const content = (await talkFile(viewer, id)).text.replace('METHOD:REQUEST', 'METHOD:CANCEL');
    const raw = await new MailComposer({
      from: 'lucja@students.example',
      to: 'x@lantern.school.example',
      subject: 'Declined',
      icalEvent: { method: 'CANCEL', content },
    })
      .compile()
      .build();
    const mail = await arriving(null);
    await writeFile(mail.pathFor('message.eml'), raw);
    const payload = { upload: await mail.keep(), to: [{ use: 'answer' as const, id: copy!.id }] };
    expect(await takeMail(small.test.db, payload, () => Promise.resolve())).toEqual(['kept']);
    expect((await talksView(me(), 'NAV')).coming).toHaveLength(1);
    const { said } = await conversationView(me(), 'NAV', enrolmentId);
    expect(said.at(-1)).toMatchObject({ by: 'student', body: 'A file came without any text.' });
  });

  it('is written down after it, with what was agreed, which the student reads', async () => {
    const times = await give();
    const { viewer, enrolmentId } = await small.course.student('s1');
    const talk = await takeTalk(viewer, { times, startsAt: TWO });
    const agreed = {
      goal: 'Catch up on heights',
      step: 'Exercise 3',
      on: '2026-11-06',
      said: 'I can do that',
    };
    const note = { on: '2026-10-28', text: 'Works at night.', agreed };
    await expect(addTalkNote(me(), 'NAV', enrolmentId, note, talk + 1)).rejects.toThrow('no such talk');
    await addTalkNote(me(), 'NAV', enrolmentId, note, talk);
    const [course] = (await studentHome(viewer)).courses;
    expect(course!.agreements).toMatchObject([{ ...agreed, with: me().name, closedAs: null }]);
    expect(JSON.stringify(course)).not.toContain('Works at night');
    expect((await talksView(me(), 'NAV')).coming).toMatchObject([{ noted: true }]);
  });
});
