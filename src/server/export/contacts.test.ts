import { randomUUID } from 'node:crypto';
import { parse } from 'csv-parse/sync';
import { simpleParser } from 'mailparser';
import PostalMime from 'postal-mime';
import { eq } from 'drizzle-orm';
import { beforeAll, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { docOf } from '@/core/messages/doc';
import { recipients } from '@/data/schema';
import { checkIn } from '../act/checkIn';
import { sendMessages } from '../act/compose';
import { answerMessage } from '../act/conversation';
import { addNote, addTalkNote } from '../act/notes';
import { workOff } from '../work';
import { contactsCsv, contactsMbox, copyMail } from './contacts';

const small = withSmallCourse();
const me = () => small.course.instructor;
let bo: Awaited<ReturnType<typeof small.course.student>>;
let copy: number;

beforeAll(async () => {
  bo = await small.course.student('s3');
  const other = await small.course.student('s1');
  const { messageId } = await sendMessages(me(), 'NAV', [
    {
      key: randomUUID(),
      subject: 'From here on, {first name | you}',
      doc: docOf('Hello {first name | you}.\n\nFrom now on: “tides”, ≥ 60 %.'),
      reason: 'behind',
      about: 'other',
      activityId: null,
      recipients: [bo, other].map(({ enrolmentId }) => ({ enrolmentId, plan: null })),
    },
  ]);
  await workOff(small.test.db);
  const rows = await small.test.db.orm.select().from(recipients).where(eq(recipients.messageId, messageId));
  copy = rows.find((r) => r.enrolmentId === bo.enrolmentId)!.id;
  await answerMessage(bo.viewer, { recipient: copy, key: randomUUID(), text: 'Yes,\n"Friday"\nFrom Bo' });
  await addNote(me(), 'NAV', bo.enrolmentId, { kind: 'note', on: '2026-10-27', text: 'For us only.' });
  const agreed = { goal: 'Hand in', step: 'Exercise 3', on: '2026-11-02', said: 'I will' };
  await addTalkNote(me(), 'NAV', bo.enrolmentId, { on: '2026-10-28', text: 'Came by.', agreed }, null);
  await checkIn(bo.viewer, { course: 'NAV', how: 'so so', inTheWay: ['time'], word: '' });
});

it('stand in a table: by whom, by which way, in or out; a note that nobody was told is none', async () => {
  const { body, name } = await contactsCsv(me(), 'NAV', bo.enrolmentId);
  expect(name).toBe('NAV-contacts-s3.csv');
  const rows = parse(body, { columns: true, bom: true }) as Record<string, string>[];
  expect(rows.map((r) => [r.direction, r.way]).sort()).toEqual([
    ['both', 'talk'],
    ['in', 'check-in'],
    ['in', 'here'],
    ['out', 'here'],
  ]);
  expect(rows.find((r) => r.way === 'here' && r.direction === 'in')!.text).toBe('Yes,\n"Friday"\nFrom Bo');
  expect(rows.find((r) => r.way === 'talk')!.about).toContain('Agreed: Hand in');
  expect(String(body)).not.toContain('For us only');
  const all = parse((await contactsCsv(me(), 'NAV', null)).body, { columns: true, bom: true }) as unknown[];
  expect(all).toHaveLength(5);
});

it('are a mailbox that is read back, each message with its answer to it', async () => {
  const { body } = await contactsMbox(me(), 'NAV', bo.enrolmentId);
  const raw = String(body)
    .split(/^From \S+ [A-Z][a-z]{2} .*\n/m)
    .slice(1)
    .map((text) => text.replace(/^>(>*From )/gm, '$1'));
  const mails = await Promise.all(raw.map((text) => simpleParser(text)));
  expect(mails.map((m) => m.subject)).toEqual(['From here on, Bo', 'Re: From here on, Bo']);
  expect(mails[0]!.text).toContain('From now on: “tides”, ≥ 60 %.');
  expect(mails[1]!.inReplyTo).toBe(mails[0]!.messageId);
  expect(mails[1]!.text!.trim()).toBe('Yes,\n"Friday"\nFrom Bo');
  const again = await PostalMime.parse(raw[0]!);
  expect(again.to).toEqual([{ name: 'Bo Li', address: 'bo@students.example' }]);
  expect(String((await contactsMbox(me(), 'NAV', null)).body).match(/^From \S+ [A-Z]/gm)).toHaveLength(3);
});

it('and one copy is an e-mail by itself', async () => {
  const { body, name } = await copyMail(me(), 'NAV', copy);
  expect(name).toBe(`NAV-message-${copy}.eml`);
  expect((await simpleParser(body)).html).toContain('≥ 60 %');
});

it('are for those who teach the course', async () => {
  for (const viewer of [small.course.stranger, bo.viewer]) {
    await expect(contactsCsv(viewer, 'NAV', null)).rejects.toThrow();
    await expect(contactsMbox(viewer, 'NAV', bo.enrolmentId)).rejects.toThrow();
    await expect(copyMail(viewer, 'NAV', copy)).rejects.toThrow();
  }
  await expect(copyMail(me(), 'NAV', copy + 100)).rejects.toThrow('no such message');
});
