'use client';
import { Plus } from 'lucide-react';
import { bare, group, joiningOf, negated, partsOf, type Joining } from '@/core/people/editWhere';
import type { ClassAbout } from '@/core/people/traitAbout';
import type { Selection } from '@/core/rules/selection';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { firstRow, TestRow } from './TestRow';

interface Props {
  readonly where: Selection;
  readonly course: ClassAbout;
  /** "1.2": the second part of the first. */
  readonly place: string;
  readonly onChange: (where: Selection) => void;
  readonly onRemove?: () => void;
}

/** Groups that stand within one another are still read by a person. */
const MOST_DEEP = 4;

/** Rows and groups of a condition, joined by all or any. */
export function ConditionGroup({ where, course, place, onChange, onRemove }: Props) {
  const { part, not } = bare(where);
  const how = joiningOf(part) ?? 'all';
  // A condition that is one test is a group of one.
  const parts = joiningOf(part) ? partsOf(part) : [part];
  const set = (next: readonly Selection[], joined: Joining = how) =>
    onChange(negated(group(joined, next), not));
  const setAt = (at: number, next: Selection | null) =>
    set(parts.flatMap((p, i) => (i === at ? (next ? [next] : []) : [p])));
  const depth = place === '' ? 0 : place.split('.').length;
  return (
    <div
      role="group"
      aria-label={place === '' ? 'Condition' : `Group ${place}`}
      className={depth > 0 ? 'border-line my-1 rounded-md border border-dashed p-2' : undefined}
    >
      <div className="flex flex-wrap items-center gap-2">
        <Chips
          label={place === '' ? 'How the rows are joined' : `How the rows of group ${place} are joined`}
          value={how}
          options={[
            { value: 'all', label: 'all of these' },
            { value: 'any', label: 'any of these' },
          ]}
          onChange={(next) => set(parts, next)}
        />
        {depth > 0 ? (
          <>
            <label className="text-muted flex items-center gap-1.5 text-[13px]">
              <input
                type="checkbox"
                className="accent-teal size-4"
                checked={not}
                onChange={(e) => onChange(negated(part, e.target.checked))}
              />
              not
            </label>
            <Button small look="quiet" onClick={onRemove} className="ml-auto">
              Remove group
            </Button>
          </>
        ) : null}
      </div>
      {parts.map((p, i) => {
        const inner = place === '' ? `${i + 1}` : `${place}.${i + 1}`;
        const { part: bared, not: negative } = bare(p);
        // Whether it is a row: a group within has its own frame.
        return 'measure' in bared ? (
          <TestRow
            key={i}
            test={bared}
            not={negative}
            course={course}
            label={`Row ${inner}`}
            onChange={(test) => setAt(i, negated(test, negative))}
            onNot={(next) => setAt(i, negated(bared, next))}
            onRemove={() => setAt(i, null)}
          />
        ) : (
          <ConditionGroup
            key={i}
            where={p}
            course={course}
            place={inner}
            onChange={(next) => setAt(i, next)}
            onRemove={() => setAt(i, null)}
          />
        );
      })}
      <div className="mt-1 flex gap-2">
        <Button small onClick={() => set([...parts, firstRow(course)])}>
          <Plus className="size-3.5" aria-hidden /> Add a row
        </Button>
        {depth < MOST_DEEP ? (
          <Button
            small
            look="quiet"
            onClick={() => set([...parts, group(how === 'all' ? 'any' : 'all', [firstRow(course)])])}
          >
            Add a group
          </Button>
        ) : null}
      </div>
    </div>
  );
}
