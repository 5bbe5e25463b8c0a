import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { asc, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bundle } from '../../tests/support/bundle';
import { testDatabase, type TestDatabase } from '../../tests/support/database';
import { copyLine, openEmbedded } from './database';
import { FolderHeldError, holdFolder } from './lock';
import { persons } from './schema';

let test: TestDatabase;
beforeAll(async () => {
  test = await testDatabase();
});
afterAll(() => test.close());

const columns = ['external_id', 'given', 'family', 'email'];
const names = async () => {
  const rows = await test.db.orm.select().from(persons).orderBy(asc(persons.id));
  return rows.map((r) => r.given);
};

describe('copying', () => {
  it('brings any text through as it was', async () => {
    const odd = [
      'plain',
      'with "quotes"',
      'comma, and\nline break',
      'Łucja Ødegaard 王',
      "it's\\N",
      ' spaced ',
    ];
    await test.db.transaction(async (tx) => {
      await tx.copy(
        'persons',
        columns,
        odd.map((given, i) => copyLine([`p${i}`, given, 'F', null])).join(''),
      );
    });
    expect(await names()).toEqual(odd);
    const [first] = await test.db.orm.select().from(persons).where(eq(persons.externalId, 'p0'));
    expect(first!.email).toBeNull();
  });
  it('takes nothing for nothing', async () => {
    await test.db.copy('persons', columns, '');
    expect(await names()).toHaveLength(6);
  });
});

describe('a transaction', () => {
  it('says so at once to who asks outside of it, instead of waiting for itself', async () => {
    const slip = test.db.transaction(() => names());
    if (test.db.kind === 'embedded')
      await expect(slip).rejects.toThrow(/Failed query|outside of the transaction/);
    else await slip;
    expect(await names()).toHaveLength(6);
  });
  it('keeps nothing of what fails, copied or inserted', async () => {
    const before = await names();
    const failing = test.db.transaction(async (tx) => {
      await tx.orm.insert(persons).values({ externalId: 'x1', given: 'X', family: 'F' });
      await tx.copy('persons', columns, copyLine(['x2', 'X', 'F', null]));
      throw new Error('no');
    });
    await expect(failing).rejects.toThrow('no');
    expect(await names()).toEqual(before);
  });
  it('fails as a whole on a duplicate in a copy', async () => {
    const before = await names();
    const twice = copyLine(['d1', 'D', 'F', null]) + copyLine(['p0', 'again', 'F', null]);
    await expect(test.db.transaction((tx) => tx.copy('persons', columns, twice))).rejects.toThrow();
    expect(await names()).toEqual(before);
  });
});

describe.skipIf(process.env.LANTERN_TEST_SERVER)('a data folder', () => {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-held-'));
  /** Another process that opens the folder, writes a row, says so and waits. */
  const other = () =>
    spawn(process.execPath, [bundle('tests/support/holder.ts'), folder], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });

  it('is refused to a second process, which is told who holds it; kill -9 frees it and loses nothing acknowledged', async () => {
    const holder = other();
    const [line] = (await once(createInterface({ input: holder.stdout! }), 'line')) as [string];
    expect(line).toBe('written');
    const refused = openEmbedded(folder, 'a test').catch((e: unknown) => e);
    const error = await refused;
    expect(error).toBeInstanceOf(FolderHeldError);
    expect(String(error)).toContain(`in use by the holder of the test (process ${holder.pid})`);
    holder.kill('SIGKILL');
    await once(holder, 'exit');
    const db = await openEmbedded(folder, 'a test');
    const rows = await db.orm.select().from(persons);
    await db.close();
    expect(rows.map((r) => r.externalId)).toEqual(['kept']);
  });
  it('can be held again once released', async () => {
    const hold = await holdFolder(folder, 'first');
    await expect(holdFolder(folder, 'second')).rejects.toThrow('in use by first');
    hold.release();
    (await holdFolder(folder, 'third')).release();
  });
});
