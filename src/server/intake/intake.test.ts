import { count, eq, sql } from 'drizzle-orm';
import { parse as strictParse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { withSmallCourse, file, FILES, NOW } from '../../../tests/support/course';
import { ended } from '../../../tests/support/job';
import type { FileCounts } from '@/core/views/intake';
import {
  courses,
  dayTotals,
  enrolments,
  events,
  flags,
  imports,
  measures,
  persons,
  scores,
  sessions,
  studentWeeks,
} from '@/data/schema';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel } from '@/data/queries/courseModel';
import { commitImport, importFiles, pastImports, previewImport } from './intake';
import { rejectedCsv } from './rejected';

const small = withSmallCourse();

const at = Date.parse(NOW);
const into = (...files: [string, string][]) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    small.course.instructor.userId,
    files.map(([name, text]) => file(name, text)),
    at,
  );
/** Everything that an import can touch, for comparing before and after. */
async function everything() {
  const { orm } = small.test.db;
  const by = <T extends object>(rows: T[]) => rows.map((r) => JSON.stringify(r)).sort();
  return {
    events: by(await orm.select().from(events)),
    scores: by(await orm.select().from(scores)),
    people: by(await orm.select().from(persons)),
    sessions: by(await orm.select().from(sessions)),
    days: by(await orm.select().from(dayTotals)),
    weeks: by(await orm.select().from(studentWeeks)),
    measures: by(await orm.select().from(measures)),
    flags: by((await orm.select().from(flags)).map((f) => ({ ...f, id: 0 }))),
  };
}

