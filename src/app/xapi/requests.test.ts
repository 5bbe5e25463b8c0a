import type { Server } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { xapiServer } from '../../../tests/support/xapiServer';
import { rereadConfig } from '@/server/base/config';
import { createCredential } from '@/server/xapi/credentials';

/** Requests by the sections of the xAPI specification 1.0.3, part three (“Experience API - Communication”). */
interface Asked {
  readonly section: string;
  readonly request: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: unknown;
  readonly status: number;
}

const small = withSmallCourse();
let server: Server;
let endpoint = '';
const keys: string[] = [];
beforeAll(async () => {
  ({ server, endpoint } = await xapiServer());
  // One key may send 200 requests at once.
  for (let i = 0; i < 3; i++) {
    const { key, secret } = await createCredential(small.course.instructor, 'NAV', `platform ${i}`);
    keys.push(`Basic ${Buffer.from(`${key}:${secret}`).toString('base64')}`);
  }
  process.env.LANTERN_XAPI_ORIGINS = 'https://player.example';
  rereadConfig();
});
afterAll(() => {
  delete process.env.LANTERN_XAPI_ORIGINS;
  rereadConfig();
  server.close();
});

let turn = 0;
async function ask({ request, headers = {}, body }: Omit<Asked, 'section' | 'status'>): Promise<Response> {
  const [method = '', path = ''] = request.split(/ (.*)/s);
  const all = new Headers({
    authorization: keys[turn++ % keys.length]!,
    'x-experience-api-version': '1.0.3',
    ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    ...headers,
  });
  for (const [name, value] of Object.entries(headers)) if (value === '') all.delete(name);
  return fetch(`${endpoint}${path}`, {
    method,
    headers: all,
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  });
}

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const ADL = 'http://adlnet.gov/expapi/verbs/';
const AGENT = encodeURIComponent('{"mbox":"mailto:ida@x.example"}');
const ACCOUNT = encodeURIComponent('{"account":{"homePage":"https://platform.example","name":"s1"}}');
const ACTIVITY = encodeURIComponent('https://platform.example/works/r1');
const statement = (id: number, more: object = {}) => ({
  id: uuid(id),
  actor: { account: { homePage: 'https://platform.example', name: 's1' } },
  verb: { id: `${ADL}experienced` },
  object: { id: 'https://platform.example/works/r1' },
  timestamp: '2026-10-28T08:00:00Z',
  ...more,
});
const form = { 'content-type': 'application/x-www-form-urlencoded' };
const bare = { ...form, authorization: '', 'x-experience-api-version': '' };

const list: Asked[] = [];
const say = (section: string, status: number, request: string, rest: Partial<Asked> = {}) =>
  list.push({ section, request, status, ...rest });

// 3.2 and 1.7: version and key.
say('3.2', 400, 'GET /statements', { headers: { 'x-experience-api-version': '' } });
for (const version of ['0.9', '0.95', '1.1', '1.1.0', '2', '2.0.1', 'one'])
  say('3.2', 400, 'GET /statements', { headers: { 'x-experience-api-version': version } });
for (const version of ['1.0', '1.0.0', '1.0.1', '1.0.2', '1.0.3', '1.0.9', '2.0.0'])
  say('3.2', 200, 'GET /statements', { headers: { 'x-experience-api-version': version } });
say('4', 401, 'GET /statements', { headers: { authorization: '' } });
for (const wrong of [
  'Basic',
  'Basic !',
  'Basic YTpi',
  'Bearer YTpi',
  `Basic ${btoa('a\u0000b:c')}`,
  `Basic ${btoa('ab')}`,
])
  say('4', 401, 'GET /statements', { headers: { authorization: wrong } });

// 2.1.1: PUT.
say('2.1.1', 204, `PUT /statements?statementId=${uuid(1)}`, { body: statement(1) });
say('2.1.1', 204, `PUT /statements?statementId=${uuid(1)}`, { body: statement(1) });
say('2.1.1', 409, `PUT /statements?statementId=${uuid(1)}`, { body: statement(1, { verb: { id: 'x:y' } }) });
say('2.1.1', 204, `PUT /statements?statementId=${uuid(2)}`, { body: { ...statement(2), id: undefined } });
say('2.1.1', 400, `PUT /statements?statementId=${uuid(3)}`, { body: statement(4) });
say('2.1.1', 400, 'PUT /statements', { body: statement(3) });
say('2.1.1', 400, 'PUT /statements?statementId=3', { body: statement(3) });
say('2.1.1', 400, `PUT /statements?statementId=${uuid(3)}&limit=1`, { body: statement(3) });
say('2.1.1', 400, `PUT /statements?statementId=${uuid(3)}`, { body: [statement(3)] });
say('2.1.1', 400, `PUT /statements?statementId=${uuid(3)}`, { body: '' });

