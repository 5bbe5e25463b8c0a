'use client';
import { parseAsString, useQueryStates } from 'nuqs';
import { useTransition } from 'react';

/** Parameters of a view in its address, each with what stands where the address lacks it. */
type Usual = Readonly<Record<string, string | null>>;
/** Their values: what the table and the view read them as is a rule of theirs. */
type Values<U extends Usual> = { readonly [K in keyof U]: U[K] extends string ? string : string | null };
/** Parameters to change; with null, or what is usual, one is left out of the address. */
type Change<U extends Usual> = { readonly [K in keyof U]?: string | null };

const HOW = { history: 'replace', scroll: false, clearOnDefault: true } as const;

/** Names the parameters of a view, once and outside of it. */
export const address = <U extends Usual>(usual: U) => ({
  usual,
  parsers: Object.fromEntries(
    Object.entries(usual).map(([key, value]) => [
      key,
      value == null ? parseAsString : parseAsString.withDefault(value),
    ]),
  ),
});

/**
 * What a view keeps in its address. `note` is for what the page can do by itself: the server is not asked. `ask` is for
 * what the server must draw anew; `moving` until it has. Nothing is scrolled, and no step is added to the history.
 */
export function useAddress<U extends Usual>({
  parsers,
}: {
  readonly parsers: ReturnType<typeof address>['parsers'];
  readonly usual: U;
}) {
  const [moving, start] = useTransition();
  const [values, set] = useQueryStates(parsers, HOW);
  return {
    asked: values as Values<U>,
    note: (change: Change<U>) => void set({ ...change }),
    ask: (change: Change<U>) => void set({ ...change }, { shallow: false, startTransition: start }),
    moving,
  };
}
