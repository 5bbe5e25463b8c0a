import { beforeAll, describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { cookieOf, signIn } from '../../../tests/support/session';
import { importFiles } from '@/server/intake/intake';
import { GET } from './courses/[code]/live/route';

const small = withSmallCourse();
let cookie = '';
beforeAll(async () => {
  cookie = cookieOf(await signIn('ines@example.org'));
});

const open = (signal?: AbortSignal, path = '') =>
  GET(new Request(`http://lantern.test/${path}`, { headers: { cookie, host: 'lantern.test' }, signal }), {
    params: Promise.resolve({ code: 'NAV' }),
  });

/** The lines of a stream as they come. */
async function* linesOf(response: Response): AsyncGenerator<string> {
  for await (const part of response.body!.pipeThrough(new TextDecoderStream()))
    yield* part.split('\n').filter((line) => line !== '');
}

async function nextData(lines: AsyncGenerator<string>): Promise<string> {
  for (;;) {
    const { value, done } = await lines.next();
    if (done) throw new Error('the stream ended');
    if (value.startsWith('data: ')) return value.slice('data: '.length);
  }
}

describe('the stream of what comes in', () => {
  it('says the version at once, stays open with a word now and then, and says when something came in', async () => {
    const end = new AbortController();
    const response = await open(end.signal);
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    expect(response.headers.get('cache-control')).toBe('no-store');
    const lines = linesOf(response);
    const before = await nextData(lines);
    expect((await lines.next()).value).toBe(': still here');
    const log = file('events.csv', 'event_id,student_id,at,kind\nlive-1,s1,2026-10-27T10:00:00Z,login\n');
    await importFiles(small.test.db, small.course.courseId, null, [log], Date.parse(NOW));
    const after = await nextData(lines);
    expect(after).not.toBe(before);
    // Whoever polls hears the same.
    const polled = (await (await open(undefined, '?once=1')).json()) as { version: string };
    expect(polled.version).toBe(after);
    end.abort();
    // It ends, whatever was on its way.
    for await (const line of lines) expect(line).toMatch(/^(: still here|data: .*)?$/);
  });

  it('is refused beyond two hundred at once, and open again once others have gone', async () => {
    const end = new AbortController();
    const all = await Promise.all(Array.from({ length: 200 }, () => open(end.signal)));
    expect(new Set(all.map((r) => r.status))).toEqual(new Set([200]));
    expect((await open()).status).toBe(503);
    expect((await open(undefined, '?once=1')).status).toBe(200);
    end.abort();
    const again = await open();
    expect(again.status).toBe(200);
    await again.body!.cancel();
  });
});
