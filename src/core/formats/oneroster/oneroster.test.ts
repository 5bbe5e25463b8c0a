import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOUR_MS } from '../../units';
import type { ActivityRecord, GradebookRecord, RosterRecord } from '../../course/records';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '../../course/kinds';
import { writeCsv } from '../csv';
import { courseOf, readOneRoster, type OneRosterPackage } from './read';
import { ONEROSTER_FILES, type OneRosterFile } from './tables';
import { writeOneRoster, type WholeCourse } from './write';

const NOW = Date.parse('2026-10-28T12:00:00Z');
const TERM = {
  zone: 'Europe/Lisbon',
  start: '2026-09-28',
  weeks: 15,
  breaks: [{ name: 'Half-term', from: '2026-10-26', to: '2026-11-01' }],
};

const read = (files: Record<string, string>): OneRosterPackage => {
  const pkg = readOneRoster(new Map(Object.entries(files)));
  if (!pkg.ok) throw new Error(pkg.reason);
  return pkg.value;
};
const whyNot = (files: Record<string, string>): string => {
  const pkg = readOneRoster(new Map(Object.entries(files)));
  return pkg.ok ? 'could be read' : pkg.reason;
};

// Whatever people write: commas, quotes, line breaks, other scripts, what a spreadsheet takes for a formula.
const words = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
  .map((text) => text.replace(/[\r\n\t\0]/g, ' ').trim())
  .filter((text) => text !== '');
const ids = fc.stringMatching(/^[A-Za-z][A-Za-z0-9.-]{0,10}$/);
const minutes = (from: string, days: number) =>
  fc.integer({ min: 0, max: days * 24 * 60 }).map((m) => Date.parse(from) + m * 60_000);
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: null });

const courseArbitrary: fc.Arbitrary<WholeCourse> = fc
  .record({
    workIds: fc.uniqueArray(ids, { minLength: 1, maxLength: 6 }),
    people: fc.uniqueArray(ids, { minLength: 1, maxLength: 6 }),
    titles: fc.array(words, { minLength: 6, maxLength: 6 }),
    names: fc.array(fc.tuple(words, words), { minLength: 6, maxLength: 6 }),
    kinds: fc.array(fc.constantFrom(...ACTIVITY_KINDS), { minLength: 6, maxLength: 6 }),
    statuses: fc.array(fc.constantFrom(...ENROLMENT_STATUSES), { minLength: 6, maxLength: 6 }),
    opens: fc.array(maybe(minutes('2026-09-28T00:00:00Z', 40)), { minLength: 6, maxLength: 6 }),
    estimate: fc.array(maybe(fc.integer({ min: 1, max: 600 })), { minLength: 6, maxLength: 6 }),
    scores: fc.array(fc.tuple(fc.nat(5), fc.nat(5), maybe(fc.integer({ min: 0, max: 20 })), fc.boolean()), {
      maxLength: 10,
    }),
  })
  .map((r) => {
    const activities = r.workIds.map((id, i): ActivityRecord => {
      const opens = r.opens[i] ?? null;
      return {
        id,
        title: r.titles[i]!,
        kind: r.kinds[i]!,
        category: i % 3 === 2 ? null : `Part ${i % 3}`,
        categoryWeight: i % 3 === 2 ? null : 30 + (i % 3),
        dropLowest: i % 3 === 1 ? 1 : 0,
        points: i % 3 === 2 ? null : 20,
        opens,
        due: i % 2 === 0 ? null : (opens ?? NOW) + 50 * HOUR_MS,
        closes: i % 4 === 1 ? (opens ?? NOW) + 60 * HOUR_MS : null,
        minutes: r.estimate[i] ?? null,
        attempts: i % 2 === 0 ? null : 3,
        outcomes: i % 2 === 0 ? [] : ['fix', 'heights'],
      };
    });
    const roster = r.people.map((id, i): RosterRecord => {
      const [given, family] = r.names[i]!;
      const status = r.statuses[i]!;
      return {
        id,
        given,
        family,
        email: i % 2 === 0 ? `${id.toLowerCase()}@x.example` : null,
        section: i % 3 === 0 ? null : `Section ${i % 3}`,
        status,
        joined: i % 2 === 0 ? '2026-09-28' : null,
        left: status === 'active' ? null : '2026-10-10',
      };
    });
    const seen = new Set<string>();
    const gradebook = r.scores.flatMap(([p, w, points, excused]): GradebookRecord[] => {
      const [student, activity] = [r.people[p % r.people.length]!, r.workIds[w % r.workIds.length]!];
      if (seen.has(`${student} ${activity}`)) return [];
      seen.add(`${student} ${activity}`);
      return [
        {
          student,
          activity,
          submitted: points == null ? null : NOW - 3 * HOUR_MS,
          graded: points == null ? null : NOW - 2 * HOUR_MS,
          returned: points == null ? null : NOW - HOUR_MS,
          points,
          excused: points == null && excused,
          due: excused ? NOW + HOUR_MS : null,
          extra: excused ? 2 : 0,
        },
      ];
    });
    return {
      code: 'NAV-110',
      title: r.titles[0]!,
      termName: 'Autumn',
      term: TERM,
      missing: 'ignore',
      units: r.titles.slice(0, r.people.length % 4),
      sections: [1, 2].map((n) => ({
        name: `Section ${n}`,
        meetings: [{ weekday: n, startMinute: 18 * 60, minutes: 120 }],
        exceptions: [{ on: '2026-10-05', instead: null }],
      })),
      staff: [{ id: 'staff-1', name: 'Ines Calloway', email: 'ines@x.example' }],
      activities,
      roster,
      gradebook,
    };
  });

