import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { runs } from '../../../tests/support/runs';
import { VOIDED } from '@/core/formats/xapi/verbs';
import { importFiles, previewImport } from './intake';
import { staged } from '../staging/staging';

const small = withSmallCourse();
const me = () => small.course.instructor;

/** Instants as sources write them: with every form of zone and fraction, of any year, and such as are none. */
const instant = fc.constantFrom(
  '2026-10-20T10:00:00Z',
  '2026-10-20T10:00Z',
  '2026-10-20T10:00:00+05',
  '2026-10-20T10:00:00,5Z',
  '2026-10-20T10:00:00.123456789-0330',
  '2026-10-20 10:00:00+01:00',
  '2026-12-20T10:00:00Z',
  '1850-01-01T00:00:00Z',
  '2026-10-20T10:00:00-00:00',
  '2026-02-30T10:00:00Z',
  '2026-10-20T10:00:00',
  'yesterday',
);
const student = fc.constantFrom('s1', 's2', 'n1', 'n2', 'n3', 'lucja@students.example', 'nobody', '');
const activity = fc.constantFrom('r1', 'w1', 'q1', 'new-1', 'none', '');
const number = fc.constantFrom('', '5', '7.5', '-1', '99', 'x');
const table = (header: string, row: fc.Arbitrary<readonly string[]>) =>
  fc
    .array(row, { minLength: 1, maxLength: 12 })
    .map((rows) => [header, ...rows.map((r) => r.join(','))].join('\n'));

const id = fc.integer({ min: 0, max: 30 });
const roster = table(
  'student_id,given_name,family_name,email',
  fc.tuple(
    fc.constantFrom('n1', 'n2', 's1', ''),
    fc.constantFrom('Nell', 'Łucja'),
    fc.constantFrom('Wójcik', 'Ash'),
    fc.constantFrom('', 'n@x.example', 'lucja@students.example'),
  ),
);
const activities = table(
  'activity_id,title,kind,category,points,due',
  fc.tuple(
    fc.constantFrom('new-1', 'new-2', 'w1', ''),
    fc.constantFrom('New', 'Chart exercise 1'),
    fc.constantFrom('quiz', 'page', 'dance'),
    fc.constantFrom('', 'Quizzes'),
    number,
    instant,
  ),
);
const events = table(
  'event_id,student_id,at,kind,activity_id,duration_s',
  fc.tuple(
    id.map((n) => `e${n}`),
    student,
    instant,
    fc.constantFrom('view', 'login', 'dance'),
    activity,
    number,
  ),
);
const gradebook = table(
  'student_id,activity_id,submitted,graded,returned,points,excused',
  fc.tuple(student, activity, instant, instant, instant, number, fc.constantFrom('no', 'yes')),
);
const uuid = id.map((n) => `00000000-0000-4000-8000-0000000000${String(n).padStart(2, '0')}`);
const said = fc
  .array(
    fc.record({
      id: fc.option(uuid, { nil: undefined }),
      actor: fc.oneof(
        student.map((name) => ({ account: { homePage: 'https://x.example', name } })),
        fc.constant({ objectType: 'Group', member: [{ mbox: 'mailto:a@x.example' }] }),
      ),
      statement: fc.oneof(
        {
          weight: 4,
          arbitrary: activity.map((a) => ({
            verb: { id: 'http://adlnet.gov/expapi/verbs/passed' },
            object: { id: `https://x.example/${a}` },
          })),
        },
        {
          weight: 1,
          arbitrary: uuid.map((u) => ({
            verb: { id: VOIDED },
            object: { objectType: 'StatementRef', id: u },
          })),
        },
      ),
      timestamp: fc.option(instant, { nil: undefined }),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map((list) => list.map(({ statement, ...rest }) => JSON.stringify({ ...rest, ...statement })).join('\n'));
const maybe = (name: string, text: fc.Arbitrary<string>) =>
  fc.option(
    text.map((t) => file(name, t)),
    { nil: null },
  );

describe('what a preview says', () => {
  it('is what the import does, whatever the files hold', async () => {
    const upload = fc
      .tuple(
        maybe('roster.csv', roster),
        maybe('activities.csv', activities),
        maybe('events.csv', events),
        maybe('gradebook.csv', gradebook),
        maybe('said.json', said),
      )
      .map((files) => files.filter((f) => f !== null))
      .filter((files) => files.length > 0);
    await fc.assert(
      fc.asyncProperty(upload, async (files) => {
        const preview = await previewImport(me(), 'NAV', files);
        if (preview.id == null) return expect(preview.faults.length).toBeGreaterThan(0);
        const { uploads, told } = await staged(preview.id, small.course.courseId, me().userId);
        const done = await importFiles(
          small.test.db,
          small.course.courseId,
          me().userId,
          uploads,
          Date.parse(NOW),
          {
            told,
          },
        );
        expect(done).toEqual(preview.files.map((f) => f.counts));
        // Again it brings nothing.
        const again = await previewImport(me(), 'NAV', files);
        for (const { counts } of again.files)
          expect([counts.file, counts.added, counts.waiting]).toEqual([counts.file, 0, 0]);
      }),
      { numRuns: runs(40) },
    );
  });
});
