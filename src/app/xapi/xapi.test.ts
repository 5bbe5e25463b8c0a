import type { Server } from 'node:http';
import { randomUUID } from 'node:crypto';
import XAPI from '@xapi/xapi';
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { xapiServer } from '../../../tests/support/xapiServer';
import {
  activities,
  attempts,
  behind,
  courses,
  credentials,
  dayTotals,
  events,
  scores,
  statements,
  waiting,
} from '@/data/schema';
import { createCredential, credentialsOf, revokeCredential } from '@/server/xapi/credentials';
import { startRunner } from '@/server/jobs/runner';
import { HANDLERS } from '@/server/work';
import { aheadOfTime } from '@/server/xapi/ahead';
import { catchUp } from '@/server/xapi/follow';

const small = withSmallCourse();
let server: Server;
let endpoint = '';
let key = '';
let secret = '';

beforeAll(async () => {
  ({ server, endpoint } = await xapiServer());
  const made = await createCredential(small.course.instructor, 'NAV', 'a platform');
  ({ key, secret } = made);
});
afterAll(() => server.close());

const basic = () => `Basic ${Buffer.from(`${key}:${secret}`).toString('base64')}`;
const call = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  fetch(`${endpoint}${path}`, {
    method,
    headers: {
      authorization: basic(),
      'x-experience-api-version': '1.0.3',
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...headers,
    },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
const messageOf = async (response: Response) => ((await response.json()) as { message: string }).message;
/** The client's types leave open whether a page came with attachments. */
const pageOf = (response: { data: unknown }) =>
  response.data as { statements: { id: string }[]; more: string };
const ADL = 'http://adlnet.gov/expapi/verbs/';
const done = (more: object = {}) => ({
  id: randomUUID(),
  actor: { account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: `${ADL}experienced` },
  object: { id: 'https://platform.example/works/r1' },
  timestamp: '2026-10-28T08:00:00Z',
  ...more,
});
const cell = async (external: string) => {
  const { orm } = small.test.db;
  const [work] = await orm.select().from(activities).where(eq(activities.externalId, external));
  const { enrolmentId } = await small.course.student('s2');
  const of = and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, work!.id));
  const [score] = await orm.select().from(scores).where(of);
  const tries = await orm
    .select()
    .from(attempts)
    .where(and(eq(attempts.enrolmentId, enrolmentId), eq(attempts.activityId, work!.id)));
  return { score, tries };
};

describe('a client from the registry (@xapi/xapi 3.0.3)', () => {
  it.each(['1.0.3', '2.0.0'] as const)('in version %s: sends, asks, pages, voids', async (version) => {
    const client = new XAPI({ endpoint: `${endpoint}/`, auth: basic(), version: version as '1.0.3' });
    expect((await client.getAbout()).data.version).toContain(version);
    const registration = randomUUID();
    const list = Array.from({ length: 5 }, (_, i) =>
      done({ timestamp: `2026-10-28T09:0${i}:00Z`, context: { registration } }),
    );
    const sent = await client.sendStatements({ statements: list as never });
    expect(sent.data).toEqual(list.map((s) => s.id));
    const first = await client.getStatements({ registration, limit: 2, ascending: true });
    expect(pageOf(first).statements.map((s) => s.id)).toEqual([list[0]!.id, list[1]!.id]);
    const second = await client.getMoreStatements({ more: pageOf(first).more });
    expect(pageOf(second).statements.map((s) => s.id)).toEqual([list[2]!.id, list[3]!.id]);
    const third = await client.getMoreStatements({ more: pageOf(second).more });
    expect(pageOf(third).statements.map((s) => s.id)).toEqual([list[4]!.id]);
    expect(pageOf(third).more).toBe('');
    const one = await client.getStatement({ statementId: list[0]!.id });
    expect(one.data).toMatchObject({ id: list[0]!.id, version: version === '2.0.0' ? '2.0.0' : '1.0.0' });
    await client.voidStatement({
      actor: { objectType: 'Agent', mbox: 'mailto:b@x.example' },
      statementId: list[0]!.id,
    });
    await expect(client.getStatement({ statementId: list[0]!.id })).rejects.toThrow();
    expect((await client.getVoidedStatement({ voidedStatementId: list[0]!.id })).data.id).toBe(list[0]!.id);
    const left = await client.getStatements({ registration });
    // What voids it stands for it (part three, 2.1.4): it meets the conditions that the voided one met.
    const [voiding, ...rest] = pageOf(left).statements;
    expect(voiding).toMatchObject({ verb: { id: `${ADL}voided` }, object: { id: list[0]!.id } });
    expect(rest.map((s) => s.id)).toEqual([4, 3, 2, 1].map((i) => list[i]!.id));
    const { orm } = small.test.db;
    expect(
      await orm
        .select()
        .from(events)
        .where(eq(events.eventId, `xapi:${list[0]!.id}`)),
    ).toEqual([]);
  });
});

