/** Joins class names, leaving out what is not set. */
export const classes = (...names: (string | false | null | undefined)[]): string =>
  names.filter(Boolean).join(' ');

/** A link that stands alone in a line or a cell: on a phone a finger's breadth around it counts as the link. */
export const finger = 'max-sm:py-4';
