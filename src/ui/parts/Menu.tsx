'use client';
import { ChevronDown } from 'lucide-react';
import { buttonClasses } from './Button';
import type { MenuProps } from './MenuList';
import { useLater } from './useLater';

const loadList = () => import('./MenuList');

/** A few seldom needed commands behind one button. */
export function Menu(menu: MenuProps) {
  const { Part, ask } = useLater(loadList);
  if (Part) return <Part {...menu} />;
  return (
    <button
      type="button"
      aria-haspopup="menu"
      aria-expanded={false}
      onClick={ask}
      className={buttonClasses('quiet', undefined, true)}
    >
      {menu.label} <ChevronDown className="size-3.5" aria-hidden />
    </button>
  );
}
