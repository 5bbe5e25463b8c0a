'use client';
import dynamic from 'next/dynamic';
import { usePathname } from 'next/navigation';
import type { TrayItem } from '@/core/views/tray';

const Tray = dynamic(() => import('./Tray').then((m) => m.Tray));

/** The selection tray, where somebody is selected; the page that composes shows the same people itself. */
export function TrayBar({ code, items }: { readonly code: string; readonly items: readonly TrayItem[] }) {
  const path = usePathname();
  return items.length === 0 || path.endsWith('/compose') ? null : <Tray code={code} items={items} />;
}
