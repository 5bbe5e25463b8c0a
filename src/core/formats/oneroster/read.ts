import { startOfDay } from '../../calendar/zone';
import { no, ok, type Result } from '../../result';
import { courseCodeFrom, freeCode } from '../../setup/courseCode';
import type { Instant } from '../../units';
import { type ActivityRecord, type GradebookRecord, type RosterRecord } from '../../course/records';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '../../course/kinds';
import { faultOf, parseCsv, plainCell, repeatedColumn } from '../csv';
import { parseDate } from '../../calendar/day';
import { parseInstant } from '../../calendar/instant';
import type { ReadTable, RejectedRow } from '../table';
import { NOTHING_KNOWN, type KnownCategory, type KnownCourse, type SourceIds } from './known';
import { UNNAMED_ORG } from './tables';

const DATE = /^\d{4}-\d\d-\d\d$/;
/** Columns of the standard that hold a day. */
const DAYS = ['startDate', 'endDate', 'beginDate', 'assignDate', 'dueDate', 'scoreDate'] as const;
const VERSIONS = ['1.1', '1.2'];

interface Row {
  readonly id: string;
  readonly deleted: boolean;
  readonly line: number;
  readonly cells: readonly string[];
  readonly get: (column: string) => string;
  readonly has: (column: string) => boolean;
}

/** A file of the package, as rows that are asked for their columns. */
function readRows(name: string, text: string, rejected: RejectedRow[]): Result<Row[]> {
  const parsed = parseCsv(text);
  if (!parsed.ok) return no(`${name}.csv: ${parsed.reason}`);
  const { header, rows } = parsed.value;
  const twice = repeatedColumn(
    header,
    header.filter((h) => h !== ''),
  );
  if (twice) return no(`${name}.csv: ${twice}`);
  const at = new Map(header.map((h, i) => [h, i]));
  const read = rows.flatMap((row): Row[] => {
    const get = (column: string) => plainCell((row.cells[at.get(column.toLowerCase()) ?? -1] ?? '').trim());
    const has = (column: string) => at.has(column.toLowerCase());
    const reject = (field: string, reason: string) => {
      rejected.push({ line: row.line, field: `${name}.csv ${field}`, reason, cells: row.cells });
      return [];
    };
    const fault = faultOf(row, header);
    if (fault) return reject(fault.field, fault.reason);
    const unreal = DAYS.find((column) => DATE.test(get(column)) && !parseDate(get(column)).ok);
    if (unreal) return reject(unreal, `“${get(unreal)}” is no day that a course can have`);
    const id = get('sourcedId');
    if (id === '') return reject('sourcedId', 'is empty');
    if (id.length > 200) return reject('sourcedId', 'is longer than 200 characters');
    const status = get('status').toLowerCase();
    if (!['', 'active', 'tobedeleted', 'inactive'].includes(status))
      return reject('status', `“${status.slice(0, 40)}” is neither active nor tobedeleted`);
    return [{ id, deleted: status === 'tobedeleted', line: row.line, cells: row.cells, get, has }];
  });
  return ok(read);
}

export interface OneRosterCourse {
  readonly id: string;
  readonly code: string;
  readonly title: string;
}

/** A OneRoster package, read but not yet cut to one course. */
export interface OneRosterPackage {
  readonly version: string;
  /** Tables that hold only what changed, or that are not there since nothing of them did. */
  readonly partial: ReadonlySet<string>;
  readonly courses: readonly OneRosterCourse[];
  readonly tables: Readonly<Record<string, readonly Row[]>>;
  readonly rejected: readonly RejectedRow[];
}

const NEEDED = ['courses', 'classes', 'users', 'enrollments'] as const;
const KNOWN = ['orgs', 'academicSessions', ...NEEDED, 'roles', 'categories', 'lineItems', 'results'] as const;

/**
 * Reads the files of a OneRoster 1.1 or 1.2 CSV package (manifest.csv says which). What is not named stays as it is, in
 * bulk as in delta; a delta may refer to what came before, and leave files out of which nothing changed.
 *
 * @param files text by file name
 */
