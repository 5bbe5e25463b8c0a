import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { bundle } from '../../tests/support/bundle';

const program = bundle('src/cli/main.ts');
const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-course-'));

describe('lantern import, export, check and rebuild', () => {
  const env = (data: string) => ({ ...process.env, LANTERN_DATA: data });
  const run = (data: string, ...args: string[]) => {
    const done = spawnSync(process.execPath, [program, ...args], {
      encoding: 'utf8',
      env: env(data),
    });
    return { out: done.stdout, err: done.stderr, code: done.status };
  };
  const parsed = (text: string) => JSON.parse(text) as Record<string, Record<string, number>>;

  it('make a course from files, write it out, and find the same in an empty folder', () => {
    const data = join(folder, 'data');
    const file = (name: string, text: string) => {
      const path = join(folder, name);
      writeFileSync(path, text);
      return path;
    };
    const files = [
      file('roster.csv', 'student_id,given_name,family_name,section\ns1,Ida,Wren,Monday\ns2,Bo,Li,Monday\n'),
      file(
        'activities.csv',
        'activity_id,title,kind,category,points,due\nw1,Chart 1,assignment,Work,20,2026-10-05T22:00:00Z\n',
      ),
      file(
        'gradebook.csv',
        'student_id,activity_id,submitted,graded,returned,points,excused\ns1,w1,2026-10-04T10:00:00Z,2026-10-05T10:00:00Z,2026-10-05T10:00:00Z,17,no\n',
      ),
      file(
        'events.csv',
        'event_id,student_id,at,kind,activity_id\ne1,s1,2026-09-30T10:00:00Z,login,\ne2,s1,2026-09-30T10:04:00Z,view,w1\ne3,nobody,2026-09-30T10:04:00Z,view,w1\ne4,s1,2026-09-30,view,w1\n',
      ),
    ];
    const first = run(data, 'import', '--course', 'NAV', '--zone', 'Europe/Lisbon', ...files);
    expect(first.err).toContain('made the course NAV');
    expect(parsed(first.out)).toMatchObject({
      roster: { added: 2, rejected: 0 },
      gradebook: { added: 1 },
      events: { added: 2, rejected: 1, waiting: 1 },
    });
    const [roster, said] = [join(folder, 'out.zip'), join(folder, 'said.zip')];
    run(data, 'export', '--course', 'NAV', '--format', 'oneroster', '--out', roster);
    run(data, 'export', '--course', 'NAV', '--format', 'xapi', '--out', said);
    const other = join(folder, 'other');
    const second = run(other, 'import', '--course', 'NAV', roster, said);
    expect(parsed(second.out)).toMatchObject({
      roster: { added: 2 },
      activities: { added: 1 },
      gradebook: { added: 1 },
      statements: { added: 2 },
    });
    const checked = run(other, 'check');
    expect([checked.code, checked.out]).toEqual([
      0,
      '[{"course":"NAV","events":2,"behind":0,"differing":[]}]\n',
    ]);
    const every = run(other, 'import', '--every', roster);
    expect(JSON.parse(every.out)).toMatchObject({ NAV: { roster: { added: 0, unchanged: 2 } } });
  });

  it('say what is wrong in one line', () => {
    const data = join(folder, 'data');
    const words = (...args: string[]) => {
      const { err, code } = run(data, ...args);
      return `${code} ${err.split('\n')[0]}`;
    };
    expect(words('export', '--course', 'NAV', '--format', 'pdf', '--out', 'x')).toMatch(/^2 --format/);
    expect(words('import', '--course', 'NAV', join(folder, 'missing.csv'))).toMatch(/cannot be read/);
    const roster = join(folder, 'ok.csv');
    writeFileSync(roster, 'student_id,given_name,family_name,email\ns1,Bo,Li,bo@students.example\n');
    const refused = run(data, 'import', '--course', 'NAV/../X', roster);
    expect([refused.code, refused.err]).toEqual([
      2,
      expect.stringContaining('“NAV/../X” cannot be the code of a course'),
    ]);
    expect(JSON.parse(run(data, 'check').out)).toHaveLength(1);
  });
});
