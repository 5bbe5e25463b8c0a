'use client';
import { useEffect, useRef, useState } from 'react';

/**
 * A field in which a value is typed in words. What cannot be read stays as it was typed, says what is wrong, and keeps its
 * form from being sent; what can is shown in the usual words once the field is left.
 *
 * @param shown the value in its usual words
 * @param take reads what is typed and hands on the value; says what is wrong with it, or null
 */
export function useTyped(shown: string, take: (text: string) => string | null) {
  const input = useRef<HTMLInputElement>(null);
  // What is being typed; null while the field shows its value.
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => input.current?.setCustomValidity(wrong ?? ''), [wrong]);
  const clear = () => {
    setTyped(null);
    setWrong(null);
  };
  return {
    wrong,
    clear,
    field: {
      ref: input,
      type: 'text',
      autoComplete: 'off',
      value: typed ?? shown,
      onChange: (e: { readonly target: HTMLInputElement }) => {
        setTyped(e.target.value);
        setWrong(take(e.target.value));
      },
      // What is typed takes the place of what stood there.
      onFocus: (e: { readonly target: HTMLInputElement }) => e.target.select(),
      onBlur: () => wrong == null && setTyped(null),
    },
  };
}