describe('the binding (xAPI 1.0.3, part three)', () => {
  it('asks for a version and a key, and says so', async () => {
    const none = await fetch(`${endpoint}/statements`, { headers: { authorization: basic() } });
    expect([none.status, none.headers.get('x-experience-api-version')]).toEqual([400, '1.0.3']);
    const old = await call('GET', '/statements', undefined, { 'x-experience-api-version': '0.95' });
    expect(old.status).toBe(400);
    const wrong = await call('GET', '/statements', undefined, { authorization: 'Basic YTpi' });
    expect([wrong.status, wrong.headers.get('www-authenticate')]).toEqual([
      401,
      expect.stringMatching(/^Basic/),
    ]);
    expect((await fetch(`${endpoint}/about`)).status).toBe(200);
  });

  it('PUT: 204, again 204, other content 409, another id 400', async () => {
    const statement = done();
    const path = `/statements?statementId=${statement.id}`;
    expect((await call('PUT', path, statement)).status).toBe(204);
    expect((await call('PUT', path, statement)).status).toBe(204);
    expect((await call('PUT', path, { ...statement, verb: { id: `${ADL}launched` } })).status).toBe(409);
    expect((await call('PUT', path, { ...statement, id: randomUUID() })).status).toBe(400);
    expect((await call('PUT', '/statements', statement)).status).toBe(400);
  });

  it('takes GET, PUT and POST in a form, for clients that can send nothing else (1.0.3, part three, 1.3)', async () => {
    const form = (method: string, fields: Record<string, string>) =>
      fetch(`${endpoint}/statements?method=${method}`, {
        method: 'POST',
        body: new URLSearchParams({
          Authorization: basic(),
          'X-Experience-API-Version': '1.0.3',
          ...fields,
        }),
      });
    const statement = done();
    const put = await form('PUT', {
      statementId: statement.id,
      'Content-Type': 'application/json',
      content: JSON.stringify(statement),
    });
    expect(put.status).toBe(204);
    const got = await form('GET', { statementId: statement.id });
    expect(await got.json()).toMatchObject({ id: statement.id });
    const more = done();
    expect(await (await form('POST', { content: JSON.stringify([more]) })).json()).toEqual([more.id]);
    expect((await form('DELETE', {})).status).toBe(405);
    expect((await form('STEAL', {})).status).toBe(400);
    expect((await form('POST', { content: '{' })).status).toBe(400);
    expect((await call('POST', '/statements?method=PUT', statement)).status).toBe(400);
    expect((await call('POST', '/statements?method=PUT&statementId=x', statement)).status).toBe(400);
  });

  it('POST: all of a batch or nothing', async () => {
    const good = done();
    const bad = { ...done(), verb: { id: 'no iri' } };
    const refused = await call('POST', '/statements', [good, bad]);
    expect([refused.status, await messageOf(refused)]).toEqual([400, 'Statement 2: verb.id is not an IRI.']);
    const known = done();
    await call('POST', '/statements', known);
    const changed = { ...known, verb: { id: `${ADL}launched` } };
    expect((await call('POST', '/statements', [good, changed])).status).toBe(409);
    expect((await call('GET', `/statements?statementId=${good.id}`)).status).toBe(404);
    const twice = await call('POST', '/statements', [good, { ...good, verb: { id: 'x:y' } }]);
    expect(twice.status).toBe(400);
  });

  it('tags what it gives, and says 304 to who holds it', async () => {
    const statement = done();
    await call('POST', '/statements', statement);
    const path = `/statements?statementId=${statement.id}`;
    const first = await call('GET', path);
    const etag = first.headers.get('etag')!;
    expect(etag).toMatch(/^"[0-9a-f]{40}"$/);
    expect(first.headers.get('last-modified')).toMatch(/GMT$/);
    expect((await call('GET', path, undefined, { 'if-none-match': etag })).status).toBe(304);
  });

  it('filters by agent, verb, activity, related activity and instant', async () => {
    const quiz = 'https://platform.example/works/q1';
    const agent = { mbox: 'mailto:bo@students.example' };
    const one = done({
      actor: agent,
      verb: { id: `${ADL}answered` },
      object: { id: `${quiz}/questions/3` },
      context: { contextActivities: { parent: [{ id: quiz }] } },
    });
    await call('POST', '/statements', one);
    const found = async (query: Record<string, string>) => {
      const response = await call('GET', `/statements?${new URLSearchParams(query)}`);
      return ((await response.json()) as { statements: { id: string }[] }).statements.map((s) => s.id);
    };
    expect(await found({ agent: JSON.stringify(agent), verb: `${ADL}answered` })).toEqual([one.id]);
    expect(await found({ activity: quiz })).toEqual([]);
    expect(await found({ activity: quiz, related_activities: 'true' })).toEqual([one.id]);
    expect(await found({ activity: `${quiz}/questions/3`, until: '2000-01-01T00:00:00Z' })).toEqual([]);
    expect(await found({ activity: `${quiz}/questions/3`, since: '2000-01-01T00:00:00Z' })).toEqual([one.id]);
    for (const query of ['colour=red', 'limit=-1', `statementId=${one.id}&limit=1`, 'agent=bo', 'more=x'])
      expect((await call('GET', `/statements?${query}`)).status, query).toBe(400);
  });

  it('refuses what is no JSON, too large, or names attachments that did not come', async () => {
    const send = (type: string, body: string) =>
      fetch(`${endpoint}/statements`, {
        method: 'POST',
        headers: {
          authorization: basic(),
          'x-experience-api-version': '1.0.3',
          'content-type': type,
        },
        body,
      });
    expect((await send('application/json', '[{')).status).toBe(400);
    expect((await send('text/plain', '[]')).status).toBe(400);
    const large = await send('application/json', `["${'x'.repeat(11_000_000)}"]`);
    expect([large.status, await messageOf(large)]).toEqual([413, expect.stringMatching(/10 MB/)]);
    const deep = await send('application/json', `${'['.repeat(100_000)}${']'.repeat(100_000)}`);
    expect([deep.status, await messageOf(deep)]).toEqual([400, expect.stringMatching(/deeper/)]);
    const attachment = {
      usageType: 'https://x.example/use',
      display: { en: 'log' },
      contentType: 'text/plain',
      length: 3,
      sha2: 'abc',
    };
    expect((await call('POST', '/statements', done({ attachments: [attachment] }))).status).toBe(400);
    const linked = { ...attachment, fileUrl: 'https://x.example/log.txt' };
    expect((await call('POST', '/statements', done({ attachments: [linked] }))).status).toBe(200);
  });
});

