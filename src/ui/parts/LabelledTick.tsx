'use client';

/** A box to tick with its words beside it. */
export function LabelledTick({
  label,
  checked,
  onChange,
  disabled,
}: {
  readonly label: string;
  readonly checked: boolean;
  readonly onChange: (checked: boolean) => void;
  readonly disabled?: boolean;
}) {
  return (
    <label className="flex items-center gap-2 max-sm:min-h-11">
      <input
        type="checkbox"
        className="accent-teal size-4"
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
      />
      {label}
    </label>
  );
}
