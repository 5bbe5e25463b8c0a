'use client';
import { useWatch, type FieldPathByValue } from 'react-hook-form';
import { saveSettingsAction } from '@/actions/course';
import { PRIORITY_RULE } from '@/core/flags/priority';
import { MEASURES } from '@/core/measures/registry';
import type { CourseSettings } from '@/core/views/settings';
import { DEFAULT_INDICATORS, type FlagKind } from '@/core/flags/indicators';
import { Button } from '../parts/Button';
import type { SettingsForm } from '@/core/forms/settings';
import { NumberField } from '../parts/fields';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';
import { useYupForm } from '../parts/useYupForm';
import { FlaggedWeeks } from './FlaggedWeeks';
import { usePreview } from './usePreview';

const loadSettingsForm = () => import('@/core/forms/settings').then((m) => m.settingsForm);

interface Threshold {
  readonly name: FieldPathByValue<SettingsForm, number>;
  readonly label: string;
  readonly step?: number;
}

interface Group {
  readonly title: string;
  /** The flag that it decides; none for what all of them rest on. */
  readonly kind?: FlagKind;
  readonly means: string;
  readonly fields: readonly Threshold[];
}

const GROUPS: readonly Group[] = [
  {
    title: 'Not seen',
    kind: 'not seen',
    means:
      'Teaching days without a login, if that is also long for this student: longer than this share of their own past gaps.',
    fields: [
      { name: 'indicators.notSeen.watchDays', label: 'Watch from, days' },
      { name: 'indicators.notSeen.actDays', label: 'Act from, days' },
      {
        name: 'indicators.notSeen.ownQuantile',
        label: 'Longer than this share of own gaps (0 to 1)',
        step: 0.05,
      },
    ],
  },
  {
    title: 'Behind',
    kind: 'behind',
    means: MEASURES.missing.means,
    fields: [
      { name: 'indicators.behind.watch', label: 'Watch from, number missing' },
      { name: 'indicators.behind.act', label: 'Act from, number missing' },
    ],
  },
  {
    title: 'Low standing',
    kind: 'low standing',
    means: `${MEASURES.standing.means} Asked once enough assignments have been graded.`,
    fields: [
      { name: 'indicators.lowStanding.watch', label: 'Watch under, %', step: 0.5 },
      { name: 'indicators.lowStanding.act', label: 'Act under, %', step: 0.5 },
      { name: 'indicators.lowStanding.leastWorks', label: 'Least graded assignments' },
    ],
  },
  {
    title: 'Slipping',
    kind: 'slipping',
    means:
      'Points a week lost against the class median of each assignment (Theil-Sen slope), where a Mann-Kendall test finds a trend. At least four graded assignments.',
    fields: [
      { name: 'indicators.slipping.watch', label: 'Watch from, points a week', step: 0.1 },
      { name: 'indicators.slipping.act', label: 'Act from, points a week', step: 0.1 },
      { name: 'indicators.slipping.maxP', label: 'Largest p of the test', step: 0.01 },
    ],
  },
  {
    title: 'Low time on task',
    kind: 'low time',
    means:
      'Minutes in a window of days, as per cent of the class median. Not asked while that median is small, nor of whoever joined within the window.',
    fields: [
      { name: 'indicators.lowTime.windowDays', label: 'Window, days' },
      { name: 'indicators.lowTime.watch', label: 'Watch up to, % of median' },
      { name: 'indicators.lowTime.act', label: 'Act up to, % of median' },
      { name: 'indicators.lowTime.leastMedianMinutes', label: 'Class median at least, min' },
    ],
  },
  {
    title: 'Effort without progress',
    kind: 'effort without progress',
    means: `Time at or over the class median, while the standing is low beside others with as much time: this student needs another way in, not more of the same. ${MEASURES.effortShortfall.means} Act from a standing that is low by itself.`,
    fields: [{ name: 'indicators.effort.windowDays', label: 'Window, days' }],
  },
  {
    title: 'Sessions',
    means: 'A gap without any event longer than this starts a new session. It moves all times on task.',
    fields: [{ name: 'sessionGapMinutes', label: 'Longest gap, minutes (5 to 120)' }],
  },
];

/** The thresholds of a course, each in words; saving evaluates everybody at once. */
export function Indicators({ code, settings }: { readonly code: string; readonly settings: CourseSettings }) {
  const alive = useAlive();
  const { busy, act } = useAct();
  const { control, handleSubmit, reset } = useYupForm(loadSettingsForm, settings);
  const typed = useWatch({ control }) as SettingsForm;
  const { before, found } = usePreview(code, settings, typed);
  const save = handleSubmit((values) =>
    act(() => saveSettingsAction({ code, settings: values }), {
      done: 'Saved. Every student has been checked against the new thresholds.',
      undo: () =>
        act(() => saveSettingsAction({ code, settings }), {
          done: 'The thresholds are as before.',
          then: () => reset(settings),
        }),
      then: () => reset(values),
    }),
  );
  return (
    <>
      <ViewHead title="Six indicators decide who comes up in Rounds">
        A flag opens when a threshold is reached, and closes after two days back inside it; until then Rounds
        shows more students than the pictures here count.
      </ViewHead>
      <form method="post" onSubmit={save} noValidate>
        <fieldset disabled={!alive}>
          <div className="grid grid-cols-1 gap-3 xl:grid-cols-2">
            {GROUPS.map((group) => (
              <Panel key={group.title} className="p-4">
                <fieldset>
                  <legend className="float-left mb-1 w-full font-serif text-lg font-semibold">
                    {group.title}
                  </legend>
                  <p className="text-muted clear-both mb-3 max-w-prose">{group.means}</p>
                  <div className="flex flex-wrap items-end gap-4">
                    {group.fields.map((field) => (
                      <NumberField
                        key={field.name}
                        control={control}
                        name={field.name}
                        label={field.label}
                        step={field.step ?? 1}
                        className="w-36"
                      />
                    ))}
                  </div>
                  {group.kind && found?.get(group.kind) ? (
                    <FlaggedWeeks
                      code={code}
                      before={before?.get(group.kind) ?? null}
                      found={found.get(group.kind)!}
                    />
                  ) : group.kind ? (
                    <div role="status" aria-label="Counting" className="border-line mt-3 min-h-22 border-t" />
                  ) : null}
                </fieldset>
              </Panel>
            ))}
            <Panel className="p-4">
              <h2 className="mb-1 font-serif text-lg font-semibold">Order of the queue</h2>
              <p className="text-muted max-w-prose">{PRIORITY_RULE}</p>
            </Panel>
          </div>
          <div className="mt-4 flex flex-wrap items-center gap-2">
            <Button type="submit" look="main" disabled={busy}>
              {busy ? 'Looking at everybody …' : 'Save and look again'}
            </Button>
            <Button
              disabled={busy}
              onClick={() =>
                reset({ sessionGapMinutes: 30, indicators: DEFAULT_INDICATORS }, { keepDefaultValues: true })
              }
            >
              Fill in the defaults
            </Button>
          </div>
        </fieldset>
      </form>
    </>
  );
}