export function readOneRoster(files: ReadonlyMap<string, string>): Result<OneRosterPackage> {
  const manifest = files.get('manifest.csv');
  if (manifest === undefined) return no('there is no manifest.csv, so this is no OneRoster package');
  const parsed = parseCsv(manifest);
  if (!parsed.ok) return no(`manifest.csv: ${parsed.reason}`);
  const said = new Map(parsed.value.rows.map((r) => [r.cells[0]?.trim(), r.cells[1]?.trim() ?? '']));
  const version = said.get('oneroster.version') ?? '';
  if (!VERSIONS.includes(version))
    return no(`manifest.csv: oneroster.version is “${version.slice(0, 20)}”; 1.1 and 1.2 can be read`);
  const isDelta = KNOWN.some((n) => said.get(`file.${n}`) === 'delta');
  for (const name of NEEDED) {
    if (!isDelta && !files.has(`${name}.csv`)) return no(`${name}.csv is missing`);
  }
  const partial = new Set<string>(isDelta ? KNOWN.filter((n) => said.get(`file.${n}`) !== 'bulk') : []);
  const promised = KNOWN.find(
    (n) => ['bulk', 'delta'].includes(said.get(`file.${n}`) ?? '') && !files.has(`${n}.csv`),
  );
  if (promised) return no(`${promised}.csv is named in the manifest but is not there`);
  const rejected: RejectedRow[] = [];
  const tables: Record<string, Row[]> = {};
  for (const name of KNOWN) {
    const text = files.get(`${name}.csv`);
    const rows = text === undefined ? ok([]) : readRows(name, text, rejected);
    if (!rows.ok) return rows;
    tables[name] = rows.value;
  }
  const courses = tables
    .courses!.filter((c) => !c.deleted)
    .map((c) => ({ id: c.id, code: c.get('courseCode') || c.id, title: c.get('title') || c.id }));
  return ok({ version, partial, courses: withPlainCodes(courses), tables, rejected });
}

/** Courses under plain codes: two that would become the same are told apart by a number, in their order. */
function withPlainCodes(courses: readonly OneRosterCourse[]): OneRosterCourse[] {
  const taken = new Set<string>();
  const said = new Map<string, string>();
  return courses.map((course) => {
    // The same code twice is the same course in two rows.
    const code = said.get(course.code) ?? freeCode(courseCodeFrom(course.code), taken);
    taken.add(code);
    said.set(course.code, code);
    return { ...course, code };
  });
}

/** What a package says of one course, as our own records. */
export interface RosteredCourse {
  readonly course: OneRosterCourse;
  readonly termName: string;
  readonly termStart: string | null;
  readonly termEnd: string | null;
  readonly zone: string | null;
  readonly weeks: number | null;
  readonly missing: string;
  /** Names of the orgs that it belongs to, from the top down; empty where none is named. */
  readonly units: readonly string[];
  readonly sources: SourceIds;
  readonly breaks: string;
  readonly sections: readonly {
    readonly name: string;
    readonly meetings: string;
    readonly exceptions: string;
  }[];
  readonly activities: ReadTable<ActivityRecord>;
  readonly roster: ReadTable<RosterRecord>;
  readonly gradebook: ReadTable<GradebookRecord>;
}

const number = (text: string): number | null =>
  /^-?\d{1,12}(\.\d{1,12})?$/.test(text) ? Number(text) : null;

/** The names of an org and of what it is part of, from the top down; an org that is its own part ends the way up. */
function unitsOf({ orgs = [] }: OneRosterPackage['tables'], id: string): string[] {
  const byId = new Map(orgs.filter((o) => !o.deleted).map((o) => [o.id, o]));
  const path: string[] = [];
  const seen = new Set<string>();
  for (let org = byId.get(id); org && !seen.has(org.id); org = byId.get(org.get('parentSourcedId'))) {
    seen.add(org.id);
    const name = org.get('name').slice(0, 120);
    if (name !== '' && org.get('identifier') !== UNNAMED_ORG) path.unshift(name);
  }
  return path;
}