// 2.1.2: POST.
say('2.1.2', 200, 'POST /statements', { body: statement(5) });
say('2.1.2', 200, 'POST /statements', { body: [statement(6), statement(7)] });
say('2.1.2', 200, 'POST /statements', { body: [] });
say('2.1.2', 409, 'POST /statements', { body: statement(6, { verb: { id: 'x:y' } }) });
say('2.1.2', 400, 'POST /statements', { body: [statement(8), statement(8)] });
say('2.1.2', 400, 'POST /statements', { body: [statement(8), statement(8, { verb: { id: 'x:y' } })] });
say('2.1.2', 400, `POST /statements?statementId=${uuid(8)}`, { body: statement(8) });
say('2.1.2', 400, 'POST /statements', { body: [statement(8), { ...statement(9), verb: {} }] });
for (const [section, body] of [
  ['2.2', '{'],
  ['2.2', 'null'],
  ['2.2', '"x"'],
  ['2.2', '[[]]'],
  ['2.2', `${'['.repeat(101)}${']'.repeat(101)}`],
  ['2.2', '{"a":1'],
] as const)
  say(section, 400, 'POST /statements', { body });
for (const type of [
  '',
  'text/plain',
  'application/xml',
  'application/jsonp',
  'application/x-www-form-urlencoded',
])
  say('1.4', 400, 'POST /statements', {
    body: JSON.stringify(statement(8)),
    headers: { 'content-type': type },
  });
for (const type of ['application/json', 'application/json; charset=utf-8', 'Application/JSON'])
  say('1.4', 200, 'POST /statements', { body: statement(5), headers: { 'content-type': type } });
for (const [key, value] of Object.entries({
  offset: { timestamp: '2026-10-28T08:00:00+05' },
  comma: { timestamp: '2026-10-28T08:00:00,5Z' },
  minutes: { timestamp: '2026-10-28T08:00Z' },
  long: { result: { duration: 'P3Y' } },
  platform: { context: { platform: 'x' } },
}))
  say(`part two, 2.4 (${key})`, 200, 'POST /statements', { body: { ...statement(0, value), id: undefined } });
say('part two, 4.5', 400, 'POST /statements', {
  body: statement(8, { timestamp: '2026-10-28T08:00:00-00:00' }),
});
say('IEEE 4.2.7', 400, 'POST /statements', { body: statement(8, { context: { contextAgents: [] } }) });
say('IEEE 4.2.7', 200, 'POST /statements', {
  body: statement(10, { context: { contextAgents: [] } }),
  headers: { 'x-experience-api-version': '2.0.0' },
});
say('part two, 2.3.2', 400, 'POST /statements', { body: statement(8, { verb: { id: `${ADL}voided` } }) });
say('part two, 2.3.2', 200, 'POST /statements', {
  body: statement(11, { verb: { id: `${ADL}voided` }, object: { objectType: 'StatementRef', id: uuid(7) } }),
});

// 2.1.3: GET.
say('2.1.3', 200, `GET /statements?statementId=${uuid(1)}`);
say('2.1.3', 200, `GET /statements?statementId=${uuid(1)}&format=ids&attachments=false`);
say('2.1.3', 404, `GET /statements?statementId=${uuid(7)}`);
say('2.1.3', 200, `GET /statements?voidedStatementId=${uuid(7)}`);
say('2.1.3', 404, `GET /statements?voidedStatementId=${uuid(1)}`);
say('2.1.3', 404, `GET /statements?statementId=${uuid(99)}`);
say('2.1.3', 400, `GET /statements?statementId=${uuid(1)}&voidedStatementId=${uuid(7)}`);
for (const other of ['agent', 'verb', 'activity', 'registration', 'since', 'until', 'limit', 'ascending'])
  say('2.1.3', 400, `GET /statements?statementId=${uuid(1)}&${other}=x`);
for (const verb of [
  'urn:verb:x',
  'tag:x.example,2026:did',
  'mailto:a@x.example',
  'http://localhost/did',
  `${ADL}passed`,
])
  say('2.1.3', 200, `GET /statements?verb=${encodeURIComponent(verb)}`);
for (const activity of ['urn:x:y', 'tag:x.example,2026:w', 'mailto:a@x.example', 'http://localhost:3000/w'])
  say('2.1.3', 200, `GET /statements?activity=${encodeURIComponent(activity)}`);
