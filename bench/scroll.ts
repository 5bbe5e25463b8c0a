import type { Page } from '@playwright/test';
import { FILE_KINDS } from '@/core/course/records';
import { importFiles } from '@/server/intake/intake';
import { benchCourse, NOW } from './course';
import { launchBrowser } from './browser';
import { bound } from './measure';
import { startServer } from '../tests/support/server';

const PORT = 3247;

/** Scrolls the grid down and across, a step a frame, and returns how long each frame took. */
async function frames(page: Page): Promise<number[]> {
  return page.evaluate(async () => {
    const grid = document.querySelector('[role="grid"]')!;
    const times: number[] = [];
    // A jump from one corner to another is no scrolling: it starts from the first student and work.
    grid.scrollTo(0, 0);
    await new Promise((resolve) => setTimeout(resolve, 500));
    let last = await new Promise<number>(requestAnimationFrame);
    const step = async (axis: 'scrollTop' | 'scrollLeft', by: number, most: number) => {
      for (let at = 0; at < most; at += by) {
        grid[axis] = at;
        const now = await new Promise<number>(requestAnimationFrame);
        times.push(now - last);
        last = now;
      }
    };
    await step('scrollTop', 90, grid.scrollHeight - grid.clientHeight);
    await step('scrollLeft', 60, grid.scrollWidth - grid.clientWidth);
    return times;
  });
}

/** Milliseconds from the arrival of the data of another window to the frame that shows it. */
async function repaint(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const group = document.querySelector('[role="group"][aria-label="Window"]')!;
    const words = group.parentElement!.querySelector('p')!;
    const before = words.textContent;
    const next = [...group.querySelectorAll('button')].find(
      (b) => b.getAttribute('aria-pressed') !== 'true',
    )!;
    performance.clearResourceTimings();
    next.click();
    const shown = await new Promise<number>((resolve) => {
      const look = () =>
        words.textContent === before ? requestAnimationFrame(look) : requestAnimationFrame(resolve);
      requestAnimationFrame(look);
    });
    const data = performance.getEntriesByType('resource').filter((e) => e.name.includes('_rsc'));
    return shown - (data.at(-1) as PerformanceResourceTiming).responseEnd;
  });
}

/** The gradebook of 500 students by 120 works and the change of a window, as the page itself measures them. */
export async function benchScroll(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  console.log('The page, 500 students by 120 works');
  const { db, courseId, userId, upload, folder, close } = await benchCourse({
    students: 500,
    copies: 4,
    events: 100_000,
  });
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  await db.close();
  const server = await startServer(folder, PORT, { LANTERN_NOW: NOW });
  try {
    const browser = await launchBrowser();
    const page = await browser.newPage({
      baseURL: `http://localhost:${PORT}`,
      viewport: { width: 1280, height: 800 },
    });
    // The runner names functions by a helper that pages do not have.
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.request.post('/api/auth/sign-in/email', {
      data: { email: 'b@x.example', password: 'a long password' },
    });
    await page.goto('/c/B/gradebook?w=7d');
    await page.locator('[role="gridcell"]').first().waitFor();
    await page.waitForTimeout(1500);
    await frames(page);
    const times = await frames(page);
    bound(`the longest of ${times.length} frames`, Math.max(...times), 50, 'at most', 'ms');
    for (const view of ['gradebook', 'activity', 'trends']) {
      await page.goto(`/c/B/${view}?w=7d`);
      await page.waitForTimeout(2000);
      const after: number[] = [];
      for (let i = 0; i < 5; i++) {
        after.push(await repaint(page));
        await page.waitForTimeout(500);
      }
      bound(`${view}, another window, median`, after.sort((a, b) => a - b)[2]!, 100, 'at most', 'ms');
    }
    await browser.close();
  } finally {
    await server.stop();
    await close().catch(() => undefined);
  }
}
