/** Sizes of the grid, in pixels: everything is placed by arithmetic, so that only what is in sight need be drawn. */
export const ROW = 27;
export const CELL = 84;
export const NAME = 208;
/** On a phone: rows that a finger hits, and names that leave room for the points. */
export const NARROW_ROW = 44;
export const NARROW_NAME = 148;
export const STANDING = 76;
export const GROUP_HEAD = 38;
export const WORK_HEAD = 66;
export const SUMMARY = 24;
export const SUMMARIES = ['median', 'mean', 'middle half'] as const;

/** Height of everything pinned above the first student. */
export const HEAD = GROUP_HEAD + WORK_HEAD + SUMMARIES.length * SUMMARY;
