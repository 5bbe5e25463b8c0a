import { readFile } from 'node:fs/promises';
import { parse } from 'csv-parse/sync';
import { choose, alive, expectAccessible, INSTRUCTOR, open, signIn, STRANGER, watchConsole } from './support';
import { expect, test } from './test';

test('who has not logged in this week: found, selected, written to; the window holds from view to view', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/activity?w=7d&g=all&k=all');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^\d+ of 72 students have not logged in, 19–25 Nov$/,
  );
  await page.getByRole('button', { name: /^Not logged in/ }).click();
  await expect(page.getByRole('button', { name: /^Not logged in/ })).toHaveAttribute('aria-pressed', 'true');
  const table = page.getByRole('region', { name: 'Activity of each student' });
  const n = (await table.getByRole('row').count()) - 1;
  expect(n).toBeGreaterThan(0);
  await page.getByRole('button', { name: `Select these ${n}` }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toContainText('no login');
  await expectAccessible(page);

  await page.getByRole('group', { name: 'Window' }).getByRole('button', { name: '28 days' }).click();
  await expect(page).toHaveURL(/w=28d/);
  await page.getByRole('link', { name: 'Trends' }).click();
  await expect(page).toHaveURL(/trends\?w=28d/);
  await expect(
    page.getByRole('group', { name: 'Window' }).getByRole('button', { name: '28 days' }),
  ).toHaveAttribute('aria-pressed', 'true');
  // Without a word in the address the last choice holds.
  await open(page, '/c/NAV-110/week');
  await expect(
    page.getByRole('group', { name: 'Window' }).getByRole('button', { name: '28 days' }),
  ).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('group', { name: 'Window' }).getByRole('button', { name: '7 days' }).click();
  await expect(page).toHaveURL(/w=7d/);
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);
  expect(complaints).toEqual([]);
});

test('dragging over the ribbon chooses days; nonsense in the address leads to a sound view', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/activity?w=7d&g=all&k=all');
  const ribbon = page.locator('figure svg').first();
  const box = (await ribbon.boundingBox())!;
  const day = box.width / 105;
  await page.mouse.move(box.x + day * 14.5, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + day * 20.5, box.y + 30, { steps: 5 });
  await page.mouse.up();
  // The third week of a term that began on 28 September 2026.
  await expect(page).toHaveURL(/w=2026-10-12\.\.2026-10-18/);
  await expect(page.getByText('12–18 Oct, compared with 5–11 Oct')).toBeVisible();
  await open(page, '/c/NAV-110/activity?w=2019-01-01..2019-02-01&g=nobody&k=sleep&tab=x&sort=%00');
  await expect(page.getByText(/lie outside the term so far/)).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.goto('/c/NAV-110/work/999999');
  await expect(page.getByText('This is not in the course')).toBeVisible();
});

test('effort and progress: an area is swept, selected and put into words', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/activity?tab=effort&w=28d');
  const plot = page.getByRole('img', { name: /^Minutes on task against progress/ });
  const box = (await plot.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.12, box.y + box.height * 0.05);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.95, box.y + box.height * 0.28, { steps: 6 });
  await page.mouse.up();
  const said = page.getByRole('status').filter({ hasText: 'in the area' });
  await expect(said).toContainText(/^\d+ students? in the area/);
  await said.getByRole('button', { name: /^Select these/ }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toContainText('% standing');
  await expectAccessible(page);
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);
});

test('whose grades fall despite the time they put in, in which assignment many struggled, and what to do about it', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/trends?w=28d&g=all&k=all');
  await page.getByRole('button', { name: /^Falling despite the time/ }).click();
  const table = page.getByRole('region', { name: 'Trend of each student' });
  await expect(table).toContainText(/Falls [\d.]+ points a week against the class/);
  await page
    .getByRole('button', { name: /in the chart$/ })
    .first()
    .click();
  await expect(page).toHaveURL(/student=\d+/);
  await page.getByRole('button', { name: 'All assignments' }).click();
  await expect(page.getByRole('heading', { level: 2 }).first()).toHaveText(
    /^Mid-term examination went worst/,
  );
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await expect(page.getByRole('row', { name: /Mid-term examination/ })).toBeVisible();
  await expectAccessible(page);
  await open(page, '/c/NAV-110/week?w=2026-11-01..2026-11-15');
  await expect(page.getByRole('region', { name: 'For the next class' })).toContainText(
    'Mid-term examination',
  );
  await expectAccessible(page);
  expect(complaints).toEqual([]);
});