const sorted = <T>(list: readonly T[], key: (t: T) => string) =>
  [...list].sort((a, b) => (key(a) < key(b) ? -1 : 1));

describe('a course as a OneRoster package', () => {
  it('comes back as it was, whatever is written in it', () => {
    fc.assert(
      fc.property(courseArbitrary, (course) => {
        const pkg = read(writeOneRoster(course, NOW));
        expect(pkg.rejected).toEqual([]);
        expect(pkg.courses.map((c) => c.code)).toEqual(['NAV-110']);
        const back = courseOf(pkg, pkg.courses[0]!, 'UTC');
        expect(back.activities.rejected).toEqual([]);
        expect(back.activities.rows.map((r) => r.value)).toEqual(course.activities);
        expect(back.activities.absent).toEqual([]);
        const byId = (r: RosterRecord) => r.id;
        expect(
          sorted(
            back.roster.rows.map((r) => r.value),
            byId,
          ),
        ).toEqual(sorted(course.roster, byId));
        const byCell = (g: GradebookRecord) => `${g.student} ${g.activity}`;
        expect(
          sorted(
            back.gradebook.rows.map((r) => r.value),
            byCell,
          ),
        ).toEqual(sorted(course.gradebook, byCell));
        expect([back.zone, back.termStart, back.weeks, back.missing]).toEqual([
          TERM.zone,
          TERM.start,
          TERM.weeks,
          'ignore',
        ]);
        expect(back.units).toEqual(course.units);
        expect(JSON.parse(back.breaks)).toEqual(TERM.breaks);
        expect(back.sections.map((s) => JSON.parse(s.meetings) as unknown)).toEqual(
          course.sections.map((s) => s.meetings),
        );
      }),
      { numRuns: 60 },
    );
  });
});

