import { existsSync, readdirSync } from 'node:fs';
import { readFile, utimes, writeFile } from 'node:fs/promises';
import { connect } from 'node:net';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { press } from './keys';
import { choose, expectAccessible, INSTRUCTOR, open, signIn } from './support';
import { expect, test } from './test';

const csv = (name: string, text: string | Buffer) => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(text),
});

test('a file with bad rows: each is named, the good go in, the rejected can be downloaded, again changes nothing', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/import');
  const events = [
    'event_id;student_id;at;kind;activity_id;duration_s',
    'T1;S1001;2026-11-20T10:00:00Z;view;chart-1;12,5',
    'T2;S9999;2026-11-20T10:00:00Z;view;;',
    'T3;S1002;2026-02-29T10:00:00Z;view;;',
    'T4;S1002;2026-11-20T10:00:00;view;;',
  ].join('\r\n');
  const files = [
    csv('events.csv', events),
    csv('empty.csv', ''),
    csv('latin.csv', Buffer.from('student_id,given_name,family_name\nS1,J\u00f6rg,X\n', 'latin1')),
  ];
  await page.getByLabel('Files to import').setInputFiles(files);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    '1 row would go in, 1 would wait, 2 cannot',
  );
  await expect(page.getByText('empty.csv cannot be read: the file is empty')).toBeVisible();
  await expect(page.getByText(/latin\.csv cannot be read: line 2: the file is not UTF-8/)).toBeVisible();
  const table = page.getByRole('region', { name: 'Rows of events.csv' });
  await expect(table).toContainText('names a day that does not exist');
  await expect(table).toContainText('has no zone');
  await expectAccessible(page);

  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download the rejected' }).click();
  const rejected = await readFile(await (await downloading).path(), 'utf8');
  expect(rejected.split('\r\n').filter(Boolean)).toHaveLength(3);
  expect(rejected).toContain('4,at,');

  await page.getByRole('button', { name: 'Import 2 rows' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 row went in');
  await page.getByRole('button', { name: 'Import more' }).click();
  await page.getByLabel('Files to import').setInputFiles([csv('events.csv', events)]);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Nothing new in these files');
});