test('lists are exported as they stand on screen', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/lists?w=7d&g=all&k=all');
  await page
    .getByRole('region', { name: 'Missing' })
    .getByRole('button', { name: 'Assignment', exact: true })
    .click();
  const table = page.getByRole('region', { name: 'Missing' });
  const shown = await table.locator('tbody tr td:nth-child(4)').allTextContents();
  expect(shown.length).toBeGreaterThan(3);
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toMatch(/^NAV-110-missing-\d{4}-\d\d-\d\d_\d{4}-\d\d-\d\d\.csv$/);
  const rows: string[][] = parse(await readFile(await download.path()), { bom: true });
  expect(rows.slice(1).map((r) => r[rows[0]!.indexOf('Assignment')])).toEqual(shown);
  await expectAccessible(page);
});

test('the session check shows what comes in while it is open', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/session?back=180&g=all');
  const group = page.getByRole('region', { name: 'nothing opened' });
  const row = group.getByRole('listitem').first();
  const name = (await row.getByRole('link').textContent())!;
  await expectAccessible(page);
  const people: Record<string, string>[] = parse(
    await (await page.request.get('/api/courses/NAV-110/lists/roster.csv')).text(),
    { bom: true, columns: true },
  );
  const id = people.find((p) => `${p['Given name']} ${p['Family name']}` === name)!['Student id']!;
  // Another window brings the file in; this one shows it without being touched.
  const other = await page.context().newPage();
  await open(other, '/c/NAV-110/import');
  await other.getByLabel('Files to import').setInputFiles({
    name: 'live.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      `event_id,student_id,at,kind,activity_id\nlive-1,${id},2026-11-25T10:30:00Z,view,chart-6\nlive-2,${id},2026-11-25T10:31:00Z,practise,chart-6\n`,
    ),
  });
  await other.getByRole('button', { name: 'Import 2 rows' }).click();
  // Five minutes of three hours.
  await expect(page.getByRole('region', { name: 'little time' })).toContainText(name);
  await other.close();
});

test('a talk is saved, the list goes on with a key, and the page prints on one sheet', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/trends?w=28d&show=falling');
  const table = page.getByRole('region', { name: 'Trend of each student' });
  const names = await table.getByRole('link').allTextContents();
  await table.getByRole('link').first().click();
  const heading = page.getByRole('heading', { level: 1 });
  const flip = (name: string) => name.split(', ').reverse().join(' ');
  await expect(heading).toHaveText(flip(names[0]!));
  await alive(page);
  await page.keyboard.press('j');
  await expect(heading).toHaveText(flip(names[1]!));
  await page.keyboard.press('k');
  await expect(heading).toHaveText(flip(names[0]!));

  await page.getByLabel('Text of the note').fill('Agreed to meet on Monday.');
  await choose(page, 'Kind of note', 'Talk');
  const day = page.getByLabel('Day it is about', { exact: true });
  await day.fill('31 Feb');
  await page.getByRole('button', { name: 'Save note' }).click();
  // What cannot be read stays as it was typed, and nothing is saved.
  await expect(page.getByText('Write a day, like 25 Nov.')).toBeVisible();
  await expect(day).toHaveValue('31 Feb');
  await expect(page.getByText('Talk saved.')).toHaveCount(0);
  await day.fill('16 Nov');
  await page.getByRole('button', { name: 'Save note' }).click();
  await expect(page.getByText('Talk saved.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Since the last talk' })).toContainText(
    'Since Mon 16 Nov, with Ines Calloway',
  );
  await expectAccessible(page);
  const sheet = await page.pdf({ format: 'A4', preferCSSPageSize: true });
  // Every page of a PDF is an object of the type /Page (ISO 32000-1, 7.7.3.3).
  expect(sheet.toString('latin1').match(/\/Type\s*\/Page\b(?!s)/g)).toHaveLength(1);
  await page.getByRole('button', { name: 'remove' }).click();
  await expect(page.getByText('The note is removed.')).toBeVisible();
});

