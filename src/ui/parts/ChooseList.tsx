'use client';
import { Check, ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { isGroup, type ChooseOption, type ChooseProps } from './chooseOptions';

// An empty value means “nothing chosen” to the list below; ours may be empty.
const inside = (value: string): string => `=${value}`;

/** The list of `Choose`. */
export default function ChooseList({
  label,
  value,
  options,
  onChange,
  onClose,
  disabled,
  placeholder,
  look,
  small: _,
  className: __,
  ...field
}: ChooseProps<string> & { readonly look: string }) {
  const all = options.flatMap((o) => (isGroup(o) ? o.options : [o]));
  const chosen = all.find((o) => o.value === value);
  return (
    <Select.Root
      value={chosen ? inside(value) : ''}
      onValueChange={(next) => {
        const found = all.find((o) => inside(o.value) === next);
        if (found) onChange(found.value);
      }}
      disabled={disabled}
      defaultOpen
    >
      <Select.Trigger {...field} aria-label={label} className={look}>
        <span className="truncate">
          <Select.Value placeholder={<span className="text-muted">{placeholder ?? 'Choose one'}</span>}>
            {chosen?.label.trim()}
          </Select.Value>
        </span>
        <Select.Icon>
          <ChevronDown className="text-muted size-3.5" aria-hidden />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          onCloseAutoFocus={(event) => {
            if (!onClose) return;
            event.preventDefault();
            onClose();
          }}
          sideOffset={4}
          className="border-line bg-panel text-ink z-50 max-h-[min(20rem,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) overflow-hidden rounded-md border text-sm shadow-lg"
        >
          <Select.Viewport className="p-1">
            {options.map((o) =>
              isGroup(o) ? (
                <Select.Group key={`group ${o.heading}`}>
                  <Select.Label className="text-muted px-2.5 pt-1.5 pb-0.5 text-xs">{o.heading}</Select.Label>
                  {o.options.map((inner) => (
                    <Item key={inner.value} option={inner} />
                  ))}
                </Select.Group>
              ) : (
                <Item key={o.value} option={o} />
              ),
            )}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}

function Item<V extends string>({ option }: { readonly option: ChooseOption<V> }) {
  return (
    <Select.Item
      value={inside(option.value)}
      className="data-highlighted:bg-amber-wash flex min-h-8 cursor-pointer items-center justify-between gap-3 rounded px-2.5 py-1 outline-none"
    >
      <Select.ItemText>{option.label}</Select.ItemText>
      <Select.ItemIndicator>
        <Check className="text-teal size-3.5" aria-hidden />
      </Select.ItemIndicator>
    </Select.Item>
  );
}
