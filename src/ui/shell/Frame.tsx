'use client';
import { ThemeProvider, useTheme } from 'next-themes';
import type { ReactNode } from 'react';
import { Toaster } from 'sonner';

/** What stands around every page: the theme and the place where results are announced. */
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
      <Notices />
    </ThemeProvider>
  );
}

function Notices() {
  const { resolvedTheme } = useTheme();
  return (
    <Toaster
      theme={resolvedTheme === 'dark' ? 'dark' : 'light'}
      position="top-right"
      closeButton
      duration={8000}
      toastOptions={{
        style: {
          background: 'var(--panel)',
          color: 'var(--ink)',
          borderColor: 'var(--line)',
          fontFamily: 'var(--font-sans)',
        },
      }}
    />
  );
}
