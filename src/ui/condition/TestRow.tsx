'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import { COMPARISONS, firstTest, moved, retested } from '@/core/people/testEdits';
import { choiceOf, traitChoices } from '@/core/people/traitChoices';
import { traitKey, traitOf, type Trait } from '@/core/people/trait';
import { traitAbout, type ClassAbout, type TraitAbout } from '@/core/people/traitAbout';
import { FLAG_KINDS } from '@/core/flags/indicators';
import { groupBy } from '@/core/groupBy';
import type { ColumnTest } from '@/core/rules/selection';
import { Choose } from '../parts/Choose';
import { classes } from '../parts/classes';
import { inputClasses } from '../parts/Field';

interface Props {
  readonly test: ColumnTest;
  readonly not: boolean;
  readonly course: ClassAbout;
  /** Where it stands, as it is read out: "Row 2". */
  readonly label: string;
  readonly onChange: (test: ColumnTest) => void;
  readonly onNot: (not: boolean) => void;
  readonly onRemove: () => void;
}

/** One row of a condition: what is asked for, and how it is compared. */
export function TestRow({ test, not, course, label, onChange, onNot, onRemove }: Props) {
  const trait = traitOf(test.measure);
  const about = trait && traitAbout(trait, course);
  const choices = traitChoices(course);
  const move = (next: Trait) => onChange(moved(test, next, course, about));
  const options = [...groupBy(choices, (c) => c.heading)].map(([heading, list]) => ({
    heading,
    options: list.map(({ value, label: name }) => ({ value, label: name })),
  }));
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-center gap-1.5 py-1">
      <button
        type="button"
        aria-pressed={not}
        onClick={() => onNot(!not)}
        className={classes(
          'rounded-md border px-1.5 py-0.5 text-[13px] max-sm:min-h-11 max-sm:px-3',
          not ? 'border-ink text-ink font-semibold' : 'border-line text-muted hover:border-ink',
        )}
      >
        not
      </button>
      <Choose
        small
        className="w-44"
        label={`${label}: what`}
        value={trait && about ? choiceOf(trait) : ''}
        placeholder="Gone: choose anew"
        options={options}
        onChange={(value) => {
          const next = choices.find((c) => c.value === value)!.make(trait);
          if (next) move(next);
        }}
      />
      {trait ? <Which trait={trait} course={course} label={label} onChange={move} /> : null}
      {trait && about ? (
        about.kind === 'number' ? (
          <NumberTest test={test} about={about} label={label} onChange={onChange} />
        ) : (
          <Values test={test} about={about} label={label} onChange={onChange} />
        )
      ) : null}
      {trait && 'days' in trait && trait.days != null ? (
        <span className="text-muted flex items-center gap-1 text-[13px]">
          in the last
          <NumberBox
            label={`${label}: days`}
            value={trait.days}
            least={1}
            most={365}
            onChange={(days) => {
              const next = { ...trait, days } as Trait;
              onChange({ ...test, measure: traitKey(next) });
            }}
          />
          days
        </span>
      ) : null}
      <button
        type="button"
        aria-label={`Remove ${label.toLowerCase()}`}
        onClick={onRemove}
        className="text-muted hover:text-ink ml-auto grid size-6 place-items-center rounded max-sm:size-11"
      >
        <X className="size-4" aria-hidden />
      </button>
    </div>
  );
}

/** Which assignment, outcome, group or flag. */
function Which({
  trait,
  course,
  label,
  onChange,
}: {
  readonly trait: Trait;
  readonly course: ClassAbout;
  readonly label: string;
  readonly onChange: (trait: Trait) => void;
}) {
  const list = (
    what: string,
    value: string,
    options: readonly { readonly value: string; readonly label: string }[],
    make: (value: string) => Trait,
  ) => (
    <Choose
      small
      className="w-48"
      label={`${label}: ${what}`}
      value={value}
      placeholder="Gone: choose anew"
      options={options}
      onChange={(v) => onChange(make(v))}
    />
  );
  const titled = (all: readonly { readonly id: number; readonly title: string }[]) =>
    all.map((o) => ({ value: String(o.id), label: o.title }));
  const named = (all: readonly { readonly id: number; readonly name: string }[]) =>
    all.map((o) => ({ value: String(o.id), label: o.name }));
  switch (trait.of) {
    case 'score':
    case 'percent':
      return list(
        'assignment',
        String(trait.work),
        titled(course.works.filter((w) => w.points != null)),
        (v) => ({ ...trait, work: Number(v) }),
      );
    case 'status':
    case 'late':
    case 'opened':
      return list('assignment', String(trait.work), titled(course.works), (v) => ({
        ...trait,
        work: Number(v),
      }));
    case 'outcome':
      return list('outcome', String(trait.outcome), titled(course.outcomes), (v) => ({
        of: 'outcome',
        outcome: Number(v),
      }));
    case 'group':
      return list('group', String(trait.group), named(course.groups), (v) => ({
        of: 'group',
        group: Number(v),
      }));
    case 'audience':
      return list('audience', String(trait.audience), named(course.audiences), (v) => ({
        of: 'audience',
        audience: Number(v),
      }));
    case 'flag':
      return list(
        'flag',
        trait.flag,
        FLAG_KINDS.map((k) => ({ value: k, label: k })),
        (v) => ({ of: 'flag', flag: FLAG_KINDS.find((k) => k === v)! }),
      );
    default:
      return null;
  }
}

