import { describe, expect, it, onTestFinished, vi } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { cookieOf, PASSWORD, signIn } from '../../../tests/support/session';
import { GET as askRoute, POST as authRoute } from '@/app/api/auth/[...all]/route';
import { account, user } from '@/data/schema';
import { auth } from './auth';
import { DEVICE_COOKIE, knownDevice } from './device';
import { PEER_HEADER } from '../base/peer';
import { ALL_SENDERS, ONE_SENDER } from './signInTries';
import { requireViewer, coursesOf, viewerOf } from './viewer';

const small = withSmallCourse();

describe('signing in', () => {
  it('gives a session that says who asks, in a cookie that scripts cannot read', async () => {
    const response = await signIn('ines@example.org', PASSWORD);
    expect(response.status).toBe(200);
    expect(response.headers.getSetCookie()[0]).toMatch(/HttpOnly/i);
    expect(response.headers.getSetCookie()[0]).toMatch(/SameSite=Lax/i);
    const viewer = await viewerOf(new Headers({ cookie: cookieOf(response) }));
    expect(viewer).toMatchObject({
      name: 'Ines Calloway',
      role: 'instructor',
      userId: small.course.instructor.userId,
    });
    expect((await coursesOf(viewer!)).map((c) => c.code)).toEqual(['NAV']);
  });
  it('is refused with a wrong password, an unknown address, and from another site', async () => {
    expect((await signIn('ines@example.org', 'something else')).status).toBe(401);
    expect((await signIn('nobody@example.org', PASSWORD)).status).toBe(401);
    expect((await signIn('ines@example.org', PASSWORD, 'http://evil.example')).status).toBe(403);
    await expect(requireViewer(new Headers())).rejects.toThrow('Sign in');
    await expect(
      requireViewer(new Headers({ cookie: 'lantern.session_token=made-up.value' })),
    ).rejects.toThrow('Sign in');
  });
  it('cannot be made by oneself', async () => {
    const response = await (
      await auth()
    ).handler(
      new Request('http://lantern.test/api/auth/sign-up/email', {
        method: 'POST',
        headers: { 'content-type': 'application/json', host: 'lantern.test', origin: 'http://lantern.test' },
        body: JSON.stringify({
          email: 'new@example.org',
          password: PASSWORD,
          name: 'New',
          role: 'instructor',
        }),
      }),
    );
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect((await small.test.db.orm.select().from(user)).some((u) => u.email === 'new@example.org')).toBe(
      false,
    );
  });
  it('makes who guesses wait longer and longer, by sender and account', async () => {
    // The clock moves only when it is told to: a slow machine is not a patient guesser.
    vi.useFakeTimers({ toFake: ['Date'] });
    onTestFinished(() => void vi.useRealTimers());
    const guess = (peer: string, password: string, cookie = '') =>
      signIn('teodor@example.org', password, undefined, { [PEER_HEADER]: peer, cookie });
    const owner = await guess('192.0.2.1', PASSWORD);
    const device = cookieOf(owner, DEVICE_COOKIE);
    expect(device).toMatch(/^lantern\.device=/);
    for (let i = 0; i < ONE_SENDER.free; i++)
      expect((await guess('192.0.2.66', `guess ${i}`)).status).toBe(401);
    const stopped = await guess('192.0.2.66', PASSWORD);
    expect(stopped.status).toBe(429);
    expect(Number(stopped.headers.get('retry-after'))).toBeGreaterThanOrEqual(1);
    // Another sender, another account, and the same sender a little later are not stopped by it.
    expect((await guess('192.0.2.2', PASSWORD)).status).toBe(200);
    expect(
      (await signIn('ines@example.org', PASSWORD, undefined, { [PEER_HEADER]: '192.0.2.66' })).status,
    ).toBe(200);
    vi.setSystemTime(Date.now() + 2000);
    expect((await guess('192.0.2.66', PASSWORD)).status).toBe(200);
    // From very many addresses: whoever is new must wait, the owner's device goes on.
    for (let i = 0; i < ALL_SENDERS.free; i++) await guess(`198.51.100.${i}`, 'guess');
    expect((await guess('203.0.113.9', PASSWORD)).status).toBe(429);
    expect((await guess('203.0.113.9', PASSWORD, device)).status).toBe(200);
    const forged = device.replace(/.{4}$/, 'AAAA');
    expect(knownDevice(forged.slice(forged.indexOf('=') + 1), 'teodor@example.org')).toBeNull();
    expect(knownDevice(device.slice(device.indexOf('=') + 1), 'ines@example.org')).toBeNull();
  });
  it('lets a display name be changed, to one that can be read, and nothing else', async () => {
    const cookie = cookieOf(await signIn('ines@example.org', PASSWORD));
    const update = async (body: unknown) =>
      (
        await authRoute(
          new Request('http://lantern.test/api/auth/update-user', {
            method: 'POST',
            headers: {
              'content-type': 'application/json',
              host: 'lantern.test',
              origin: 'http://lantern.test',
              cookie,
            },
            body: JSON.stringify(body),
          }),
        )
      ).status;
    for (const name of ['', ' ', 'x'.repeat(81), 'The\nDean', 'The\u0000Dean', 'The\u202eDean', 5, null])
      expect(await update({ name }), JSON.stringify(name)).toBe(400);
    expect(await update({ name: 'Ines C.', image: 'https://x.example/dean.png' })).toBe(400);
    expect(await update({ role: 'student' })).toBe(400);
    expect(await update({ name: 'Ines C.' })).toBe(200);
    expect(await viewerOf(new Headers({ cookie }))).toMatchObject({ name: 'Ines C.', role: 'instructor' });
    expect(await update({ name: 'Ines Calloway' })).toBe(200);
  });
  it('takes bodies of a size, and answers no other address of the library', async () => {
    const post = async (path: string, body: string) =>
      (
        await authRoute(
          new Request(`http://lantern.test/api/auth${path}`, {
            method: 'POST',
            headers: {
              'content-type': 'application/json',
              host: 'lantern.test',
              origin: 'http://lantern.test',
            },
            body,
          }),
        )
      ).status;
    expect(await post('/sign-in/email', `{"email":"${'x'.repeat(20_000)}","password":"x"}`)).toBe(413);
    expect(await post('/sign-in/email', '{"email":"a\\u0000@x.example","password":"x"}')).toBe(400);
    expect(await post('/sign-in/email', `${'['.repeat(9000)}`)).toBe(400);
    expect(await post('/sign-in/email', '{"email":{},"password":[]}')).toBe(400);
    const head = new Request('http://lantern.test/api/auth/get-session', { method: 'HEAD' });
    expect((await askRoute(head)).status).toBeLessThan(500);
    for (const path of ['/sign-up/email', '/request-password-reset', '/list-sessions', '/nothing', ''])
      expect(await post(path, '{}')).toBe(404);
  });
  it('keeps no password as it was typed', async () => {
    const rows = await small.test.db.orm.select().from(account);
    expect(rows.length).toBeGreaterThan(1);
    expect(JSON.stringify(rows)).not.toContain(PASSWORD);
    expect(new Set(rows.map((r) => r.password)).size).toBe(rows.length);
  });
});