test('a long list draws what is in sight, sorts and steps through all of it, and prints all of it', async ({
  page,
}) => {
  await signIn(page, STRANGER);
  await open(page, '/c/STB-210/import');
  const people = Array.from(
    { length: 200 },
    (_, i) => `L${1000 + i},Given ${i},Family ${String(i).padStart(3, '0')}`,
  );
  await page.getByLabel('Files to import').setInputFiles({
    name: 'roster.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`student_id,given_name,family_name\n${people.join('\n')}\n`),
  });
  await page.getByRole('button', { name: 'Import 200 rows' }).click();
  await expect(page.getByRole('button', { name: 'Import more' })).toBeVisible();
  await open(page, '/c/STB-210/lists?list=roster');
  const table = page.getByRole('region', { name: 'Roster' });
  await expect(table.getByRole('link', { name: 'Family 000, Given 0' })).toBeVisible();
  expect(await table.getByRole('row').count()).toBeLessThan(100);
  await table.getByRole('button', { name: 'Student', exact: true }).click();
  await expect(table.getByRole('link', { name: 'Family 199, Given 199' })).toBeVisible();
  await table.evaluate((element) => element.scrollTo(0, element.scrollHeight));
  await expect(table.getByRole('link', { name: 'Family 000, Given 0' })).toBeVisible();
  await expectAccessible(page);
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  await expect(table.getByRole('row')).toHaveCount(201);
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
  await table.getByRole('link').last().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Given \d+ Family \d+$/);
  await expect(page.getByText(/^\d+ of 200$/)).toBeVisible();
});

test('what students are selected for chooses the text; selecting in another view asks first', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/week?w=7d&g=all&k=all');
  const selection = page.getByRole('region', { name: 'Selection' });
  const good = page.getByRole('region', { name: 'Good news' });
  await good.getByRole('button', { name: /^Select \d+: \d+ of \d+ handed in/ }).click();
  await expect(selection).toContainText('handed in everything on time');

  await open(page, '/c/NAV-110/lists?w=7d&g=all&k=all&list=missing');
  await page
    .getByRole('checkbox', { name: /Chart exercise 5$/ })
    .first()
    .click();
  const choice = page.getByRole('dialog', { name: /selected already$/ });
  await expectAccessible(page);
  await choice.getByRole('button', { name: 'Add to the selection' }).click();
  await expect(selection).toContainText('has not handed in Chart exercise 5');
  await selection.getByRole('button', { name: /^Message \d+$/ }).click();

  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/, 2 texts by reason$/);
  const texts = page.getByRole('group', { name: 'Text for' });
  await texts.getByRole('button', { name: /^has not handed in Chart exercise 5/ }).click();
  await expect(page.getByRole('region', { name: /will read$/ })).toContainText(
    'Chart exercise 5 is still open',
  );
  await texts.getByRole('button', { name: /^handed in everything on time/ }).click();
  await expect(page.getByRole('region', { name: /will read$/ })).toContainText('well done');
  await expectAccessible(page);

  await open(page, '/c/NAV-110/rounds');
  const before = (await selection.locator('p').textContent())!;
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Start a new selection' }).click();
  await expect(selection).toContainText('1 student selected');
  // Undone, those who were selected before are so again, for what they were.
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(selection.locator('p')).toHaveText(before);
  await selection.getByRole('button', { name: 'Clear' }).click();
  await expect(selection).toHaveCount(0);
  expect(complaints).toEqual([]);
});
