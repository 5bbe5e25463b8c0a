import { clockText } from '../calendar/clock';
import { WEEKDAYS } from '../calendar/weekdays';
import { counted } from '../format';
import { selectionSentence } from '../people/selectionWords';
import type { ClassAbout } from '../people/traitAbout';
import { isOfWork, type RuleParts, type Then, type When, type Which } from './rule';

function whichWords(which: Which, course: ClassAbout): string {
  if ('any' in which) return 'any assignment';
  if ('kind' in which) return `${/^[aeiou]/.test(which.kind) ? 'an' : 'a'} ${which.kind}`;
  const work = course.works.find((w) => w.id === which.work);
  return work ? work.title : 'an assignment that is gone';
}

/** When a rule looks, as the beginning of its sentence: "When a quiz is graded". */
export function whenWords(when: When, course: ClassAbout): string {
  switch (when.on) {
    case 'graded':
      return `When ${whichWords(when.which, course)} is graded`;
    case 'due':
      return `${counted(when.hours, 'hour')} before ${whichWords(when.which, course)} is due`;
    case 'holds':
      return when.days === 0 ? 'As soon as it is so' : `Once it has been so for ${counted(when.days, 'day')}`;
    case 'step overdue':
      return 'When a step of a study plan is overdue';
    case 'plan finished':
      return 'When a study plan is finished';
    case 'weekly':
      return `Every ${WEEKDAYS[when.weekday - 1]} at ${clockText(when.minute)}`;
  }
}

const doing = ({ do: what, withPlan, offersTalk }: Then): string =>
  what === 'word'
    ? 'tell me about'
    : withPlan
      ? 'send a message with a plan to'
      : offersTalk
        ? 'offer a talk to'
        : 'write to';

/** A rule as a sentence: "When a quiz is graded, write to students with a score under 60 % on it." */
export function ruleSentence({ when, where, then }: RuleParts, course: ClassAbout): string {
  const whom = selectionSentence(where, { ...course, ofWork: isOfWork(when) });
  return `${whenWords(when, course)}, ${doing(then)} ${whom.charAt(0).toLowerCase()}${whom.slice(1)}`;
}
