'use client';
import { ChevronDown } from 'lucide-react';
import { isGroup, type ChooseOption, type ChooseProps } from './chooseOptions';
import { classes } from './classes';
import { useLater } from './useLater';

const loadList = () => import('./ChooseList');

/** A list to choose one from. */
export function Choose<V extends string>(props: ChooseProps<V>) {
  const {
    label,
    value,
    options,
    onChange,
    onClose: _,
    disabled,
    placeholder,
    small,
    className,
    ...field
  } = props;
  const { Part, ask } = useLater(loadList);
  const look = classes(
    'border-edge/70 bg-panel text-ink inline-flex items-center justify-between gap-1.5 rounded-md border text-left',
    'aria-[invalid=true]:border-plum disabled:cursor-not-allowed disabled:opacity-55',
    small ? 'min-h-6.5 px-1.5 py-0.5 text-[13px]' : 'min-h-8.5 px-2.5 py-1.5 text-sm',
    className ?? 'w-full',
  );
  const all = options.flatMap((o): readonly ChooseOption<V>[] => (isGroup(o) ? o.options : [o]));
  if (Part)
    return (
      <Part
        {...props}
        onChange={(next) => {
          const found = all.find((o) => o.value === next);
          if (found) onChange(found.value);
        }}
        look={look}
      />
    );
  const chosen = all.find((o) => o.value === value);
  return (
    <button
      {...field}
      type="button"
      role="combobox"
      aria-haspopup="listbox"
      aria-expanded={false}
      aria-controls={undefined}
      aria-label={label}
      disabled={disabled}
      onClick={ask}
      onKeyDown={(e) => {
        // As in any list that is closed: an arrow or a letter opens it.
        if (/^(Arrow(Up|Down)|[a-z0-9])$/i.test(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey) {
          e.preventDefault();
          ask();
        }
      }}
      className={look}
    >
      <span className="truncate">
        {chosen ? chosen.label.trim() : <span className="text-muted">{placeholder ?? 'Choose one'}</span>}
      </span>
      <ChevronDown className="text-muted size-3.5" aria-hidden />
    </button>
  );
}
