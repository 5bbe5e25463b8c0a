'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { ComposeView } from '@/core/views/compose';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';

/** Chooses what a new step is made from, and adds it. */
export function StepChooser({
  activities,
  label,
  disabled,
  onAdd,
}: {
  readonly activities: ComposeView['activities'];
  readonly label: string;
  readonly disabled?: boolean;
  /** Null for a step of one's own. */
  readonly onAdd: (activity: ComposeView['activities'][number] | null) => void;
}) {
  const [chosen, setChosen] = useState('');
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Choose
        label="Step to add"
        small
        className="w-56"
        value={chosen}
        options={[
          { value: '', label: 'Something of your own' },
          ...activities.map((a) => ({ value: a.id, label: a.title })),
        ]}
        onChange={setChosen}
      />
      <Button
        small
        disabled={disabled}
        onClick={() => onAdd(activities.find((a) => a.id === chosen) ?? null)}
      >
        <Plus className="size-3.5" aria-hidden /> {label}
      </Button>
    </span>
  );
}
