import type { Locator, Page } from '@playwright/test';

/** More presses of Tab than any page here needs. */
const MOST_TABS = 200;

/** Goes along with Tab until something has the focus. */
export async function reach(page: Page, target: Locator): Promise<void> {
  await target.waitFor();
  const passed: string[] = [];
  for (let i = 0; i < MOST_TABS; i++) {
    if (await target.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press('Tab');
    passed.push(await page.evaluate(() => document.activeElement?.outerHTML.slice(0, 80) ?? ''));
  }
  throw new Error(`Tab does not get to ${target}, but to ${[...new Set(passed)].join('\n')}`);
}
/** Goes to something with Tab and presses Enter. */
export const press = async (page: Page, target: Locator) => {
  await reach(page, target);
  await page.keyboard.press('Enter');
};
