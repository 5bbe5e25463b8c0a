import { utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { lastLook } from '@/core/feeds/schedule';
import type { Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { feedFiles, feeds } from '@/data/schema';
import type { Viewer } from '@/server/access/viewer';
import { acceptFile, saveFeed } from '@/server/feeds/manage';
import { folderPath } from '@/server/feeds/readFolder';
import { workOff } from '@/server/work';

const TIME = { days: 'daily', minute: 6 * 60 } as const;

/** A folder into which the course platform of the demo puts its gradebook every night; this morning's is in. */
export async function seedFeed(
  db: Database,
  {
    code,
    viewer,
    now,
    zone,
    gradebook,
  }: { code: string; viewer: Viewer; now: Instant; zone: string; gradebook: string },
): Promise<void> {
  const form = { id: null, name: 'Nightly gradebook', kind: 'folder' as const, link: '', ...TIME };
  const id = await saveFeed(viewer, code, form);
  const [feed] = await db.orm.select().from(feeds).where(eq(feeds.id, id));
  const path = join(folderPath(feed!.place), 'gradebook.csv');
  const came = new Date(lastLook(TIME, now, zone));
  await writeFile(path, gradebook);
  await utimes(path, came, came);
  await workOff(db, ['feed']);
  const [file] = await db.orm.select().from(feedFiles).where(eq(feedFiles.feedId, id));
  await acceptFile(viewer, code, file!.id);
  await db.orm.update(feedFiles).set({ at: came }).where(eq(feedFiles.feedId, id));
  await db.orm.update(feeds).set({ cameAt: came }).where(eq(feeds.id, id));
}
