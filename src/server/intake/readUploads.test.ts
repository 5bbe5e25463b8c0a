import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FILES } from '../../../tests/support/course';
import { FILE_KINDS } from '@/core/course/records';
import { suggestMapping } from '@/core/formats/mapping/suggest';
import { parseCsv } from '@/core/formats/csv';
import type { Placed } from '@/core/formats/table';
import { zip } from '../base/zip';
import type { Progress } from '../jobs/progress';
import { readFiles, type ReadAbout, type ReadUploads } from './readFiles';
import { readUploads } from './readUploads';

const ABOUT: ReadAbout = { code: 'NAV', zone: 'Europe/Lisbon' };
let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-reading-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const bytes = (text: string) => new TextEncoder().encode(text);
/** Files on the disk, as an upload has them. */
const onDisk = (files: Readonly<Record<string, Uint8Array>>) =>
  Object.entries(files).map(([name, content], i) => {
    const path = join(folder, `${name.replace(/\W/g, '_')}-${i}`);
    writeFileSync(path, content);
    return { name, path, size: statSync(path).size };
  });
/** What was read, with the cells of each row. */
const told = ({ files, statements, ...rest }: ReadUploads) => ({
  ...rest,
  statements,
  files: FILE_KINDS.map((kind) => {
    const file = files[kind];
    if (!file) return null;
    const { rows, source: _, ...head } = file;
    const plain = (rows as readonly Placed<unknown>[]).map(({ line, value, cells, called, absent }) => ({
      line,
      value,
      cells,
      called,
      absent,
    }));
    return { ...head, rows: plain };
  }),
});
async function both(files: Readonly<Record<string, Uint8Array>>, about: ReadAbout = ABOUT) {
  const here = await readFiles(
    Object.entries(files).map(([name, content]) => ({ name, bytes: content })),
    about,
  );
  return [told(await readUploads(onDisk(files), about)), told(here)] as const;
}

const PEOPLE = ['Łucja;Wójcik', 'Ömer;Yıldız', 'Bo;"Li, the ""elder"""', 'Þór;Ó Dálaigh', 'X;'];
const roster = `student_id;given_name;family_name;email\r\n${Array.from(
  { length: 4000 },
  (_, i) => `s${i};${PEOPLE[i % PEOPLE.length]};s${i}@students.example`,
).join('\r\n')}`;
const events = `event_id,student_id,at,kind\n${Array.from(
  { length: 5000 },
  (_, i) => `e${i},s${i % 9},${i % 50 === 0 ? 'never' : '2026-10-20T10:00:00Z'},view`,
).join('\n')}`;
const statements = Array.from({ length: 3000 }, (_, i) =>
  JSON.stringify({
    actor: { mbox: `mailto:s${i % 9}@students.example` },
    verb: { id: i % 40 === 0 ? 'none' : 'http://adlnet.gov/expapi/verbs/experienced' },
    object: { id: 'https://x.example/works/r1' },
    timestamp: '2026-10-20T10:00:00Z',
  }),
).join('\n');
const foreign = `Learner;Chart exercise 1;Tides quiz\n${Array.from(
  { length: 6000 },
  (_, i) => `s${i};${i % 21};${i % 30 === 0 ? 'absent' : i % 11}`,
).join('\n')}`;

describe('files read in a thread of their own', () => {
  it('say what they say when read on the spot: places, letters of any length, faults', async () => {
    const utf16 = new Uint8Array([0xff, 0xfe, ...Buffer.from(roster, 'utf16le')]);
    for (const text of [bytes(roster), bytes(`\ufeff${roster}`), utf16]) {
      const [there, here] = await both({
        'roster.csv': text,
        'events.csv': bytes(events),
        'said.json': bytes(statements),
      });
      expect(there).toEqual(here);
      expect(there.files.map((f) => f?.rows.length)).toContain(3200);
    }
  });

  it('the same of archives, tables of another make, and what is known of the course', async () => {
    const works = [
      { id: 'w1', title: 'Chart exercise 1' },
      { id: 'q1', title: 'Tides quiz' },
    ];
    const table = parseCsv(foreign);
    if (!table.ok) throw new Error(table.reason);
    const mapping = suggestMapping(table.value, works, ABOUT.zone);
    const packed = new Uint8Array(zip({ 'roster.csv': FILES.roster, 'activities.csv': FILES.activities }));
    const files = { 'course.zip': packed, 'marks.csv': bytes(foreign) };
    const [guessed, here] = await both(files, { ...ABOUT, works });
    expect(guessed).toEqual(here);
    expect(guessed.foreign).toMatchObject([{ name: 'marks.csv', read: false }]);
    const [read, inPlace] = await both(files, { ...ABOUT, works, told: new Map([['marks.csv', mapping]]) });
    expect(read).toEqual(inPlace);
    expect(read.files.find((f) => f?.name === 'marks.csv')?.rows).toHaveLength(11_800);
  });

  it('can be left by whoever cancels', async () => {
    const large = `event_id,student_id,at,kind\n${'e,s,2026-10-20T10:00:00Z,view\n'.repeat(600_000)}`;
    const cancel: Progress = () => Promise.reject(new Error('cancelled'));
    await expect(readUploads(onDisk({ 'events.csv': bytes(large) }), ABOUT, cancel)).rejects.toThrow(
      'cancelled',
    );
  });

  it('keep this thread free, whatever they hold', async () => {
    const mega = 8 * 1024 * 1024;
    const hostile = {
      commas: ','.repeat(mega),
      quotes: '"'.repeat(mega),
      deep: '['.repeat(mega),
      line: 'x'.repeat(mega),
      rows: `event_id,student_id,at,kind\n${'a,b,c,d\n'.repeat(mega / 8)}`,
    };
    let longest = 0;
    let last = performance.now();
    const pulse = setInterval(() => {
      longest = Math.max(longest, performance.now() - last);
      last = performance.now();
    }, 5);
    for (const text of Object.values(hostile)) {
      const read = await readUploads(onDisk({ 'events.csv': bytes(text) }), ABOUT);
      expect(read.faults).toHaveLength(1);
      last = performance.now();
    }
    clearInterval(pulse);
    // Read here, the commas alone took seconds; what is allowed is for a busy machine.
    expect(longest).toBeLessThan(1000);
  });
});
