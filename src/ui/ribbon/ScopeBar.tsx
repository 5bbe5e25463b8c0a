'use client';
import { useEffect, useState, type ReactNode } from 'react';
import { keepScopeAction } from '@/actions/views';
import { windowText } from '@/core/calendar/window';
import type { CourseHead } from '@/core/views/courseHead';
import type { RibbonWeek } from '@/core/views/ribbon';
import { scopeText, type ScopeView } from '@/core/views/scope';
import { Button } from '../parts/Button';
import { classes } from '../parts/classes';
import { Field, inputClasses } from '../parts/Field';
import { dayAndTime, spanText } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { TermRibbon } from './TermRibbon';
import { useQuery } from './useQuery';

const PRESET_LABELS = { '7d': '7 days', '28d': '28 days', term: 'Term so far' } as const;

/** "1–7 Nov, against 25–31 Oct" */
export const windowWords = (scope: ScopeView): string =>
  `${spanText(scope.window)}${scope.window.before ? `, against ${spanText(scope.window.before)}` : ''}`;

/**
 * The term ribbon with what a view covers: the window, chosen by a preset, by dragging over the ribbon or as two days;
 * the section; the kind of activity. All of it stands in the address.
 */
export function ScopeBar({
  ribbon,
  scope,
  course,
  kinds = true,
  children,
}: {
  readonly ribbon: readonly RibbonWeek[];
  readonly scope: ScopeView;
  readonly course: CourseHead;
  /** Whether the view can be narrowed to a kind of activity. */
  readonly kinds?: boolean;
  readonly children?: ReactNode;
}) {
  const { change, moving } = useQuery();
  const [own, setOwn] = useState(false);
  const { code } = course;
  const { w, g, k } = scopeText(scope);
  useEffect(() => {
    // A scope that is not kept costs a click at the next visit: nobody needs to hear of it.
    if (!scope.isKept) void keepScopeAction({ code, w, g, k }).catch(() => undefined);
  }, [scope.isKept, code, w, g, k]);
  const preset = typeof scope.window.choice === 'string' ? scope.window.choice : null;
  const select = `${inputClasses} w-auto min-w-0 py-0.5 text-[13px]`;
  return (
    <section aria-label="What this covers" aria-busy={moving} className="mb-3">
      <div className="border-line bg-panel grid rounded-lg border lg:grid-cols-[minmax(0,1fr)_19.5rem]">
        <TermRibbon
          weeks={ribbon}
          today={scope.now}
          zone={scope.zone}
          window={scope.window}
          onWindow={(from, to) => change({ w: windowText({ from, to }) })}
        />
        <div className="border-line flex flex-col justify-center gap-1.5 border-t px-3 py-2 text-[13px] lg:border-t-0 lg:border-l">
          <div
            role="group"
            aria-label="Window"
            className="border-edge/60 flex overflow-hidden rounded-md border"
          >
            {(['7d', '28d', 'term'] as const).map((p) => (
              <button
                key={p}
                type="button"
                aria-pressed={preset === p}
                onClick={() => change({ w: p })}
                className={classes(
                  'border-line flex-1 border-r px-1.5 py-0.5 whitespace-nowrap',
                  preset === p ? 'bg-amber-wash font-semibold' : 'text-muted hover:text-ink',
                )}
              >
                {PRESET_LABELS[p]}
              </button>
            ))}
            <button
              type="button"
              aria-pressed={preset == null}
              onClick={() => setOwn(true)}
              className={classes(
                'flex-1 px-1.5 py-0.5 whitespace-nowrap',
                preset == null ? 'bg-amber-wash font-semibold' : 'text-muted hover:text-ink',
              )}
            >
              Days …
            </button>
          </div>
          <p className={moving ? 'text-muted' : undefined}>{windowWords(scope)}</p>
          <div className="flex min-w-0 gap-2">
            <select
              aria-label="Section or group"
              className={classes(select, 'flex-1')}
              value={String(scope.group)}
              onChange={(e) => change({ g: e.target.value })}
            >
              <option value="all">All sections</option>
              {scope.sections.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
              {scope.groups.map((g) => (
                <option key={g.id} value={`m${g.id}`}>
                  {g.name} ({g.members.length})
                </option>
              ))}
              {scope.picked > 0 || scope.group === 'selection' ? (
                <option value="selection">The selection ({scope.picked})</option>
              ) : null}
            </select>
            {kinds ? (
              <select
                aria-label="Kind of activity"
                className={classes(select, 'flex-1')}
                value={scope.kind ?? 'all'}
                onChange={(e) => change({ k: e.target.value })}
              >
                <option value="all">All kinds</option>
                {scope.kinds.map((k) => (
                  <option key={k} value={k}>
                    {k}
                  </option>
                ))}
              </select>
            ) : null}
          </div>
        </div>
      </div>
      <p className="text-muted mt-1 flex flex-wrap gap-x-3 text-xs">
        <span>
          {course.dataUntil == null
            ? 'No activity on record yet'
            : `Activity up to ${dayAndTime(course.dataUntil, scope.zone)}`}
        </span>
        {scope.window.note ? <span className="text-plum">{scope.window.note}</span> : null}
        {children}
      </p>
      {own ? <OwnDays scope={scope} onClose={() => setOwn(false)} onChoose={(w) => change({ w })} /> : null}
    </section>
  );
}

function OwnDays({
  scope,
  onClose,
  onChoose,
}: {
  readonly scope: ScopeView;
  readonly onClose: () => void;
  readonly onChoose: (w: string) => void;
}) {
  const [from, setFrom] = useState(scope.window.from);
  const [to, setTo] = useState(scope.window.to);
  const error = !from || !to ? 'Choose both days.' : from > to ? 'The first day comes after the last.' : null;
  return (
    <Sheet open onOpenChange={onClose} title="Days of your own choice">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (error) return;
          onChoose(windowText({ from, to }));
          onClose();
        }}
      >
        <div className="flex gap-3">
          {(
            [
              ['From', from, setFrom],
              ['To', to, setTo],
            ] as const
          ).map(([label, value, set]) => (
            <Field
              key={label}
              label={label}
              className="flex-1"
              error={label === 'To' ? (error ?? undefined) : undefined}
            >
              {(ids) => (
                <input
                  type="date"
                  {...ids}
                  min={scope.termStart}
                  max={scope.today}
                  className={inputClasses}
                  value={value}
                  onChange={(e) => set(e.target.value)}
                />
              )}
            </Field>
          ))}
        </div>
        <Button type="submit" look="main" disabled={error != null}>
          Show these days
        </Button>
      </form>
    </Sheet>
  );
}