/** Columns of ours for works that a package of another make says nothing of. */
function unsaidOfWorks(tables: OneRosterPackage['tables']): string[] {
  const lacks = (table: string, ...columns: string[]) =>
    (tables[table] ?? []).every((r) => !columns.some((c) => r.has(c)));
  const told: readonly (readonly [column: string, table: string, ...columns: string[]])[] = [
    ['kind', 'lineItems', 'metadata.kind'],
    ['closes', 'lineItems', 'metadata.closes'],
    ['estimated_minutes', 'lineItems', 'metadata.minutes'],
    ['attempts_allowed', 'lineItems', 'metadata.attempts'],
    ['outcomes', 'lineItems', 'metadata.outcomes'],
    ['category_weight', 'categories', 'metadata.weight', 'weight'],
    ['drop_lowest', 'categories', 'metadata.dropLowest'],
  ];
  return told.filter(([, table, ...columns]) => lacks(table, ...columns)).map(([column]) => column);
}

/** Works whose category changed in a delta that does not name them again. */
function reweighed(
  tables: OneRosterPackage['tables'],
  works: KnownCourse['works'],
  before: ReadonlyMap<string, KnownCategory>,
  after: ReadonlyMap<string, KnownCategory>,
  named: ReadonlySet<string>,
) {
  return tables.categories!.flatMap((row) => {
    const [was, now] = [before.get(row.id), after.get(row.id)];
    if (row.deleted || !was || !now) return [];
    return [...works.values()]
      .filter((work) => work.category === was.title && !named.has(work.id))
      .map((work) => ({
        line: row.line,
        cells: row.cells,
        value: { ...work, category: now.title, categoryWeight: now.weight, dropLowest: now.dropLowest },
        position: 1e9,
      }));
  });
}

/**
 * Cuts a package to one course. Times of day that the standard has not are those of the start of the day in `zone`.
 *
 * @param known what came before, for a delta
 */
