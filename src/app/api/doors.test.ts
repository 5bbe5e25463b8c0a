import { beforeAll, describe, expect, it } from 'vitest';
import { file, FILES, NOW, withSmallCourse } from '../../../tests/support/course';
import { startJob } from '../../../tests/support/job';
import { cookieOf, signIn } from '../../../tests/support/session';
import { importFiles, previewImport } from '@/server/intake/intake';
import { GET as exportDoor } from './courses/[code]/export/[format]/route';
import { POST as upload } from './courses/[code]/imports/route';
import { GET as rejected } from './courses/[code]/imports/[id]/[kind]/route';
import { DELETE as stopJob, GET as askJob } from './courses/[code]/jobs/[id]/route';
import { GET as list } from './courses/[code]/lists/[file]/route';
import { GET as live } from './courses/[code]/live/route';
import { GET as archive } from './courses/[code]/students/[id]/archive/route';
import { GET as tray } from './courses/[code]/tray/route';
import { GET as example } from './courses/[code]/examples/[file]/route';
import { GET as mail } from './mail/[id]/route';

const small = withSmallCourse();
const cookies = { instructor: '', stranger: '', student: '' };
let staged = '';
let enrolment = 0;
beforeAll(async () => {
  cookies.instructor = cookieOf(await signIn('ines@example.org'));
  cookies.stranger = cookieOf(await signIn('teodor@example.org'));
  ({ enrolmentId: enrolment } = await small.course.student('s1'));
  cookies.student = cookieOf(await signIn('s1@accounts.example'));
  const log = file('events.csv', `${FILES.events.split('\n')[0]!}\nx1,s1,2026-02-30T10:00:00Z,view,,\n`);
  const preview = await previewImport(small.course.instructor, 'NAV', [log]);
  staged = preview.id!;
});

const request = (cookie: string, path = '', init: RequestInit = {}) =>
  new Request(`http://lantern.test/${path}`, {
    ...init,
    headers: { cookie, host: 'lantern.test', ...(init.headers as Record<string, string>) },
  });
const params = <T extends object>(given: T) => ({ params: Promise.resolve(given) });

/** Every door through which a course is read, with what it asks for. */
const DOORS: readonly (readonly [name: string, ask: (cookie: string, code: string) => Promise<Response>])[] =
  [
    ...['oneroster', 'xapi', 'csv', 'xlsx'].map(
      (format) =>
        [
          `export as ${format}`,
          (cookie: string, code: string) => exportDoor(request(cookie), params({ code, format })),
        ] as const,
    ),
    [
      'rejected rows',
      (cookie, code) => rejected(request(cookie), params({ code, id: staged, kind: 'events' })),
    ],
    ['list', (cookie, code) => list(request(cookie), params({ code, file: 'missing.csv' }))],
    ['spreadsheet', (cookie, code) => list(request(cookie), params({ code, file: 'missing.xlsx' }))],
    ['live view', (cookie, code) => live(request(cookie, '?once=1'), params({ code }))],
    [
      'archive of a student',
      (cookie, code) => archive(request(cookie), params({ code, id: String(enrolment) })),
    ],
    ['selection', (cookie, code) => tray(request(cookie), params({ code }))],
  ];

describe.each(DOORS)('the door of the %s', (_, ask) => {
  it('opens for who teaches the course, and for nobody else', async () => {
    const status = async (cookie: string, code = 'NAV') => (await ask(cookie, code)).status;
    expect(await status(cookies.instructor)).toBe(200);
    expect(await status('')).toBe(401);
    expect(await status('lantern.session_token=made.up')).toBe(401);
    // A course of others is refused in the same words as one that is not there.
    const [others, none] = [await ask(cookies.stranger, 'NAV'), await ask(cookies.stranger, 'NOWHERE')];
    expect([others.status, await others.text()]).toEqual([none.status, await none.text()]);
    expect(others.status).toBe(404);
    expect(await status(cookies.student)).toBe(403);
    expect(await status(cookies.instructor, 'OTHER')).toBe(404);
  });
});

