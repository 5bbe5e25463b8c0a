/** A value, or the reason why there is none, in words for the person who sent it. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const no = (reason: string): Result<never> => ({ ok: false, reason });
