'use client';
import { useState, type ComponentType } from 'react';
import { say } from './say';

const loaded = new Map<unknown, ComponentType<never>>();

/**
 * A part that opens, loaded when somebody first wants it: a menu, a calendar, a list to choose from. Until then what it
 * opens from stands alone, so that no page has to bring along what is not opened on it. It takes the place of that only
 * once it was asked for: what has the focus does not go from under it.
 *
 * @param load stands outside of the component: it tells the parts apart
 * @returns the part once it was asked for and is there, to be shown open from the start, and how to ask for it
 */
export function useLater<P>(load: () => Promise<{ readonly default: ComponentType<P> }>) {
  const [asked, setAsked] = useState(false);
  const [, draw] = useState(0);
  const ask = () => {
    setAsked(true);
    if (loaded.has(load)) return;
    load().then(
      (part) => {
        loaded.set(load, part.default as ComponentType<never>);
        draw((n) => n + 1);
      },
      () => say.error('This could not be loaded. Try again, or reload the page.'),
    );
  };
  return { Part: asked ? ((loaded.get(load) ?? null) as ComponentType<P> | null) : null, ask };
}
