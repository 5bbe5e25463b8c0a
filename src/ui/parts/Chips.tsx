import { classes } from './classes';

interface Option<V extends string> {
  readonly value: V;
  readonly label: string;
  readonly count?: number;
}

/** A row of choices of which one holds, each with how many it stands for. */
export function Chips<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  readonly label: string;
  readonly value: V;
  readonly options: readonly Option<V>[];
  readonly onChange: (value: V) => void;
}) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap gap-1.5">
      {options.map((o) => (
        <button
          key={o.value}
          type="button"
          aria-pressed={o.value === value}
          onClick={() => onChange(o.value)}
          className={classes(
            'bg-panel rounded-md border px-2 py-0.5 text-[13px]',
            o.value === value ? 'border-ink text-ink' : 'border-line text-muted hover:border-ink',
          )}
        >
          {o.label}
          {o.count == null ? null : <span className="text-ink font-semibold"> {o.count}</span>}
        </button>
      ))}
    </div>
  );
}
