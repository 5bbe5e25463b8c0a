import { setTimeout as pause } from 'node:timers/promises';
import { expectAccessible, INSTRUCTOR, signIn, watchConsole } from './support';
import { expect, test } from './test';

test('what is pressed before the page answers is kept, and done once it does', async ({ page }) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  // A slow line: the page is drawn well before its scripts are there.
  await page.route('**/_next/static/**/*.js', async (route) => {
    await pause(2500);
    await route.continue();
  });
  await page.goto('/c/NAV-110/items', { waitUntil: 'commit' });
  const quiz = page.getByRole('combobox', { name: 'Quiz', exact: true });
  await quiz.click();
  expect(await page.evaluate(() => document.documentElement.dataset.awake)).toBeUndefined();
  await expect(page.getByRole('option', { name: /^Tidal streams quiz/ })).toBeVisible();
  await page.keyboard.press('Escape');
  // A box that is ticked early is ticked for the page too.
  await page.goto('/c/NAV-110/rounds?show=all', { waitUntil: 'commit' });
  await page
    .getByRole('checkbox', { name: /^Select [^a]/ })
    .nth(1)
    .check();
  const selection = page.getByRole('region', { name: 'Selection' });
  await expect(selection.getByText('1 student selected')).toBeVisible();
  // So are keys, at the speed of a typist: the finder opens, and what was typed stands in it.
  await page.goto('/c/NAV-110/rounds?show=all', { waitUntil: 'commit' });
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('sunniva', { delay: 30 });
  expect(await page.evaluate(() => document.documentElement.dataset.awake)).toBeUndefined();
  await expect(page.getByPlaceholder(/Name of a student/)).toHaveValue('sunniva');
  await expect(page.getByRole('option', { name: /Sunniva Castellanos/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.unroute('**/_next/static/**/*.js');
  await expectAccessible(page);
  await selection.getByRole('button', { name: 'Clear' }).click();
  await expect(selection).toHaveCount(0);
  expect(complaints).toEqual([]);
});
