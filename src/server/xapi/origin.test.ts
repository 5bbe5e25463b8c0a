import { randomUUID } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { EVENT_ID, EVENT_KIND } from '@/core/formats/xapi/records';
import { VOIDED } from '@/core/formats/xapi/verbs';
import { events, statements, waiting } from '@/data/schema';
import { exportFile } from '../export/export';
import { importFiles } from '../intake/intake';
import { createCourse } from '../snapshot/createCourse';
import { checkStatements, receiveStatements } from './endpoint';

const small = withSmallCourse();
const orm = () => small.test.db.orm;
const send = (list: unknown, courseId = small.course.courseId) =>
  receiveStatements({ credentialId: 1, key: 'test', courseId }, checkStatements(list));
const claims = (eventId: string, more: object = {}) => ({
  id: randomUUID(),
  actor: { account: { homePage: 'https://x.example', name: 's2' } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
  object: { id: 'https://x.example/works/r1' },
  context: { extensions: { [EVENT_ID]: eventId } },
  timestamp: '2026-10-20T10:00:00Z',
  ...more,
});
const voids = (id: string) => ({
  actor: { mbox: 'mailto:a@x.example' },
  verb: { id: VOIDED },
  object: { objectType: 'StatementRef', id },
});
const event = async (eventId: string) =>
  (
    await orm()
      .select()
      .from(events)
      .where(and(eq(events.courseId, small.course.courseId), eq(events.eventId, eventId)))
  )[0];
const bring = (name: string, text: string) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    small.course.instructor.userId,
    [file(name, text)],
    Date.parse(NOW),
  );

describe('a statement that names an event of ours', () => {
  it('neither takes over nor voids one that came by a file', async () => {
    const before = await event('s1-0-0');
    expect(before).toBeDefined();
    const one = claims('s1-0-0');
    await send(one);
    expect(await event('s1-0-0')).toEqual(before);
    expect(await event(`xapi:${one.id}`)).toBeDefined();
    await send(voids(one.id));
    expect(await event('s1-0-0')).toEqual(before);
    expect(await event(`xapi:${one.id}`)).toBeUndefined();
  });

  it('that tells of the very event counts it once, and voiding it leaves the event', async () => {
    const before = (await event('s1-0-1'))!;
    const one = claims('s1-0-1', {
      actor: { account: { homePage: 'https://x.example', name: 's1' } },
      timestamp: before.at.toISOString(),
      context: { extensions: { [EVENT_ID]: 's1-0-1', [EVENT_KIND]: before.kind } },
    });
    const count = async () => (await orm().select().from(events)).length;
    const many = await count();
    await send(one);
    expect(await count()).toBe(many);
    await send(voids(one.id));
    expect(await event('s1-0-1')).toEqual(before);
  });

  it('keeps no id from an event that is yet to come, live or waiting', async () => {
    await send(claims('later-1'));
    await send(claims('later-2', { actor: { mbox: 'mailto:nobody@x.example' } }));
    const row = (id: string) => `${id},s1,2026-10-21T10:00:00Z,view,r1,`;
    const header = 'event_id,student_id,at,kind,activity_id,duration_s';
    const done = await bring('events.csv', [header, row('later-1'), row('later-2')].join('\n'));
    expect(done).toMatchObject([{ added: 2, rejected: 0 }]);
    expect((await event('later-1'))!.at.toISOString()).toBe('2026-10-21T10:00:00.000Z');
  });

  it('takes out no row that waits and came by a file', async () => {
    const header = 'event_id,student_id,at,kind,activity_id,duration_s';
    await bring('events.csv', `${header}\nwaits-1,nobody,2026-10-21T10:00:00Z,view,r1,`);
    const one = claims('waits-1');
    await send(one);
    await send(voids(one.id));
    expect((await orm().select().from(waiting)).map((w) => w.key)).toContain('waits-1');
  });

  it('voids nothing in the course of another key', async () => {
    const other = await createCourse(small.test.db, {
      code: 'KEY',
      title: 'Another',
      termName: 'Autumn',
      term: { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] },
      policy: { missing: 'zero' },
      sections: [],
      staff: [small.course.instructor.userId],
    });
    const one = claims('none');
    await send(one);
    await send(voids(one.id), other);
    expect(await event(`xapi:${one.id}`)).toBeDefined();
    const [stored] = await orm().select().from(statements).where(eq(statements.id, one.id));
    expect(stored!.voided).toBe(false);
  });
});

describe('a course that goes out as statements', () => {
  it('comes back as the same events, and voiding one of those statements takes its event', async () => {
    const { body } = await exportFile(small.test.db, small.course.courseId, 'xapi');
    const bytes = new Uint8Array(body);
    const back = () =>
      importFiles(
        small.test.db,
        small.course.courseId,
        small.course.instructor.userId,
        [{ name: 'said.zip', bytes }],
        Date.parse(NOW),
      );
    const before = await orm().select().from(events);
    await back();
    expect(await orm().select().from(events)).toHaveLength(before.length);
    await orm().delete(events).where(eq(events.courseId, small.course.courseId));
    await orm().delete(statements).where(eq(statements.courseId, small.course.courseId));
    await back();
    const again = await event('s1-0-0');
    expect(again).toBeDefined();
    await send(voids(again!.ofStatement!));
    expect(await event('s1-0-0')).toBeUndefined();
  });
});