for (const registration of ['1ec9414c-232a-6b00-b3c8-9f6bdeced846', '017f22e2-79b0-7cc3-18c4-dc0c0c07398f'])
  say('2.1.3', 200, `GET /statements?registration=${registration}`);
for (const at of [
  '2026-10-28T08:00:00Z',
  '2026-10-28T08:00Z',
  '2026-10-28T08:00:00,5Z',
  '2026-10-28T08:00:00%2B05',
  '1850-01-01T00:00:00Z',
])
  for (const key of ['since', 'until']) say('2.1.3', 200, `GET /statements?${key}=${at}`);
for (const limit of ['0', '1', '200', '1000000', '9'.repeat(40)])
  say('2.1.3', 200, `GET /statements?limit=${limit}`);
for (const query of ['ascending=true', 'format=exact', 'format=canonical', 'format=ids', 'attachments=true'])
  say('2.1.3', 200, `GET /statements?${query}`);
for (const query of [
  'related_agents=true',
  'related_activities=true',
  `agent=${AGENT}`,
  `agent=${ACCOUNT}&related_agents=true`,
  `agent=${encodeURIComponent('{"objectType":"Group","mbox":"mailto:a@x.example"}')}`,
])
  say('2.1.3', 200, `GET /statements?${query}`);
for (const query of [
  'colour=red',
  'Verb=x:y',
  'verb=passed',
  'activity=w1',
  'registration=1',
  'since=yesterday',
  'since=2026-10-28T08:00:00-00:00',
  'until=2026-02-30T00:00:00Z',
  'limit=-1',
  'limit=x',
  'limit=1.5',
  'ascending=yes',
  'format=full',
  'attachments=1',
  'agent=ida',
  'agent={}',
  'agent=null',
  'agent=[]',
  `agent=${encodeURIComponent('{"mbox":"mailto:a@x.example","openid":"x:y"}')}`,
  `agent=${encodeURIComponent('{"objectType":"Group","member":[{"mbox":"mailto:a@x.example"}]}')}`,
  `agent=${encodeURIComponent('{"objectType":"Robot","mbox":"mailto:a@x.example"}')}`,
  `agent=${encodeURIComponent('['.repeat(3000))}`,
  'verb=x:y&verb=x:z',
  'verb=x:%00',
  'agent=%00',
  'more=x',
  'more=%00',
  `more=${Buffer.from('{}').toString('base64url')}`,
  `more=${Buffer.from('{"after":-1}').toString('base64url')}`,
  `more=${Buffer.from('{"after":99999999999}').toString('base64url')}`,
  `more=${Buffer.from('{"after":1,"since":"x"}').toString('base64url')}`,
  `more=${Buffer.from('{"after":1,"verb":"x:\\u0000"}').toString('base64url')}`,
  `more=${Buffer.from('{"after":1,"agent":"{}"}').toString('base64url')}`,
  `more=${Buffer.from('{"after":1,"limit":{"a":1}}').toString('base64url')}`,
  `more=${Buffer.from('['.repeat(9000)).toString('base64url')}`,
])
  say('2.1.3', 400, `GET /statements?${query}`);
for (const method of ['DELETE', 'PATCH']) say('3.3', 405, `${method} /statements`);
say('1.5', 200, 'HEAD /statements');

// 1.3: the alternate syntax.
const keyed = (fields: Record<string, string>, key = 'x') =>
  new URLSearchParams({ Authorization: key, 'X-Experience-API-Version': '1.0.3', ...fields }).toString();
say('1.3', 401, 'POST /statements?method=GET', { headers: bare, body: keyed({}) });
say('1.3', 400, 'POST /statements?method=GET', { headers: bare, body: 'x' });
say('1.3', 413, 'POST /statements?method=GET', {
  headers: bare,
  body: keyed({ content: 'x'.repeat(70_000) }),
});
say('1.3', 200, 'POST /statements?method=GET', { headers: form, body: 'limit=1' });
say('1.3', 200, 'POST /statements?method=POST', {
  headers: form,
  body: new URLSearchParams({
    content: JSON.stringify(statement(12)),
    'Content-Type': 'application/json',
  }).toString(),
});
say('1.3', 400, 'POST /statements?method=POST', { headers: form, body: 'content=[' });
say('1.3', 400, 'POST /statements?method=GET&limit=1', { headers: form, body: '' });
say('1.3', 400, 'POST /statements?method=STEAL', { headers: form, body: '' });
say('1.3', 400, 'POST /statements?method=GET', { headers: form, body: 'limit=1&limit=2' });
say('1.3', 400, 'POST /statements?method=GET', { headers: form, body: 'If-Match=%0d%0aX-Y: z' });
say('1.3', 405, 'POST /statements?method=DELETE', { headers: form, body: '' });

