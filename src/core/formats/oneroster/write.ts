import type { Meeting, MeetingException } from '../../calendar/meetings';
import type { Term } from '../../calendar/term';
import { addDays, localDate } from '../../calendar/zone';
import type { Instant } from '../../units';
import { writeCsv } from '../csv';
import type { ActivityRecord, GradebookRecord, RosterRecord } from '../../course/records';
import { formatInstant } from '../../calendar/instant';
import { ONEROSTER_FILES, UNNAMED_ORG, type OneRosterFile } from './tables';

/** A course as it is handed out. */
export interface WholeCourse {
  readonly code: string;
  readonly title: string;
  readonly termName: string;
  readonly term: Term;
  readonly missing: 'zero' | 'ignore';
  /** Names of the units of the institution that it belongs to, from the top down. */
  readonly units: readonly string[];
  readonly sections: readonly {
    readonly name: string;
    readonly meetings: readonly Meeting[];
    readonly exceptions: readonly MeetingException[];
  }[];
  readonly staff: readonly { readonly id: string; readonly name: string; readonly email: string }[];
  readonly activities: readonly ActivityRecord[];
  readonly roster: readonly RosterRecord[];
  readonly gradebook: readonly GradebookRecord[];
}

type Cell = string | number | null;
const instant = (at: Instant | null): string => (at == null ? '' : formatInstant(at));

/** The units of a course as orgs, the top first: a school, and departments in it (OneRoster 1.1, type of an org). */
function orgRows(units: readonly string[]) {
  if (units.length === 0)
    return [{ id: 'org', name: 'Institution', type: 'school', identifier: UNNAMED_ORG, parent: null }];
  return units.map((name, i) => ({
    id: `org-${i + 1}`,
    name,
    type: i === 0 ? 'school' : 'department',
    identifier: null,
    parent: i === 0 ? null : `org-${i}`,
  }));
}

/**
 * Writes a course as the files of a OneRoster 1.1 CSV bulk export. What the standard has no column for stands in
 * `metadata.` columns, so that it comes back whole. Students in no section, and works, belong to one class of the
 * whole course.
 *
 * @param now `dateLastModified` of everything
 */
export function writeOneRoster(course: WholeCourse, now: Instant): Record<string, string> {
  const { code, term } = course;
  const modified = formatInstant(now);
  const [session, courseId, whole] = [`${code}-term`, code, `${code}-whole`];
  const orgs = orgRows(course.units);
  const [org, ownOrg] = [orgs[0]!.id, orgs.at(-1)!.id];
  const classOf = (section: string | null) => (section == null ? whole : `${code}-${section}`);
  const base = (id: string, status = 'active'): Cell[] => [id, status, modified];
  const last = addDays(term.start, term.weeks * 7 - 1);
  const categories = new Map(
    course.activities.flatMap((a) => (a.category == null ? [] : [[a.category, a] as const])),
  );
  const categoryId = (name: string) => `${code}-category-${name}`;
  const klass = (id: string, title: string, type: string, meetings: unknown, exceptions: unknown): Cell[] => [
    ...base(id),
    title,
    null,
    courseId,
    id,
    type,
    null,
    org,
    session,
    null,
    null,
    null,
    JSON.stringify(meetings),
    JSON.stringify(exceptions),
  ];
  const user = (id: string, role: string, given: string, family: string, email: string | null): Cell[] => [
    ...base(id),
    'true',
    org,
    role,
    email ?? id,
    null,
    given,
    family,
    null,
    id,
    email,
    null,
    null,
    null,
    null,
    null,
  ];
  const enrolled = (id: string, section: string | null, role: string, more: Cell[]): Cell[] => [
    ...base(`${code}-${role}-${id}`),
    classOf(section),
    org,
    id,
    role,
    role === 'teacher' ? 'true' : 'false',
    ...more,
  ];
  const rows: Record<OneRosterFile, Cell[][]> = {
    orgs: orgs.map((o) => [...base(o.id), o.name, o.type, o.identifier, o.parent]),
    academicSessions: [
      [
        ...base(session),
        course.termName,
        'term',
        term.start,
        last,
        null,
        last.slice(0, 4),
        term.zone,
        term.weeks,
        JSON.stringify(term.breaks),
      ],
    ],
    courses: [[...base(courseId), session, course.title, code, null, ownOrg, null, null, course.missing]],
    classes: [
      klass(whole, course.title, 'scheduled', [], []),
      ...course.sections.map((s) => klass(classOf(s.name), s.name, 'scheduled', s.meetings, s.exceptions)),
    ],
    users: [
      ...course.staff.map((s) => {
        const [given, ...family] = s.name.split(' ');
        return user(s.id, 'teacher', given ?? s.name, family.join(' ') || s.name, s.email);
      }),
      ...course.roster.map((r) => user(r.id, 'student', r.given, r.family, r.email)),
    ],
    enrollments: [
      ...course.staff.map((s) => enrolled(s.id, null, 'teacher', [null, null, null])),
      ...course.roster.map((r) => enrolled(r.id, r.section, 'student', [r.joined, r.left, r.status])),
    ],
    categories: [...categories].map(([name, a]) => [
      ...base(categoryId(name)),
      name,
      a.categoryWeight,
      a.dropLowest,
    ]),
    lineItems: course.activities.map((a, i) => [
      ...base(a.id),
      a.title,
      null,
      a.opens == null ? term.start : localDate(a.opens, term.zone),
      a.due == null ? null : localDate(a.due, term.zone),
      whole,
      a.category == null ? null : categoryId(a.category),
      session,
      a.points == null ? null : 0,
      a.points,
      a.kind,
      instant(a.opens),
      instant(a.due),
      instant(a.closes),
      a.minutes,
      a.attempts,
      a.outcomes.join(' '),
      i,
    ]),
    results: course.gradebook.map((g) => [
      ...base(`${g.student}-${g.activity}`),
      g.activity,
      g.student,
      statusOf(g),
      g.points,
      localDate(g.graded ?? g.submitted ?? now, term.zone),
      null,
      instant(g.submitted),
      instant(g.graded),
      instant(g.returned),
      instant(g.due),
      g.extra,
    ]),
  };
  const files = Object.entries(rows) as [OneRosterFile, Cell[][]][];
  const absent = ['academicSessions', 'classResources', 'courseResources', 'demographics', 'resources'];
  const manifest: Cell[][] = [
    ['manifest.version', '1.0'],
    ['oneroster.version', '1.1'],
    ...files.map(([name]) => [`file.${name}`, 'bulk']),
    ...absent.filter((n) => !(n in rows)).map((n) => [`file.${n}`, 'absent']),
    ['source.systemName', 'Ready Lantern'],
    ['source.systemCode', code],
  ];
  return {
    'manifest.csv': writeCsv(['propertyName', 'value'], manifest),
    ...Object.fromEntries(files.map(([name, r]) => [`${name}.csv`, writeCsv(ONEROSTER_FILES[name], r)])),
  };
}

/** The score status of a cell (OneRoster 1.1 CSV, results: exempt, fully graded, not submitted, submitted). */
function statusOf(g: GradebookRecord): string {
  if (g.excused) return 'exempt';
  if (g.points != null) return 'fully graded';
  return g.submitted == null ? 'not submitted' : 'submitted';
}
