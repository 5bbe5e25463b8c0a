'use client';
import dynamic from 'next/dynamic';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useEffect, useOptimistic, useState, type ReactNode } from 'react';
import { foldRibbonAction, keepScopeAction } from '@/actions/views';
import { windowText } from '@/core/calendar/window';
import type { CourseHead } from '@/core/views/courseHead';
import type { RibbonWeek } from '@/core/views/ribbon';
import { scopeText, type ScopeView } from '@/core/views/scope';
import { Chips } from '../parts/Chips';
import { Choose } from '../parts/Choose';
import { dayAndTime, spanText } from '@/core/format';
import { useAct } from '../parts/useAct';
import { TermRibbon } from './TermRibbon';
import { address, useAddress } from '../parts/useAddress';

const OwnDays = dynamic(() => import('./OwnDays').then((m) => m.OwnDays));

const PRESET_LABELS = [
  { value: '7d', label: '7 days' },
  { value: '28d', label: '28 days' },
  { value: 'term', label: 'Term so far' },
  { value: 'custom', label: 'Custom …' },
] as const;

/** What a view covers, as its address says it: window, group and kind. */
const ADDRESS = address({ w: null, g: null, k: null });

/** "19–25 Nov, compared with 12–18 Nov" */
export const windowWords = ({ window }: ScopeView): string =>
  window.before ? `${spanText(window)}, compared with ${spanText(window.before)}` : spanText(window);

/** What of the days that are compared does not count; empty if all of it does. */
function comparedWords({ window: { before, compared } }: ScopeView): string {
  if (!before) return '';
  const out = [
    ...(compared.without?.length || before.without?.length ? ['breaks left out'] : []),
    ...(before.until == null ? [] : ['today so far']),
  ];
  return out.length > 0 ? `Compared: ${out.join(', ')}` : '';
}

/**
 * The term ribbon with what a view covers: the window, chosen by a preset, by dragging over the ribbon or as two days;
 * the section; the kind of activity. All of it stands in the address.
 */
export function ScopeBar({
  ribbon,
  scope,
  course,
  kinds = true,
  groups = true,
  days = true,
  children,
}: {
  readonly ribbon: readonly RibbonWeek[];
  readonly scope: ScopeView;
  readonly course: CourseHead;
  /** Whether the view can be narrowed to a kind of activity. */
  readonly kinds?: boolean;
  /** Whether it is about a section or group; not where it is about one student. */
  readonly groups?: boolean;
  /** Whether any figure of the view is of the days chosen; without, the ribbon is not shown. */
  readonly days?: boolean;
  readonly children?: ReactNode;
}) {
  const { ask, moving } = useAddress(ADDRESS);
  const { act } = useAct();
  const [own, setOwn] = useState(false);
  const [folded, fold] = useOptimistic(scope.folded);
  const { code } = course;
  const { w, g, k } = scopeText(scope);
  useEffect(() => {
    // A scope that is not kept costs a click at the next visit: nobody needs to hear of it.
    if (!scope.isKept) void keepScopeAction({ code, w, g, k }).catch(() => undefined);
  }, [scope.isKept, code, w, g, k]);
  const preset = typeof scope.window.choice === 'string' ? scope.window.choice : 'custom';
  const groupChoice = groups ? (
    <Choose
      label="Section or group"
      small
      className="w-36"
      value={String(scope.group)}
      options={[
        { value: 'all', label: 'All sections' },
        ...scope.sections.map((x) => ({ value: String(x.id), label: x.name })),
        ...scope.groups.map((x) => ({
          value: x.key as string,
          label: x.members ? `${x.name} (${x.members.length})` : x.name,
        })),
        ...(scope.picked > 0 || scope.group === 'selection'
          ? [{ value: 'selection', label: `The selection (${scope.picked})` }]
          : []),
      ]}
      onChange={(group) => ask({ g: group })}
    />
  ) : null;
  const notes = [
    ...(days ? [comparedWords(scope), scope.window.note ?? ''] : []),
    course.dataUntil == null
      ? 'No activity on record yet'
      : `Activity up to ${dayAndTime(course.dataUntil, scope.zone)}`,
  ].filter(Boolean);
  if (!days)
    return groupChoice || children ? (
      <section
        aria-label="What this covers"
        aria-busy={moving}
        className="text-muted mb-3 flex flex-wrap items-center gap-3 text-[13px]"
      >
        {groupChoice}
        {children}
      </section>
    ) : null;
  return (
    <section aria-label="What this covers" aria-busy={moving} className="mb-3">
      <div className="border-line bg-panel rounded-lg border">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 px-2.5 py-1.5 text-[13px]">
          <Chips
            label="Window"
            value={preset}
            options={PRESET_LABELS}
            // Custom days can be chosen again while they hold.
            onChange={(p) => (p === 'custom' ? setOwn(true) : ask({ w: p }))}
            onAgain={() => preset === 'custom' && setOwn(true)}
          />
          <p className={moving ? 'text-muted' : undefined}>{windowWords(scope)}</p>
          <span className="ml-auto flex flex-wrap items-center gap-2">
            {groupChoice}
            {kinds ? (
              <Choose
                label="Kind of activity"
                small
                className="w-28"
                value={scope.kind ?? 'all'}
                options={[
                  { value: 'all', label: 'All kinds' },
                  ...scope.kinds.map((kind) => ({ value: kind as string, label: kind })),
                ]}
                onChange={(kind) => ask({ k: kind })}
              />
            ) : null}
            <button
              type="button"
              aria-expanded={!folded}
              aria-label="The term ribbon"
              onClick={() =>
                act(async () => {
                  fold(!folded);
                  return foldRibbonAction({ code, folded: !folded });
                })
              }
              className="text-muted hover:text-ink grid size-7 place-items-center rounded max-sm:size-11"
            >
              {folded ? (
                <ChevronDown className="size-4" aria-hidden />
              ) : (
                <ChevronUp className="size-4" aria-hidden />
              )}
            </button>
          </span>
        </div>
        {folded ? null : (
          <TermRibbon
            weeks={ribbon}
            today={scope.now}
            zone={scope.zone}
            window={scope.window}
            onWindow={(from, to) => ask({ w: windowText({ from, to }) })}
          />
        )}
      </div>
      <p className="text-muted mt-1 flex flex-wrap gap-x-3 text-xs">
        {notes.map((note) => (
          <span key={note} className={note === scope.window.note ? 'text-plum' : undefined}>
            {note}
          </span>
        ))}
        {children}
      </p>
      {own ? (
        <OwnDays scope={scope} onClose={() => setOwn(false)} onChoose={(chosen) => ask({ w: chosen })} />
      ) : null}
    </section>
  );
}
