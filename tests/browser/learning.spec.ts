import type { Page } from '@playwright/test';
import { alive, expectAccessible, INSTRUCTOR, signIn } from './support';
import { expect, test } from './test';
import { press } from './keys';

/** So that whatever is selected next begins anew. */
async function clearSelection(page: Page): Promise<void> {
  const selection = page.getByRole('region', { name: 'Selection' });
  await selection.getByRole('button', { name: 'Clear' }).click();
  await expect(selection).toHaveCount(0);
}

test('a sweep over the ticks of an outcome leads to a message', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/outcomes');
  await alive(page);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('is where the class stands lowest');
  const first = page.getByRole('list', { name: 'The class by outcome' }).getByRole('listitem').first();
  const strip = first.getByRole('img');
  const box = (await strip.boundingBox())!;
  await page.mouse.move(box.x + 0.1 * box.width, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 0.5 * box.width, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  const select = first.getByRole('button', { name: /^Select these \d+$/ });
  await expect(select).toBeEnabled();
  await expectAccessible(page);
  const n = Number((await select.textContent())!.replace(/\D/g, ''));
  expect(n).toBeGreaterThan(0);
  await expect(first.getByRole('link')).toHaveCount(Math.min(n, 24));
  await select.click();
  await expect(page.getByText(`${n} student${n === 1 ? '' : 's'} selected: `)).toBeVisible();
  await page.goto('/c/NAV-110/compose');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(String(n));
  await page.goto('/c/NAV-110/outcomes');
  await alive(page);
  await clearSelection(page);
});

test('a count and a stretch by keyboard, and whom to teach together', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/outcomes');
  await alive(page);
  const first = page.getByRole('list', { name: 'The class by outcome' }).getByRole('listitem').first();
  await press(page, first.getByRole('button', { name: /not yet/ }));
  const behind = Number(
    (await first.getByRole('button', { name: /not yet/ }).textContent())!.replace(/\D/g, ''),
  );
  await expect(first.getByRole('button', { name: `Select these ${behind}` })).toBeVisible();
  await first.getByLabel(/, to %$/).fill('0');
  await expect(first.getByText('0 students, from 0 to 0 %')).toBeVisible();
  await page.getByRole('button', { name: /^Groups for a lesson/ }).click();
  const groups = page.getByRole('list', { name: 'Groups for a lesson' });
  await expect(groups).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Pairs/ }).click();
  await expect(
    page.getByRole('button', { name: /^Select both/ }).or(page.getByText('Nobody is secure')),
  ).not.toHaveCount(0);
});

test('the items of a quiz: one is opened, and those who gave an answer are selected', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/items');
  await alive(page);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('for a look');
  const item = page.getByLabel('Items', { exact: true }).getByRole('button', { name: /^item/ });
  await press(page, item.first());
  const answers = page.getByRole('region', { name: /^Answers to / });
  await expect(answers).toBeVisible();
  await expectAccessible(page);
  const first = answers.getByRole('button', { name: /^Select these/ }).first();
  const n = Number((await first.textContent())!.replace(/\D/g, ''));
  await press(page, first);
  await expect(page.getByText(`${n} student${n === 1 ? '' : 's'} selected: answered`)).toBeVisible();
  await clearSelection(page);
});
