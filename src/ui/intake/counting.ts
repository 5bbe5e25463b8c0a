import type { FileCounts } from '@/core/views/intake';

export const COUNTED = ['added', 'changed', 'unchanged', 'waiting', 'rejected'] as const;

/** Rows of some sort over all files. */
export const total = (files: readonly FileCounts[], of: (typeof COUNTED)[number]): number =>
  files.reduce((sum, c) => sum + c[of], 0);

/** Rows that an import changes. */
export const changesOf = (files: readonly FileCounts[]): number =>
  total(files, 'added') + total(files, 'changed');
