import { alive, choose, expectAccessible, INSTRUCTOR, signIn, STRANGER, watchConsole } from './support';
import { expect, test } from './test';

test('rounds by keyboard alone: next, pick, put off, seen with a reason, undo; kept over a reload and on another device', async ({
  page,
  browser,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/rounds?show=all');
  const heading = page.getByRole('heading', { level: 1 });
  const waiting = Number((await heading.textContent())!.split(' ')[0]);
  const queue = page.getByRole('list', { name: 'Queue' });
  const name = (n: number) =>
    queue.getByRole('listitem').nth(n).getByRole('button').locator('.truncate').first();
  const brief = page.getByRole('heading', { level: 2 }).first();
  const [first, second] = [await name(0).textContent(), await name(1).textContent()];
  await alive(page);
  await queue.getByRole('listitem').first().getByRole('button').click();
  await expect(brief).toHaveText(first!);

  await page.keyboard.press('j');
  await expect(brief).toHaveText(second!);
  const elsewhere = await browser.newPage();
  await signIn(elsewhere, INSTRUCTOR, '/');
  await expect(elsewhere.getByRole('heading', { level: 2 }).first()).toHaveText(second!);
  await elsewhere.close();
  await page.goto('/c/NAV-110/rounds');
  await expect(brief).toHaveText(second!);
  await page.keyboard.press('k');
  await expect(brief).toHaveText(first!);

  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Selection' })).toContainText('1 student selected');
  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);

  await page.keyboard.press('d');
  await expect(page.getByRole('dialog')).toContainText(`Put ${first} off until`);
  await expectAccessible(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Put off' }).press('Enter');
  await expect(heading).toHaveText(new RegExp(`^${waiting - 1} of`));
  await expect(brief).toHaveText(second!);

  await page.keyboard.press('x');
  await page.getByLabel('Why nothing more is needed now').fill('Talked after class');
  await page.keyboard.press('Enter');
  await expect(heading).toHaveText(new RegExp(`^${waiting - 2} of`));
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(heading).toHaveText(new RegExp(`^${waiting - 1} of`));

  await page.getByRole('button', { name: /^Handled/ }).click();
  await expect(queue).toContainText('put off until 28 Nov by Ines Calloway');
  expect(complaints).toEqual([]);
});

test('finding somebody, and the list of keys', async ({ page }) => {
  await signIn(page, INSTRUCTOR, '/');
  await alive(page);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Mark as seen, with a reason');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Name of a student/).fill('wojcik');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Łucja Wójcik-Sienkiewicz');
});

test('Enter pressed before the names have come goes to the one typed', async ({ page }) => {
  await signIn(page, INSTRUCTOR, '/');
  await alive(page);
  let letThrough = () => undefined as void;
  const held = new Promise<void>((release) => {
    letThrough = release;
  });
  await page.route('**/*', async (route) => {
    if (route.request().headers()['next-action']) await held;
    await route.continue();
  });
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Name of a student/).fill('wojcik');
  await expect(page.getByText('Loading …')).toBeVisible();
  await page.keyboard.press('Enter');
  letThrough();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Łucja Wójcik-Sienkiewicz');
});

test('the figures stand in tables too, and both themes are accessible', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/rounds?show=all');
  await page.getByText('These figures as a table').click();
  await expect(page.getByRole('table').getByRole('row')).toHaveCount(10);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Use the dark theme' }).click();
  await expect(page.locator('html')).toHaveClass(/dark/);
  await expectAccessible(page);
  await page.goto('/c/NAV-110/rules/flags');
  await expectAccessible(page);
});

test('thresholds are saved, evaluated at once, and undone', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/rules/flags');
  await alive(page);
  const act = page.getByLabel('Behind, act', { exact: true });
  await act.fill('1');
  await page.getByRole('button', { name: 'Save and look again' }).click();
  await expect(page.getByText('Behind, act must not be under watch')).toBeVisible();
  await act.fill('9');
  await page.getByRole('button', { name: 'Save and look again' }).click();
  await expect(page.getByText('Saved. Every student has been checked')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('The thresholds are as before.')).toBeVisible();
  await expect(act).toHaveValue('3');
});

test('a threshold is dragged, and set apart for a section', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/rules/flags');
  await alive(page);
  const card = page.getByRole('region', { name: 'Behind' });
  await expect(card.getByText('the bars are the weeks')).toBeVisible();
  const act = card.getByLabel('Behind, act', { exact: true });
  const box = (await act.boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 10 + 7 * 6, box.y + 10, { steps: 4 });
  await page.mouse.up();
  await expect(act).toHaveValue('9');
  await choose(page, 'Behind: other limits for a section or group', 'Online');
  await card.getByLabel('Behind, watch, Online').fill('1');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save and look again' }).click();
  await expect(page.getByText('Saved. Every student has been checked')).toBeVisible();
  await page.reload();
  await expect(card.getByLabel('Behind, watch, Online')).toHaveValue('1');
  await card.getByRole('button', { name: 'Remove the limits of Online for Behind' }).click();
  await card.getByLabel('Behind, act', { exact: true }).fill('3');
  await page.getByRole('button', { name: 'Save and look again' }).click();
  await expect(page.getByText('Saved. Every student has been checked')).toBeVisible();
});

test('an empty course says what to do, and a wrong address leads nowhere harmful', async ({ page }) => {
  await signIn(page, STRANGER);
  await page.goto('/c/STB-210/rounds');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Nothing is known of Vessel Stability yet',
  );
  await expectAccessible(page);
  await page.goto('/c/STB-210/messages');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Nothing has been sent yet');
  await page.context().clearCookies();
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/compose?student=999999');
  await expect(page.getByText('Nobody is selected to write to')).toBeVisible();
  await page.goto('/c/NAV-110/students/abc');
  await expect(page.getByText('This is not in the course')).toBeVisible();
  await page.goto('/c/NAV-110/rounds?show=%00&student=-1');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/need/);
});
