'use client';
import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import { useAlive } from '../parts/useAlive';

/** Switches between light and dark; follows the system until used. */
export function ThemeSwitch() {
  const { resolvedTheme, setTheme } = useTheme();
  // The server cannot know the theme; the button appears once the page is alive.
  const alive = useAlive();
  if (!alive) return <span className="size-7" />;
  const dark = resolvedTheme === 'dark';
  const Icon = dark ? Sun : Moon;
  return (
    <button
      type="button"
      onClick={() => setTheme(dark ? 'light' : 'dark')}
      aria-label={dark ? 'Use the light theme' : 'Use the dark theme'}
      className="text-muted hover:text-ink grid size-7 place-items-center rounded max-sm:size-11"
    >
      <Icon className="size-4" aria-hidden />
    </button>
  );
}