describe('odd addresses', () => {
  const ODD = [
    '',
    '0',
    '-1',
    '1.5',
    '2147483648',
    '1e300',
    'NaN',
    '\0',
    'a\0b',
    '../NAV',
    'x'.repeat(3000),
    '"; --',
    '💥',
  ];
  it.each(ODD)('%j as a course is not there', async (code) => {
    for (const [name, ask] of DOORS) expect((await ask(cookies.instructor, code)).status, name).toBe(404);
  });

  it.each(ODD)('%j as a part of a course is refused in words', async (odd) => {
    const { instructor } = cookies;
    const code = 'NAV';
    const asked = {
      format: exportDoor(request(instructor), params({ code, format: odd })),
      upload: rejected(request(instructor), params({ code, id: odd, kind: 'events' })),
      kind: rejected(request(instructor), params({ code, id: staged, kind: odd })),
      list: list(request(instructor), params({ code, file: odd })),
      student: archive(request(instructor), params({ code, id: odd })),
      job: askJob(request(instructor), params({ code, id: odd })),
      mail: mail(request(instructor), params({ id: odd })),
      example: example(request(instructor), params({ code, file: odd })),
    };
    for (const [name, response] of Object.entries(asked))
      expect([400, 404], name).toContain((await response).status);
  });

  it.each(['2147483648', '\0', '💥'])('%j in the query of a list is passed over or refused', async (odd) => {
    for (const key of ['w', 'g', 'k', 'sort', 'status', 'show', 'due', 'work'])
      for (const name of ['missing', 'activity', 'gradebook', 'resources', 'trends', 'work', 'week']) {
        const query = `?${new URLSearchParams({ [key]: odd }).toString()}`;
        const response = await list(
          request(cookies.instructor, query),
          params({ code: 'NAV', file: `${name}.csv` }),
        );
        expect([200, 400, 404], `${name} ${key}`).toContain(response.status);
      }
  });
});

describe('the door of uploads', () => {
  const send = (cookie: string, origin: string | null, code = 'NAV') => {
    const form = new FormData();
    form.append('files', new File(['event_id,student_id,at,kind\n'], 'events.csv'));
    return upload(
      request(cookie, '', { method: 'POST', body: form, headers: origin ? { origin } : {} }),
      params({ code }),
    );
  };
  it('opens for who teaches the course, from our own pages', async () => {
    expect((await send(cookies.instructor, 'http://lantern.test')).status).toBe(200);
    expect((await send(cookies.instructor, 'http://evil.example')).status).toBe(403);
    expect((await send(cookies.instructor, null)).status).toBe(403);
    expect((await send(cookies.instructor, 'null')).status).toBe(403);
    expect((await send('', 'http://lantern.test')).status).toBe(401);
    expect((await send(cookies.stranger, 'http://lantern.test')).status).toBe(404);
    expect((await send(cookies.student, 'http://lantern.test')).status).toBe(403);
  });
  it('says how much is too much before it reads it', async () => {
    const large = request(cookies.instructor, '', {
      method: 'POST',
      headers: { origin: 'http://lantern.test', 'content-length': String(201 * 1024 * 1024) },
    });
    const answer = await upload(large, params({ code: 'NAV' }));
    expect([answer.status, await answer.json()]).toEqual([
      413,
      { message: 'Together the files may have at most 200 MB.' },
    ]);
  });
});

describe('the door of a job', () => {
  const ask = (cookie: string, id: string) => askJob(request(cookie), params({ code: 'NAV', id }));
  const stop = (cookie: string, id: string, origin = 'http://lantern.test') =>
    stopJob(request(cookie, '', { method: 'DELETE', headers: { origin } }), params({ code: 'NAV', id }));

  /** What is answered once a job has ended. */
  const end = async (job: string) => {
    const look = async () => (await (await ask(cookies.instructor, job)).json()) as { state: string };
    await expect.poll(async () => (await look()).state, { timeout: 600_000 }).not.toBe('running');
    return look();
  };

  it('opens for who began it and for nobody else', async () => {
    let release = () => {};
    const held = new Promise<void>((resolve) => (release = resolve));
    const { id: job, end: over } = await startJob(small.course.instructor.userId, async (progress) => {
      await held;
      for (let i = 0; i < 1_000_000; i++) await progress('Writing', 2, 2);
    });
    expect(await (await ask(cookies.instructor, job)).json()).toMatchObject({ state: 'running' });
    expect((await ask(cookies.stranger, job)).status).toBe(404);
    expect((await stop(cookies.stranger, job)).status).toBe(404);
    expect((await stop(cookies.instructor, job, 'http://evil.example')).status).toBe(403);
    expect((await stop(cookies.instructor, job)).status).toBe(200);
    release();
    await over;
    expect(await end(job)).toMatchObject({ state: 'cancelled' });
    expect((await ask('', job)).status).toBe(401);
    expect((await ask(cookies.instructor, 'no-such-job')).status).toBe(404);
  });

  it('tells how an import ended, with its counts', async () => {
    const { instructor, courseId } = small.course;
    const log = file(
      'events.csv',
      `${FILES.events.split('\n')[0]!}\ndoor-1,s1,2026-10-20T10:00:00Z,view,r1,\n`,
    );
    const { id: job, end: over } = await startJob(instructor.userId, (progress) =>
      importFiles(small.test.db, courseId, instructor.userId, [log], Date.parse(NOW), { progress }),
    );
    await over;
    expect(await end(job)).toMatchObject({
      state: 'done',
      value: [{ kind: 'events', added: 1, rejected: 0 }],
    });
  });
});
