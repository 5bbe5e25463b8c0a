'use client';
import { useState } from 'react';
import { get, useWatch } from 'react-hook-form';
import { saveSettingsAction } from '@/actions/course';
import { GAP_MINUTES } from '@/core/activity/dwell';
import { DEFAULT_INDICATORS, isLimited, type FlagKind } from '@/core/flags/indicators';
import { INDICATOR_NUMBERS, type IndicatorKey } from '@/core/flags/numbers';
import { PRIORITY_RULE } from '@/core/flags/priority';
import { INDICATOR_SENTENCES } from '@/core/flags/sentences';
import type { SettingsForm } from '@/core/forms/settings';
import type { FlagsView } from '@/core/views/settings';
import { Button } from '../parts/Button';
import { NumberSentence } from '../parts/NumberSentence';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';
import { useYupForm } from '../parts/useYupForm';
import { FlagCard } from './FlagCard';
import { usePreview } from './usePreview';
import { Which } from './Which';

const loadSettingsForm = () => import('@/core/forms/settings').then((m) => m.settingsForm);

/** The numbers of an indicator: those that its sentence holds. */
const keysOf = (kind: FlagKind): IndicatorKey[] => {
  const { sentence } = INDICATOR_SENTENCES.find((i) => i.kind === kind)!;
  return (Object.keys(INDICATOR_NUMBERS) as IndicatorKey[]).filter((key) => sentence.includes(`{${key}}`));
};

const SESSION = [
  { key: 'gap', label: 'The session limit', least: GAP_MINUTES.least, most: GAP_MINUTES.most, step: 1 },
];

/** The thresholds of a course as sentences; saving evaluates everybody at once. */
export function Flags({ code, view }: { readonly code: string; readonly view: FlagsView }) {
  const { settings, parts, seesStudents, hasRules } = view;
  const alive = useAlive();
  const { busy, act } = useAct();
  const [opened, setOpened] = useState<SettingsForm>(settings);
  const { control, handleSubmit, reset, setValue, formState } = useYupForm<SettingsForm>(
    loadSettingsForm,
    settings,
  );
  const typed = useWatch({ control }) as SettingsForm;
  const { before, found } = usePreview(code, settings, typed, seesStudents);
  const put = (name: string, value: unknown) =>
    setValue(name as never, value as never, { shouldDirty: true, shouldValidate: formState.isSubmitted });
  const faultAt = (name: string): string[] => {
    const fault: unknown = get(formState.errors, `${name}.message`);
    return typeof fault === 'string' ? [fault] : [];
  };
  const faultsOf = (kind: FlagKind): string[] => [
    ...keysOf(kind).flatMap((key) => faultAt(`indicators.${key}`)),
    ...(typed.indicators.apart ?? []).flatMap((a, i) =>
      a.kind === kind
        ? (['watch', 'act', 'part'] as const).flatMap((part) => faultAt(`indicators.apart.${i}.${part}`))
        : [],
    ),
    ...(kind === 'not seen' ? faultAt('indicators.apart') : []),
  ];
  const save = handleSubmit((values) =>
    act(() => saveSettingsAction({ code, settings: values, was: opened }), {
      edit: { mine: values, over: (was) => saveSettingsAction({ code, settings: values, was }) },
      done: 'Saved. Every student has been checked against the new thresholds.',
      undo: () =>
        act(() => saveSettingsAction({ code, settings: opened, was: values }), {
          done: 'The thresholds are as before.',
          then: () => {
            setOpened(opened);
            reset(opened);
          },
        }),
      then: () => {
        setOpened(values);
        reset(values);
      },
    }),
  );
  return (
    <>
      <ViewHead
        title="Six indicators decide who comes up in Rounds"
        aside={hasRules ? <Which code={code} shows="flags" /> : null}
      >
        Type a number, or drag it to the side: the pictures follow. A flag closes after two days back inside
        its threshold; until then Rounds shows more students than the pictures count.
      </ViewHead>
      <form method="post" onSubmit={save} noValidate>
        <fieldset disabled={!alive}>
          <div className="grid grid-cols-1 gap-3 xl:grid-cols-2">
            {INDICATOR_SENTENCES.map((is) => (
              <FlagCard
                key={is.kind}
                code={code}
                is={is}
                typed={typed.indicators}
                parts={isLimited(is.kind) ? parts : []}
                faults={[...new Set(faultsOf(is.kind))]}
                before={before?.get(is.kind) ?? null}
                found={found?.get(is.kind) ?? null}
                counts={seesStudents}
                onNumber={(key, value) => put(`indicators.${key}`, value)}
                onApart={(apart) => put('indicators.apart', apart)}
              />
            ))}
            <Panel className="p-4">
              <section aria-label="Sessions">
                <h2 className="font-serif text-lg font-semibold">Sessions</h2>
                <p className="max-w-prose">
                  <NumberSentence
                    sentence="A gap of more than {gap} minutes without any event starts a new session. It moves all times on task."
                    numbers={SESSION}
                    values={{ gap: typed.sessionGapMinutes }}
                    onChange={(_key, value) => put('sessionGapMinutes', value)}
                  />
                </p>
                {faultAt('sessionGapMinutes').map((fault) => (
                  <p key={fault} role="alert" className="text-plum text-sm">
                    {fault}
                  </p>
                ))}
              </section>
            </Panel>
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
                reset(
                  { sessionGapMinutes: 30, indicators: { ...DEFAULT_INDICATORS, apart: [] } },
                  { keepDefaultValues: true },
                )
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
