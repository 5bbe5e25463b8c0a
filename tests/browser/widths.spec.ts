import type { Page } from '@playwright/test';
import { expectAccessible, INSTRUCTOR, open, signInByForm, STUDENT, watchConsole } from './support';
import { expect, test } from './test';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

/** On a phone a page is as wide as the screen, and what is pressed is 44 px high; a link within a sentence need not be. */
async function expectFits(page: Page): Promise<void> {
  // What has gone half under the bar at the top is no low target.
  await page.evaluate(() => window.scrollTo(0, 0));
  const found = await page.evaluate(() => {
    const low: string[] = [];
    for (const e of document.querySelectorAll(
      'main button, main input, main summary, main [role=combobox], main label, main td a, main li > a, nav a, nav button',
    )) {
      // What stands within words is as high as its line, as WCAG 2.2 (2.5.8) allows; so are the heads of a table.
      if (
        e.closest('.within, [role=columnheader], .sr-only, th') ||
        !e.checkVisibility({ visibilityProperty: true })
      )
        continue;
      const isBox = e instanceof HTMLInputElement && (e.type === 'checkbox' || e.type === 'radio');
      if (e instanceof HTMLLabelElement && !e.querySelector('input[type=checkbox], input[type=radio]'))
        continue;
      const target = (isBox ? e.closest('label') : null) ?? e;
      const { height, width } = target.getBoundingClientRect();
      if (width > 1 && height < 43.5)
        low.push(`${e.tagName} ${e.getAttribute('aria-label') ?? e.textContent ?? ''}: ${height} px`);
    }
    const wide = [...document.querySelectorAll('body *')]
      .filter(
        (e) =>
          e.getBoundingClientRect().right > 391 &&
          !e.closest('[role=region].overflow-x-auto, .overflow-auto, .overflow-x-clip'),
      )
      .slice(0, document.documentElement.scrollWidth > 390 ? 8 : 0)
      .map((e) => `${e.tagName} ${e.getAttribute('class') ?? ''}: ${(e.textContent ?? '').slice(0, 30)}`);
    return { wide, low };
  });
  expect(found, page.url()).toEqual({ wide: [], low: [] });
  // What the bar of the selection half covers here is scrolled from under it: it is no small target.
  const bar = (position: string) =>
    page.evaluate((value) => {
      const selection = document.querySelector<HTMLElement>('[aria-label=Selection]');
      if (selection) selection.style.position = value;
    }, position);
  await bar('static');
  await expectAccessible(page);
  await bar('');
}

test('the round is gone through, written and sent by touch', async ({ page }) => {
  const complaints = watchConsole(page);
  await signInByForm(page, INSTRUCTOR);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/students need something now$/);
  await expectFits(page);

  const brief = page.getByRole('heading', { level: 2 });
  const first = await brief.textContent();
  await page.getByRole('button', { name: 'Next', exact: true }).tap();
  await expect(brief).not.toHaveText(first!);
  const second = await brief.textContent();
  await page.getByRole('button', { name: 'Back', exact: true }).tap();
  await expect(brief).toHaveText(first!);

  for (const name of [first!, second!]) await page.getByLabel(`Select ${name}`).tap();
  const selection = page.getByRole('region', { name: 'Selection' });
  await expect(selection).toContainText('2 students selected');
  await expectFits(page);
  await selection.getByRole('button', { name: /with plans$/ }).tap();

  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Write to 2 students/);
  // Somebody whose plan has a step: who handed everything in has none proposed.
  await page
    .getByRole('list', { name: 'Recipients' })
    .getByRole('button', { name: /[1-9]\d* steps?$/ })
    .first()
    .tap();
  const plan = page.getByRole('region', { name: /^Plan for/ });
  const day = plan.getByLabel(/^Date of step 1/);
  await day.tap();
  // A day that does not exist stays as it was typed, and nothing goes out with the day before.
  await day.fill('31 Feb');
  await page.getByRole('button', { name: /^Send to 2/ }).tap();
  await expect(plan.getByText('Write a day, like 25 Nov.')).toBeVisible();
  await expect(day).toBeFocused();
  await day.fill('27 Nov');
  await expect(plan.getByRole('button', { name: 'Remove step 1' })).toBeVisible();
  await expectFits(page);
  await page.getByRole('button', { name: /^Send to 2/ }).tap();
  await expect(page).toHaveURL(/\/messages(\/\d+)?$/);
  await expectFits(page);
  expect(complaints).toEqual([]);
});

test('the menu leads to every view, and each fits', async ({ page }) => {
  const complaints = watchConsole(page);
  await signInByForm(page, INSTRUCTOR);
  await page.getByRole('button', { name: 'Views of the course' }).tap();
  await page.getByRole('link', { name: 'Weekly look' }).tap();
  await expect(page).toHaveURL(/\/week/);
  for (const path of [
    'week',
    'session',
    'messages',
    'plans',
    'plans/1',
    'talks',
    'card',
    'passing',
    'audiences',
    'students/3',
    'gradebook',
    'lists',
    'activity',
    'trends',
  ]) {
    await open(page, `/c/NAV-110/${path}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expectFits(page);
  }
  expect(complaints).toEqual([]);
});

test('the gradebook keeps the names in sight, and a second tap opens an assignment of a student', async ({
  page,
}) => {
  await signInByForm(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/gradebook');
  const grid = page.getByRole('grid', { name: 'Gradebook' });
  const name = grid.getByRole('rowheader').filter({ hasText: ',' }).first();
  const before = await name.boundingBox();
  await grid.evaluate((e) => e.scrollBy(336, 0));
  await expect.poll(() => grid.evaluate((e) => e.scrollLeft)).toBeGreaterThan(100);
  expect(await name.boundingBox()).toEqual(before);
  const cell = grid.locator('#cell-1-5');
  await cell.tap();
  await expect(cell).toHaveAttribute('aria-selected', 'true');
  await cell.tap();
  await expect(page.getByRole('dialog')).toBeVisible();
  await expectAccessible(page);
});

test('a student reads their own picture, plan and messages', async ({ page }) => {
  const complaints = watchConsole(page);
  await signInByForm(page, STUDENT);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Hello Tomasz/);
  await expectFits(page);
  expect(complaints).toEqual([]);
});