function NumberTest({
  test,
  about,
  label,
  onChange,
}: {
  readonly test: ColumnTest;
  readonly about: Extract<TraitAbout, { kind: 'number' }>;
  readonly label: string;
  readonly onChange: (test: ColumnTest) => void;
}) {
  const now = COMPARISONS.find((c) => c.value === test.is)?.value ?? '=';
  return (
    <>
      <Choose
        small
        className="w-36"
        label={`${label}: how`}
        value={now}
        options={COMPARISONS.map(({ value, label: name }) => ({ value, label: name }))}
        onChange={(is) => onChange(retested(test, is))}
      />
      {'value' in test && typeof test.value === 'number' ? (
        <NumberBox
          label={`${label}: number`}
          value={test.value}
          onChange={(value) => onChange({ ...test, value } as ColumnTest)}
        />
      ) : null}
      {test.is === 'between' ? (
        <>
          to
          <NumberBox label={`${label}: to`} value={test.to} onChange={(to) => onChange({ ...test, to })} />
        </>
      ) : null}
      {test.is === 'lowest' || test.is === 'highest' ? (
        <>
          <NumberBox
            label={`${label}: per cent of the class`}
            value={test.percent}
            least={0}
            most={100}
            onChange={(percent) => onChange({ ...test, percent })}
          />
          <span className="text-[13px]">% after the {test.is}</span>
          <NumberBox
            label={`${label}: after the first per cent`}
            value={test.after ?? 0}
            least={0}
            most={100}
            onChange={(after) => onChange({ ...test, after })}
          />
          <span className="text-[13px]">%</span>
        </>
      ) : test.is === 'known' ? null : (
        <span className="text-muted text-[13px]">{about.unit.trim()}</span>
      )}
    </>
  );
}

/** The values that count, of which any suffices. */
function Values({
  test,
  about,
  label,
  onChange,
}: {
  readonly test: ColumnTest;
  readonly about: Extract<TraitAbout, { kind: 'choice' }>;
  readonly label: string;
  readonly onChange: (test: ColumnTest) => void;
}) {
  const chosen = test.is === 'in' ? test.value : test.is === '=' ? [test.value] : [];
  return (
    <span role="group" aria-label={`${label}: which values`} className="flex flex-wrap gap-1">
      {about.values.map(({ value, label: name }) => {
        const on = chosen.includes(value);
        return (
          <button
            key={value}
            type="button"
            aria-pressed={on}
            onClick={() =>
              onChange({
                measure: test.measure,
                is: 'in',
                value: on ? chosen.filter((v) => v !== value) : [...chosen, value],
              })
            }
            className={classes(
              'rounded-md border px-1.5 py-0.5 text-[13px] max-sm:min-h-11 max-sm:px-3',
              on ? 'border-ink bg-amber-wash text-ink' : 'border-line text-muted hover:border-ink',
            )}
          >
            {name}
          </button>
        );
      })}
    </span>
  );
}

/** A number that counts as soon as it is one; what is typed stands there while it is typed, else the number that counts. */
function NumberBox({
  label,
  value,
  least,
  most,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly least?: number;
  readonly most?: number;
  readonly onChange: (value: number) => void;
}) {
  const [typing, setTyping] = useState<string | null>(null);
  return (
    <input
      type="number"
      step="any"
      aria-label={label}
      min={least}
      max={most}
      value={typing ?? value}
      onBlur={() => setTyping(null)}
      onChange={(e) => {
        setTyping(e.target.value);
        const typed = e.target.valueAsNumber;
        if (Number.isFinite(typed) && typed >= (least ?? -Infinity) && typed <= (most ?? Infinity))
          onChange(typed);
      }}
      className={classes(inputClasses, 'max-w-18 px-1.5 py-0.5 text-[13px] max-sm:min-h-11')}
    />
  );
}

/** The row that begins in an empty group. */
export function firstRow(course: ClassAbout): ColumnTest {
  const trait = traitChoices(course)[0]!.make(null)!;
  return firstTest(trait, traitAbout(trait, course)!, course);
}
