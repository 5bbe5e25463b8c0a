import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../tests/support/course';
import { cookieOf, PASSWORD, signIn } from '../../tests/support/session';
import { account, user } from '@/data/schema';
import { auth } from './auth';
import { MOST_TRIES } from './signInTries';
import { requireViewer, taughtCourses, viewerOf } from './viewer';

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
    expect((await taughtCourses(viewer!)).map((c) => c.code)).toEqual(['NAV']);
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
  it('is stopped after too many tries at one account, and that account only', async () => {
    for (let i = 0; i < MOST_TRIES; i++)
      expect((await signIn('teodor@example.org', `guess ${i}`)).status).toBe(401);
    expect((await signIn('teodor@example.org', PASSWORD)).status).toBe(429);
    expect((await signIn('ines@example.org', PASSWORD)).status).toBe(200);
  });
  it('keeps no password as it was typed', async () => {
    const rows = await small.test.db.orm.select().from(account);
    expect(rows.length).toBeGreaterThan(1);
    expect(JSON.stringify(rows)).not.toContain(PASSWORD);
    expect(new Set(rows.map((r) => r.password)).size).toBe(rows.length);
  });
});