// 2.2 to 2.7: documents, in three places.
const SHELVES = [
  ['2.3', `/activities/state?activityId=${ACTIVITY}&agent=${AGENT}`, 'stateId'],
  ['2.6', `/agents/profile?agent=${AGENT}`, 'profileId'],
  ['2.7', `/activities/profile?activityId=${ACTIVITY}`, 'profileId'],
] as const;
for (const [section, shelf, id] of SHELVES) {
  const one = `${shelf}&${id}=one`;
  say(section, 200, `GET ${shelf}`);
  say(section, 404, `GET ${one}`);
  say(section, 400, `PUT ${shelf}`, { body: {} });
  say(section, 204, `PUT ${one}`, { body: { a: 1 }, headers: { 'if-none-match': '*' } });
  say(section, 412, `PUT ${one}`, { body: { a: 2 }, headers: { 'if-none-match': '*' } });
  say('3.1', 412, `PUT ${one}`, { body: { a: 2 }, headers: { 'if-match': '"0"' } });
  say('3.1', section === '2.3' ? 204 : 409, `PUT ${one}`, { body: { a: 1 } });
  say('2.2', 204, `POST ${one}`, { body: { b: 2 } });
  say('2.2', 400, `POST ${one}`, { body: [1] });
  say('2.2', 400, `POST ${one}`, { body: 'text', headers: { 'content-type': 'text/plain' } });
  say('2.2', 412, `POST ${one}`, { body: { b: 2 }, headers: { 'if-match': '"0"' } });
  say(section, 200, `GET ${one}`);
  say(section, 200, `GET ${shelf}&since=2026-10-28T08:00:00%2B05`);
  say(section, 400, `GET ${one}&since=2026-10-28T08:00:00Z`);
  say(section, 400, `GET ${shelf}&since=yesterday`);
  say(section, 400, `GET ${shelf}&colour=red`);
  say(section, 400, `GET ${shelf}&${id}=`);
  say(section, 400, `GET ${shelf}&${id}=a%00b`);
  say(section, 400, `GET ${one}&${id}=two`);
  say('3.1', 412, `DELETE ${one}`, { headers: { 'if-match': '"0"' } });
  say(section, 204, `DELETE ${one}`);
  say(section, 404, `GET ${one}`);
  say(section, section === '2.3' ? 204 : 400, `DELETE ${shelf}`);
  say('3.3', 405, `PATCH ${one}`);
}
for (const query of [
  `agent=${AGENT}`,
  `activityId=x&agent=${AGENT}`,
  `activityId=${ACTIVITY}`,
  `activityId=${ACTIVITY}&agent=x`,
])
  say('2.3', 400, `GET /activities/state?${query}`);
say('2.3', 400, `GET /activities/state?activityId=${ACTIVITY}&agent=${AGENT}&registration=x`);
say('2.3', 200, `GET /activities/state?activityId=${ACTIVITY}&agent=${AGENT}&registration=${uuid(1)}`);

// 2.4, 2.5 and 2.8.
say('2.4', 200, `GET /agents?agent=${ACCOUNT}`);
for (const query of ['', '?agent=x', '?agent={}', `?agent=${AGENT}&x=1`])
  say('2.4', 400, `GET /agents${query}`);
say('2.5', 200, `GET /activities?activityId=${ACTIVITY}`);
say('2.5', 200, 'GET /activities?activityId=urn:nothing:known');
for (const query of ['', '?activityId=x', `?activityId=${ACTIVITY}&x=1`])
  say('2.5', 400, `GET /activities${query}`);
say('2.8', 200, 'GET /about', { headers: { authorization: '', 'x-experience-api-version': '' } });
say('2.8', 405, 'POST /about', { body: {} });
for (const path of ['', '/', '/nothing', '/statements/x', '/activities/states'])
  say('3.3', 404, `GET ${path}`);