describe('importing', () => {
  it('the same files again changes nothing', async () => {
    const before = await everything();
    const counts = await into(...Object.entries(FILES).map(([n, t]): [string, string] => [`${n}.csv`, t]));
    expect(counts.map((c) => [c.kind, c.added, c.changed, c.rejected])).toEqual([
      ['outcomes', 0, 0, 0],
      ['activities', 0, 0, 0],
      ['roster', 0, 0, 0],
      ['gradebook', 0, 0, 0],
      ['events', 0, 0, 0],
    ]);
    expect(counts.every((c) => c.unchanged > 0)).toBe(true);
    expect(await everything()).toEqual(before);
  });

  it('says of each bad row what is wrong, and takes the good ones', async () => {
    const [counts] = await into([
      'more.csv',
      [
        '\ufeffevent_id;student_id;at;kind;activity_id;duration_s\r',
        'n1;s1;2026-10-27T10:00:00Z;view;r1;12,5\r',
        'n2;nobody;2026-10-27T10:00:00Z;view;;\r',
        'n3;s1;2026-10-27T10:00:00Z;view;x9;\r',
        'n4;s1;2026-10-27T10:00:00;view;;\r',
        's1-0-0;s1;2026-10-27T10:00:00Z;view;;\r',
        'n1;s1;2026-10-27T11:00:00Z;view;;\r',
        'n7;s1;2026-12-27T10:00:00Z;view;;\r',
      ].join('\n'),
    ]);
    expect(counts).toMatchObject({ added: 1, rejected: 5, waiting: 1 });
    const [stored] = await small.test.db.orm.select().from(events).where(eq(events.eventId, 'n1'));
    expect(stored).toMatchObject({ durationS: 12.5, kind: 'view' });
  });

  it('previews row by row, changes nothing, and hands out the rejected', async () => {
    const before = await everything();
    const text =
      'student_id,activity_id,submitted,graded,returned,points,excused\ns1,w1,,,,20.5,no\ns9,w1,,,,1,no\ns1,q2,,,,4,no\ns1,r1,,,,4,no\n';
    const preview = await previewImport(small.course.instructor, small.course.code, [
      file('marks.csv', text),
      file('empty.csv', ''),
      {
        name: 'latin.csv',
        bytes: Buffer.from('student_id,given_name,family_name\ns1,J\u00f6rg,X\n', 'latin1'),
      },
      file('odd.csv', 'a,b\n1,2\n'),
      file('short.csv', 'event_id,student_id,kind\n'),
    ]);
    expect(preview.faults.map((f) => `${f.name}: ${f.reason}`)).toEqual([
      'empty.csv: the file is empty',
      expect.stringMatching(/^latin\.csv: line 2: the file is not UTF-8/),
    ]);
    expect(preview.foreign.map((f) => [f.name, f.read, f.reason])).toEqual([
      ['odd.csv', false, null],
      ['short.csv', false, expect.stringMatching(/^line 1: the column “at” is missing/)],
    ]);
    const [marks] = preview.files;
    expect(marks!.rejected.map((r) => `${r.line} ${r.field}: ${r.reason}`)).toEqual([
      '2 points: 20.5 is above the maximum of 20',
      '5 points: given for an activity without points',
    ]);
    expect(marks!.counts).toMatchObject({ added: 1, rejected: 2, waiting: 1 });
    expect(await everything()).toEqual(before);

    const csv = await rejectedCsv(small.course.instructor, small.course.code, preview.id!, 'gradebook');
    const back = strictParse(csv, { columns: true }) as Record<string, string>[];
    expect(back[0]).toMatchObject({ line: '2', field: 'points', student_id: 's1', points: '20.5' });
    expect(back).toHaveLength(2);

    const job = await commitImport(small.course.instructor, small.course.code, preview.id!);
    const [counts] = await ended<FileCounts[]>(small.course.instructor.userId, job);
    expect(counts).toMatchObject({
      added: 1,
      rejected: 2,
      waiting: 1,
    });
    expect((await pastImports(small.course.instructor, small.course.code))[0]).toMatchObject({
      by: 'Ines Calloway',
    });
    await expect(commitImport(small.course.stranger, small.course.code, preview.id!)).rejects.toThrow(
      'no such course',
    );
    await expect(
      commitImport(small.course.instructor, small.course.code, '../../../../etc/passwd'),
    ).rejects.toThrow('choose the files again');
  });

  it('changes what changed: a grade corrected, a student moved', async () => {
    const [book] = await into([
      'g.csv',
      FILES.gradebook.replace('2026-10-05T12:00:00Z,17,no', '2026-10-05T12:00:00Z,19,no'),
    ]);
    expect(book).toMatchObject({ added: 0, changed: 1, rejected: 0 });
    const [roster] = await into([
      'r.csv',
      FILES.roster.replace('bo@students.example,Online', 'bo@students.example,Weekend'),
    ]);
    expect(roster).toMatchObject({ changed: 1 });
    await into(['r.csv', FILES.roster], ['g.csv', FILES.gradebook]);
  });

  it('refuses a category with two weights, and a prerequisite that does not exist', async () => {
    const [a] = await into([
      'a.csv',
      'activity_id,title,kind,category,category_weight,points,due\nz1,Z,quiz,New,20,5,\nz2,Z,quiz,New,30,5,\nz3,Z,quiz,New,20,5,\n',
    ]);
    expect(a).toMatchObject({ added: 2, rejected: 1 });
    const [o] = await into(['o.csv', 'outcome_id,title,prerequisites\nnew,New,nowhere\nself,Self,self\n']);
    expect(o).toMatchObject({ added: 0, rejected: 2 });
  });

  it('keeps nothing if it fails in the middle', async () => {
    const before = await everything();
    const [{ n: importsBefore }] = (await small.test.db.orm.select({ n: count() }).from(imports)) as [
      { n: number },
    ];
    // A constraint that only this import breaks, at its last step.
    await small.test.db.orm.execute(sql`alter table imports add constraint stop check (id < 0) not valid`);
    await expect(
      into(['e.csv', 'event_id,student_id,at,kind\nlost,s1,2026-10-27T10:00:00Z,view\n']),
    ).rejects.toThrow();
    await small.test.db.orm.execute(sql`alter table imports drop constraint stop`);
    expect(await everything()).toEqual(before);
    const [{ n }] = (await small.test.db.orm.select({ n: count() }).from(imports)) as [{ n: number }];
    expect(n).toBe(importsBefore);
  });

  it('does not rename somebody whom only another instructor’s course knows', async () => {
    const [other] = await small.test.db.orm.select().from(courses).where(eq(courses.code, 'OTHER'));
    const mine = [
      file(
        'r.csv',
        'student_id,given_name,family_name,email\ns1,Somebody,Else,x@y.example\ns77,New,Person,\n',
      ),
    ];
    const [counts] = await importFiles(small.test.db, other!.id, small.course.stranger.userId, mine, at);
    expect(counts).toMatchObject({ added: 1, rejected: 1 });
    const [s1] = await small.test.db.orm.select().from(persons).where(eq(persons.externalId, 's1'));
    expect(s1!.given).toBe('Łucja');
  });
});

