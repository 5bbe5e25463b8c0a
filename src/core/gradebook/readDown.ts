/** From this share of low scores on, a work goes back into class rather than to single students: our own threshold. */
export const READ_DOWN_SHARE = 1 / 3;
/** Fewer grades say nothing about a class. */
export const LEAST_GRADES = 5;

/** Whether so many low scores out of so many say that the topic, not the student, needs another look. */
export const goesBackIntoClass = (low: number, graded: number): boolean =>
  graded >= LEAST_GRADES && low / graded >= READ_DOWN_SHARE;
