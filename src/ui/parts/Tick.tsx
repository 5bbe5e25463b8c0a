'use client';
import { classes } from './classes';

/** A box to tick of a row that has no words of its own; on a phone a finger's breadth around it counts as the box. */
export function Tick({
  label,
  checked,
  onChange,
  reached = true,
  className,
}: {
  readonly label: string;
  readonly checked: boolean;
  readonly onChange: (checked: boolean) => void;
  /** Whether Tab stops at it; not inside a grid, which has one stop. */
  readonly reached?: boolean;
  readonly className?: string;
}) {
  return (
    <label
      className={classes(
        'inline-grid shrink-0 cursor-pointer place-items-center max-sm:-my-1.5 max-sm:-ml-2.5 max-sm:size-11',
        className,
      )}
    >
      <input
        type="checkbox"
        tabIndex={reached ? undefined : -1}
        className="accent-teal size-4 max-sm:size-6"
        aria-label={label}
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
    </label>
  );
}
