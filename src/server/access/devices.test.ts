import { describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { cookieOf, signIn } from '../../../tests/support/session';
import { accountView, signOutDevice, signOutElsewhere } from './devices';
import { viewerOf } from './viewer';

const small = withSmallCourse();
const me = () => small.course.instructor;
/** The headers of a browser that signs in anew. */
const browser = async (email = 'ines@example.org') =>
  new Headers({ cookie: cookieOf(await signIn(email)), host: 'lantern.test' });

describe('where somebody is signed in', () => {
  it('is listed, and ended one by one or all but here', async () => {
    const [here, there, third] = [await browser(), await browser(), await browser()];
    const { devices, email } = await accountView(me(), here);
    expect(email).toBe('ines@example.org');
    expect(devices).toHaveLength(3);
    expect(devices.map((d) => d.isThis)).toEqual([true, false, false]);
    // No token leaves the server.
    expect(JSON.stringify(devices)).not.toContain('token');
    const [own] = (await accountView(me(), there)).devices;
    await signOutDevice(me(), here, own!.id);
    expect(await viewerOf(there)).toBeNull();
    expect(await viewerOf(third)).not.toBeNull();
    expect(await signOutElsewhere(me(), here)).toBe(1);
    expect(await viewerOf(third)).toBeNull();
    expect(await viewerOf(here)).not.toBeNull();
  });
  it('is nobody else’s to end', async () => {
    const [mine, theirs] = [await browser(), await browser('teodor@example.org')];
    const [other] = (await accountView(small.course.stranger, theirs)).devices;
    await expect(signOutDevice(me(), mine, other!.id)).rejects.toThrow('no such device of yours');
    expect(await viewerOf(theirs)).not.toBeNull();
  });
});
