import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { bundle, SHORT_LIVED } from '../../tests/support/bundle';
import { emptyFolder } from '../../tests/support/template';

const program = bundle('src/cli/main.ts');
const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-course-'));

describe('lantern import, export, check and rebuild', () => {
  const env = (data: string) => ({ ...process.env, LANTERN_DATA: data });
  const run = (data: string, ...args: string[]) => {
    const done = spawnSync(process.execPath, [...SHORT_LIVED, program, ...args], {
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
    const other = emptyFolder(join(folder, 'other'));
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

  it('print the open flags, and what a rule would have sent', () => {
    const data = emptyFolder(join(folder, 'rules'));
    const week = (n: number) =>
      new Date(Date.parse('2026-09-28T10:00:00Z') + n * 7 * 86_400_000).toISOString();
    const write = (name: string, lines: readonly string[]) => {
      const path = join(folder, `rules-${name}`);
      writeFileSync(path, lines.join('\n'));
      return path;
    };
    const files = [
      write('roster.csv', [
        'student_id,given_name,family_name,email,section,status,joined,left',
        's1,Ida,Wren,,Monday,active,2026-09-28,',
        's2,Bo,Li,,Monday,active,2026-09-28,',
      ]),
      write('activities.csv', [
        'activity_id,title,kind,category,points,due',
        ...[1, 2, 3].map((i) => `q${i},Quiz ${i},quiz,Quizzes,10,${week(i)}`),
      ]),
      write('gradebook.csv', [
        'student_id,activity_id,submitted,graded,returned,points,excused',
        `s1,q1,${week(1)},${week(1)},${week(1)},9,no`,
        `s1,q2,${week(2)},${week(2)},${week(2)},5,no`,
        `s1,q3,${week(3)},${week(3)},${week(3)},10,no`,
      ]),
      write('events.csv', [
        'event_id,student_id,at,kind,activity_id',
        `e0,s1,${week(0)},login,`,
        `e1,s1,${week(3)},login,`,
      ]),
    ];
    const then = { LANTERN_DATA: data, LANTERN_NOW: week(3.2) };
    const ask = (...args: string[]) => {
      const done = spawnSync(process.execPath, [...SHORT_LIVED, program, ...args], {
        encoding: 'utf8',
        env: { ...process.env, ...then },
      });
      return { lines: done.stdout.trim().split('\n'), err: done.stderr, code: done.status };
    };
    ask('import', '--course', 'NAV', '--zone', 'Europe/Lisbon', ...files);
    const flags = ask('flags', '--course', 'NAV').lines;
    expect(flags[0]).toBe('student,indicator,level,since,reason');
    expect(flags).toContainEqual(
      expect.stringMatching(/^s2,not seen,act,2026-10-\d\d,Not one login in \d+ teaching days since joining/),
    );
    expect(flags).toContainEqual(
      expect.stringMatching(/^s2,behind,act,2026-10-\d\d,"3 of 3 assignments missing\. Quiz 1, Quiz 2/),
    );
    expect(ask('flags', '--course', 'NAV', '--as-of', '2026-10-01T10:00:00Z').lines).toEqual([
      'student,indicator,level,since,reason',
    ]);
    expect(ask('rules', '--course', 'NAV', '--dry-run', 'praise').lines).toEqual([
      'student,at,held,reason',
      's1,2026-10-05T10:00:00.000Z,,score 90 % on it',
      's1,2026-10-19T10:00:00.000Z,,score 100 % on it',
    ]);
    const none = ask('rules', '--course', 'NAV', '--dry-run', 'nothing');
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('there is no rule “nothing” in NAV')]);
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
