import { readFileSync, mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { openEmbedded } from '@/data/database';
import { NOW, smallCourse } from '../support/course';
import { startServer } from '../support/server';

const PORT = 3239;
const BASE = `http://localhost:${PORT}`;
const KEY = { LANTERN_XAPI_KEY: 'doors-key', LANTERN_XAPI_SECRET: 'a secret for the doors' };
const folder = mkdtempSync(join(tmpdir(), 'lantern-doors-'));
let server: Awaited<ReturnType<typeof startServer>>;
let cookie = '';

test.beforeAll(async () => {
  const db = await openEmbedded(folder, 'a test');
  await smallCourse(db);
  await db.close();
  server = await startServer(folder, PORT, { ...KEY, LANTERN_XAPI_COURSE: 'NAV', LANTERN_NOW: NOW });
  const answer = await fetch(`${BASE}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: BASE },
    body: JSON.stringify({ email: 'ines@example.org', password: 'a password for tests' }),
  });
  expect(answer.status).toBe(200);
  cookie = answer.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
});
test.afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Memory that the server holds, in megabytes. */
const memory = () =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;
const authorization = `Basic ${Buffer.from(Object.values(KEY).join(':')).toString('base64')}`;
const LINE = Buffer.alloc(64 * 1024, 'x');

/** Sends so many megabytes without saying how many there will be. Gives the status, or how the connection ended. */
const pour = (
  path: string,
  headers: Record<string, string>,
  megabytes: number,
  begin = '',
): Promise<number | string> =>
  new Promise((resolve) => {
    const asked = request(`${BASE}${path}`, { method: 'POST', headers }, (answer) => {
      answer.resume();
      answer.on('end', () => resolve(answer.statusCode!));
    });
    // An answer that came first counts; a line that is cut after it does not.
    asked.on('error', (error: NodeJS.ErrnoException) => resolve(error.code ?? 'cut off'));
    asked.write(begin);
    let left = megabytes * 16;
    const more = () => {
      while (left-- > 0) if (!asked.write(LINE)) return void asked.once('drain', more);
      asked.end();
    };
    more();
  });

test.describe('bodies without end', () => {
  test('are refused by their size as it comes, and take no memory', async () => {
    const form = `--b\r\nContent-Disposition: form-data; name="files"; filename="a.csv"\r\n\r\n`;
    const version = { 'x-experience-api-version': '1.0.3' };
    const json = { 'content-type': 'application/json' };
    const doors: readonly (readonly [string, Record<string, string>, string, readonly unknown[]])[] = [
      ['/xapi/statements?method=GET', { 'content-type': 'application/x-www-form-urlencoded' }, '', [413]],
      ['/xapi/statements', { ...json, ...version, authorization }, '', [413]],
      ['/xapi/statements', { ...json, ...version }, '', [401]],
      ['/api/auth/sign-in/email', { ...json, origin: BASE }, '', [413]],
      ['/api/courses/NAV/messages', { ...json, origin: BASE, cookie }, '', [413]],
      [
        '/api/courses/NAV/imports',
        { origin: BASE, cookie, 'content-type': 'multipart/form-data; boundary=b' },
        form,
        [413],
      ],
      [
        '/c/NAV/rounds',
        { origin: BASE, cookie, 'content-type': 'text/plain', 'next-action': '0'.repeat(42) },
        '',
        [404, 409, 413],
      ],
    ];
    const idle = memory();
    let most = idle;
    const watch = setInterval(() => (most = Math.max(most, memory())), 50);
    for (const [path, headers, begin, expected] of doors) {
      // Once the answer is on its way the line may be cut: what counts is that the server goes on.
      expect([...expected, 'EPIPE', 'ECONNRESET'], path).toContain(await pour(path, headers, 220, begin));
      expect((await fetch(`${BASE}/api/health`)).status).toBe(200);
    }
    clearInterval(watch);
    // One of these bodies is more than this by itself.
    expect(most - idle, `${idle} MB idle, ${most} MB at most`).toBeLessThan(Math.max(idle / 2, 150));
  });
});

test.describe('requests that nobody means', () => {
  test('are each answered without a failure of the server', async () => {
    const pieces = [
      '%FF',
      '%00',
      '..',
      '',
      '//',
      'NAV',
      '2147483648',
      '-1',
      '%ED%A0%80',
      '[[]]',
      '__proto__',
      'x'.repeat(900),
    ];
    const roots = [
      '/api/courses/',
      '/api/courses/NAV/',
      '/c/',
      '/c/NAV/students/',
      '/c/NAV/work/',
      '/xapi/',
      '/xapi/activities/',
      '/api/auth/',
      '/api/mail/',
      '/',
    ];
    const bodies = [
      undefined,
      '',
      '{',
      '[]',
      'null',
      '{"a":{"b":[]}}',
      `${'['.repeat(50_000)}`,
      '\u0000',
      '\ud800',
      'a=b&c',
    ];
    const types = [
      '',
      'application/json',
      'text/plain',
      'multipart/form-data',
      'multipart/form-data; boundary=x',
      'multipart/mixed; boundary=x',
      'application/x-www-form-urlencoded',
    ];
    const tails = [
      '',
      '/imports',
      '/statements',
      '?w=%FF',
      '/lists/missing.csv',
      '/tray',
      '?more=x',
      '/state?stateId=%00',
    ];
    // A draw of its own, the same in every run: a linear congruence (Numerical Recipes, 7.1).
    let state = 11;
    const draw = <T>(list: readonly T[]): T => {
      state = (state * 1664525 + 1013904223) % 2 ** 32;
      return list[Math.floor((state / 2 ** 32) * list.length)]!;
    };
    const failed: string[] = [];
    for (let i = 0; i < 1500; i++) {
      const method = draw(['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD']);
      const path = `${draw(roots)}${draw(pieces)}${draw(tails)}`;
      const type = draw(types);
      const body = method === 'GET' || method === 'HEAD' ? undefined : draw(bodies);
      const headers = {
        ...(type ? { 'content-type': type } : {}),
        ...(draw([true, false]) ? { cookie } : {}),
        ...(draw([true, false]) ? { origin: BASE } : {}),
        ...(draw([true, false]) ? { authorization, 'x-experience-api-version': '1.0.3' } : {}),
        ...(draw([true, false, false]) ? { 'next-action': 'f'.repeat(42) } : {}),
      };
      const answer = await fetch(`${BASE}${path}`, { method, headers, body, redirect: 'manual' });
      await answer.arrayBuffer();
      if (answer.status >= 500)
        failed.push(`${answer.status} ${method} ${path.slice(0, 60)} ${type} ${String(body).slice(0, 20)}`);
    }
    expect(failed).toEqual([]);
  });
});