describe('what comes of statements', () => {
  it('events are derived soon after, and a late one from its day on', async () => {
    const { orm } = small.test.db;
    const { enrolmentId } = await small.course.student('s4');
    const actor = { account: { homePage: 'https://platform.example', name: 's4' } };
    const at = (minute: number) => `2026-10-27T20:${String(minute).padStart(2, '0')}:00Z`;
    await catchUp(small.test.db, small.course.courseId);
    const before = await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId));
    await call(
      'POST',
      '/statements',
      [0, 4, 9].map((m) => done({ actor, timestamp: at(m) })),
    );
    const fresh = async () =>
      (await orm.select().from(dayTotals).where(eq(dayTotals.enrolmentId, enrolmentId))).filter(
        (d) => !before.some((b) => b.day === d.day),
      );
    // Off the request that brought them, by the queue.
    const runner = await startRunner(small.test.db, HANDLERS);
    await expect.poll(async () => (await fresh()).length, { timeout: 600_000 }).toBe(1);
    await runner.stop();
    expect((await orm.select().from(behind)).map((b) => b.enrolmentId)).not.toContain(enrolmentId);
    const day = await fresh();
    expect(day).toMatchObject([{ day: '2026-10-27', events: 3, views: 3 }]);
    expect(day[0]!.seconds).toBeGreaterThanOrEqual(540);
    const [course] = await orm.select().from(courses).where(eq(courses.id, small.course.courseId));
    expect(course!.dataUntil!.getTime()).toBeGreaterThanOrEqual(Date.parse(at(9)));
  });

  it('hand-ins count as attempts: the first says when, the best how much, in any order; voiding takes one back', async () => {
    const actor = { mbox: 'mailto:omer@gone.students.example' };
    const tried = (hour: string, scaled: number) =>
      done({
        actor,
        verb: { id: `${ADL}passed` },
        object: { id: 'https://platform.example/works/q1' },
        result: { score: { scaled } },
        timestamp: `2026-10-2${hour}:00:00Z`,
      });
    const [late, early, best] = [tried('2T10', 0.4), tried('0T10', 0.5), tried('1T10', 0.9)];
    await call('POST', '/statements', [late, best]);
    await call('POST', '/statements', early);
    await call('POST', '/statements', early);
    const full = await cell('q1');
    expect(full.tries.map((t) => [t.number, t.points])).toEqual([
      [1, 5],
      [2, 9],
      [3, 4],
    ]);
    expect(full.score).toMatchObject({ points: 9, submittedAt: new Date('2026-10-20T10:00:00Z') });
    const voiding = done({
      verb: { id: `${ADL}voided` },
      object: { objectType: 'StatementRef', id: best.id },
    });
    await call('POST', '/statements', voiding);
    const after = await cell('q1');
    expect(after.tries.map((t) => t.points)).toEqual([5, 4]);
    expect(after.score).toMatchObject({ points: 5 });
  });

  it('a voiding statement that comes first is kept to its word', async () => {
    const statement = done();
    const voiding = done({
      verb: { id: `${ADL}voided` },
      object: { objectType: 'StatementRef', id: statement.id },
    });
    await call('POST', '/statements', voiding);
    await call('POST', '/statements', statement);
    expect((await call('GET', `/statements?statementId=${statement.id}`)).status).toBe(404);
    expect((await call('GET', `/statements?voidedStatementId=${statement.id}`)).status).toBe(200);
    const { orm } = small.test.db;
    expect(
      await orm
        .select()
        .from(events)
        .where(eq(events.eventId, `xapi:${statement.id}`)),
    ).toEqual([]);
  });

  it('whoever is not known waits; what is dated next year is kept and shown as such, and counts for nobody', async () => {
    const { orm } = small.test.db;
    const stranger = done({ actor: { name: 'Nan Nobody', mbox: 'mailto:nan@x.example' } });
    const ahead = done({ timestamp: '2027-10-28T08:00:00Z' });
    expect((await call('POST', '/statements', [stranger, ahead])).status).toBe(200);
    expect(await orm.select().from(waiting)).toMatchObject([
      { person: 'mbox:nan@x.example', name: 'Nan Nobody', kind: 'events' },
    ]);
    expect(
      await orm
        .select()
        .from(events)
        .where(eq(events.eventId, `xapi:${ahead.id}`)),
    ).toEqual([]);
    expect(await orm.select().from(statements).where(eq(statements.id, ahead.id))).toHaveLength(1);
    expect(await aheadOfTime(small.course.instructor, 'NAV')).toEqual([
      { source: expect.any(String) as unknown, statements: 1, furthest: Date.parse('2027-10-28T08:00:00Z') },
    ]);
    await expect(aheadOfTime(small.course.stranger, 'NAV')).rejects.toThrow(/no such course/);
  });
});

