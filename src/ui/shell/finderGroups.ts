import type { FinderView } from '@/core/views/finder';

/** One thing the finder goes to. */
export interface FinderEntry {
  readonly name: string;
  readonly href: string;
  /** What stands at its end: the kind of an activity, the section of a student. */
  readonly aside: string | null;
}

/** A heading of the finder, and what stands under it. */
export interface FinderGroup {
  readonly heading: string;
  readonly entries: readonly FinderEntry[];
}

/** Where the commands lead, below the address of a course. */
const COMMANDS: readonly (readonly [name: string, path: string])[] = [
  ['Go to Rounds', 'rounds'],
  ['Show everyone in the course', 'rounds?show=everyone'],
  ['Go to the weekly look', 'week'],
  ['Go to Activity: who has not logged in', 'activity'],
  ['Go to the session check', 'session'],
  ['Go to the card for the next meeting', 'card'],
  ['Note in passing', 'passing'],
  ['Go to the Gradebook', 'gradebook'],
  ['Grade what waits', 'gradebook?status=awaiting+grade'],
  ['Go to Trends', 'trends'],
  ['Go to Outcomes: what the class does not know yet', 'outcomes'],
  ['Go to Items: answers that call for a look', 'items'],
  ['Go to Lists: missing, late, excused', 'lists'],
  ['Go to Audiences: choose students by a condition', 'audiences'],
  ['Go to Messages', 'messages'],
  ['Go to Talks: times, bookings and what was agreed', 'talks'],
  ['Go to Plans', 'plans'],
  ['Go to Rules: what is written unasked', 'rules'],
  ['Import files', 'import'],
  ['Change the thresholds of flags', 'rules/flags'],
];

/** All that can be found in a course, under its headings. */
export function finderGroups(code: string, { students, activities }: FinderView): FinderGroup[] {
  const base = `/c/${code}`;
  return [
    {
      heading: 'Commands',
      entries: COMMANDS.map(([name, path]) => ({ name, href: `${base}/${path}`, aside: null })),
    },
    {
      heading: 'Assignments and pages',
      entries: activities.map((a) => ({ name: a.title, href: `${base}/work/${a.id}`, aside: a.kind })),
    },
    {
      heading: 'Students',
      entries: students.map((s) => ({ name: s.name, href: `${base}/students/${s.id}`, aside: s.section })),
    },
  ];
}