describe('derived rows', () => {
  it('are those that an independent engine finds: sessions by window functions of the database', async () => {
    const found = await small.test.db.orm.execute<{
      enrolment_id: number;
      starts: number;
      inner_seconds: number;
    }>(sql`
      with gaps as (
        select enrolment_id, kind, at, lag(at) over (partition by enrolment_id order by at, (kind <> 'login')) as before
        from events where course_id = ${small.course.courseId}
      )
      select enrolment_id,
        count(*) filter (where before is null or kind = 'login' or at - before > interval '30 minutes')::int as starts,
        coalesce(sum(extract(epoch from at - before)) filter (where kind <> 'login' and at - before <= interval '30 minutes'), 0)::float8 as inner_seconds
      from gaps group by enrolment_id order by enrolment_id`);
    const rows = (
      found as unknown as { rows: { enrolment_id: number; starts: number; inner_seconds: number }[] }
    ).rows;
    const own = await small.test.db.orm.select().from(sessions);
    for (const row of rows) {
      const mine = own.filter((s) => s.enrolmentId === row.enrolment_id);
      expect(mine).toHaveLength(row.starts);
      // Ours adds a typical dwell to the last event of each; without it the totals are the same.
      const spans = mine.reduce((t, s) => t + s.seconds, 0);
      expect(spans).toBeGreaterThanOrEqual(row.inner_seconds - 0.001);
      expect(spans).toBeLessThanOrEqual(row.inner_seconds + mine.length * 1800);
    }
    expect(rows.length).toBe(4);
  });

  it('are the same after a full rebuild', async () => {
    const before = await everything();
    await small.test.db.transaction(async (tx) =>
      deriveActivity(tx, await loadCourseModel(tx, small.course.courseId), null),
    );
    const after = await everything();
    expect(after.sessions).toEqual(before.sessions);
    expect(after.days).toEqual(before.days);
  });

  it('know time in class from time outside', async () => {
    // s1 sits at 17:00 UTC on even days from Monday 28 September; in Lisbon summer time that is 18:00, when the
    // Monday section meets.
    const { enrolmentId } = await small.course.student('s1');
    const days = await small.test.db.orm
      .select()
      .from(dayTotals)
      .where(eq(dayTotals.enrolmentId, enrolmentId));
    const monday = days.find((d) => d.day === '2026-09-28')!;
    const wednesday = days.find((d) => d.day === '2026-09-30')!;
    expect(monday.inClassSeconds).toBeCloseTo(monday.seconds, 6);
    expect(monday.seconds).toBeGreaterThan(1000);
    expect(wednesday.inClassSeconds).toBe(0);
    // After the change of clocks 17:00 UTC is 17:00 in Lisbon, an hour before the meeting.
    const after = days.find((d) => d.day === '2026-10-26')!;
    expect(after.seconds).toBeGreaterThan(1000);
    expect(after.inClassSeconds).toBe(0);
  });

  it('leave out who has left', async () => {
    const [away] = await small.test.db.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(eq(persons.externalId, 's5'));
    expect(await small.test.db.orm.select().from(measures).where(eq(measures.enrolmentId, away!.id))).toEqual(
      [],
    );
  });
});
