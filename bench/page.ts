import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, CDPSession } from '@playwright/test';
import { DEMO_PASSWORD } from '@/demo/seed';
import { startServer } from '../tests/support/server';
import { launchBrowser } from './browser';
import { bound, median } from './measure';

const PORT = 3248;
const BASE = `http://localhost:${PORT}`;
const NOW = '2026-11-25T10:35:00Z';
const RUNS = 5;
/** Bounds of a page: script as it is sent, in KB of 1000 bytes; milliseconds to the first paint; shift of what stands. */
const BOUNDS = { script: 200, paint: 400, shift: 0.001 } as const;

const INSTRUCTOR = 'ines.calloway@saltmarsh.example';
const STUDENT = 'tomasz.okonedo-lind@students.saltmarsh.example';
const views: readonly (readonly [who: string, path: string])[] = [
  ...[
    'rounds',
    'week',
    'session',
    'gradebook',
    'activity',
    'activity?tab=class',
    'activity?tab=effort',
    'trends',
    'lists',
    'students/3',
    'compose?student=3&plan=1',
    'messages',
    'plans',
    'plans/1',
    'import',
    'setup?part=students',
    'rules',
    'rules/flags',
    'outcomes',
    'items',
  ].map((path) => [INSTRUCTOR, `/c/NAV-110/${path}`] as const),
  [STUDENT, '/home'],
];

interface Load {
  /** KB of script that the page was sent, packed: until it was painted and answers, and with what it asked for after. */
  readonly first: number;
  readonly all: number;
  readonly html: number;
  readonly paint: number;
  readonly shift: number;
}

/** Bytes that came over the line, by kind. */
function counted(session: CDPSession) {
  const kinds = new Map<string, string>();
  const bytes = { Script: 0, Document: 0 };
  session.on('Network.responseReceived', ({ requestId, type }) => kinds.set(requestId, type));
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const kind = kinds.get(requestId);
    if (kind === 'Script' || kind === 'Document') bytes[kind] += encodedDataLength;
  });
  return bytes;
}

/** One load of a page in a browser that has nothing of it, signed in as somebody. */
async function load(browser: Browser, cookies: string, path: string): Promise<Load> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    storageState: JSON.parse(cookies) as never,
  });
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send('Network.enable');
  const bytes = counted(session);
  await page.goto(`${BASE}${path}`);
  await page.waitForFunction(() => document.documentElement.dataset.awake === 'yes');
  const named = await page.evaluate(async () => {
    const html = await (await fetch(location.href)).text();
    return [...html.matchAll(/<script[^>]+src="([^"]+)"/g)].map((m) => m[1]!);
  });
  await page.waitForLoadState('networkidle');
  const seen = await page.evaluate((scripts) => {
    const paint = performance.getEntriesByName('first-contentful-paint')[0]!.startTime;
    let shift = 0;
    const observer = new PerformanceObserver(() => undefined);
    observer.observe({ type: 'layout-shift', buffered: true });
    for (const entry of observer.takeRecords()) shift += (entry as unknown as { value: number }).value;
    const first = performance
      .getEntriesByType('resource')
      .filter((e) => scripts.some((s) => e.name.endsWith(s)))
      .reduce((sum, e) => sum + (e as PerformanceResourceTiming).encodedBodySize, 0);
    return { paint, shift, first };
  }, named);
  await context.close();
  return {
    first: seen.first / 1000,
    all: bytes.Script / 1000,
    html: bytes.Document / 1000,
    paint: seen.paint,
    shift: seen.shift,
  };
}

/** What each view of the demo weighs, when it is first painted, and whether anything in it moves after. */
export async function benchPage(): Promise<void> {
  console.log('Pages of the demo: script packed, first paint in the median of five, layout shift');
  const folder = await mkdtemp(join(tmpdir(), 'lantern-page-'));
  execFileSync(process.execPath, ['--import', 'tsx', 'src/demo/main.ts'], {
    env: { ...process.env, LANTERN_DATA: folder, LANTERN_NOW: NOW },
    stdio: 'ignore',
  });
  const server = await startServer(folder, PORT, { LANTERN_NOW: NOW });
  const browser = await launchBrowser();
  try {
    const signedIn = new Map<string, string>();
    for (const email of [INSTRUCTOR, STUDENT]) {
      const context = await browser.newContext();
      await context.request.post(`${BASE}/api/auth/sign-in/email`, {
        data: { email, password: DEMO_PASSWORD },
        headers: { origin: BASE },
      });
      signedIn.set(email, JSON.stringify(await context.storageState()));
      await context.close();
    }
    for (const [who, path] of views) {
      const loads: Load[] = [];
      await load(browser, signedIn.get(who)!, path);
      for (let run = 0; run < RUNS; run++) loads.push(await load(browser, signedIn.get(who)!, path));
      const of = (figure: keyof Load) => median(loads.map((l) => l[figure]));
      console.log(
        `  ${path}: document ${of('html').toFixed(0)} KB, script with what came later ${of('all').toFixed(0)} KB`,
      );
      bound(`${path}, script`, of('first'), BOUNDS.script, 'at most', 'KB');
      bound(`${path}, first paint`, of('paint'), BOUNDS.paint, 'at most', 'ms');
      bound(`${path}, shift`, of('shift'), BOUNDS.shift, 'at most', '');
    }
  } finally {
    await browser.close();
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
