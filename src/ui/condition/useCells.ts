'use client';
import { useEffect, useRef, useState } from 'react';
import { traitCellsAction } from '@/actions/audiences';
import type { TraitCells } from '@/core/people/savedAudience';
import { say } from '../parts/say';

type Cells = Readonly<Record<string, TraitCells>>;

/**
 * The cells of the traits that a condition asks for. What is at hand is used at once; what is not is asked for, and until
 * it is there the answer is null.
 */
export function useCells(code: string, given: Cells, keys: readonly string[]): Cells | null {
  const [cells, setCells] = useState<Cells>(given);
  const asked = useRef(new Set(Object.keys(given)));
  const wanted = keys.filter((key) => !(key in cells)).join('\n');
  useEffect(() => {
    const missing = wanted.split('\n').filter((key) => key && !asked.current.has(key));
    if (missing.length === 0) return;
    for (const key of missing) asked.current.add(key);
    const forget = (message: string) => {
      for (const key of missing) asked.current.delete(key);
      say.error(message);
    };
    traitCellsAction({ code, keys: missing }).then(
      (outcome) => (outcome.ok ? setCells((all) => ({ ...all, ...outcome.value })) : forget(outcome.message)),
      () => forget('No answer came from the server; change the row to ask again.'),
    );
  }, [code, wanted]);
  return wanted === '' ? cells : null;
}
