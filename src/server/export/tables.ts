import type { SheetCell, SheetTable } from '@/core/formats/sheet';
import { spanWords } from '@/core/calendar/spanWords';
import type { Instant } from '@/core/units';
import type { ActivityColumn, ActivityRow } from '@/core/views/activity';
import type { CourseHead } from '@/core/views/courseHead';
import { LISTS, type ListName } from '@/core/views/lists';
import { groupName, type ScopeView } from '@/core/views/scope';
import { compareRows, type RowKey } from '@/core/tables/order';
import {
  cellWords,
  gradeMatches,
  isGradeFilter,
  isGradeSort,
  sortGradeRows,
  waitsForGrade,
} from '@/core/tables/gradeFilters';
import { activityShows, isActivityShow } from '@/core/tables/activityShow';
import { isTrendShow, trendShows } from '@/core/tables/trendShow';
import { invalid, notFound } from '../base/errors';
import { gradebookView } from '../look/gradebook';
import type { AskedScope } from '../look/scope';
import { activityView } from '../look/activity';
import { trendsView } from '../look/trends';
import { weekView } from '../look/week';
import { workView } from '../look/work';
import type { Viewer } from '../access/viewer';
import { listsView } from '../look/lists';

/** What an address says about a table that is to be exported. */
export interface AskedExport extends AskedScope {
  readonly sort?: string;
  readonly status?: string;
  readonly show?: string;
  readonly due?: string;
  readonly work?: number;
}

const at = (instant: Instant | null): SheetCell => (instant == null ? null : { at: instant });
const round = (n: number | null): number | null => (n == null ? null : Math.round(n * 100) / 100);

/** The table of a view as it stands on screen: same students, same filter, same order. */
export async function exportTable(
  viewer: Viewer,
  code: string,
  name: string,
  asked: AskedExport,
): Promise<SheetTable> {
  const list = LISTS.find((l) => l === name);
  if (list) return listTable(viewer, code, list, asked);
  switch (name) {
    case 'gradebook':
      return gradebookTable(viewer, code, asked);
    case 'activity':
      return activityTable(viewer, code, asked);
    case 'resources':
      return resourcesTable(viewer, code, asked);
    case 'trends':
      return trendsTable(viewer, code, asked);
    case 'work':
      return workTable(viewer, code, asked);
    case 'week':
      return weekTable(viewer, code, asked);
  }
  throw notFound('list');
}

interface Head {
  readonly course: CourseHead;
  readonly scope: ScopeView;
}

function tableOf(
  { course, scope }: Head,
  name: string,
  filter: string,
  head: readonly string[],
  rows: readonly (readonly SheetCell[])[],
): SheetTable {
  const group = groupName(scope) ?? 'all sections';
  const { window } = scope;
  return {
    name: `${course.code}-${name}-${window.from}_${window.to}`,
    about: [
      ['Course', `${course.code} ${course.title}`],
      ['Table', name],
      ['Window', spanWords(window)],
      ['Before', window.before ? spanWords(window.before) : 'none'],
      ['Group', group],
      ['Kind', scope.kind ?? 'all kinds'],
      ['Filter', filter],
      ['Times in', scope.zone],
      ['Made', new Date(scope.now).toISOString()],
    ],
    head,
    rows,
    zone: scope.zone,
  };
}

const inOrder = <R>(
  rows: readonly R[],
  keys: Readonly<Record<string, RowKey<R>>>,
  sort: string | undefined,
  usual: string,
): R[] => {
  const wanted = sort ?? usual;
  const down = wanted.endsWith('-');
  const key = keys[wanted.replace(/-$/, '')];
  return key ? [...rows].sort(compareRows(key, down)) : [...rows];
};

