import { conditionsIn } from '@/core/messages/doc';
import { readDoc } from '@/core/messages/docSchema';
import { faultsIn } from '@/core/people/savedAudience';
import type { ClassAbout } from '@/core/people/traitAbout';
import { isOfWork, type RuleParts } from '@/core/unasked/rule';

/** Why a rule cannot be judged in a course as it is now, in words; null if it can. */
export function ruleFault({ when, where, then }: RuleParts, course: ClassAbout): string | null {
  if ('which' in when && 'work' in when.which) {
    const { work } = when.which;
    if (!course.works.some((w) => w.id === work))
      return 'The assignment it is about is not in the course any more.';
  }
  const [fault] = faultsIn(where, { ...course, ofWork: isOfWork(when) });
  if (fault) return fault;
  const [inText] = conditionsIn(readDoc(then.doc)).flatMap((condition) => faultsIn(condition, course));
  return inText ? `A paragraph of its text: ${inText}` : null;
}
