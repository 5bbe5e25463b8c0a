'use client';
import type { PartOfClass } from '@/core/course/parts';
import { limitsOf } from '@/core/flags/apart';
import { isLimited, type ApartLimits, type FlagKind } from '@/core/flags/indicators';
import { INDICATOR_NUMBERS, LIMIT_KEYS, type IndicatorKey } from '@/core/flags/numbers';
import { APART_SENTENCES, type IndicatorSentence } from '@/core/flags/sentences';
import type { SettingsForm } from '@/core/forms/settings';
import type { IndicatorPreview } from '@/core/views/indicators';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Definition } from '../parts/Definition';
import { NumberSentence, type SentenceNumber } from '../parts/NumberSentence';
import { Panel } from '../parts/Panel';
import { FlaggedWeeks } from './FlaggedWeeks';

type Indicators = SettingsForm['indicators'];
export type ClassPart = { readonly part: PartOfClass; readonly name: string };

const NUMBERS: readonly SentenceNumber[] = Object.entries(INDICATOR_NUMBERS).map(([key, n]) => ({
  key,
  ...n,
}));

/** The numbers of the indicators by their keys. */
const valuesOf = (indicators: Indicators): Record<string, number> =>
  Object.fromEntries(
    (Object.keys(INDICATOR_NUMBERS) as IndicatorKey[]).map((key) => {
      const [group, name] = key.split('.') as [keyof Indicators, string];
      return [key, (indicators[group] as unknown as Record<string, number>)[name]!];
    }),
  );

/** One indicator as a sentence, whom it would have found in each week, and its limits for parts of the class. */
export function FlagCard({
  code,
  is: { kind, title, sentence, means, exactly },
  typed,
  parts,
  faults,
  before,
  found,
  counts,
  onNumber,
  onApart,
}: {
  readonly code: string;
  readonly is: IndicatorSentence;
  readonly typed: Indicators;
  readonly parts: readonly ClassPart[];
  readonly faults: readonly string[];
  readonly before: IndicatorPreview | null;
  readonly found: IndicatorPreview | null;
  /** Whether whom it finds is counted at all. */
  readonly counts: boolean;
  readonly onNumber: (key: IndicatorKey, value: number | null) => void;
  readonly onApart: (apart: ApartLimits[]) => void;
}) {
  const apart = typed.apart ?? [];
  const own = apart.filter((a) => a.kind === kind);
  const left = parts.filter((p) => !own.some((a) => a.part === p.part));
  return (
    <Panel className="p-4">
      <section aria-label={title}>
        <h2 className="font-serif text-lg font-semibold">{title}</h2>
        <p className="max-w-prose">
          <NumberSentence
            sentence={sentence}
            numbers={NUMBERS}
            values={valuesOf(typed)}
            onChange={(key, value) => onNumber(key as IndicatorKey, value)}
          />
        </p>
        <p className="text-muted max-w-prose text-[13px]">
          {means}
          {exactly ? <Definition of={title}>{exactly}</Definition> : null}
        </p>
        {isLimited(kind) ? (
          <Apart
            kind={kind}
            title={title}
            own={own}
            parts={parts}
            left={left}
            onChange={(next) => onApart([...apart.filter((a) => a.kind !== kind), ...next])}
            limits={limitsOf(typed, kind)}
          />
        ) : null}
        {faults.map((fault) => (
          <p key={fault} role="alert" className="text-plum text-sm">
            {fault}
          </p>
        ))}
        {found ? (
          <FlaggedWeeks code={code} before={before} found={found} />
        ) : counts ? (
          <div role="status" aria-label="Counting" className="border-line mt-3 min-h-22 border-t" />
        ) : null}
      </section>
    </Panel>
  );
}

/** Limits of one kind for sections and groups that have their own. */
function Apart({
  kind,
  title,
  own,
  parts,
  left,
  limits,
  onChange,
}: {
  readonly kind: Extract<FlagKind, ApartLimits['kind']>;
  readonly title: string;
  readonly own: readonly ApartLimits[];
  readonly parts: readonly ClassPart[];
  readonly left: readonly ClassPart[];
  readonly limits: { readonly watch: number; readonly act: number };
  readonly onChange: (own: ApartLimits[]) => void;
}) {
  const numbers = (['watch', 'act'] as const).map((key) => ({
    key,
    ...INDICATOR_NUMBERS[LIMIT_KEYS[kind][key]],
  }));
  const nameOf = (part: PartOfClass) => parts.find((p) => p.part === part)?.name ?? 'a group that is gone';
  return (
    <>
      {own.map((a) => (
        <p key={a.part} className="flex flex-wrap items-baseline gap-x-2">
          <span>
            <span className="font-semibold">{nameOf(a.part)}:</span>{' '}
            <NumberSentence
              sentence={APART_SENTENCES[kind]}
              numbers={numbers.map((n) => ({ ...n, label: `${n.label}, ${nameOf(a.part)}` }))}
              values={{ watch: a.watch, act: a.act }}
              onChange={(key, value) =>
                onChange(own.map((o) => (o === a ? { ...o, [key]: value ?? Number.NaN } : o)))
              }
            />
          </span>
          <Button
            small
            look="quiet"
            aria-label={`Remove the limits of ${nameOf(a.part)} for ${title}`}
            onClick={() => onChange(own.filter((o) => o !== a))}
          >
            Remove
          </Button>
        </p>
      ))}
      {left.length > 0 ? (
        <div className="mt-1 w-44">
          <Choose
            label={`${title}: other limits for a section or group`}
            small
            value=""
            placeholder="Other limits for …"
            options={left.map((p) => ({ value: p.part, label: p.name }))}
            onChange={(part) => onChange([...own, { part: part as PartOfClass, kind, ...limits }])}
          />
        </div>
      ) : null}
    </>
  );
}
