import { CHOSEN_BY, nounOf, ofDays, type Trait } from './trait';
import type { ClassAbout } from './traitAbout';

/** A kind of trait as it is chosen from a list: what it is about is chosen after it. */
export interface TraitChoice {
  readonly value: string;
  readonly label: string;
  readonly heading: string;
  readonly make: (now: Trait | null) => Trait | null;
}

const USUAL_DAYS = 7;
const daysOf = (now: Trait | null): number =>
  now && 'days' in now && now.days != null ? now.days : USUAL_DAYS;

/** What a row of the builder can ask for in a course, in the order of the list. */
export function traitChoices(course: ClassAbout): TraitChoice[] {
  const firstWork = course.works.find((w) => w.points != null) ?? course.works[0];
  const workOf = (now: Trait | null) => (now && 'work' in now ? now.work : firstWork?.id);
  const ofWork = (of: 'score' | 'percent' | 'status' | 'late', label: string): TraitChoice => ({
    value: of,
    label,
    heading: 'One assignment',
    make: (now) => {
      const work = workOf(now);
      return work == null ? null : { of, work };
    },
  });
  const firstOf = (list: readonly { readonly id: number }[]) => list[0]?.id ?? null;
  const ofIt: readonly TraitChoice[] = course.ofWork
    ? (
        [
          ['percent', 'Score in per cent'],
          ['time', 'Time on its material'],
          ['begun', 'Begun or not'],
        ] as const
      ).map(([what, label]) => ({
        value: `this ${what}`,
        label,
        heading: 'The assignment',
        make: () => ({ of: 'this', what }),
      }))
    : [];
  const all: readonly TraitChoice[] = [
    ...ofIt,
    ofWork('score', 'Score in points'),
    ofWork('percent', 'Score in per cent'),
    ofWork('status', 'Handed in or not'),
    ofWork('late', 'Late or not'),
    {
      value: 'opened',
      label: 'Opened or not',
      heading: 'One assignment',
      make: (now) => {
        const work = workOf(now);
        return work == null ? null : { of: 'opened', work, days: daysOf(now) };
      },
    },
    ...CHOSEN_BY.map((measure): TraitChoice => ({
      value: `measure ${measure}`,
      label: capital(nounOf(measure)!.replace(/^a /, '')),
      heading: 'Activity and grades',
      make: (now) =>
        ofDays(measure) ? { of: 'measure', measure, days: daysOf(now) } : { of: 'measure', measure },
    })),
    { value: 'flag', label: 'Flag', heading: 'Judged', make: () => ({ of: 'flag', flag: 'behind' }) },
    {
      value: 'outcome',
      label: 'Level of an outcome',
      heading: 'Judged',
      make: () => withId(firstOf(course.outcomes), (outcome) => ({ of: 'outcome', outcome })),
    },
    { value: 'section', label: 'Section', heading: 'Belongs to', make: () => ({ of: 'section' }) },
    {
      value: 'group',
      label: 'Group',
      heading: 'Belongs to',
      make: () => withId(firstOf(course.groups), (id) => ({ of: 'group', group: id })),
    },
    {
      value: 'audience',
      label: 'Saved audience',
      heading: 'Belongs to',
      make: () => withId(firstOf(course.audiences), (audience) => ({ of: 'audience', audience })),
    },
    {
      value: 'written',
      label: 'Written to',
      heading: 'What was done',
      make: (now) => ({ of: 'written', days: daysOf(now) }),
    },
    {
      value: 'unanswered',
      label: 'Message not answered',
      heading: 'What was done',
      make: () => ({ of: 'unanswered' }),
    },
    { value: 'unread', label: 'Message not read', heading: 'What was done', make: () => ({ of: 'unread' }) },
    { value: 'plan', label: 'Study plan', heading: 'What was done', make: () => ({ of: 'plan' }) },
  ];
  // A course without groups does not offer them.
  return all.filter((choice) => choice.make(null) != null);
}

const withId = (id: number | null, make: (id: number) => Trait): Trait | null =>
  id == null ? null : make(id);
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The entry of the list that a trait is of. */
export const choiceOf = (trait: Trait): string =>
  trait.of === 'measure' ? `measure ${trait.measure}` : trait.of === 'this' ? `this ${trait.what}` : trait.of;
