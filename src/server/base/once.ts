/** Reads once, whoever asks how often. */
export function once<T>(read: () => Promise<T>): () => Promise<T> {
  let reading: Promise<T> | null = null;
  return () => (reading ??= read());
}