/** A package of another make: the columns that the standard has, and none of ours. */
function foreign(more: Partial<Record<OneRosterFile | 'manifest', string>> = {}): Record<string, string> {
  const table = (name: OneRosterFile, rows: readonly Record<string, string>[]) => {
    const head = ONEROSTER_FILES[name].filter((c) => !c.startsWith('metadata.'));
    return writeCsv(
      [...head],
      rows.map((row) => head.map((c) => row[c] ?? '')),
    );
  };
  const files: Record<string, string> = {
    manifest:
      'propertyName,value\nmanifest.version,1.0\noneroster.version,1.1\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n',
    academicSessions: table('academicSessions', [
      { sourcedId: 't', title: 'Autumn', type: 'term', startDate: '2026-09-28', endDate: '2027-01-10' },
    ]),
    courses: table('courses', [
      { sourcedId: 'c1', title: 'Navigation', courseCode: 'Nav 110/A' },
      { sourcedId: 'c2', title: 'Gone', courseCode: 'GONE', status: 'tobedeleted' },
    ]),
    classes: table('classes', [
      { sourcedId: 'k1', title: 'Monday', courseSourcedId: 'c1', termSourcedIds: 't' },
    ]),
    users: table('users', [
      { sourcedId: 'u1', givenName: 'Una', familyName: 'Marsh', role: 'student' },
      { sourcedId: 'u2', givenName: 'Udo', familyName: 'Left', role: 'student' },
    ]),
    enrollments: table('enrollments', [
      { sourcedId: 'e1', classSourcedId: 'k1', userSourcedId: 'u1', role: 'student' },
      {
        sourcedId: 'e2',
        classSourcedId: 'k1',
        userSourcedId: 'u2',
        role: 'student',
        status: 'tobedeleted',
        endDate: '2026-10-10',
      },
    ]),
    categories: table('categories', [{ sourcedId: 'g1', title: 'Projects' }]),
    lineItems: table('lineItems', [
      {
        sourcedId: 'l1',
        title: 'Project 1',
        assignDate: '2026-10-19',
        dueDate: '2026-10-25',
        classSourcedId: 'k1',
        categorySourcedId: 'g1',
        resultValueMax: '50',
      },
    ]),
    ...more,
  };
  return Object.fromEntries(Object.entries(files).map(([name, text]) => [`${name}.csv`, text]));
}

