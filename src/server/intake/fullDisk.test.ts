import { spawnSync } from 'node:child_process';
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { count, isNull } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import { file, NOW, smallCourse } from '../../../tests/support/course';
import { template } from '../../../tests/support/database';
import { ended, startJob } from '../../../tests/support/job';
import { openEmbedded } from '@/data/database';
import { FolderFullError } from '@/data/lock';
import { imports, seenEvents } from '@/data/schema';
import { rereadConfig } from '../base/config';
import { setDatabase } from '../base/database';
import { checkDerived } from '../export/check';
import { DISK_FULL } from '../base/failure';
import { importFiles } from './intake';

const folder = mkdtempSync(join(tmpdir(), 'lantern-full-'));
// A disk of its own, in memory: only a system that lets one be mounted can fill one for real.
const mounted =
  !process.env.LANTERN_TEST_SERVER &&
  spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=420m', 'tmpfs', folder]).status === 0;
afterAll(() => {
  if (mounted) spawnSync('umount', ['-l', folder]);
  rmSync(folder, { recursive: true, force: true });
});

const data = join(folder, 'data');
const filler = join(folder, 'filler');

/** Writes until nothing more fits, and says what the system says then. */
function fill(): string {
  const open = openSync(filler, 'w');
  const megabyte = Buffer.alloc(1 << 20);
  try {
    for (;;) writeSync(open, megabyte);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code ?? '';
  } finally {
    closeSync(open);
  }
}

const EVENTS = 6000;
const log = () => {
  const rows = Array.from({ length: EVENTS }, (_, i) => {
    const at = new Date(Date.parse('2026-10-01T08:00:00Z') + i * 60_000).toISOString();
    return `full-${i},s${1 + (i % 4)},${at},view,r1`;
  });
  return file('events.csv', `event_id,student_id,at,kind,activity_id\n${rows.join('\n')}\n`);
};

describe.skipIf(!mounted)('a disk that gets full', () => {
  it('in the middle of an import: it says so, nothing has changed, and it goes through once there is room', async () => {
    mkdirSync(data);
    process.env.LANTERN_DATA = data;
    rereadConfig();
    const db = await openEmbedded(data, 'the test of a full disk', template());
    setDatabase(db);
    const { courseId, instructor } = await smallCourse(db);
    const counts = async () => {
      const [rows] = await db.orm.select({ n: count() }).from(seenEvents);
      const [listed] = await db.orm.select({ n: count() }).from(imports).where(isNull(imports.arrivingUntil));
      return { events: rows!.n, imports: listed!.n };
    };
    const before = await counts();
    let filled = '';
    const importing = (watch: (step: string) => void) =>
      startJob(instructor.userId, (progress) =>
        importFiles(db, courseId, instructor.userId, [log()], Date.parse(NOW), {
          progress: (step, done, of) => {
            watch(step);
            return progress(step, done, of);
          },
        }),
      ).then(async ({ id, end }) => {
        await end;
        return ended(instructor.userId, id);
      });
    await expect(
      importing((step) => {
        if (filled === '' && step === 'Writing events') filled = fill();
      }),
    ).rejects.toThrow(DISK_FULL);
    expect(filled).toBe('ENOSPC');
    rmSync(filler);
    expect(await counts()).toEqual(before);
    expect((await checkDerived(db)).flatMap((c) => c.differing)).toEqual([]);

    await importing(() => undefined);
    expect(await counts()).toEqual({ events: before.events + EVENTS, imports: before.imports + 1 });
    await db.close();
  });

  it('before the start: it is told which folder, and all is there once there is room', async () => {
    fill();
    await expect(openEmbedded(data, 'the test of a full disk')).rejects.toThrow(FolderFullError);
    rmSync(filler);
    const db = await openEmbedded(data, 'the test of a full disk');
    const [rows] = await db.orm.select({ n: count() }).from(seenEvents);
    expect(rows!.n).toBeGreaterThan(EVENTS);
    await db.close();
  });
});
