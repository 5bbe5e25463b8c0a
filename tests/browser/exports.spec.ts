import { parse } from 'csv-parse/sync';
import readWorkbook from 'read-excel-file/node';
import type { Locator, Page } from '@playwright/test';
import { INSTRUCTOR, open, signIn } from './support';
import { expect, test } from './test';

/** What files say in full that the screen shortens. */
const IN_FULL: Readonly<Record<string, string>> = {
  Before: 'Minutes before',
  'In class': 'Minutes in class',
  'Opened only': 'Assignments opened only',
  Silence: 'Silence, teaching days',
  'Usual gap': 'Usual gap, teaching days',
  Standing: 'Standing %',
  Now: 'Standing %',
  Each: 'Minutes each',
  'Days ago': 'Days',
  'Days late': 'Days',
  'Days waiting': 'Days',
};
/** On the activity a day is one with a login; on lists it is one gone by. */
const headOf = (label: string, head: readonly string[]): string =>
  [IN_FULL[label], label === 'Days' ? 'Days with a login' : null, `Minutes, week ${label}`, label].find(
    (name) => name != null && head.includes(name),
  ) ?? label;

/** The file that the view offers: the columns and the rows of it. */
async function fileOf(page: Page): Promise<{ head: string[]; rows: string[][] }> {
  const href = await page.getByRole('link', { name: 'CSV', exact: true }).getAttribute('href');
  const answer = await page.request.get(href!);
  expect(answer.status()).toBe(200);
  const [head, ...rows] = parse(await answer.text(), { bom: true }) as string[][];
  const xlsx = await page.request.get(href!.replace('.csv', '.xlsx'));
  const [sheet] = await readWorkbook(Buffer.from(await xlsx.body()));
  expect(sheet!.data[0]).toEqual(head);
  expect(sheet!.data.length - 1).toBe(rows.length);
  return { head: head!, rows };
}

const textOf = async (cells: Locator) => (await cells.allInnerTexts()).map((t) => t.trim());

/** Compares what a table shows with its file: who, in which order, and every figure to the digit shown. */
async function same(page: Page, name: string | RegExp): Promise<string[]> {
  const table = page.getByRole('region', { name }).getByRole('table');
  const labels = (await textOf(table.getByRole('columnheader')))
    .map((l) => l.replace(/[▾▴]|\bi$/g, '').trim())
    .filter((l) => l !== 'Selected');
  const { head, rows } = await fileOf(page);
  const shown = table.locator('tbody tr');
  await expect(shown).toHaveCount(rows.length);
  expect(rows.length).toBeGreaterThan(0);
  const lines = await shown.evaluateAll((all) =>
    all.map((row) =>
      [...row.querySelectorAll('td')]
        .filter((cell) => !cell.querySelector('input[type=checkbox]'))
        .map((cell) => cell.innerText.trim()),
    ),
  );
  const family = head.indexOf('Family name');
  lines.forEach((cells, r) => {
    const row = rows[r]!;
    if (family >= 0) expect(cells[0]).toBe(`${row[family]}, ${row[family + 1]}`);
    labels.forEach((label, c) => {
      const place = head.indexOf(headOf(label, head));
      const figure = /^([+-]?[\d.]+)( %| of \d+)?$/.exec(cells[c]!)?.[1];
      if (place < 0 || figure == null || row[place] === '') return;
      const digits = figure.split('.')[1]?.length ?? 0;
      // The file has more digits; of a half either neighbour will do.
      expect(Math.abs(Number(row[place]) - Number(figure)), `${label} of ${cells[0]}`).toBeLessThanOrEqual(
        0.5 / 10 ** digits + 0.006,
      );
    });
  });
  return labels.filter((label) => head.includes(headOf(label, head)));
}

test('every table leaves as it stands: filter, order, window, columns', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  const at = (path: string) => open(page, `/c/NAV-110/${path}&g=all&k=all`);
  await at('activity?w=28d&show=quiet&sort=minutes-');
  const quiet = await same(page, 'Activity of each student');
  expect(quiet).toEqual(expect.arrayContaining(['Minutes', 'Before', 'Silence']));
  await at('activity?w=7d&by=minutes&sort=w3-');
  expect(await same(page, 'Activity of each student')).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9']);
  await at('activity?w=7d&tab=resources&sort=minutes');
  expect(await same(page, 'Activities and pages')).toContain('Opened by');
  for (const list of ['missing', 'late', 'excused', 'awaiting']) {
    await at(`lists?w=28d&list=${list}&due=window&sort=title-`);
    await same(page, /^(Missing|Late|Excused|To grade)$/);
  }
  for (const [list, name] of [
    ['contacts', 'Contacts'],
    ['not-seen', 'Not seen'],
    ['joined-left', 'Joined or left'],
  ]) {
    await at(`lists?w=7d&list=${list}&sort=section-`);
    await same(page, name!);
  }
  await at('lists?w=7d&list=roster&sort=standing');
  expect(await same(page, 'Roster')).toEqual(
    expect.arrayContaining(['Student id', 'E-mail', 'Last seen', 'Standing']),
  );
  await at('trends?w=28d&show=falling&sort=standing-');
  await same(page, 'Trend of each student');
});

test('one assignment leaves with its order and the range that is swept over', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/work/11?w=7d&g=all&k=all&sort=minutes-');
  const everyone = (await fileOf(page)).rows.length;
  await same(page, /^Students and /);
  await page.getByLabel('From', { exact: true }).fill('6');
  await expect(page.getByRole('button', { name: 'All scores' })).toBeVisible();
  await same(page, /^Students and /);
  expect((await fileOf(page)).rows.length).toBeLessThan(everyone);
});

test('the gradebook leaves with the columns and the students that are shown', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/gradebook?w=28d&g=all&k=all&due=window&status=missing&sort=missing');
  const { head, rows } = await fileOf(page);
  const names = await textOf(page.getByRole('rowheader').filter({ hasText: ', ' }));
  expect(rows.slice(0, names.length).map((r) => `${r[1]}, ${r[2]}`)).toEqual(names);
  // Columns out of sight are counted by the grid.
  const works = head.slice(head.indexOf('Missing') + 1);
  const whole = await fileOf(await openWhole(page));
  expect(works.length).toBeGreaterThan(0);
  expect(works.length).toBeLessThan(whole.head.length - 5);
  expect(rows.length).toBeLessThan(whole.rows.length);
});

async function openWhole(page: Page): Promise<Page> {
  await open(page, '/c/NAV-110/gradebook?w=28d&g=all&k=all');
  return page;
}
