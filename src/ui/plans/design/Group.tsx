'use client';
import { useDroppable } from '@dnd-kit/core';
import { Plus } from 'lucide-react';
import type { ReactNode } from 'react';
import type { DesignStep, PartRule, StepGroup, StepOrder } from '@/core/plans/design';
import type { StepMove } from '@/core/plans/edit';
import type { DesignView } from '@/core/views/design';
import { Button } from '../../parts/Button';
import { Choose } from '../../parts/Choose';
import { classes } from '../../parts/classes';
import { StepCard } from './StepCard';

/** How much of a group is expected, as a choice. */
const ruleValue = (rule: PartRule): string => (rule.kind === 'any' ? `any ${rule.n}` : rule.kind);

function ruleOptions(steps: number, rule: PartRule) {
  const most = Math.max(steps - 1, rule.kind === 'any' ? rule.n : 0);
  return [
    { value: 'all', label: 'All of these' },
    ...Array.from({ length: most }, (_, i) => ({
      value: `any ${i + 1}`,
      label: `Any ${i + 1} of these`,
    })),
    { value: 'one set', label: 'One of two sets' },
  ];
}

const ruleOf = (value: string): PartRule =>
  value === 'all' || value === 'one set' ? { kind: value } : { kind: 'any', n: Number(value.slice(4)) };

/** The steps of a section or a band, with what is expected of them and in which order. */
export function Group({
  group,
  name,
  head,
  view,
  zone,
  onChange,
  onAdd,
  onOpen,
  onMove,
}: {
  readonly group: StepGroup;
  /** What it is called when it is read out. */
  readonly name: string;
  readonly head: ReactNode;
  readonly view: DesignView;
  readonly zone: string;
  readonly onChange: (set: Partial<StepGroup>) => void;
  readonly onAdd: () => void;
  readonly onOpen: (step: DesignStep) => void;
  readonly onMove: (step: string, move: StepMove) => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `into ${group.id}`, data: { group: group.id } });
  const kindOf = new Map(view.activities.map((a) => [a.id, a.kind]));
  return (
    <section
      aria-label={name}
      ref={setNodeRef}
      className={classes(
        'border-line bg-panel rounded-lg border p-3',
        isOver && 'border-amber bg-amber-wash/40',
      )}
    >
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <div className="min-w-0 flex-1">{head}</div>
        <span className="flex gap-2">
          <Choose
            small
            className="w-36"
            label={`How much of ${name}`}
            value={ruleValue(group.rule)}
            options={ruleOptions(group.steps.length, group.rule)}
            onChange={(v) => onChange({ rule: ruleOf(v) })}
          />
          <Choose<StepOrder>
            small
            className="w-32"
            label={`Order of ${name}`}
            value={group.order}
            options={[
              { value: 'fixed', label: 'in this order' },
              { value: 'free', label: 'in any order' },
            ]}
            onChange={(order) => onChange({ order })}
          />
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {group.steps.length === 0 ? (
          <span className="text-muted text-[13px]">No step yet.</span>
        ) : (
          <ol className="flex flex-wrap gap-2" aria-label={`Steps of ${name}`}>
            {group.steps.map((step) => (
              <StepCard
                key={step.id}
                group={group.id}
                step={step}
                kind={step.activityId == null ? null : (kindOf.get(step.activityId) ?? null)}
                zone={zone}
                setName={group.rule.kind === 'one set' ? `set ${step.set.toUpperCase()}` : null}
                onOpen={() => onOpen(step)}
                onMove={(move) => onMove(step.id, move)}
              />
            ))}
          </ol>
        )}
        <Button small aria-label={`Add a step to ${name}`} onClick={onAdd}>
          <Plus className="size-4" aria-hidden />
        </Button>
      </div>
    </section>
  );
}
