import type { MasteryLevel } from '../outcomes/mastery';
import { isResource, type ActivityKind, type EnrolmentStatus } from '../course/kinds';

/** What a course looks like to the check-up. Ids are those of the caller. */
export interface CheckedCourse {
  readonly sections: readonly { readonly id: number; readonly name: string; readonly meetings: number }[];
  readonly categories: readonly { readonly id: number; readonly name: string; readonly weight: number }[];
  readonly works: readonly {
    readonly id: number;
    readonly title: string;
    readonly kind: ActivityKind;
    readonly due: number | null;
    readonly points: number | null;
    readonly categoryId: number | null;
    readonly outcomes: number;
  }[];
  readonly outcomes: readonly {
    readonly id: number;
    readonly title: string;
    readonly covered: boolean;
    /** Levels of the active students; none while there is no evidence of anybody. */
    readonly levels: readonly MasteryLevel[];
  }[];
  readonly students: readonly {
    readonly id: number;
    readonly name: string;
    readonly email: string | null;
    readonly status: EnrolmentStatus;
    readonly sectionId: number | null;
    readonly hasEvents: boolean;
  }[];
  readonly waitingRows: number;
}

/** More than this share of a class at one level of an outcome: it tells nobody apart. */
const SAME_LABEL_SHARE = 0.85;
/** Fewer students than this may well all be alike. */
const LEAST_LABELLED = 5;

/** Something that will mislead, and where it is mended. */
export interface Finding {
  readonly what:
    | 'no due date'
    | 'weights'
    | 'empty category'
    | 'no category'
    | 'outcome not covered'
    | 'outcome tells nobody apart'
    | 'assignment without outcome'
    | 'section without meetings'
    | 'no section'
    | 'no events'
    | 'twice on the roster'
    | 'no address'
    | 'waiting rows';
  readonly sentence: string;
  readonly why: string;
  readonly names: readonly string[];
  readonly part: 'work' | 'outcomes' | 'sections' | 'students' | 'import';
}

const n = (count: number, one: string, many = `${one}s`) => `${count} ${count === 1 ? one : many}`;

/** What in the set-up of a course will make its figures mislead, the weightiest first. */
export function checkUp(course: CheckedCourse): Finding[] {
  const findings: Finding[] = [];
  const add = (
    what: Finding['what'],
    part: Finding['part'],
    names: readonly string[],
    sentence: string,
    why: string,
  ) => {
    if (names.length > 0) findings.push({ what, part, names, sentence, why });
  };
  const works = course.works.filter((w) => !isResource(w.kind));
  const titles = (list: readonly { readonly title: string }[]) => list.map((w) => w.title);
  const undated = works.filter((w) => w.due == null);
  add(
    'no due date',
    'work',
    titles(undated),
    `${n(undated.length, 'assignment has', 'assignments have')} no due date`,
    'It is never expected of anybody, so nobody is behind for it.',
  );
  const used = new Set(course.works.map((w) => w.categoryId));
  const sum = course.categories.filter((c) => used.has(c.id)).reduce((s, c) => s + c.weight, 0);
  if (course.categories.length > 0 && Math.abs(sum - 100) > 0.005) {
    add(
      'weights',
      'work',
      course.categories.filter((c) => used.has(c.id)).map((c) => `${c.name} ${c.weight} %`),
      `The weights add up to ${Math.round(sum * 100) / 100} %`,
      'They are taken in proportion to each other, which may not be what was meant.',
    );
  }
  const empty = course.categories.filter((c) => !used.has(c.id));
  add(
    'empty category',
    'work',
    empty.map((c) => c.name),
    `${n(empty.length, 'category holds', 'categories hold')} no assignment`,
    'Its weight counts for nothing.',
  );
  const loose = works.filter((w) => w.points != null && w.categoryId == null);
  add(
    'no category',
    'work',
    titles(loose),
    `${n(loose.length, 'assignment has', 'assignments have')} points but no category`,
    'It counts for no grade.',
  );
  const uncovered = course.outcomes.filter((o) => !o.covered);
  add(
    'outcome not covered',
    'outcomes',
    titles(uncovered),
    `${n(uncovered.length, 'outcome is', 'outcomes are')} covered by no assignment`,
    'Nothing can show whether it was learnt.',
  );
  const alike = course.outcomes.flatMap(({ title, levels }) => {
    const [level, n] = mostCommon(levels);
    const many = n > SAME_LABEL_SHARE * levels.length && levels.length >= LEAST_LABELLED;
    return many ? [`${title}: ${n} of ${levels.length} “${level}”`] : [];
  });
  add(
    'outcome tells nobody apart',
    'outcomes',
    alike,
    `${n(alike.length, 'outcome tells', 'outcomes tell')} nobody apart`,
    `More than ${100 * SAME_LABEL_SHARE} % of the students have the same level. More assignments on it, or harder or easier ones, would say more.`,
  );
  const aimless = course.outcomes.length > 0 ? works.filter((w) => w.outcomes === 0) : [];
  add(
    'assignment without outcome',
    'work',
    titles(aimless),
    `${n(aimless.length, 'assignment covers', 'assignments cover')} no outcome`,
    'It says nothing about what was learnt.',
  );
  const silent = course.sections.filter((s) => s.meetings === 0);
  add(
    'section without meetings',
    'sections',
    silent.map((s) => s.name),
    `${n(silent.length, 'section has', 'sections have')} no meetings`,
    'All its time counts as outside class. Right for an online section.',
  );
  const active = course.students.filter((s) => s.status === 'active');
  const adrift = course.sections.length > 0 ? active.filter((s) => s.sectionId == null) : [];
  add(
    'no section',
    'students',
    adrift.map((s) => s.name),
    `${n(adrift.length, 'student is', 'students are')} in no section`,
    'None of their time counts as in class.',
  );
  const unseen = active.filter((s) => !s.hasEvents);
  add(
    'no events',
    'students',
    unseen.map((s) => s.name),
    `${n(unseen.length, 'student has', 'students have')} no event at all`,
    'They may never have come, or the source knows them by another name.',
  );
  const twins = twice(active);
  add(
    'twice on the roster',
    'students',
    twins,
    `${n(twins.length, 'person seems', 'people seem')} to be on the roster twice`,
    'Under two ids, with the same name or address, perhaps in two sections; their records are split.',
  );
  const unreachable = active.filter((s) => s.email == null);
  add(
    'no address',
    'students',
    unreachable.map((s) => s.name),
    `${n(unreachable.length, 'student has', 'students have')} no e-mail address`,
    'Messages reach them here only.',
  );
  if (course.waitingRows > 0)
    findings.push({
      what: 'waiting rows',
      part: 'import',
      names: [],
      sentence: `${n(course.waitingRows, 'row waits', 'rows wait')} for somebody to say whose they are`,
      why: 'Until then they count for nobody.',
    });
  return findings;
}

/** The value that is there most often, and how often. */
function mostCommon<T>(values: readonly T[]): [T | null, number] {
  const counts = new Map<T, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].reduce<[T | null, number]>((best, next) => (next[1] > best[1] ? next : best), [null, 0]);
}

function twice(students: CheckedCourse['students']): string[] {
  const seen = new Map<string, string>();
  const found = new Set<string>();
  for (const { name, email } of students) {
    for (const key of [name.toLowerCase(), ...(email ? [email.toLowerCase()] : [])]) {
      if (seen.has(key)) found.add(name);
      seen.set(key, name);
    }
  }
  return [...found];
}
