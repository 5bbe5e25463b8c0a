import type { FlagKind } from '../flags/indicators';

/** A kind way to begin a talk, by what it is about. It asks, and accuses nobody of anything. */
export const OPENINGS: Readonly<Record<FlagKind, string>> = {
  'not seen': 'Good to see you. How have the last weeks been?',
  behind: 'What would help most to get the open assignments going?',
  'low standing': 'Which part of the course feels heaviest at the moment?',
  slipping: 'The last assignment looked harder than those before. What got in the way?',
  'low time': 'How do you work for this course at the moment, on paper or here?',
  'effort without progress': 'I can see the work you put in. Shall we look at one thing together?',
};

/** The same for somebody who comes back, or answered a message. */
export const BACK_OPENING = 'Good that you are back. What do you need first?';
export const ANSWERED_OPENING = 'Thank you for your answer. Shall we talk about it for a moment?';
