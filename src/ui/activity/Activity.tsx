'use client';
import dynamic from 'next/dynamic';
import { median } from '@/core/statistics/quantile';
import type { ActivityTab, ActivityView } from '@/core/views/activity';
import { ACTIVITY_TABS } from '@/core/views/activity';
import { Chips } from '../parts/Chips';
import { counted, minutesText, spanText } from '@/core/format';
import { ViewHead } from '../parts/Panel';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { medianChange } from './medianChange';
import { People } from './People';

// Each tab brings its own.
const ClassPicture = dynamic(() => import('./ClassPicture').then((m) => m.ClassPicture));
const Effort = dynamic(() => import('./Effort').then((m) => m.Effort));
const Resources = dynamic(() => import('./Resources').then((m) => m.Resources));

const LABELS: Record<ActivityTab, string> = {
  people: 'Students',
  class: 'The class',
  resources: 'Activities and pages',
  effort: 'Effort and progress',
};

const ADDRESS = address({ tab: 'people', sort: null });

/** Logins, time on task and what it was spent on. */
export function Activity({ view }: { readonly view: ActivityView }) {
  const { ask } = useAddress(ADDRESS);
  return (
    <>
      <ViewHead title={headline(view)}>{subline(view)}</ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} />
      <div className="no-print mb-2">
        <Chips
          label="Look at"
          value={view.tab}
          options={ACTIVITY_TABS.map((value) => ({ value, label: LABELS[value] }))}
          onChange={(tab) => ask({ tab, sort: null })}
        />
      </div>
      {view.tab === 'people' ? <People view={view} /> : null}
      {view.tab === 'class' && view.figures ? <ClassPicture view={view} figures={view.figures} /> : null}
      {view.tab === 'resources' && view.resources ? <Resources view={view} rows={view.resources} /> : null}
      {view.tab === 'effort' && view.effort ? <Effort view={view} figures={view.effort} /> : null}
    </>
  );
}

function headline(view: ActivityView): string {
  const { people, scope } = view;
  if (people.length === 0) return 'Nobody is in this group';
  const away = people.filter((p) => p.days === 0).length;
  const when = spanText(scope.window);
  const what = scope.kind ? `opened a ${scope.kind}` : 'logged in';
  return away === 0
    ? `Everybody ${what}, ${when}`
    : `${away} of ${counted(people.length, 'student')} ${scope.kind ? 'opened no ' + scope.kind : 'have not logged in'}, ${when}`;
}

function subline(view: ActivityView): string {
  const now = median(view.people.map((p) => p.minutes)) ?? 0;
  const change = medianChange(view);
  const beside = change === '' ? '' : `${change} on ${spanText(view.scope.window.before!)}`;
  return `Median ${minutesText(now)} on task${beside}.`;
}
