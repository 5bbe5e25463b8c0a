import * as yup from 'yup';
import { passingForm, type PassingForm } from '@/core/forms/note';

/** Notes of a course that wait on this device for the network. */
const placeOf = (code: string) => `lantern passing ${code}`;
const list = yup.array(passingForm).required();

const EMPTY: readonly PassingForm[] = [];
let read: { readonly text: string; readonly notes: readonly PassingForm[] } | null = null;
const listeners = new Set<() => void>();

/** What waits; the same list as long as nothing changed. What is damaged is dropped. */
export function waitingNotes(code: string): readonly PassingForm[] {
  const text = localStorage.getItem(placeOf(code));
  if (text == null) return EMPTY;
  if (read?.text !== text) read = { text, notes: parsed(text) };
  return read.notes;
}

function parsed(text: string): readonly PassingForm[] {
  try {
    const value: unknown = JSON.parse(text);
    return list.isValidSync(value, { strict: true }) ? value : EMPTY;
  } catch {
    return EMPTY;
  }
}

function keep(code: string, notes: readonly PassingForm[]): void {
  if (notes.length === 0) localStorage.removeItem(placeOf(code));
  else localStorage.setItem(placeOf(code), JSON.stringify(notes));
  for (const listener of listeners) listener();
}

export const addWaiting = (code: string, note: PassingForm): void =>
  keep(code, [...waitingNotes(code), note]);
export const dropWaiting = (code: string, key: string): void =>
  keep(
    code,
    waitingNotes(code).filter((n) => n.key !== key),
  );

/** Calls when what waits changes, in this tab or another. */
export function onWaiting(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener('storage', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', listener);
  };
}
