import { pickedFor, type About, type Picked } from '../acts/pick';
import { testsIn, type ColumnTest, type Selection } from '../rules/selection';
import { selectionSentence } from './selectionWords';
import { traitOf } from './trait';
import type { ClassAbout } from './traitAbout';

/** Longest reason that a selection keeps. */
const MOST_REASON = 300;

/** Why the students of an audience are selected: its sentence, and what a text to them is about. */
export function pickOfAudience(where: Selection, course: ClassAbout): Picked {
  const sentence = selectionSentence(where, course)
    .replace(/^Students /, '')
    .replace(/\.$/, '');
  const reason = sentence.length > MOST_REASON ? `${sentence.slice(0, MOST_REASON - 2)} …` : sentence;
  const wanted = 'not' in where ? [] : testsIn(where);
  for (const test of wanted) {
    const trait = traitOf(test.measure);
    const about = trait && aboutOf(test);
    if (about) return pickedFor(reason, about, 'work' in trait ? trait.work : null);
  }
  return pickedFor(reason);
}

/** What one test says that a text can begin with. */
function aboutOf(test: ColumnTest): About | null {
  const trait = traitOf(test.measure)!;
  const chosen = test.is === 'in' ? test.value : test.is === '=' ? [test.value] : [];
  switch (trait.of) {
    case 'score':
    case 'percent':
      if (test.is === '<' || test.is === '<=' || test.is === 'lowest') return 'low score';
      return test.is === '>' || test.is === '>=' || test.is === 'highest' ? 'high score' : null;
    case 'status':
      return chosen.length === 1 && chosen[0] === 'missing' ? 'missing assignment' : null;
    case 'late':
      return chosen.length === 1 && chosen[0] === 'yes' ? 'late assignment' : null;
    case 'flag':
      return chosen.length > 0 && !chosen.includes('none') ? trait.flag : null;
    default:
      return null;
  }
}