export function courseOf(
  pkg: OneRosterPackage,
  course: OneRosterCourse,
  usualZone: string,
  known: KnownCourse = NOTHING_KNOWN,
): RosteredCourse {
  const { tables, partial } = pkg;
  const row = tables.courses!.find((c) => c.id === course.id);
  const classes = tables.classes!.filter((c) => c.get('courseSourcedId') === course.id);
  const session = tables.academicSessions!.find((s) =>
    classes.some((c) => c.get('termSourcedIds').split(',').includes(s.id)),
  );
  const zone = session?.get('metadata.zone') || usualZone;
  const rejected: RejectedRow[] = [...pkg.rejected];
  const reject = (file: string, r: Row, field: string, reason: string): never[] => {
    rejected.push({ line: r.line, field: `${file}.csv ${field}`, reason, cells: r.cells });
    return [];
  };
  const day = (text: string): Instant | null => (DATE.test(text) ? startOfDay(text, zone) : null);
  /** An instant of ours where it stands; else the day that the standard has. */
  const moment = (own: string, date: string, end: boolean): Instant | null => {
    const read = own === '' ? null : parseInstant(own);
    if (read?.ok) return read.value;
    const start = day(date);
    return start == null ? null : end ? start + 24 * 3_600_000 - 60_000 : start;
  };
  // A class that stands for the whole course is no section of it.
  const isSection = (id: string) => id !== `${course.id}-whole`;

  const sectionOf = new Map<string, string | null>(partial.has('classes') ? known.classes : []);
  for (const c of classes) sectionOf.set(c.id, isSection(c.id) ? c.get('title') : null);
  const isElsewhere = (id: string) =>
    tables.classes!.some((c) => c.id === id && !sectionOf.has(id)) ||
    (partial.has('classes') && known.elsewhere.classes.has(id));

  const users = new Map(tables.users!.map((u) => [u.id, u]));
  /** Who a user is; null, with the reason reported, for one without a name. */
  const named = (u: Row): Pick<RosterRecord, 'given' | 'family' | 'email'> | null => {
    const was = before(u.id);
    const given = u.get('givenName') || (was?.given ?? '');
    const family = u.get('familyName') || (was?.family ?? '');
    if (given === '' || family === '') {
      reject('users', u, given === '' ? 'givenName' : 'familyName', 'is empty');
      return null;
    }
    return { given, family, email: u.has('email') ? u.get('email') || null : (was?.email ?? null) };
  };
  const before = (id: string) => (partial.has('users') ? known.people.get(id) : undefined);
  const studentRoles = new Set(
    tables.roles!.filter((r) => r.get('role') === 'student').map((r) => r.get('userSourcedId')),
  );
  const people = new Map<string, { line: number; value: RosterRecord; cells: readonly string[] }>();
  for (const e of tables.enrollments!) {
    const klass = e.get('classSourcedId');
    const section = sectionOf.get(klass);
    if (section === undefined) {
      if (!isElsewhere(klass))
        reject('enrollments', e, 'classSourcedId', `there is no class “${klass.slice(0, 40)}”`);
      continue;
    }
    const role = e.get('role') || (studentRoles.has(e.get('userSourcedId')) ? 'student' : '');
    if (role !== 'student') continue;
    const id = e.get('userSourcedId');
    const u = users.get(id);
    const who = u ? named(u) : before(id);
    if (who === null) continue;
    if (who === undefined) {
      reject('enrollments', e, 'userSourcedId', `there is no user “${id.slice(0, 40)}”`);
      continue;
    }
    const own = ENROLMENT_STATUSES.find((s) => s === e.get('metadata.status'));
    const date = (text: string) => (DATE.test(text) ? text : null);
    // In two classes of one course: the one with a name of its own is the section.
    if (people.has(id) && section == null) continue;
    people.set(id, {
      line: e.line,
      cells: e.cells,
      value: {
        id,
        given: who.given,
        family: who.family,
        email: who.email,
        section,
        status: e.deleted || u?.deleted ? 'withdrawn' : (own ?? 'active'),
        joined: date(e.get('beginDate')),
        left: date(e.get('endDate')),
      },
    });
  }
  // Of a delta, whoever changed without a new enrolment.
  for (const u of tables.users!) {
    const was = before(u.id);
    if (!was || people.has(u.id)) continue;
    const who = named(u);
    if (who === null) continue;
    const status = u.deleted ? 'withdrawn' : was.status;
    people.set(u.id, { line: u.line, cells: u.cells, value: { ...was, ...who, status } });
  }
  const weighed = partial.has('categories') ? known.categories : NOTHING_KNOWN.categories;
  const categories = new Map(weighed);
  for (const c of tables.categories!) {
    const weight = number(c.get('metadata.weight') || c.get('weight'));
    const dropLowest = number(c.get('metadata.dropLowest'));
    const was = weighed.get(c.id);
    categories.set(c.id, {
      title: c.get('title'),
      weight: weight ?? was?.weight ?? 1,
      dropLowest: dropLowest ?? was?.dropLowest ?? 0,
    });
  }
  const items = tables
    .lineItems!.filter((l) => sectionOf.has(l.get('classSourcedId')))
    .flatMap((l) => {
      if (l.deleted)
        return known.works.has(l.id)
          ? reject(
              'lineItems',
              l,
              'status',
              'is to be deleted; take it out in the setup, where its scores are',
            )
          : [];
      const category = categories.get(l.get('categorySourcedId'));
      const points = number(l.get('resultValueMax'));
      if (l.get('resultValueMax') !== '' && points == null)
        return reject('lineItems', l, 'resultValueMax', 'is not a number');
      const title = l.get('title');
      if (title === '') return reject('lineItems', l, 'title', 'is empty');
      const kind = ACTIVITY_KINDS.find((k) => k === l.get('metadata.kind')) ?? 'assignment';
      const value: ActivityRecord = {
        id: l.id,
        title,
        kind,
        category: category?.title ?? (points == null ? null : 'Assignments'),
        categoryWeight: category?.weight ?? (points == null ? null : 1),
        dropLowest: category?.dropLowest ?? 0,
        points,
        opens: moment(l.get('metadata.opens'), l.get('metadata.kind') ? '' : l.get('assignDate'), false),
        due: moment(l.get('metadata.due'), l.get('metadata.kind') ? '' : l.get('dueDate'), true),
        closes: moment(l.get('metadata.closes'), '', true),
        minutes: number(l.get('metadata.minutes')),
        attempts: number(l.get('metadata.attempts')),
        outcomes: l.get('metadata.outcomes').split(/\s+/).filter(Boolean),
      };
      return [{ line: l.line, cells: l.cells, value, position: number(l.get('metadata.position')) ?? 1e9 }];
    })
    .sort((a, b) => a.position - b.position);
  const itemIds = new Set(items.map((i) => i.value.id));
  items.push(...reweighed(tables, known.works, weighed, categories, itemIds));
  const isWork = (id: string) => itemIds.has(id) || (partial.has('lineItems') && known.works.has(id));
  const results = tables.results!.flatMap((r) => {
    const item = r.get('lineItemSourcedId');
    if (!isWork(item)) {
      const elsewhere =
        tables.lineItems!.some((l) => l.id === item) ||
        (partial.has('lineItems') && known.elsewhere.works.has(item));
      return elsewhere
        ? []
        : reject('results', r, 'lineItemSourcedId', `there is no line item “${item.slice(0, 40)}”`);
    }
    const score = number(r.get('score'));
    if (r.get('score') !== '' && score == null) return reject('results', r, 'score', 'is not a number');
    const excused = r.get('scoreStatus') === 'exempt';
    const own = ['metadata.submitted', 'metadata.graded', 'metadata.returned'].some((m) => r.get(m) !== '');
    const date = own || r.get('scoreStatus') === 'not submitted' ? '' : r.get('scoreDate');
    const at = (column: string) => moment(r.get(column), r.deleted || excused ? '' : date, false);
    const graded = score == null ? '' : date;
    const value: GradebookRecord = {
      student: r.get('studentSourcedId'),
      activity: item,
      submitted: at('metadata.submitted'),
      graded: moment(r.get('metadata.graded'), graded, false),
      returned: moment(r.get('metadata.returned'), graded, false),
      points: r.deleted ? null : score,
      excused: r.deleted ? false : excused,
      due: moment(r.get('metadata.ownDue'), '', false),
      extra: Math.max(0, Math.round(number(r.get('metadata.extraAttempts')) ?? 0)),
    };
    return [{ line: r.line, cells: r.cells, value }];
  });
  return {
    course,
    termName: session?.get('title') || 'Term',
    termStart: session && DATE.test(session.get('startDate')) ? session.get('startDate') : null,
    termEnd: session && DATE.test(session.get('endDate')) ? session.get('endDate') : null,
    zone: session?.get('metadata.zone') || null,
    weeks: session ? number(session.get('metadata.weeks')) : null,
    missing: row?.get('metadata.missing') ?? '',
    sources: {
      course: course.id,
      classes: sectionOf,
      categories: new Map([...categories].map(([id, c]) => [id, c.title])),
    },
    units: unitsOf(tables, row?.get('orgSourcedId') || (classes[0]?.get('schoolSourcedId') ?? '')),
    breaks: session?.get('metadata.breaks') ?? '',
    sections: classes
      .filter((c) => isSection(c.id) && !c.deleted)
      .map((c) => ({
        name: c.get('title') || c.id,
        meetings: c.get('metadata.meetings'),
        exceptions: c.get('metadata.exceptions'),
      })),
    activities: { header: [], rows: items, rejected, absent: unsaidOfWorks(tables), assembled: true },
    roster: { header: [], rows: [...people.values()], rejected: [], absent: [], assembled: true },
    gradebook: {
      header: [],
      assembled: true,
      rows: results,
      rejected: [],
      // Other systems do not know of what was granted here.
      absent: tables.results!.some((r) => r.has('metadata.ownDue')) ? [] : ['own_due', 'extra_attempts'],
    },
  };
}