async function listTable(
  viewer: Viewer,
  code: string,
  list: ListName,
  asked: AskedExport,
): Promise<SheetTable> {
  const view = await listsView(viewer, code, { ...asked, list });
  if (list === 'roster') {
    const rows = inOrder(
      view.roster,
      {
        name: (r) => `${r.family} ${r.given}`,
        section: (r) => r.section,
        standing: (r) => r.standing,
        missing: (r) => r.missing,
        seen: (r) => r.lastSeen,
        status: (r) => r.status,
      },
      asked.sort,
      'name',
    );
    return tableOf(
      view,
      'roster',
      'everyone on the roster',
      [
        'Student id',
        'Family name',
        'Given name',
        'E-mail',
        'Section',
        'Status',
        'Joined',
        'Last seen',
        'Missing',
        'Standing %',
      ],
      rows.map((r) => [
        r.studentId,
        r.family,
        r.given,
        r.email,
        r.section,
        r.status,
        r.joined,
        r.lastSeen,
        r.missing,
        round(r.standing),
      ]),
    );
  }
  const rows = inOrder(
    view.works,
    {
      name: (r) => `${r.family} ${r.given}`,
      title: (r) => r.title,
      section: (r) => r.section,
      due: (r) => r.due,
      submitted: (r) => r.submitted,
      days: (r) => r.days,
      points: (r) => r.points,
    },
    asked.sort,
    'name',
  );
  return tableOf(
    view,
    list,
    view.dueInWindow ? `${list}, due in the window` : list,
    [
      'Family name',
      'Given name',
      'Section',
      'Work',
      'Status',
      'Due',
      'Handed in',
      'Days',
      'Points',
      'Maximum',
    ],
    rows.map((r) => [
      r.family,
      r.given,
      r.section,
      r.title,
      r.status,
      at(r.due),
      at(r.submitted),
      r.days,
      r.points,
      r.maximum,
    ]),
  );
}

async function gradebookTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  const view = await gradebookView(viewer, code, asked);
  const filter = isGradeFilter(asked.status) ? asked.status : null;
  const kept = filter
    ? view.rows.filter((r) => view.columns.some((c, i) => gradeMatches(r, c, i, filter, view.bands)))
    : view.rows;
  const rows = sortGradeRows(kept, isGradeSort(asked.sort) ? asked.sort : 'family');
  return tableOf(
    view,
    'gradebook',
    filter ?? 'everyone',
    [
      'Family name',
      'Given name',
      'Section',
      'Standing %',
      'Missing',
      ...view.columns.map((c) => (c.points == null ? c.title : `${c.title} (${c.points})`)),
    ],
    rows.map((r) => [
      r.family,
      r.given,
      r.section,
      round(r.standing),
      r.missing,
      ...view.columns.map((_, i): SheetCell => cellWords(r, i)),
    ]),
  );
}

const ACTIVITY_CELLS: Readonly<Record<ActivityColumn, readonly [string, (r: ActivityRow) => SheetCell]>> = {
  days: ['Days with a login', (r) => r.days],
  minutes: ['Minutes', (r) => round(r.minutes)],
  minutesBefore: ['Minutes before', (r) => round(r.minutesBefore)],
  inClass: ['Minutes in class', (r) => round(r.inClass)],
  outside: ['Minutes outside class', (r) => round(r.outside)],
  views: ['Views', (r) => r.views],
  contributions: ['Contributions', (r) => r.contributions],
  opened: ['Works opened only', (r) => r.opened],
  first: ['First', (r) => at(r.first)],
  last: ['Last', (r) => at(r.last)],
  usualGap: ['Usual gap, teaching days', (r) => r.usualGap],
  silence: ['Silence, teaching days', (r) => r.silence],
};

