import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { existsSync } from 'node:fs';
import { mkdir, rm, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { courseOfFiles, FILES, forgetCourses, NOW, withSmallCourse } from '../../../tests/support/course';
import { courses, courseStaff, feedFiles, feeds, imports, jobs, scores, uploads } from '@/data/schema';
import type { FeedForm } from '@/core/forms/feed';
import { nextLook } from '@/core/feeds/schedule';
import type { FeedLine } from '@/core/views/feeds';
import { HOUR_MS } from '@/core/units';
import { rereadConfig } from '../base/config';
import { now } from '../base/clock';
import { commitImport, mapFile, pastImports } from '../intake/intake';
import { roundsView } from '../look/rounds';
import { addressOf } from '../mail/addresses';
import { startMailIn, type MailIn } from '../mail/listener';
import { workOff } from '../work';
import { fetchLink, mayFetchFrom, nameOf } from './fetchLink';
import { FIRST } from './takeIn';
import { leaveOut, lookNow, openFeedFile, removeFeed, saveFeed, switchFeed } from './manage';
import { queueFeeds } from './queueFeed';
import { feedsView } from './view';

const small = withSmallCourse();
const db = () => small.test.db;
const me = () => small.course.instructor;
const work = () => workOff(db());

let mailIn: MailIn;
let web: Server;
/** What the course platform answers. */
let answer: { status: number; body: string; headers?: Record<string, string>; cut?: boolean };
const port = () => (web.address() as AddressInfo).port;
const set = (over: Record<string, string>) => {
  Object.assign(process.env, over);
  rereadConfig();
};

beforeAll(async () => {
  set({
    LANTERN_INBOX: join(small.test.folder, 'inbox'),
    LANTERN_MAIL_IN_PORT: '0',
    LANTERN_MAIL_DOMAIN: 'lantern.school.example',
    LANTERN_LINKS_TO: '127.0.0.1',
  });
  mailIn = await startMailIn(db(), { host: '127.0.0.1', port: 0 });
  web = createServer((_request, response) => {
    response.writeHead(answer.status, answer.headers ?? {});
    response.write(answer.body);
    if (answer.cut) setImmediate(() => response.destroy());
    else response.end();
  });
  await new Promise<void>((resolve) => web.listen(0, '127.0.0.1', resolve));
});
afterAll(async () => {
  await mailIn.close();
  web.close();
  for (const name of ['LANTERN_INBOX', 'LANTERN_MAIL_IN_PORT', 'LANTERN_MAIL_DOMAIN', 'LANTERN_LINKS_TO'])
    delete process.env[name];
  rereadConfig();
});
afterEach(async () => {
  process.env.LANTERN_NOW = NOW;
  await db().orm.delete(jobs);
  await forgetCourses(db(), 'FEED');
});

let made = 0;
/** A course of its own with the small one's files. */
async function course(): Promise<string> {
  const code = `FEED-${++made}`;
  await courseOfFiles(db(), code, me().userId);
  return code;
}
const FORM: FeedForm = {
  id: null,
  name: 'Gradebook export',
  kind: 'folder',
  link: '',
  days: 'daily',
  minute: 360,
};
const feedOfCourse = async (code: string): Promise<FeedLine> => (await feedsView(me(), code)).feeds[0]!;
const states = async (code: string) => (await feedOfCourse(code)).files.map((f) => f.state);
const idOf = async (code: string) =>
  (await db().orm.select({ id: courses.id }).from(courses).where(eq(courses.code, code)))[0]!.id;
const importsOf = async (code: string) =>
  (
    await db()
      .orm.select()
      .from(imports)
      .where(eq(imports.courseId, await idOf(code)))
  ).length;

/** Puts a file into the folder of a feed, as long ago as given. */
async function put(feed: FeedLine, name: string, text: string, minutesAgo = 5): Promise<void> {
  const path = join(feed.place, name);
  await writeFile(path, text);
  const when = new Date(Date.now() - minutesAgo * 60_000);
  await utimes(path, when, when);
}

/** A feed whose first file was looked at and is in. */
async function running(
  over: Partial<FeedForm> = {},
  name = 'grades.csv',
): Promise<{ code: string; feed: FeedLine }> {
  const code = await course();
  await saveFeed(me(), code, { ...FORM, ...over });
  const feed = await feedOfCourse(code);
  if (feed.form.kind === 'folder') await put(feed, name, FILES.gradebook);
  await look(code, feed);
  const [first] = (await feedOfCourse(code)).files;
  expect(first).toMatchObject({ state: 'unlike', reasons: [FIRST] });
  const seen = await openFeedFile(me(), code, first!.id);
  await commitImport(me(), code, seen.id!);
  await work();
  expect(await states(code)).toEqual(['in']);
  return { code, feed: await feedOfCourse(code) };
}
async function look(code: string, feed: Pick<FeedLine, 'id'>): Promise<void> {
  await lookNow(me(), code, feed.id);
  await work();
}

/** The gradebook with other points for Łucja's first exercise. */
const changed = (points: number) =>
  FILES.gradebook.replace('2026-10-05T12:00:00Z,17,no', `2026-10-05T12:00:00Z,${points},no`);
const pointsOf = async (code: string): Promise<number[]> => {
  const { orm } = db();
  const rows = await orm.execute(
    `select s.points from scores s join enrolments e on e.id = s.enrolment_id join activities a on a.id = s.activity_id
     where e.course_id = ${await idOf(code)} and a.external_id = 'w1' order by s.points`,
  );
  return (rows as unknown as { rows: { points: number }[] }).rows.flatMap((r) =>
    r.points == null ? [] : Number(r.points),
  );
};

describe('a watched folder', () => {
  it('that was replaced by a link is not followed', async () => {
    const { code, feed } = await running();
    const elsewhere = join(small.test.folder, `elsewhere ${code}`);
    await mkdir(elsewhere);
    await writeFile(join(elsewhere, 'secret.csv'), FILES.gradebook);
    await rm(feed.place, { recursive: true });
    await symlink(elsewhere, feed.place);
    await look(code, feed);
    expect(await states(code)).toEqual(['in']);
    expect((await feedOfCourse(code)).why).toMatch(/is a link to somewhere else/);
  });

  it('shows the first file, and brings those like it in by themselves, each once', async () => {
    const { code, feed } = await running();
    const before = await importsOf(code);
    await put(feed, 'grades.csv', changed(19), 4);
    await look(code, feed);
    expect(await states(code)).toEqual(['in', 'in']);
    expect((await feedOfCourse(code)).files[0]!.counts).toEqual({
      added: 0,
      changed: 1,
      waiting: 0,
      rejected: 0,
    });
    expect(await pointsOf(code)).toContain(19);
    // Looked for again, and put there again to the byte: nothing more happens.
    await look(code, feed);
    await put(feed, 'grades copy.csv', changed(19), 3);
    await look(code, feed);
    expect(await states(code)).toEqual(['same', 'in', 'in']);
    expect(await importsOf(code)).toBe(before + 1);
    expect((await pastImports(me(), code))[0]!.by).toBe(me().name);
  });

  it('takes several in the order in which they were put there', async () => {
    const { code, feed } = await running();
    await put(feed, 'b.csv', changed(11), 3);
    await put(feed, 'a.csv', changed(12), 2);
    await look(code, feed);
    expect((await feedOfCourse(code)).files.map((f) => f.name)).toEqual(['a.csv', 'b.csv', 'grades.csv']);
    expect(await pointsOf(code)).toContain(12);
  });

  it('halts at a file that is unlike the last, keeps those after it, and goes on once it is decided', async () => {
    const { code, feed } = await running();
    const half = changed(3).split('\n').slice(0, 6).join('\n');
    await put(feed, 'half.csv', half, 3);
    await put(feed, 'next.csv', changed(18), 2);
    await look(code, feed);
    expect(await states(code)).toEqual(['waiting', 'unlike', 'in']);
    expect(await pointsOf(code)).not.toContain(3);
    const { feeds: notices } = await roundsView(me(), code, {});
    expect(notices).toEqual([
      expect.objectContaining({
        name: 'Gradebook export',
        file: expect.objectContaining({
          name: 'half.csv',
          reasons: ['It has 5 of the 13 rows of the last (gradebook).'],
        }) as unknown,
      }),
    ]);
    await leaveOut(me(), code, notices[0]!.file!.id);
    await work();
    expect(await states(code)).toEqual(['in', 'left out', 'in']);
    expect(await pointsOf(code)).toContain(18);
    expect((await roundsView(me(), code, {})).feeds).toEqual([]);
  });

  it('asks about a file of another course, one that cannot be read, and one with a column more', async () => {
    const { code, feed } = await running();
    const reasons = async (name: string, text: string) => {
      await put(feed, name, text, 2);
      await look(code, feed);
      const file = (await feedOfCourse(code)).files[0]!;
      expect(file.state).toBe('unlike');
      await leaveOut(me(), code, file.id);
      await work();
      return file.reasons.join(' ');
    };
    expect(await reasons('other.csv', FILES.gradebook.replaceAll(/^s(\d),/gm, 'other-$1,'))).toContain(
      'Is it of another course?',
    );
    expect(await reasons('broken.csv', 'PK\u0000\u0001 half')).toContain('cannot be read');
    const wider = FILES.gradebook
      .split('\n')
      .map((line, i) => line + (i === 0 ? ',remark' : ',fine'))
      .join('\n');
    expect(await reasons('wider.csv', wider)).toContain('“remark”');
  });

  it('brings a file in once, though its process was killed right after', async () => {
    const { code, feed } = await running();
    await put(feed, 'next.csv', changed(18.25), 2);
    await look(code, feed);
    const before = await importsOf(code);
    const [last] = await db().orm.select().from(feedFiles).where(eq(feedFiles.name, 'next.csv'));
    // It had not been noted yet that it is in.
    await db()
      .orm.update(feedFiles)
      .set({ state: 'waiting', counts: null })
      .where(eq(feedFiles.id, last!.id));
    await look(code, feed);
    expect((await feedOfCourse(code)).files[0]).toMatchObject({ state: 'in', name: 'next.csv' });
    expect(await importsOf(code)).toBe(before);
  });

  it('leaves alone what is being written, what is hidden and what lies elsewhere', async () => {
    const { code, feed } = await running();
    await put(feed, 'grades.csv.part', changed(5));
    await put(feed, '.hidden.csv', changed(5));
    await writeFile(join(small.test.folder, 'elsewhere.csv'), changed(5));
    await symlink(join(small.test.folder, 'elsewhere.csv'), join(feed.place, 'linked.csv'));
    await mkdir(join(feed.place, 'deeper'));
    await look(code, feed);
    expect(await states(code)).toEqual(['in']);
  });

  it('remembers how a table of another make is read', async () => {
    const code = await course();
    await saveFeed(me(), code, FORM);
    const feed = await feedOfCourse(code);
    const table = (mark: number) => `learner,mark one\ns1,${mark}\ns2,14\ns3,15\n`;
    await put(feed, 'Monday.csv', table(16));
    await look(code, feed);
    const file = (await feedOfCourse(code)).files[0]!;
    expect(file.reasons).toEqual(['Nobody has said yet what its columns mean.']);
    const seen = await openFeedFile(me(), code, file.id);
    const [foreign] = seen.foreign;
    const mapping = {
      ...foreign!.mapping,
      shape: 'wide scores' as const,
      fields: { student_id: { from: 'column' as const, column: 'learner', part: 'all' as const } },
      spread: [{ column: 'mark one', to: 'w1' }],
    };
    const mapped = await mapFile(me(), code, seen.id!, { name: 'Monday.csv', mapping, saveAs: null });
    await commitImport(me(), code, mapped.id!);
    await work();
    expect(await pointsOf(code)).toContain(16);
    await put(feed, 'Tuesday.csv', table(13), 2);
    await look(code, feed);
    expect(await states(code)).toEqual(['in', 'in']);
    expect(await pointsOf(code)).toContain(13);
  });
});

describe('an address for reports', () => {
  const send = async (code: string, files: Record<string, string>) => {
    const feed = await feedOfCourse(code);
    const transport = createTransport({ host: '127.0.0.1', port: mailIn.port, ignoreTLS: true });
    await transport.sendMail({
      from: 'reports@platform.example',
      to: feed.place,
      subject: 'Your nightly export',
      text: 'The export is attached.',
      attachments: Object.entries(files).map(([filename, content]) => ({ filename, content })),
    });
    await work();
  };

  it('takes the files of an e-mail, once however often it comes', async () => {
    const code = await course();
    await saveFeed(me(), code, { ...FORM, kind: 'mail' });
    const { place, id } = await feedOfCourse(code);
    expect(place).toBe(addressOf('report', id));
    await send(code, { 'grades.csv': FILES.gradebook, 'logo.png': 'picture' });
    const [first] = (await feedOfCourse(code)).files;
    expect(first).toMatchObject({ name: 'grades.csv', state: 'unlike' });
    const seen = await openFeedFile(me(), code, first!.id);
    await commitImport(me(), code, seen.id!);
    await work();
    await send(code, { 'grades.csv': changed(20) });
    await send(code, { 'grades.csv': changed(20) });
    expect(await states(code)).toEqual(['same', 'in', 'in']);
    await send(code, {});
    expect((await feedOfCourse(code)).why).toBe(
      'An e-mail came with no file that can be read: CSV, JSON or zip.',
    );
  });

  it('keeps what comes while it is paused until it goes on', async () => {
    const code = await course();
    const id = await saveFeed(me(), code, { ...FORM, kind: 'mail' });
    await switchFeed(me(), code, id, false);
    await send(code, { 'grades.csv': FILES.gradebook });
    expect(await states(code)).toEqual(['waiting']);
    await switchFeed(me(), code, id, true);
    await work();
    expect(await states(code)).toEqual(['unlike']);
  });
});

describe('a link', () => {
  const link = () => `http://127.0.0.1:${port()}/exports/grades.csv?key=1`;

  it('is fetched, and what it answers wrongly is said', async () => {
    answer = { status: 200, body: FILES.gradebook };
    const { code, feed } = await running({ kind: 'link', link: link() });
    expect(feed.files[0]!.name).toBe('grades.csv');
    answer = {
      status: 200,
      body: changed(15.5),
      headers: { 'content-disposition': 'attachment; filename="today.csv"' },
    };
    await look(code, feed);
    expect((await feedOfCourse(code)).files[0]).toMatchObject({ name: 'today.csv', state: 'in' });
    for (const [next, why] of [
      [{ status: 404, body: '' }, 'The link answers 404.'],
      [
        { status: 200, body: 'half', headers: { 'content-length': '900' }, cut: true },
        'The link cannot be fetched: the answer was cut off.',
      ],
      [
        { status: 302, body: '', headers: { location: 'file:///etc/passwd' } },
        'The link sends on to something that is no web address.',
      ],
      [{ status: 302, body: '', headers: { location: 'http://10.0.0.9/x' } }, /not public/],
      [{ status: 302, body: '', headers: { location: '/again' } }, 'The link sends on again and again.'],
    ] as const) {
      answer = next;
      await look(code, feed);
      const { why: said, files } = await feedOfCourse(code);
      expect(said).toMatch(why);
      expect(files).toHaveLength(2);
    }
    expect(await db().orm.select().from(uploads)).toHaveLength(2);
  });

  // Ranges of RFC 6890, the registry of special-purpose addresses.
  it.each([
    '127.0.0.1',
    '10.1.2.3',
    '172.16.0.1',
    '192.168.1.1',
    '169.254.169.254',
    '100.64.0.1',
    '0.0.0.0',
    '224.0.0.1',
    '255.255.255.255',
    '::1',
    '::',
    'fe80::1',
    'fc00::1',
    '::ffff:10.0.0.1',
    '64:ff9b::a00:1',
    '2002:a00:1::1',
    'ff02::1',
  ])('does not ask %s', (address) => expect(mayFetchFrom(address, '')).toBe(false));
  it('asks public addresses, and others that the settings allow', () => {
    expect(mayFetchFrom('93.184.215.14', '')).toBe(true);
    expect(mayFetchFrom('2606:2800:21f:cb07::1', '')).toBe(true);
    expect(mayFetchFrom('::ffff:10.0.0.1', '10.0.0.0/8')).toBe(true);
  });
  it('is not asked under another name for the same place', async () => {
    set({ LANTERN_LINKS_TO: '' });
    for (const host of ['localhost', '127.1', '0x7f000001', '[::ffff:127.0.0.1]'])
      await expect(fetchLink(`http://${host}:${port()}/x`, join(small.test.folder, 'x'))).rejects.toThrow(
        /not public/,
      );
    set({ LANTERN_LINKS_TO: '127.0.0.1' });
  });
  it('names its file (RFC 6266, section 5)', () => {
    const url = new URL('https://platform.example/a/b.csv?x=1');
    expect(nameOf(undefined, url)).toBe('b.csv');
    expect(nameOf('Attachment; filename=example.csv', url)).toBe('example.csv');
    expect(nameOf('INLINE; FILENAME= "an example.csv"', url)).toBe('an example.csv');
    expect(nameOf("attachment; filename*= UTF-8''%e2%82%ac%20rates", url)).toBe('€ rates');
  });
});

describe('the time', () => {
  const at = async (code: string, instant: number) => {
    process.env.LANTERN_NOW = new Date(instant).toISOString();
    const { id } = await feedOfCourse(code);
    await db().orm.delete(jobs);
    // Its time: what the queue brings then.
    const { lookAtFeed } = await import('./look');
    const due = dueOf.get(code)!;
    const unwatched = () => Promise.resolve();
    await lookAtFeed(
      db(),
      { feedId: id, at: due, looks: true },
      {
        job: { id: `test ${instant}` } as never,
        progress: unwatched,
        stillMine: unwatched,
      },
    );
  };
  const dueOf = new Map<string, number>();

  it('looks a few times more for a file that is late, and then says in Rounds that nothing came', async () => {
    const { code, feed } = await running();
    // The first came today; the day after tomorrow nothing has come since tomorrow.
    const due = nextLook(feed.form, nextLook(feed.form, now(), 'Europe/Lisbon'), 'Europe/Lisbon');
    dueOf.set(code, due);
    await at(code, due);
    expect((await feedOfCourse(code)).missedAt).toBeNull();
    // The next try, and the look of the next day.
    expect(await db().orm.select().from(jobs).where(eq(jobs.kind, 'feed'))).toHaveLength(2);
    await at(code, due + 2 * HOUR_MS);
    expect((await feedOfCourse(code)).missedAt).toBe(due);
    expect((await roundsView(me(), code, {})).feeds).toEqual([
      expect.objectContaining({ file: null, name: 'Gradebook export', cameAt: Date.parse(NOW) }),
    ]);
    await put(feed, 'late.csv', changed(16.5), 1);
    await at(code, due + 2 * HOUR_MS);
    expect((await feedOfCourse(code)).missedAt).toBeNull();
    expect((await roundsView(me(), code, {})).feeds).toEqual([]);
  });

  it('that was set anew meanwhile, or in another zone, is not taken for the time', async () => {
    const { code, feed } = await running();
    const due = nextLook(feed.form, now(), 'Europe/Lisbon');
    dueOf.set(code, due);
    await db().orm.update(courses).set({ zone: 'America/St_Johns' }).where(eq(courses.code, code));
    await put(feed, 'early.csv', changed(16.5), 1);
    await at(code, due);
    expect(await states(code)).toEqual(['in']);
    const [next] = await db().orm.select().from(jobs).where(eq(jobs.kind, 'feed'));
    expect(next!.payload).toMatchObject({ at: nextLook(feed.form, due, 'America/St_Johns') });
  });

  it('goes on while a course is archived, without taking anything in', async () => {
    const { code, feed } = await running();
    const due = nextLook(feed.form, now(), 'Europe/Lisbon');
    dueOf.set(code, due);
    await db()
      .orm.update(courses)
      .set({ archivedAt: new Date(now()) })
      .where(eq(courses.code, code));
    await put(feed, 'late.csv', changed(16.5), 1);
    await at(code, due);
    expect(await states(code)).toEqual(['in']);
    const queued = await db().orm.select().from(jobs).where(eq(jobs.kind, 'feed'));
    expect(queued.map((j) => j.payload)).toEqual([
      expect.objectContaining({ at: nextLook(feed.form, due, 'Europe/Lisbon') }),
    ]);
    await db().orm.update(courses).set({ archivedAt: null }).where(eq(courses.code, code));
    await at(code, due);
    expect(await states(code)).toEqual(['in', 'in']);
  });

  it('is queued again after a start, once', async () => {
    await running();
    await db().orm.delete(jobs);
    await queueFeeds(db());
    await queueFeeds(db());
    expect(await db().orm.select().from(jobs).where(eq(jobs.kind, 'feed'))).toHaveLength(2);
  });
});

describe('who may', () => {
  it('is whoever may import into the course', async () => {
    const { code, feed } = await running();
    const { stranger } = small.course;
    for (const act of [
      () => feedsView(stranger, code),
      () => saveFeed(stranger, code, FORM),
      () => lookNow(stranger, code, feed.id),
      () => removeFeed(stranger, code, feed.id),
      () => leaveOut(stranger, code, feed.files[0]!.id),
      () => openFeedFile(stranger, code, feed.files[0]!.id),
      () => switchFeed(stranger, code, feed.id, false),
    ])
      await expect(act()).rejects.toThrow('There is no such course of yours');
    await expect(lookNow(me(), 'NAV', feed.id)).rejects.toThrow('no such way');
  });

  it('stops with whoever set it up, until somebody takes it over', async () => {
    const { code, feed } = await running();
    const { stranger } = small.course;
    const courseId = await idOf(code);
    await db()
      .orm.update(courseStaff)
      .set({ userId: stranger.userId })
      .where(eq(courseStaff.courseId, courseId));
    await put(feed, 'next.csv', changed(18.5), 1);
    await lookNow(stranger, code, feed.id);
    await work();
    const stopped = (await feedsView(stranger, code)).feeds[0]!;
    expect(stopped.why).toMatch(/does not teach the course any more/);
    expect(stopped.files[0]!.state).toBe('waiting');
    await saveFeed(stranger, code, stopped.form);
    await work();
    expect((await feedsView(stranger, code)).feeds[0]!.files[0]!.state).toBe('in');
    expect(await pointsOf(code)).toContain(18.5);
  });

  it('a file that waits is kept for longer than other uploads, and goes with what is removed', async () => {
    const { code, feed } = await running();
    await put(feed, 'half.csv', 'student_id,activity_id\n', 1);
    await look(code, feed);
    const [halted] = await db().orm.select().from(feedFiles).where(eq(feedFiles.state, 'unlike'));
    process.env.LANTERN_NOW = new Date(Date.parse(NOW) + 72 * HOUR_MS).toISOString();
    const { stage } = await import('../staging/staging');
    await stage(await idOf(code), me().userId, []);
    const ids = async () => (await db().orm.select().from(uploads)).map((u) => u.id);
    expect(await ids()).toContain(halted!.uploadId);
    expect(existsSync(join(small.test.folder, 'staging', halted!.uploadId!))).toBe(true);
    await removeFeed(me(), code, feed.id);
    expect(await ids()).not.toContain(halted!.uploadId);
    expect(await db().orm.select().from(feeds)).toEqual([]);
    expect(await db().orm.select().from(scores).limit(1)).toHaveLength(1);
  });
});
