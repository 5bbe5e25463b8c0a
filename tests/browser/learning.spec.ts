import type { Page } from '@playwright/test';
import { alive, expectAccessible, INSTRUCTOR, signIn, STUDENT } from './support';
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

test('a wrong key is corrected with its preview, and undone', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/items');
  await alive(page);
  await page.getByLabel('Quiz').click();
  await page.getByRole('option', { name: /^Tidal streams quiz/ }).click();
  const calls = page.getByRole('list', { name: 'Items that call for a look' });
  await expect(calls).toContainText('is the key right?');
  await press(page, calls.getByRole('button', { name: 'item 7' }));
  await press(page, page.getByRole('button', { name: 'Change the key' }));
  const form = page.getByRole('form', { name: 'Key of item 7' });
  await form.getByRole('checkbox', { name: /^A / }).uncheck();
  await form.getByRole('checkbox', { name: /^C / }).check();
  await expect(form.getByText(/grades? rises?, .*grades? falls?, of 10 points/)).toBeVisible();
  await expectAccessible(page);
  await form.getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByText(/^Changed; \d+ grades moved/)).toBeVisible();
  // The item does not call any more, and what was done is listed.
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const changes = page.getByRole('region', { name: 'Changes of keys' });
  await expect(changes).toContainText('the key is “C”, no longer “A”');
  await expect(calls.getByRole('button', { name: 'item 7' })).toHaveCount(0);
  await press(page, changes.getByRole('button', { name: 'Undo' }));
  await expect(changes).toContainText('undone');
  await expect(calls.getByRole('button', { name: 'item 7' })).toBeVisible();
});

test('the trail of an answer is opened by keyboard', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/items?tab=students&order=hardest');
  await alive(page);
  const table = page.getByLabel('Answers of each student', { exact: true });
  const later = table.getByRole('button', { name: /wrong at first, right later/ }).first();
  await expect(later).toBeVisible();
  await expectAccessible(page);
  await later.focus();
  await page.keyboard.press('Enter');
  const trail = page.getByRole('dialog');
  await expect(trail.getByRole('listitem').first()).toContainText('wrong');
  await expect(trail.getByRole('listitem').nth(1)).toContainText('right');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(trail).toHaveCount(0);
  await expect(later).toBeFocused();
});

test('an item is shown in class: no key, then the spread, then the key and why', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/items');
  await alive(page);
  const item = page.getByLabel('Items', { exact: true }).getByRole('button', { name: /^item/ });
  await press(page, item.first());
  await press(page, page.getByRole('link', { name: 'Show in class' }));
  const wall = page.getByRole('region', { name: /for the class$/ });
  await expect(wall.getByRole('button', { name: /^What is right/ })).toBeEnabled();
  await expect(wall.getByText('right', { exact: true })).toHaveCount(0);
  await expect(wall.getByText(/^\d+ %$/)).toHaveCount(0);
  await page.keyboard.press('s');
  await expect(wall.getByText(/^First answers of \d+ students/)).toBeVisible();
  await page.keyboard.press('k');
  await expect(wall.getByText('right', { exact: true })).toHaveCount(1);
  await expectAccessible(page);
  const before = await wall.getAttribute('aria-label');
  await page.keyboard.press('j');
  await expect(wall).not.toHaveAttribute('aria-label', before!);
  await expect(wall.getByText('right', { exact: true })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: /^Answers to / })).toBeVisible();
});

test('the items behind an outcome, what changed, and a goal', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/outcomes');
  await alive(page);
  await press(page, page.getByRole('button', { name: /^items behind Tidal heights/ }));
  const behind = page.getByRole('region', { name: 'Items behind Tidal heights' });
  await expect(behind).toContainText(/students answered “/);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'What changed' }).click();
  await expect(page.getByRole('list', { name: 'What changed by outcome' })).toContainText('newly secure');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Goals/ }).click();
  const form = page.getByRole('form', { name: 'New goal' });
  await form.getByRole('checkbox', { name: 'Buoyage' }).check();
  await form.getByRole('button', { name: 'Set the goal' }).click();
  const made = page.getByRole('region', { name: /^Buoyage by / });
  await expect(made).toContainText('too early to say');
  await expectAccessible(page);
  await made.getByRole('button', { name: 'Remove' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove the goal' }).click();
  await expect(made).toHaveCount(0);
});

test('a student reads their own answers and why, and says that they do not see it', async ({ page }) => {
  await signIn(page, STUDENT, '/home');
  await page.getByRole('region', { name: 'Your answers' }).getByRole('button').first().click();
  const why = page.getByRole('button', { name: 'I still do not see why' }).first();
  await expect(why).toBeVisible();
  await expectAccessible(page);
  await why.click();
  const told = page.getByRole('button', { name: 'Told your instructor; undo' });
  await expect(told).toBeVisible();
  await told.click();
  await expect(told).toHaveCount(0);
});
