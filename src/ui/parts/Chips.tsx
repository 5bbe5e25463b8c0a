'use client';
import { ToggleGroup } from 'radix-ui';
import { classes } from './classes';

interface Option<V extends string> {
  readonly value: V;
  readonly label: string;
  readonly count?: number;
}

/** A row of choices of which one holds, each with how many it stands for; the arrow keys go along it. */
export function Chips<V extends string>({
  label,
  value,
  options,
  onChange,
  onAgain,
}: {
  readonly label: string;
  readonly value: V;
  readonly options: readonly Option<V>[];
  readonly onChange: (value: V) => void;
  /** A press on the one that holds. */
  readonly onAgain?: () => void;
}) {
  return (
    <ToggleGroup.Root
      // Pressed buttons, of which one stays pressed: a press on it changes nothing.
      type="multiple"
      role="group"
      value={[value]}
      onValueChange={(pressed) => {
        const next = options.find((o) => o.value !== value && pressed.includes(o.value));
        if (next) onChange(next.value);
        else onAgain?.();
      }}
      aria-label={label}
      className="flex flex-wrap gap-1.5"
    >
      {options.map((o) => (
        <ToggleGroup.Item
          key={o.value}
          value={o.value}
          className={classes(
            'bg-panel rounded-md border px-2 py-0.5 text-[13px] max-sm:min-h-11 max-sm:px-3',
            o.value === value ? 'border-ink text-ink' : 'border-line text-muted hover:border-ink',
          )}
        >
          {o.label}
          {o.count == null ? null : <span className="text-ink font-semibold"> {o.count}</span>}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
