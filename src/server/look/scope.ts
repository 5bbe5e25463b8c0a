import { and, asc, eq } from 'drizzle-orm';
import * as yup from 'yup';
import { parseWindow, resolveWindow } from '@/core/calendar/window';
import { localDate, minuteOfDay } from '@/core/calendar/zone';
import { ACTIVITY_KINDS } from '@/core/course/kinds';
import { sameFields } from '@/core/formats/sameRecord';
import type { RosterEntry } from '@/core/views/rosterEntry';
import {
  groupAudience,
  scopeText,
  type GroupChoice,
  type NamedGroup,
  type ScopeText,
  type ScopeView,
} from '@/core/views/scope';
import { audiences, enrolments, groupMembers, groups, groupStaff } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { type CourseModel, type CourseRow } from '@/data/queries/courseModel';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { requireCourse, type Viewer } from '../access/viewer';
import { saveViewSetting, viewSetting } from '../access/viewSettings';
import { meantBy, byName } from '@/core/people/audience';

/** What an address says about the scope; anything in it may be nonsense. */
export interface AskedScope {
  readonly w?: string;
  readonly g?: string;
  readonly k?: string;
}

const ribbonSettings = yup.object({ folded: yup.boolean().required() });
const storedScope = yup.object({
  w: yup.string().max(40).required(),
  g: yup.string().max(40).required(),
  k: yup.string().max(40).required(),
});

/**
 * The scope of a view: what the address says, and where it says nothing, how the viewer last left it. Nonsense in it
 * counts as nothing said.
 */
export async function scopeOf(
  viewer: Viewer,
  course: CourseModel,
  asked: AskedScope,
  tray: readonly number[],
): Promise<ScopeView> {
  const { row, term, sections, activities } = course;
  const stored = await viewSetting(viewer, row, 'scope', storedScope);
  const groupRows = await groupsIn(viewer, row);
  const kinds = ACTIVITY_KINDS.filter((k) => activities.some((a) => a.kind === k));
  const groupOf = (text: string | undefined): GroupChoice | null => {
    if (text === 'all' || text === 'selection') return text;
    const named = groupRows.find((g) => g.key === text);
    if (named) return named.key;
    return sections.find((s) => String(s.id) === text)?.id ?? null;
  };
  const kindOf = (text: string | undefined) =>
    text === 'all' ? null : (kinds.find((k) => k === text) ?? undefined);

  const choice = parseWindow(asked.w) ?? parseWindow(stored?.w) ?? '7d';
  const group = groupOf(asked.g) ?? groupOf(stored?.g) ?? 'all';
  const askedKind = kindOf(asked.k);
  const kind = askedKind !== undefined ? askedKind : (kindOf(stored?.k) ?? null);
  const at = now();
  const today = localDate(at, row.zone);
  const scope = { window: resolveWindow(choice, term, today, minuteOfDay(at, row.zone)), group, kind };
  const said = (asked.w ?? asked.g ?? asked.k) != null;
  return {
    ...scope,
    isKept: !said || sameFields(scopeText(scope), stored ?? {}),
    sections: sections.map(({ id, name }) => ({ id, name })),
    groups: await withMembers(row, groupRows, group),
    kinds,
    folded: (await viewSetting(viewer, row, 'ribbon', ribbonSettings))?.folded ?? false,
    picked: tray.length,
    today,
    now: at,
    zone: row.zone,
    termStart: row.termStart,
  };
}

/** Keeps whether the viewer wants the term ribbon folded away. */
export async function foldRibbon(viewer: Viewer, code: string, folded: boolean): Promise<void> {
  await saveViewSetting(viewer, await requireCourse(viewer, 'look', code), 'ribbon', { folded });
}

/** Keeps a scope as the viewer's default for a course. */
export async function keepScope(viewer: Viewer, code: string, scope: ScopeText): Promise<void> {
  await saveViewSetting(viewer, await requireCourse(viewer, 'look', code), 'scope', scope);
}

/** Monitoring groups that a viewer answers for and that have somebody in the course, and its saved audiences. */
async function groupsIn(viewer: Viewer, course: CourseRow): Promise<ScopeView['groups']> {
  const { orm } = await database();
  const rows = await orm
    .select({ id: groups.id, name: groups.name, member: groupMembers.enrolmentId })
    .from(groups)
    .innerJoin(groupStaff, and(eq(groupStaff.groupId, groups.id), eq(groupStaff.userId, viewer.userId)))
    .innerJoin(groupMembers, eq(groupMembers.groupId, groups.id))
    .innerJoin(
      enrolments,
      and(eq(enrolments.id, groupMembers.enrolmentId), eq(enrolments.courseId, course.id)),
    )
    .orderBy(asc(groups.name), asc(groups.id));
  const found = new Map<number, { key: NamedGroup; name: string; members: number[] }>();
  for (const { id, name, member } of rows) {
    const known = found.get(id);
    if (known) known.members.push(member);
    else found.set(id, { key: `m${id}`, name, members: [member] });
  }
  const saved = await orm
    .select({ id: audiences.id, name: audiences.name })
    .from(audiences)
    .where(eq(audiences.courseId, course.id))
    .orderBy(asc(audiences.name));
  return [
    ...found.values(),
    ...saved.map(({ id, name }) => ({ key: `a${id}` as const, name, members: null })),
  ];
}

/** The groups with who is in the audience that is looked at, if one is. */
async function withMembers(
  course: CourseRow,
  all: ScopeView['groups'],
  group: GroupChoice,
): Promise<ScopeView['groups']> {
  if (typeof group !== 'string' || !group.startsWith('a') || group === 'all') return all;
  const traits = await classTraits(await snapshotOf(course));
  const audience = traits.audiences.find((a) => `a${a.id}` === group);
  const members = audience ? (await traits.members(audience)).match : [];
  return all.map((g) => (g.key === group ? { ...g, members } : g));
}

/** The active students of a scope, by family name. */
export async function peopleOf(
  course: CourseRow,
  scope: ScopeView,
  tray: readonly number[],
): Promise<RosterEntry[]> {
  const active = (await roster(course.id)).filter((p) => p.status === 'active');
  return meantBy(groupAudience(scope, active, tray), active, byName);
}
