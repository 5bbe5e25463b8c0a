import { expect, test as base } from '@playwright/test';
import { INSTRUCTOR, signIn, open } from './support';

/**
 * The tests that share one server, one after the other. Where one fails, what it left selected is cleared: otherwise
 * every test after it that selects somebody would fail too, and hide which one is at fault.
 */
export const test = base.extend<{ cleared: void }>({
  cleared: [
    async ({ browser }, use, info) => {
      await use();
      if (info.status === info.expectedStatus) return;
      const context = await browser.newContext();
      const page = await context.newPage();
      await signIn(page, INSTRUCTOR);
      for (const course of ['NAV-110', 'MET-120']) {
        await open(page, `/c/${course}/messages`);
        const clear = page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' });
        // The selection comes after the page.
        await page.getByRole('heading', { level: 1 }).waitFor();
        await clear.click({ timeout: 10_000 }).catch(() => undefined);
      }
      await context.close();
    },
    { auto: true },
  ],
});

export { expect };