test('a register of another make: its columns are told once, and read by themselves the next time', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/import');
  const register = 'Pupil,Seen on,Code\nS1001,24/11/2026,P\nS1003,24/11/2026,XX\nS1004,31/11/2026,A\n';
  await page.getByLabel('Files to import').setInputFiles([csv('register.csv', register)]);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Say what the columns of 1 file mean');
  await choose(page, 'A row is', 'a student at a meeting');
  const read = page.getByRole('button', { name: 'Read it this way' });
  await expect(read).toBeDisabled();
  await choose(page, 'student id comes from', 'pupil');
  await choose(page, 'day comes from', 'seen on');
  await choose(page, '“XX” means', 'excused');
  const sample = page.getByRole('region', { name: 'Sample' });
  await expect(sample).toContainText('seen on: “31/11/2026” names a day that does not exist');
  await expect(sample.getByRole('row', { name: /S1003 2026-11-24 excused/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Remember it as').fill('Evening register');
  await read.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('2 rows would go in, 1 cannot');
  await page.getByRole('button', { name: 'Import 2 rows' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('2 rows went in');

  await page.getByRole('button', { name: 'Import more' }).click();
  await page
    .getByLabel('Files to import')
    .setInputFiles([csv('register-2.csv', register.replace('24/', '25/'))]);
  await expect(page.getByText('as remembered under “Evening register”')).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 row would go in, 1 cannot');
  await page.getByRole('button', { name: 'Choose other files' }).click();
  await page.getByRole('button', { name: 'Forget Evening register' }).click();
  await expect(page.getByText('“Evening register” is forgotten')).toBeVisible();
});

test('the example files fill an empty course', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/MET-120/import');
  const files = [];
  for (const name of ['outcomes.csv', 'activities.csv', 'roster.csv', 'gradebook.csv']) {
    const downloading = page.waitForEvent('download');
    await page.getByRole('link', { name, exact: true }).click();
    files.push(csv(name, await readFile(await (await downloading).path())));
  }
  await page.getByLabel('Files to import').setInputFiles(files);
  await page.getByRole('button', { name: /^Import [\d,]+ rows$/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/rows went in/);
  await page.getByRole('link', { name: 'Go to Rounds' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/of 72 students need something now/);
  await expectAccessible(page);
});

test('an upload of another site, or of somebody who does not teach the course, is refused', async ({
  page,
  request,
  site,
}) => {
  const origin = site.url;
  await signIn(page, INSTRUCTOR);
  const multipart = { files: csv('events.csv', 'event_id,student_id,at,kind\n') };
  const foreign = await page.request.post('/api/courses/NAV-110/imports', {
    multipart,
    headers: { origin: 'http://evil.example' },
  });
  expect(foreign.status()).toBe(403);
  expect((await request.post('/api/courses/NAV-110/imports', { multipart })).status()).toBe(401);
  expect(
    (await page.request.post('/api/courses/STB-210/imports', { multipart, headers: { origin } })).status(),
  ).toBe(404);
});

/** Sends the head of a request and half of its body, and hangs up. */
function cutOff(origin: string, head: string, body: string): Promise<void> {
  const { hostname, port } = new URL(origin);
  return new Promise((resolve, reject) => {
    const socket = connect(Number(port), hostname, () => {
      socket.write(
        `${head}content-length: ${Buffer.byteLength(body)}\r\n\r\n${body.slice(0, body.length / 2)}`,
      );
      setTimeout(() => socket.resetAndDestroy(), 200);
    });
    socket.on('error', reject);
    socket.on('close', () => resolve());
  });
}

test('a connection cut in the middle of an upload, or of statements, leaves nothing behind', async ({
  page,
  request,
  site,
}) => {
  const origin = site.url;
  await signIn(page, INSTRUCTOR);
  const { host } = new URL(origin);
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  const staging = join(site.folder, 'staging');
  const uploads = () => (existsSync(staging) ? readdirSync(staging).length : 0);
  const before = uploads();
  const rows = Array.from({ length: 500 }, (_, i) => `cut-${i},S1001,2026-11-20T10:00:00Z,view,chart-1`);
  const boundary = 'a-cut-in-the-middle';
  await cutOff(
    origin,
    `POST /api/courses/NAV-110/imports HTTP/1.1\r\nhost: ${host}\r\norigin: ${origin}\r\ncookie: ${cookie}\r\ncontent-type: multipart/form-data; boundary=${boundary}\r\n`,
    `--${boundary}\r\ncontent-disposition: form-data; name="files"; filename="events.csv"\r\ncontent-type: text/csv\r\n\r\nevent_id,student_id,at,kind,activity_id\n${rows.join('\n')}\n\r\n--${boundary}--\r\n`,
  );
  const headers = {
    authorization: `Basic ${Buffer.from('test-key:a secret for tests').toString('base64')}`,
    'x-experience-api-version': '1.0.3',
  };
  const id = '7f4a1b9c-0000-4000-8000-00000000c0de';
  const statement = {
    id,
    actor: { account: { homePage: 'https://platform.example', name: 'S1003' } },
    verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://platform.example/works/chart-1' },
    timestamp: '2026-11-20T10:00:00Z',
  };
  await cutOff(
    origin,
    `POST /xapi/statements HTTP/1.1\r\nhost: ${host}\r\nauthorization: ${headers.authorization}\r\nx-experience-api-version: 1.0.3\r\ncontent-type: application/json\r\n`,
    JSON.stringify([statement, statement]),
  );
  expect((await request.get('/api/health')).status()).toBe(200);
  expect((await request.get(`/xapi/statements?statementId=${id}`, { headers })).status()).toBe(404);
  expect(uploads()).toBe(before);
  // The same, whole: it is as good as the first time.
  const stored = await request.post('/xapi/statements', { headers, data: [statement] });
  expect(stored.status()).toBe(200);
});

test('a long import says how far it is while it holds the database, and is taken back when it is cancelled', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/import');
  const rows = Array.from({ length: 30_000 }, (_, i) => {
    const at = new Date(Date.parse('2026-11-10T08:00:00Z') + i * 30_000).toISOString();
    return `long-${i},S${1001 + (i % 60)},${at},view,chart-1`;
  });
  await page
    .getByLabel('Files to import')
    .setInputFiles([csv('events.csv', `event_id,student_id,at,kind,activity_id\n${rows.join('\n')}\n`)]);
  const heading = page.getByRole('heading', { level: 1 });
  await page.getByRole('button', { name: 'Import 30,000 rows' }).click();
  await expect(page.getByText(/Writing events [\d,]+ of 30,000/)).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Cancelled: nothing of it went in.')).toBeVisible();
  await expect(heading).toHaveText('30,000 rows would go in');
  await open(page, '/c/NAV-110/import');
  await expect(page.getByText(/events\.csv: 30,000 added/)).toHaveCount(0);
});

test('a package of several courses: each is told apart, all that may come go in, and a new one can be opened', async ({
  page,
}) => {
  const rostered = {
    'manifest.csv':
      'propertyName,value\nmanifest.version,1.0\noneroster.version,1.1\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n',
    'courses.csv':
      'sourcedId,title,courseCode\nc1,Marine Weather,MET-120\nc2,Marine radio,RAD-100\nc3,Stability,STB-210\n',
    'classes.csv': 'sourcedId,title,courseSourcedId\nk1,Morning,c1\nk2,Morning,c2\nk3,Morning,c3\n',
    'users.csv': 'sourcedId,givenName,familyName,email\nR1,Una,Marsh,una@x.example\n',
    'enrollments.csv': 'sourcedId,classSourcedId,userSourcedId,role\ne1,k2,R1,student\n',
  };
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/MET-120/import');
  await page.getByLabel('Files to import').setInputFiles([
    {
      name: 'term.zip',
      mimeType: 'application/zip',
      buffer: Buffer.from(
        zipSync(Object.fromEntries(Object.entries(rostered).map(([name, text]) => [name, strToU8(text)]))),
      ),
    },
  ]);
  const courses = page.getByRole('region', { name: 'Courses of the package' });
  await expect(courses.getByRole('listitem')).toHaveText([
    /MET-120.*\(this course\).*yours/,
    /RAD-100.*not here yet/,
    /STB-210.*taught by others/,
  ]);
  await expectAccessible(page);
  await courses.getByRole('button', { name: 'Import the 2 courses' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 row of 2 courses went in');
  await page.getByRole('link', { name: 'Made; open it' }).click();
  await expect(page).toHaveURL(/RAD-100/);
  await open(page, '/c/RAD-100/setup?part=students');
  await expect(page.getByText('Una Marsh')).toBeVisible();
});

test('a file that comes by itself is looked at once, by keyboard; the next like it goes in, one unlike it is said in Rounds', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/import');
  await press(page, page.getByRole('button', { name: 'Set one up …' }));
  await page.getByLabel('Name').fill('Evening register');
  await expectAccessible(page);
  await page.getByLabel('Name').press('Enter');
  const card = page.getByRole('listitem').filter({ hasText: 'Evening register' }).first();
  const place = (await card.locator('.font-mono').textContent())!;
  const put = async (name: string, text: string) => {
    await writeFile(join(place, name), text);
    const before = new Date(Date.now() - 60_000);
    await utimes(join(place, name), before, before);
  };
  const look = () => press(page, card.getByRole('button', { name: 'Look now for Evening register' }));
  const row = (n: number) => `F${n},S100${n},2026-11-2${n}T10:00:00Z,view,chart-1,`;
  const table = (...rows: number[]) =>
    ['event_id,student_id,at,kind,activity_id,duration_s', ...rows.map(row)].join('\n');

  await put('first.csv', table(1, 2));
  await look();
  await expect(card.getByRole('button', { name: 'Look at it: first.csv' })).toBeVisible();
  await expectAccessible(page);
  await press(page, card.getByRole('button', { name: 'Look at it: first.csv' }));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('2 rows would go in');
  await press(page, page.getByRole('button', { name: 'Import 2 rows' }));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('2 rows went in');
  await press(page, page.getByRole('button', { name: 'Import more' }));

  await put('second.csv', table(3, 4));
  await look();
  await expect(card.getByRole('list')).toContainText('second.csv2 added');

  await put('third.csv', table(5, 6).replaceAll('S100', 'X100'));
  await look();
  await expect(card).toContainText('Is it of another course?');
  await open(page, '/c/NAV-110/rounds');
  const notice = page.getByRole('list', { name: 'Files that come by themselves' });
  await expect(notice).toContainText('Evening register');
  await expectAccessible(page);
  await press(page, notice.getByRole('link', { name: 'Look at it' }));
  await press(page, page.getByRole('button', { name: 'Leave it out' }));
  await expect(card.getByRole('list')).toContainText('third.csvleft out');
  await press(page, card.getByRole('button', { name: 'Remove Evening register' }));
  await press(page, page.getByRole('button', { name: 'Remove it' }));
  await expect(card).toHaveCount(0);
});
