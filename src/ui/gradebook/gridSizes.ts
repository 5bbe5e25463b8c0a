/** Sizes of the grid, in pixels: everything is placed by arithmetic, so that only what is in sight need be drawn. */
export const ROW = 27;
export const CELL = 84;
export const NAME = 208;
export const STANDING = 76;
export const GROUP_HEAD = 38;
export const WORK_HEAD = 66;
export const SUMMARY = 24;
export const SUMMARIES = ['median', 'mean', 'middle half'] as const;

/** Height of everything pinned above the first student. */
export const HEAD = GROUP_HEAD + WORK_HEAD + SUMMARIES.length * SUMMARY;
