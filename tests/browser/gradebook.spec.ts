import type { Page } from '@playwright/test';
import { expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

const grid = (page: Page) => page.getByRole('grid', { name: 'Gradebook' });
/** The cell that has the keyboard, by what it says of itself. */
const active = async (page: Page) => {
  const id = await grid(page).getAttribute('aria-activedescendant');
  return page.locator(`#${id}`);
};

async function openGradebook(page: Page, query = ''): Promise<void> {
  await signIn(page, INSTRUCTOR);
  await open(page, `/c/NAV-110/gradebook${query}`);
  await grid(page).focus();
}

test('the gradebook by keyboard alone: move, grade, undo, excuse, details, select', async ({ page }) => {
  const complaints = watchConsole(page);
  await openGradebook(page, '?status=awaiting+grade');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^\d+ assignments missing, \d+ to grade$/);
  await page.keyboard.press('Control+Home');
  // Only columns that hold something to grade are open: the fifth exercise is the first of them.
  await expect(await active(page)).toHaveAttribute('aria-label', /Chart exercise 5/);
  await expect(page.getByText(/assignments without any folded$/)).toBeVisible();
  await page.keyboard.press('End');
  await expect(await active(page)).toHaveAttribute('aria-label', /Estuary passage plan/);
  await page.keyboard.press('Home');
  // Down to the first that is to be graded.
  for (let i = 0; i < 30; i++) {
    if (/: to grade$/.test((await (await active(page)).getAttribute('aria-label')) ?? '')) break;
    await page.keyboard.press('ArrowDown');
  }
  const label = (await (await active(page)).getAttribute('aria-label'))!;
  const student = label.split(',')[0]!;
  await expect(await active(page)).toHaveAttribute('aria-label', `${student}, Chart exercise 5: to grade`);

  // Text and points over the maximum are refused with a word; what was typed stays.
  await page.keyboard.press('Enter');
  const field = page.getByRole('textbox', { name: /^Points, / });
  await field.fill('21');
  await page.keyboard.press('Enter');
  await expect(page.getByText('21 is above the maximum of 20')).toBeVisible();
  await field.fill('fine');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“fine” is not a number of points')).toBeVisible();
  await field.fill('13,5');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 score returned.')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: `${student}, Chart exercise 5: to grade` })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('The scores are as before.')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: `${student}, Chart exercise 5: to grade` })).toBeVisible();

  await grid(page).focus();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('o');
  await expect(page.getByRole('dialog')).toContainText('Attempt');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await grid(page).focus();
  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Selection' })).toContainText('Chart exercise 5');
  await grid(page).focus();
  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);
  await expectAccessible(page);
  expect(complaints).toEqual([]);
});

test('pasted scores: a preview says what changes, what is refused, and they go in together', async ({
  page,
}) => {
  await openGradebook(page);
  await page.keyboard.press('Control+Home');
  const first = (await (await active(page)).getAttribute('aria-label'))!;
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '1\n2,5\nnonsense\n99\n');
    document
      .querySelector('[role="grid"]')!
      .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  const dialog = page.getByRole('dialog', { name: '2 scores would change' });
  await expect(dialog).toContainText('Line 3');
  await expect(dialog).toContainText('“nonsense” is not a number of points');
  await expect(dialog).toContainText('99 is above the maximum of 20');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Change 2 scores' }).click();
  await expect(page.getByText('2 scores returned.')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: `${first.split(':')[0]}: 1 of 20` })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByRole('gridcell', { name: first })).toBeVisible();
});

test('a work: a swept range follows in the list, goes to the tray and to a message', async ({ page }) => {
  const complaints = watchConsole(page);
  await openGradebook(page);
  await page.getByRole('button', { name: /^Chart exercise 2/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Open its page' }).click();
  await expect(page).toHaveURL(/\/work\/\d+/);
  const bars = page.getByRole('img', { name: /^Distribution/ });
  const box = (await bars.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.72, box.y + 60, { steps: 6 });
  await page.mouse.up();
  const said = page.getByRole('status').filter({ hasText: /^\d+ students?$/ });
  const n = Number((await said.textContent())!.split(' ')[0]);
  expect(n).toBeGreaterThan(0);
  await expect(
    page.getByRole('region', { name: 'Students and Chart exercise 2' }).getByRole('row'),
  ).toHaveCount(n + 1);
  await page.getByRole('button', { name: `Select these ${n}` }).click();
  const selection = page.getByRole('region', { name: 'Selection' });
  await expect(selection).toContainText(/points in Chart exercise 2/);
  await expectAccessible(page);
  await selection.getByRole('button', { name: /^Message \d+$/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    new RegExp(`^Write to (${n} students|.+)`),
  );
  await page.goBack();
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  await expect(selection).toHaveCount(0);
  expect(complaints).toEqual([]);
});

test('extending and excusing one assignment for those who miss it, undone together', async ({ page }) => {
  await openGradebook(page, '?status=missing');
  await page.getByRole('button', { name: /^Lights and shapes quiz/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText(/For the \d+ who miss it/);
  await dialog.getByRole('button', { name: /^Excuse \d+$/ }).click();
  await expect(page.getByText(/\d+ students? excused\./)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('The scores are as before.')).toBeVisible();
});
