import { expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

test('on a phone: the card for the next meeting, and a note in passing that waits for the network and is sent once', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/card');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Saturday, Sat 28 Nov 10:00');
  const speakTo = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^Talked/ }) });
  await expect(speakTo).toHaveCount(3);
  await expectAccessible(page);
  const name = (await speakTo.first().getByRole('link').textContent())!;
  await speakTo
    .first()
    .getByRole('button', { name: /^Talked/ })
    .click();
  await expect(page.getByText(`Noted: talked with ${name}.`)).toBeVisible();
  await expect(speakTo.filter({ hasText: name })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(speakTo.first()).toContainText(name);

  await open(page, '/c/NAV-110/passing');
  await expectAccessible(page);
  await context.setOffline(true);
  await page.getByLabel('Name of the student').fill('ngair');
  await page.keyboard.press('Enter');
  await page.getByLabel('A line, if you like').fill('At the bus stop');
  await page.getByRole('button', { name: 'Needs help' }).click();
  await expect(page.getByText('1 note waits on this device for the network.')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText('Saved: Ngaire Tamahori: needs help.')).toBeVisible();
  // Opened again, there is nothing left to send.
  await open(page, '/c/NAV-110/passing');
  await expect(page.getByText(/waits on this device/)).toHaveCount(0);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Name of a student/).fill('ngaire');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ngaire Tamahori');
  await expect(
    page.getByRole('region', { name: 'Notes and talks' }).getByText('At the bus stop', { exact: true }),
  ).toHaveCount(1);
  expect(complaints.filter((c) => !/ERR_INTERNET_DISCONNECTED/.test(c))).toEqual([]);
  await context.close();
});
