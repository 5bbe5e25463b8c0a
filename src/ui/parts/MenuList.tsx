'use client';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { buttonClasses } from './Button';

export interface MenuItem {
  readonly label: string;
  readonly onSelect: () => void;
  /** Shown with a tick; undefined for what is not switched on and off. */
  readonly on?: boolean;
}

export interface MenuProps {
  readonly label: string;
  readonly items: readonly MenuItem[];
}

/** The menu of `Menu`. */
export default function MenuList({ label, items }: MenuProps) {
  const look = 'data-highlighted:bg-amber-wash cursor-pointer rounded px-2.5 py-1.5 outline-none';
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger className={buttonClasses('quiet', undefined, true)}>
        {label} <ChevronDown className="size-3.5" aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="border-line bg-panel text-ink z-50 max-h-[70vh] min-w-56 overflow-auto rounded-md border p-1 text-sm shadow-lg"
        >
          {items.map((item) =>
            item.on == null ? (
              <DropdownMenu.Item key={item.label} onSelect={item.onSelect} className={look}>
                {item.label}
              </DropdownMenu.Item>
            ) : (
              <DropdownMenu.CheckboxItem
                key={item.label}
                checked={item.on}
                // Stays open, so that several can be switched.
                onSelect={(e) => {
                  e.preventDefault();
                  item.onSelect();
                }}
                className={`${look} flex gap-2`}
              >
                <span className="w-4">{item.on ? '✓' : ''}</span>
                {item.label}
              </DropdownMenu.CheckboxItem>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
