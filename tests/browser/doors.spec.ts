import { expectAccessible, INSTRUCTOR, open, signIn, STUDENT, watchConsole } from './support';
import { expect, test } from './test';

test('two tabs that edit the same: neither overwrites the other, both versions are shown', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  const other = await page.context().newPage();
  for (const tab of [page, other]) await open(tab, '/c/MET-120/setup?part=course');
  const title = (tab: typeof page) => tab.getByLabel('Title', { exact: true }).first();
  const before = await title(page).inputValue();
  const save = (tab: typeof page) => tab.getByRole('button', { name: 'Save', exact: true }).click();
  await title(other).fill('Weather of the first tab');
  await save(other);
  await expect(other.getByText('Saved')).toBeVisible();
  await title(page).fill('Weather of the second tab');
  await save(page);
  const dialog = page.getByRole('dialog', { name: 'This was changed while you were editing it' });
  const row = dialog.getByRole('row', { name: /^title/ });
  await expect(row).toContainText('Weather of the second tab');
  await expect(row).toContainText('Weather of the first tab');
  await expectAccessible(page);
  // Closed, what was typed is still there, and so is what was saved.
  await dialog.getByRole('button', { name: 'Go on editing' }).click();
  await expect(title(page)).toHaveValue('Weather of the second tab');
  await save(page);
  await dialog.getByRole('button', { name: 'Save mine' }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await open(other, '/c/MET-120/setup?part=course');
  await expect(title(other)).toHaveValue('Weather of the second tab');
  await title(other).fill(before);
  await save(other);
  await expect(other.getByText('Saved')).toBeVisible();
  expect(complaints).toEqual([]);
});

test('one’s own account lists where one is signed in, and signs out elsewhere', async ({ browser }) => {
  const [here, there] = await Promise.all(
    [1, 2].map(async () => (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()),
  );
  await signIn(there!, STUDENT, '/home');
  await signIn(here!, STUDENT, '/home');
  await here!.getByRole('link', { name: 'Your account' }).click();
  await expect(here!.getByRole('heading', { level: 1 })).toHaveText('Your account');
  await expect(here!.getByText('(this device)')).toBeVisible();
  await expectAccessible(here!);
  await here!.getByRole('button', { name: 'Sign out everywhere else' }).click();
  await expect(here!.getByText(/^Signed out on \d+ other/)).toBeVisible();
  await there!.goto('/home');
  await there!.waitForURL(/\/sign-in/);
  await here!.goto('/home');
  await expect(here!.getByRole('link', { name: 'Your account' })).toBeVisible();
});
