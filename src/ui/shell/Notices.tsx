'use client';
import { useTheme } from 'next-themes';
import { useEffect } from 'react';
import { Toaster } from 'sonner';
import { announcing } from '../parts/say';
import { useFreeFocus } from './useFreeFocus';

/** Where results are announced. */
export default function Notices() {
  const { resolvedTheme } = useTheme();
  useEffect(announcing, []);
  const free = useFreeFocus();
  return (
    <div {...free}>
      <Toaster
        theme={resolvedTheme === 'dark' ? 'dark' : 'light'}
        position="top-center"
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
    </div>
  );
}