describe('a OneRoster package of another make', () => {
  it('is read by the columns of the standard alone (1EdTech OneRoster 1.1 CSV tables, from memory)', () => {
    const pkg = read(foreign());
    // A code goes into addresses here; a course that is to be deleted is none.
    expect(pkg.courses).toEqual([{ id: 'c1', code: 'Nav-110-A', title: 'Navigation' }]);
    const course = courseOf(pkg, pkg.courses[0]!, 'Europe/Lisbon');
    expect(course.roster.rows.map((r) => [r.value.id, r.value.status, r.value.left])).toEqual([
      ['u1', 'active', null],
      ['u2', 'withdrawn', '2026-10-10'],
    ]);
    // Days have no time of day: opened at its start, due at the last minute; the clocks went back on 25 October (tz).
    expect(course.activities.rows[0]!.value).toMatchObject({
      title: 'Project 1',
      opens: Date.parse('2026-10-18T23:00:00Z'),
      due: Date.parse('2026-10-25T22:59:00Z'),
      points: 50,
      category: 'Projects',
    });
    expect([course.termName, course.termStart, course.termEnd, course.weeks]).toEqual([
      'Autumn',
      '2026-09-28',
      '2027-01-10',
      null,
    ]);
  });

  it('names the units of a course from the top down, and goes round no circle', () => {
    const orgs = (rows: string) => `sourcedId,name,type,identifier,parentSourcedId\n${rows}`;
    const courses = 'sourcedId,title,courseCode,orgSourcedId\nc1,Navigation,NAV,o3\n';
    const unitsOf = (rows: string) => {
      const pkg = read(foreign({ courses, orgs: orgs(rows) }));
      return courseOf(pkg, pkg.courses[0]!, 'UTC').units;
    };
    expect(unitsOf('o1,Institute,district,,\no2,School,school,,o1\no3,Department,department,,o2\n')).toEqual([
      'Institute',
      'School',
      'Department',
    ]);
    expect(unitsOf('o2,School,school,,o3\no3,Department,department,,o2\n')).toEqual(['School', 'Department']);
    expect(unitsOf('o3,Department,department,,gone\n')).toEqual(['Department']);
    expect(unitsOf('o9,Elsewhere,school,,\n')).toEqual([]);
  });

  it('says what it says nothing of', () => {
    const pkg = read(foreign());
    expect(courseOf(pkg, pkg.courses[0]!, 'UTC').activities.absent).toEqual([
      'kind',
      'closes',
      'estimated_minutes',
      'attempts_allowed',
      'outcomes',
      'category_weight',
      'drop_lowest',
    ]);
    expect(courseOf(pkg, pkg.courses[0]!, 'UTC').gradebook.absent).toEqual(['own_due', 'extra_attempts']);
  });

  it('is refused with the file and the reason where it is no whole package', () => {
    const { 'users.csv': _, ...noUsers } = foreign();
    expect(whyNot(noUsers)).toBe('users.csv is missing');
    expect(whyNot({})).toMatch(/no manifest\.csv/);
    expect(whyNot({ ...foreign(), 'users.csv': 'sourcedId,givenName,givenName\nu1,A,B\n' })).toMatch(
      /^users\.csv: line 1.*givenname/i,
    );
    expect(whyNot({ ...foreign(), 'results.csv': '' })).toMatch(/^results\.csv: /);
    const promised = `${foreign()['manifest.csv']}file.results,bulk\n`;
    expect(whyNot({ ...foreign(), 'manifest.csv': promised })).toBe(
      'results.csv is named in the manifest but is not there',
    );
    // A delta may leave out what did not change (the manifest says which files are there; from memory).
    const delta = foreign()['manifest.csv']!.replace('file.users,bulk', 'file.users,delta');
    expect(whyNot({ ...foreign(), 'manifest.csv': delta })).toBe('could be read');
  });

  it('names each bad row by file, line and field, and takes the others', () => {
    const users =
      'sourcedId,status,givenName,familyName\nu1,,Una,Marsh\n,,No,Id\nu3,perhaps,A,B\nu4,,Too,Many,fields\n';
    const pkg = read(foreign({ users }));
    expect(pkg.rejected.map((r) => `${r.line} ${r.field.trim()}: ${r.reason}`)).toEqual([
      '3 users.csv sourcedId: is empty',
      '4 users.csv status: “perhaps” is neither active nor tobedeleted',
      '5 users.csv: has 5 fields where the header has 4',
    ]);
    const long = 'x'.repeat(201);
    expect(
      read(foreign({ users: `sourcedId,givenName,familyName\n${long},A,B\n` })).rejected[0]!.reason,
    ).toBe('is longer than 200 characters');
  });

  it('names a day that does not exist by file, line and field (29 February)', () => {
    const lineItems =
      'sourcedId,title,assignDate,dueDate,classSourcedId,resultValueMax\nl1,One,2026-02-01,2026-02-29,k1,10\nl2,Two,1601-01-01,,k1,10\nl3,Three,2028-02-29,,k1,10\n';
    const enrollments =
      'sourcedId,classSourcedId,userSourcedId,role,beginDate\ne1,k1,u1,student,2026-02-30\ne2,k1,u2,student,\n';
    const pkg = read(foreign({ lineItems, enrollments }));
    expect(pkg.rejected.map((r) => `${r.line} ${r.field}: ${r.reason}`).sort()).toEqual([
      '2 enrollments.csv beginDate: “2026-02-30” is no day that a course can have',
      '2 lineItems.csv dueDate: “2026-02-29” is no day that a course can have',
      '3 lineItems.csv assignDate: “1601-01-01” is no day that a course can have',
    ]);
    const course = courseOf(pkg, pkg.courses[0]!, 'UTC');
    expect(course.activities.rows.map((r) => r.value.title)).toEqual(['Three']);
    expect(course.roster.rows.map((r) => r.value.id)).toEqual(['u2']);
  });

  it('keeps courses apart whose codes would become the same', () => {
    const courses =
      'sourcedId,title,courseCode\nc1,One,ΑΒΓ\nc2,Two,ΔΕΖ\nc3,Three,A/1\nc4,Four,A 1\nc5,Five,A/1\n';
    expect(read(foreign({ courses })).courses.map((c) => [c.title, c.code])).toEqual([
      ['One', 'course'],
      ['Two', 'course-2'],
      ['Three', 'A-1'],
      ['Four', 'A-1-2'],
      ['Five', 'A-1'],
    ]);
  });

  it.each([
    ['MATH 101', 'MATH-101'],
    ['Größe', 'Gro-e'],
    ['---', 'course'],
    ['Ω', 'course'],
    ['A', 'A'],
    ['x'.repeat(60), 'x'.repeat(20)],
  ])('gives the code %s as %s', (said, code) => {
    const courses = `sourcedId,title,courseCode\nc1,T,${said}\n`;
    const [course] = read(foreign({ courses })).courses;
    expect(course!.code).toMatch(/^[A-Za-z0-9][A-Za-z0-9-]{0,19}$/);
    expect(course!.code).toBe(code);
  });
});