describe('requests by the sections of the standard', () => {
  it('are more than 150', () => expect(list.length).toBeGreaterThan(150));

  it.each(list)('$section: $request gives $status', async ({ section: _, status, ...rest }) => {
    const response = await ask(rest);
    const said = await response.text();
    expect([response.status, said.slice(0, 200)]).toEqual([status, expect.any(String)]);
    expect(response.headers.get('x-experience-api-version')).toMatch(/^(1\.0\.3|2\.0\.0)$/);
    // Every refusal is said in JSON.
    if (status >= 400)
      expect(JSON.parse(said)).toEqual({ message: expect.stringMatching(/\w{2}/) as string });
  });

  it('the merge of documents keeps what was not posted, and their tags change', async () => {
    const path = `/activities/state?activityId=${ACTIVITY}&agent=${AGENT}&stateId=merge`;
    await ask({ request: `POST ${path}`, body: { a: 1, b: { c: 1 } } });
    const first = await ask({ request: `GET ${path}` });
    await ask({ request: `POST ${path}`, body: { b: { d: 2 }, e: null } });
    const second = await ask({ request: `GET ${path}` });
    expect(await second.json()).toEqual({ a: 1, b: { d: 2 }, e: null });
    const tag = second.headers.get('etag')!;
    expect(tag).not.toBe(first.headers.get('etag'));
    expect((await ask({ request: `GET ${path}`, headers: { 'if-none-match': tag } })).status).toBe(304);
    expect(
      (
        await ask({
          request: `PUT ${path}`,
          body: 'new',
          headers: { 'if-match': tag, 'content-type': 'text/html' },
        })
      ).status,
    ).toBe(204);
    const third = await ask({ request: `GET ${path}` });
    expect([third.headers.get('content-type'), await third.text()]).toEqual(['text/html', 'new']);
    expect(third.headers.get('content-security-policy')).toMatch(/sandbox/);
  });

  it('documents of one registration are not those of another', async () => {
    const path = `/activities/state?activityId=${ACTIVITY}&agent=${AGENT}`;
    for (const n of [1, 2])
      await ask({ request: `PUT ${path}&registration=${uuid(n)}&stateId=r${n}`, body: { n } });
    const ids = async (more: string) => (await ask({ request: `GET ${path}${more}` })).json();
    expect(await ids(`&registration=${uuid(1)}`)).toEqual(['r1']);
    expect(await ids('')).toEqual(expect.arrayContaining(['r1', 'r2']));
    await ask({ request: `DELETE ${path}&registration=${uuid(1)}` });
    expect(await ids(`&registration=${uuid(1)}`)).toEqual([]);
    expect(await ids(`&registration=${uuid(2)}`)).toEqual(['r2']);
  });

  it('tells an agent as a person and an activity with its definition', async () => {
    const name = { en: 'Fixing' };
    const said = statement(50, { object: { id: 'https://platform.example/works/r1', definition: { name } } });
    await ask({ request: 'POST /statements', body: { ...said, actor: { ...said.actor, name: 'Łucja' } } });
    expect(await (await ask({ request: `GET /agents?agent=${ACCOUNT}` })).json()).toEqual({
      objectType: 'Person',
      name: ['Łucja'],
      account: [{ homePage: 'https://platform.example', name: 's1' }],
    });
    expect(await (await ask({ request: `GET /activities?activityId=${ACTIVITY}` })).json()).toEqual({
      objectType: 'Activity',
      id: 'https://platform.example/works/r1',
      definition: { name },
    });
  });

  it('the authority of a statement is ours, whatever the client says', async () => {
    const claimed = { mbox: 'mailto:somebody@x.example' };
    await ask({ request: 'POST /statements', body: statement(51, { authority: claimed }) });
    const found = await (await ask({ request: `GET /statements?statementId=${uuid(51)}` })).json();
    expect(found).toMatchObject({
      authority: {
        account: { homePage: 'https://ready-lantern.example', name: expect.stringMatching(/^k-/) as string },
      },
    });
  });

  it('pages of other origins may read where the settings say so (Fetch standard, 3.2)', async () => {
    const from = async (origin: string, request: string) => {
      const { headers, status } = await ask({ request, headers: { origin } });
      return [
        status,
        headers.get('access-control-allow-origin'),
        headers.get('access-control-allow-methods'),
      ];
    };
    const player = 'https://player.example';
    expect(await from(player, 'GET /statements')).toEqual([200, player, null]);
    expect(await from(player, 'OPTIONS /statements')).toEqual([204, player, 'GET, PUT, POST, HEAD, OPTIONS']);
    expect(await from(player, 'GET /nothing')).toEqual([404, player, null]);
    expect(await from('https://other.example', 'GET /statements')).toEqual([200, null, null]);
    expect(await from('https://other.example', 'OPTIONS /statements')).toEqual([204, null, null]);
  });
});