describe('keys', () => {
  it('are seen and revoked by who teaches the course, kept as a hash, and refused once revoked', async () => {
    const mine = await credentialsOf(small.course.instructor, 'NAV');
    expect(mine).toHaveLength(1);
    expect(JSON.stringify(mine)).not.toContain(secret);
    const [row] = await small.test.db.orm.select().from(credentials);
    expect(row!.secretHash).toMatch(/^[0-9a-f]{64}$/);
    await expect(credentialsOf(small.course.stranger, 'NAV')).rejects.toThrow();
    await expect(revokeCredential(small.course.stranger, 'NAV', mine[0]!.id)).rejects.toThrow();
    for (let i = 0; i < 12; i++)
      await call('GET', '/statements', undefined, {
        authorization: `Basic ${Buffer.from(`${key}:wrong`).toString('base64')}`,
      });
    const tired = await call('GET', '/statements', undefined, {
      authorization: `Basic ${Buffer.from(`${key}:wrong`).toString('base64')}`,
    });
    expect([tired.status, tired.headers.get('retry-after')]).toEqual([429, '60']);
    expect((await call('GET', '/statements')).status).toBe(200);
    const other = await createCredential(small.course.instructor, 'NAV', 'another');
    ({ key, secret } = other);
    expect((await call('GET', '/statements')).status).toBe(200);
    const [newest] = await credentialsOf(small.course.instructor, 'NAV');
    await revokeCredential(small.course.instructor, 'NAV', newest!.id);
    expect((await call('GET', '/statements')).status).toBe(401);
  });
});
