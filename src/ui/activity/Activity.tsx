'use client';
import { median } from '@/core/statistics/quantile';
import type { ActivityTab, ActivityView } from '@/core/views/activity';
import { ACTIVITY_TABS } from '@/core/views/activity';
import { Chips } from '../parts/Chips';
import { counted, minutesText, spanText } from '@/core/format';
import { ViewHead } from '../parts/Panel';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery } from '../ribbon/useQuery';
import { ClassPicture } from './ClassPicture';
import { Effort } from './Effort';
import { People } from './People';
import { Resources } from './Resources';

const LABELS: Record<ActivityTab, string> = {
  people: 'Students',
  class: 'The class',
  resources: 'Activities and pages',
  effort: 'Effort and progress',
};

/** Logins, time on task and what it was spent on. */
export function Activity({ view }: { readonly view: ActivityView }) {
  const { change } = useQuery();
  return (
    <>
      <ViewHead title={headline(view)}>{subline(view)}</ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} />
      <div className="no-print mb-2">
        <Chips
          label="Look at"
          value={view.tab}
          options={ACTIVITY_TABS.map((value) => ({ value, label: LABELS[value] }))}
          onChange={(tab) => change({ tab: tab === 'people' ? null : tab, sort: null })}
        />
      </div>
      {view.tab === 'people' ? <People view={view} /> : null}
      {view.tab === 'class' && view.figures ? <ClassPicture view={view} figures={view.figures} /> : null}
      {view.tab === 'resources' && view.resources ? <Resources view={view} rows={view.resources} /> : null}
      {view.tab === 'effort' && view.effort ? <Effort view={view} rows={view.effort} /> : null}
    </>
  );
}

function headline(view: ActivityView): string {
  const { people, scope } = view;
  if (people.length === 0) return 'Nobody is in this group';
  const away = people.filter((p) => p.days === 0).length;
  const when = scope.window.choice === '7d' ? 'in the last 7 days' : `in ${spanText(scope.window)}`;
  const what = scope.kind ? `opened a ${scope.kind}` : 'logged in';
  return away === 0
    ? `Everybody ${what} ${when}`
    : `${away} of ${counted(people.length, 'student')} ${scope.kind ? 'opened no ' + scope.kind : 'did not log in'} ${when}`;
}

function subline(view: ActivityView): string {
  const { people } = view;
  const now = median(people.map((p) => p.minutes)) ?? 0;
  const before = people.every((p) => p.minutesBefore != null)
    ? median(people.map((p) => p.minutesBefore!))
    : null;
  const change =
    before == null || before === 0
      ? ''
      : `, ${now >= before ? 'up' : 'down'} ${Math.abs(Math.round((100 * (now - before)) / before))} % on the days before`;
  return `Median ${minutesText(now)} on task${change}.`;
}
