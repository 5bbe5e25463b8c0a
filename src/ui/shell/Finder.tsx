'use client';
import { Search } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { Key } from '../parts/Button';
import { useKeys } from '../parts/useKeys';

const KeyList = dynamic(() => import('./KeyList').then((m) => m.KeyList));
const FinderDialog = dynamic(() => import('./FinderDialog'), { ssr: false });

/** Finds a student, an activity or a command by the starts of words: Ctrl or Cmd with K from anywhere in a course. `?` lists the keys. */
export function Finder({ code }: { readonly code: string }) {
  const [open, setOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ '?': () => setKeysOpen(true) });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'k' && (event.metaKey || event.ctrlKey)) {
        event.preventDefault();
        setOpen((was) => !was);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="text-muted hover:text-ink border-line hover:border-ink flex w-full items-center justify-between rounded-md border px-2.5 py-1 text-[13px] max-[1099px]:justify-center max-[1099px]:px-0"
      >
        <Search className="size-4 min-[1100px]:hidden" aria-hidden />
        <span className="max-[1099px]:sr-only">
          Find<span className="sr-only"> a student or command</span>
        </span>
        <span className="max-[1099px]:hidden">
          <Key>Ctrl K</Key>
        </span>
      </button>
      {open ? <FinderDialog code={code} onClose={() => setOpen(false)} /> : null}
      {keysOpen ? <KeyList open onOpenChange={setKeysOpen} /> : null}
    </>
  );
}
