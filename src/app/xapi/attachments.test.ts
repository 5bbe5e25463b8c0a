import { createHash, generateKeyPairSync, randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import { CompactSign } from 'jose';
import TinCan from 'tincanjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { xapiServer } from '../../../tests/support/xapiServer';
import { boundaryOf, readMultipart, writeMultipart } from '@/core/formats/multipart';
import { attachments } from '@/data/schema';
import { importFiles } from '@/server/intake/intake';
import { createCredential } from '@/server/xapi/credentials';
import { eraseStudent } from '@/server/export/student';

const small = withSmallCourse();
let server: Server;
let endpoint = '';
let authorization = '';
beforeAll(async () => {
  ({ server, endpoint } = await xapiServer());
  const { key, secret } = await createCredential(small.course.instructor, 'NAV', 'a platform');
  authorization = `Basic ${Buffer.from(`${key}:${secret}`).toString('base64')}`;
});
afterAll(() => server.close());

const HEADERS = () => ({ authorization, 'x-experience-api-version': '1.0.3' });
const bytes = (text: string) => new TextEncoder().encode(text);
const sha2 = (content: Uint8Array) => createHash('sha256').update(content).digest('hex');
const attachment = (content: Uint8Array, more: object = {}) => ({
  usageType: 'https://x.example/log',
  display: { en: 'Log' },
  contentType: 'text/plain',
  length: content.length,
  sha2: sha2(content),
  ...more,
});
const statement = (more: object) => ({
  id: randomUUID(),
  actor: { account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
  object: { id: 'https://platform.example/works/r1' },
  timestamp: '2026-10-28T08:00:00Z',
  ...more,
});
const part = (content: Uint8Array, headers: Record<string, string> = {}) => ({
  headers: new Map(
    Object.entries({
      'Content-Type': 'text/plain',
      'Content-Transfer-Encoding': 'binary',
      'X-Experience-API-Hash': sha2(content),
      ...headers,
    }),
  ),
  content,
});
const send = (body: unknown, parts: Parameters<typeof writeMultipart>[0]) => {
  const first = {
    headers: new Map([['Content-Type', 'application/json']]),
    content: bytes(JSON.stringify(body)),
  };
  return fetch(`${endpoint}/statements`, {
    method: 'POST',
    headers: { ...HEADERS(), 'content-type': 'multipart/mixed; boundary=b0undary' },
    body: Buffer.from(writeMultipart([first, ...parts], 'b0undary')),
  });
};
const get = async (query: string) => {
  const response = await fetch(`${endpoint}/statements?${query}`, { headers: HEADERS() });
  const type = response.headers.get('content-type')!;
  const read = readMultipart(new Uint8Array(await response.arrayBuffer()), boundaryOf(type)!);
  if (!read.ok) throw new Error(read.reason);
  const [first, ...rest] = read.value;
  return { json: JSON.parse(new TextDecoder().decode(first!.content)) as unknown, rest, type };
};
const kept = async () =>
  (await small.test.db.orm.select({ sha2: attachments.sha2 }).from(attachments)).length;

describe('attachments by value (xAPI 1.0.3, part two, 2.4.11; part three, 1.5)', () => {
  it('come back as they came, once however many statements name them', async () => {
    const content = Uint8Array.from({ length: 3000 }, (_, i) => (i * 7) % 256);
    const list = [1, 2].map(() =>
      statement({ attachments: [attachment(content, { contentType: 'image/png' })] }),
    );
    const sent = await send(list, [part(content)]);
    expect([sent.status, await sent.json()]).toEqual([200, list.map((s) => s.id)]);
    expect(await kept()).toBe(1);
    const one = await get(`statementId=${list[0]!.id}&attachments=true`);
    expect(one.json).toMatchObject({ id: list[0]!.id });
    expect(one.rest).toHaveLength(1);
    expect(Buffer.from(one.rest[0]!.content).equals(Buffer.from(content))).toBe(true);
    expect(Object.fromEntries(one.rest[0]!.headers)).toEqual({
      'content-type': 'image/png',
      'content-transfer-encoding': 'binary',
      'x-experience-api-hash': sha2(content),
    });
    const plain = await fetch(`${endpoint}/statements?statementId=${list[0]!.id}`, { headers: HEADERS() });
    expect(plain.headers.get('content-type')).toBe('application/json');
  });

  it('a statement without any comes alone in its part', async () => {
    const one = statement({});
    await send([one], []);
    const found = await get(`statementId=${one.id}&attachments=true`);
    expect(found.type).toMatch(/^multipart\/mixed; boundary=/);
    expect([found.json, found.rest]).toEqual([expect.objectContaining({ id: one.id }), []]);
    const none = await get('verb=urn:nobody&attachments=true');
    expect([none.json, none.rest]).toEqual([{ statements: [], more: '' }, []]);
  });

  it('those of a page are no more than one answer holds; the next page has the rest', async () => {
    const registration = randomUUID();
    const list = [0, 1, 2].map((n) => new Uint8Array(9 * 1024 * 1024).fill(n));
    for (const content of list) {
      const one = statement({ context: { registration }, attachments: [attachment(content)] });
      expect((await send([one], [part(content)])).status).toBe(200);
    }
    const first = await get(`registration=${registration}&attachments=true`);
    expect(first.rest).toHaveLength(2);
    const { more } = first.json as { more: string };
    const second = await get(more.slice(more.indexOf('?') + 1));
    expect([second.rest.length, (second.json as { more: string }).more]).toEqual([1, '']);
  });

  it('go with the last statement that names them', async () => {
    const before = await kept();
    const content = bytes('goes');
    const actor = { account: { homePage: 'https://platform.example', name: 's4' } };
    await send([statement({ actor, attachments: [attachment(content)] })], [part(content)]);
    expect(await kept()).toBe(before + 1);
    const { enrolmentId } = await small.course.student('s4');
    await eraseStudent(small.course.instructor, 'NAV', enrolmentId);
    expect(await kept()).toBe(before);
  });

  const content = bytes('abc');
  const about = attachment(content);
  it.each<[string, unknown, Parameters<typeof writeMultipart>[0]]>([
    ['bytes that did not come', statement({ attachments: [about] }), []],
    ['bytes that nobody names', statement({}), [part(content)]],
    [
      'another hash',
      statement({ attachments: [about] }),
      [part(content, { 'X-Experience-API-Hash': 'a'.repeat(64) })],
    ],
    [
      'a hash of no kind',
      statement({ attachments: [about] }),
      [part(content, { 'X-Experience-API-Hash': 'abc' })],
    ],
    ['another length', statement({ attachments: [{ ...about, length: 4 }] }), [part(content)]],
    [
      'another encoding',
      statement({ attachments: [about] }),
      [part(content, { 'Content-Transfer-Encoding': 'base64' })],
    ],
  ])('are refused with %s', async (_, body, parts) => {
    const response = await send(body, parts);
    expect([response.status, await response.json()]).toEqual([
      400,
      { message: expect.stringMatching(/\w{3}/) as string },
    ]);
  });

  it('multipart bodies that are none are refused', async () => {
    for (const [type, body] of [
      ['multipart/mixed', '--b--'],
      ['multipart/mixed; boundary=b', ''],
      ['multipart/mixed; boundary=b', '--b--'],
      ['multipart/mixed; boundary=b', '--b\r\nContent-Type: text/plain\r\n\r\n{}\r\n--b--'],
      ['multipart/form-data; boundary=b', '--b\r\nContent-Type: application/json\r\n\r\n{}\r\n--b--'],
    ]) {
      const headers = { ...HEADERS(), 'content-type': type! };
      const response = await fetch(`${endpoint}/statements`, { method: 'POST', headers, body });
      expect(response.status, `${type} ${body}`).toBe(400);
    }
  });
});

describe('signed statements (xAPI 1.0.3, part two, 2.6)', () => {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const signed = async (payload: unknown, alg = 'RS256') =>
    bytes(await new CompactSign(bytes(JSON.stringify(payload))).setProtectedHeader({ alg }).sign(privateKey));
  const signature = (jws: Uint8Array, more: object = {}) =>
    attachment(jws, {
      usageType: 'http://adlnet.gov/expapi/attachments/signature',
      contentType: 'application/octet-stream',
      ...more,
    });

  it('are taken where the signature signs them', async () => {
    const one = statement({});
    const jws = await signed(one);
    expect((await send({ ...one, attachments: [signature(jws)] }, [part(jws)])).status).toBe(200);
  });

  it('are refused where it signs another, by another rule, or not at all', async () => {
    const one = statement({});
    const other = await signed({ ...one, verb: { id: 'x:y' } });
    const weak = await signed(one, 'PS256');
    const none = bytes('not.a.signature');
    for (const jws of [other, weak, none])
      expect((await send({ ...one, attachments: [signature(jws)] }, [part(jws)])).status).toBe(400);
    const jws = await signed(one);
    const text = signature(jws, { contentType: 'text/plain' });
    expect((await send({ ...one, attachments: [text] }, [part(jws)])).status).toBe(400);
  });
});

describe('another client from the registry (tincanjs 0.50.0)', () => {
  const lrs = () => {
    const [username, password] = Buffer.from(authorization.slice(6), 'base64').toString().split(':');
    return new TinCan.LRS({
      endpoint: `${endpoint}/`,
      username,
      password,
      version: '1.0.1',
      allowFail: false,
    });
  };
  const done = <T>(start: (callback: (error: unknown, value: T) => void) => void): Promise<T> =>
    new Promise((resolve, reject) =>
      start((error, value) => (error == null ? resolve(value) : reject(new Error(JSON.stringify(error))))),
    );

  it('sends a statement with bytes and asks for it with and without them', async () => {
    const content = bytes('tide table');
    const meant = new TinCan.Statement(
      statement({ attachments: [{ ...attachment(content), content: content.buffer }] }),
    );
    await done((callback) => lrs().saveStatement(meant, { callback }));
    for (const attachments of [true, false]) {
      const found = await done<{ id: string }>((callback) =>
        lrs().retrieveStatement(meant.id, { callback, params: { attachments } }),
      );
      expect(found.id).toBe(meant.id);
    }
    const bare = new TinCan.Statement(statement({}));
    await done((callback) => lrs().saveStatement(bare, { callback }));
    const alone = await done<{ id: string }>((callback) =>
      lrs().retrieveStatement(bare.id, { callback, params: { attachments: true } }),
    );
    expect(alone.id).toBe(bare.id);
  });

  it('keeps state and profiles, and changes them by their tags', async () => {
    const agent = new TinCan.Agent({ mbox: 'mailto:ida@x.example' });
    const activity = new TinCan.Activity({ id: 'https://platform.example/works/w1' });
    const state = { agent, activity };
    await done((callback) => lrs().saveState('bookmark', 'page 3', { ...state, callback }));
    const found = await done<{ contents: string; etag: string }>((callback) =>
      lrs().retrieveState('bookmark', { ...state, callback }),
    );
    expect(found.contents).toBe('page 3');
    await done((callback) => lrs().dropState('bookmark', { ...state, callback }));
    expect(await done((callback) => lrs().retrieveState('bookmark', { ...state, callback }))).toBeNull();
    await done((callback) => lrs().saveActivityProfile('colours', '{"a":1}', { activity, callback }));
    const profile = await done<{ etag: string }>((callback) =>
      lrs().retrieveActivityProfile('colours', { activity, callback }),
    );
    await done((callback) =>
      lrs().saveActivityProfile('colours', '{"a":2}', {
        activity,
        lastSHA1: profile.etag,
        callback,
      }),
    );
    await done((callback) => lrs().saveAgentProfile('voice', 'low', { agent, callback }));
    expect(await done((callback) => lrs().retrieveAgentProfileIds({ agent, callback }))).toEqual(['voice']);
    expect(
      await done<{ id: string }>((callback) => lrs().retrieveActivity(activity.id, { callback })),
    ).toMatchObject({
      id: activity.id,
    });
  });
});

it('files of statements still go in beside attachments by address', async () => {
  const linked = statement({
    attachments: [attachment(bytes('abc'), { fileUrl: 'https://x.example/log.txt' })],
  });
  const text = JSON.stringify([linked]);
  const { courseId, instructor } = small.course;
  const done = await importFiles(
    small.test.db,
    courseId,
    instructor.userId,
    [{ name: 'said.json', bytes: bytes(text) }],
    Date.parse('2026-10-28T12:00:00Z'),
  );
  expect(done).toMatchObject([{ added: 1, rejected: 0 }]);
});
