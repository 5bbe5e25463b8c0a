'use client';
import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/**
 * False on the server and until this part of the page answers; then true. A form that is sent before would be sent
 * by the browser itself, with what was typed in the address.
 */
export const useAlive = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
