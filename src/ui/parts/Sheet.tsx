'use client';
import dynamic from 'next/dynamic';
import type { SheetProps } from './SheetDialog';

const SheetDialog = dynamic(() => import('./SheetDialog'), { ssr: false });

/** A dialog in the middle of the page. Escape and the cross close it; focus goes back to where it came from. */
export function Sheet({ open, ...sheet }: SheetProps) {
  return open ? <SheetDialog {...sheet} /> : null;
}
