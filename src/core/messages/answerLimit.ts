/** Replies that a student can send in a day, here and by e-mail together: nobody writes more by hand. */
export const MOST_ANSWERS_A_DAY = 100;