async function activityTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  const view = await activityView(viewer, code, { ...asked, tab: 'people' });
  const show = isActivityShow(asked.show) ? asked.show : 'all';
  const rows = inOrder(
    view.people.filter(activityShows[show]),
    {
      name: (r) => `${r.family} ${r.given}`,
      section: (r) => r.section,
      ...Object.fromEntries(view.columns.map((c) => [c, (r: ActivityRow) => r[c]])),
    },
    asked.sort,
    'name',
  );
  return tableOf(
    view,
    'activity',
    show === 'all' ? 'everyone' : show,
    ['Family name', 'Given name', 'Section', ...view.columns.map((c) => ACTIVITY_CELLS[c][0])],
    rows.map((r) => [r.family, r.given, r.section, ...view.columns.map((c) => ACTIVITY_CELLS[c][1](r))]),
  );
}

async function resourcesTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  const view = await activityView(viewer, code, { ...asked, tab: 'resources' });
  const rows = inOrder(
    view.resources ?? [],
    {
      title: (r) => r.title,
      kind: (r) => r.kind,
      openedBy: (r) => r.openedBy,
      views: (r) => r.views,
      contributions: (r) => r.contributions,
      minutes: (r) => r.minutes,
      never: (r) => r.never.length,
    },
    asked.sort,
    'openedBy-',
  );
  return tableOf(
    view,
    'resources',
    'everything',
    ['Activity', 'Kind', 'Opened by', 'Of', 'Times', 'Done in it', 'Minutes', 'Never opened'],
    rows.map((r) => [
      r.title,
      r.kind,
      r.openedBy,
      view.people.length,
      r.views,
      r.contributions,
      round(r.minutes),
      r.never.length,
    ]),
  );
}

async function trendsTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  const view = await trendsView(viewer, code, asked);
  const show = isTrendShow(asked.show) ? asked.show : 'all';
  const rows = inOrder(
    view.rows.filter(trendShows[show]),
    { slope: (r) => r.relativePerWeek },
    'slope',
    'slope',
  );
  return tableOf(
    view,
    'trends',
    show === 'all' ? 'everyone' : show,
    [
      'Family name',
      'Given name',
      'Section',
      'Standing %',
      'Points a week against the class',
      'Trend',
      'Change in the window',
      ...view.weeks.map((w) => `Week ${w.week} %`),
    ],
    rows.map((r) => [
      r.family,
      r.given,
      r.section,
      round(r.standing),
      round(r.relativePerWeek),
      r.sentence,
      round(r.turn?.change ?? null),
      ...r.weeks.map(round),
    ]),
  );
}

async function workTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  if (asked.work == null) throw invalid('Say which work.');
  const view = await workView(viewer, code, asked.work, asked);
  const status = asked.status;
  const rows = view.rows.filter((r) =>
    !status
      ? true
      : status === 'late'
        ? r.late
        : status === 'awaiting grade'
          ? waitsForGrade(r.status, view.maximum)
          : r.status === status,
  );
  const ordered = inOrder(rows, { points: (r) => r.points }, 'points', 'points');
  return tableOf(
    view,
    `work-${view.id}`,
    status ?? 'everyone',
    [
      'Family name',
      'Given name',
      'Section',
      'Status',
      'Late',
      'Points',
      'Per cent',
      'Handed in',
      'Attempts',
      'Minutes',
      'Feedback after hours',
    ],
    ordered.map((r) => [
      r.family,
      r.given,
      r.section,
      r.status,
      r.late ? 'yes' : 'no',
      r.points,
      round(r.percent),
      at(r.submitted),
      r.attempts,
      round(r.minutes),
      round(r.feedbackHours),
    ]),
  );
}

async function weekTable(viewer: Viewer, code: string, asked: AskedExport): Promise<SheetTable> {
  const view = await weekView(viewer, code, asked);
  return tableOf(
    view,
    'weekly-look',
    'all answers',
    ['Question', 'Answer', 'Name', 'Note', 'Rule'],
    view.answers.flatMap((a): SheetCell[][] =>
      a.list.length === 0
        ? [[a.question, a.sentence, null, null, a.rule]]
        : a.list.map((n) => [a.question, a.sentence, n.name, n.note, a.rule]),
    ),
  );
}
