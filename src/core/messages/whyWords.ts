import type { About } from '../acts/pick';

/** Why somebody got a message, as it reads to them; null where what it is about says nothing of its own. */
const WHY: Readonly<Record<About, string | null>> = {
  'not seen': 'you have not logged in for a while',
  behind: 'assignments are open',
  'low standing': 'of your grade so far',
  slipping: 'your latest results are lower than those before',
  'low time': 'little is recorded of you lately; what you do on paper is not seen here',
  'effort without progress': 'you put time in and the results do not show it yet',
  'on time': 'you hand in on time',
  improved: 'your results went up',
  'missing assignment': 'an assignment is not handed in',
  'late assignment': 'an assignment came late',
  'low score': 'of your score on an assignment',
  'high score': 'of your score on an assignment',
  'due soon': 'an assignment is due soon',
  'back again': 'you are back after a while',
  other: null,
};

/** Why somebody got a message, in one plain line to them, with the assignment by its name where it is about one. */
export function whyWords(about: About, assignment: string | null): string | null {
  const why = WHY[about];
  if (why == null) return null;
  return `You got this because ${assignment == null ? why : why.replace('an assignment', `“${assignment}”`)}.`;
}
