'use client';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useLater } from './useLater';

const loadBubble = () => import('./HintBubble');
/** So long a pointer rests before words come up. */
const REST_MS = 300;

/**
 * Shows the name of something that is drawn as a sign, to whom has the pointer or the keyboard on it: a link, a button.
 * The name itself stands in the sign, for who hears it. What stands still needs its words on the page.
 */
export function Hint({ says, children }: { readonly says: string; readonly children: ReactElement }) {
  const { Part, ask } = useLater(loadBubble);
  const [open, setOpen] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const show = (after: number) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      ask();
      setOpen(true);
    }, after);
  };
  const hide = () => {
    clearTimeout(timer.current);
    setOpen(false);
  };
  return (
    <span
      className="relative block"
      onPointerEnter={(e) => e.pointerType !== 'touch' && show(REST_MS)}
      onPointerLeave={hide}
      onPointerDown={hide}
      onFocus={(e) => e.target.matches(':focus-visible') && show(0)}
      onBlur={hide}
      onKeyDown={(e) => e.key === 'Escape' && hide()}
    >
      {children}
      {open && Part ? <Part says={says} /> : null}
    </span>
  );
}
