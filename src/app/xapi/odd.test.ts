import { randomUUID } from 'node:crypto';
import { count } from 'drizzle-orm';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { odd, placesIn, withValue } from '../../../tests/support/odd';
import { statements } from '@/data/schema';
import { createCredential } from '@/server/xapi/credentials';
import { catchUp } from '@/server/xapi/follow';
import { GET, POST, PUT } from './statements/route';

const small = withSmallCourse();
let authorization = '';
beforeAll(async () => {
  const { key, secret } = await createCredential(small.course.instructor, 'NAV', 'a platform');
  authorization = `Basic ${Buffer.from(`${key}:${secret}`).toString('base64')}`;
});

const HEADERS = { 'x-experience-api-version': '1.0.3', 'content-type': 'application/json' };
const send = (body: unknown) =>
  POST(
    new Request('http://lantern.test/xapi/statements', {
      method: 'POST',
      headers: { ...HEADERS, authorization },
      body: JSON.stringify(body) ?? '',
    }),
  );

/** A statement with every part that one can have. */
const full = () => ({
  id: randomUUID(),
  actor: { objectType: 'Agent', name: 'Una', account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/passed', display: { en: 'passed' } },
  object: {
    objectType: 'Activity',
    id: 'https://platform.example/works/q1',
    definition: {
      name: { en: 'Tides quiz' },
      type: 'http://adlnet.gov/expapi/activities/assessment',
      interactionType: 'choice',
      correctResponsesPattern: ['a'],
      choices: [{ id: 'a', description: { en: 'Spring' } }],
      extensions: { 'https://x.example/e': 1 },
    },
  },
  result: {
    score: { scaled: 0.8, raw: 8, min: 0, max: 10 },
    success: true,
    completion: true,
    response: 'a',
    duration: 'PT5M30S',
    extensions: { 'https://x.example/e': { deep: [1, 2] } },
  },
  context: {
    registration: randomUUID(),
    instructor: { mbox: 'mailto:ines@example.org' },
    team: { objectType: 'Group', name: 'Watch', member: [{ openid: 'https://people.example/una' }] },
    contextActivities: {
      parent: [{ id: 'https://platform.example/works/w1' }],
      other: { id: 'https://x.example/o' },
    },
    revision: '1',
    platform: 'Practice',
    language: 'en',
    statement: { objectType: 'StatementRef', id: randomUUID() },
    extensions: { 'https://x.example/e': null },
  },
  timestamp: '2026-10-27T08:00:00.000Z',
  stored: '2026-10-27T08:00:01.000Z',
  authority: { mbox: 'mailto:platform@x.example' },
  version: '1.0.0',
  attachments: [
    {
      usageType: 'https://x.example/attachment',
      display: { en: 'Log' },
      contentType: 'text/plain',
      length: 3,
      sha2: 'a'.repeat(64),
      fileUrl: 'https://x.example/log.txt',
    },
  ],
});

const stored = async () => (await small.test.db.orm.select({ n: count() }).from(statements))[0]!.n;

describe('a statement with something odd in it', () => {
  it('goes in whole without it', async () => {
    expect((await send(full())).status).toBe(200);
    expect(await stored()).toBe(1);
  });

  it('is taken or refused in words, and what is derived of it can be derived', async () => {
    let [taken, refused] = [0, 0];
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...placesIn(full())), odd, async (path, value) => {
        const before = await stored();
        const response = await send(withValue(full(), path, value));
        const body: unknown = await response.json();
        if (response.status === 200) {
          taken++;
          // An empty list is no statement, and none is stored of it.
          expect(await stored()).toBe(before + (body as string[]).length);
        } else {
          refused++;
          expect(response.status).toBe(400);
          expect(body).toEqual({ message: expect.stringMatching(/\w{3}/) as string });
          expect(await stored()).toBe(before);
        }
        await catchUp(small.test.db, small.course.courseId);
      }),
      { numRuns: 80 },
    );
    // About one in seven is taken; by chance none in eighty is, once in half a million runs.
    expect(taken).toBeGreaterThan(0);
    expect(refused).toBeGreaterThan(25);
  });

  it('says nothing that a page of them cannot give back', async () => {
    const response = await GET(
      new Request('http://lantern.test/xapi/statements?limit=200&ascending=true', {
        headers: { ...HEADERS, authorization },
      }),
    );
    expect(response.status).toBe(200);
    const { statements: all } = (await response.json()) as { statements: unknown[] };
    expect(all).toHaveLength(Math.min(200, await stored()));
  });
});

describe('a request with something odd about it', () => {
  const bodies = [
    '',
    '[]',
    '{}',
    'null',
    '"x"',
    '1e999',
    '[[]]',
    '{"id":1}',
    '\ud800',
    '[',
    '{"actor":'.repeat(2000),
  ];
  it.each(bodies.map((body) => [body.slice(0, 12), body]))(
    'with the body %j is refused in words',
    async (_, body) => {
      const response = await POST(
        new Request('http://lantern.test/xapi/statements', {
          method: 'POST',
          headers: { ...HEADERS, authorization },
          body,
        }),
      );
      const said = await response.text();
      // No statements are no fault (part three, 2.1.2 asks for an array of them).
      expect([response.status, said]).toEqual(
        body === '[]' ? [200, '[]'] : [400, expect.stringContaining('message')],
      );
    },
  );

  it.each(['', 'x', '\u0000', randomUUID().slice(1), `${randomUUID()}&statementId=${randomUUID()}`])(
    'PUT under the id %j is refused',
    async (id) => {
      const url = `http://lantern.test/xapi/statements?statementId=${id === '\u0000' ? '%00' : id}`;
      const body = JSON.stringify({ ...full(), id: undefined });
      const response = await PUT(
        new Request(url, { method: 'PUT', headers: { ...HEADERS, authorization }, body }),
      );
      expect(response.status).toBe(400);
    },
  );
});
