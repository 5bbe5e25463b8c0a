'use client';
import { ThemeProvider } from 'next-themes';
import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';
import { Choice } from '../parts/Choice';

const Notices = dynamic(() => import('./Notices'), { ssr: false });

/** What stands around every page: the theme, the sheet that asks, and the place where results are announced. */
export function Frame({ nonce, children }: { readonly nonce?: string; readonly children: ReactNode }) {
  return (
    <ThemeProvider
      attribute="class"
      defaultTheme="system"
      enableSystem
      disableTransitionOnChange
      nonce={nonce}
    >
      {children}
      <Choice />
      <Notices />
    </ThemeProvider>
  );
}
