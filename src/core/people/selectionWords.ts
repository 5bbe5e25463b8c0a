import type { ColumnTest, Compared, Selection } from '../rules/selection';
import { traitOf } from './trait';
import { traitAbout, type ClassAbout, type TraitAbout } from './traitAbout';

const listed = (parts: readonly string[], word: 'and' | 'or'): string =>
  parts.length < 2
    ? (parts[0] ?? '')
    : `${parts.slice(0, -1).join(', ')}${parts.length > 2 ? ',' : ''} ${word} ${parts.at(-1)}`;

/** A condition as an English sentence: "Students with a score under 12 of 20 on Chart exercise 4, in section Online." */
export function selectionSentence(selection: Selection, course: ClassAbout): string {
  if (!holdsTest(selection)) return isNobody(selection) ? 'Nobody yet.' : 'Every student.';
  return `Students ${phraseOf(selection, course, false)}.`;
}

const holdsTest = (s: Selection): boolean =>
  'all' in s
    ? s.all.some(holdsTest)
    : 'any' in s
      ? s.any.some(holdsTest)
      : 'not' in s
        ? holdsTest(s.not)
        : true;

/** Of a condition without a test: whether it is true of nobody. */
function isNobody(s: Selection): boolean {
  if ('all' in s) return s.all.some(isNobody);
  if ('any' in s) return s.any.every(isNobody);
  return 'not' in s && !isNobody(s.not);
}

function phraseOf(selection: Selection, course: ClassAbout, inner: boolean): string {
  if ('all' in selection || 'any' in selection) {
    const [parts, word] =
      'all' in selection ? [selection.all, 'and' as const] : [selection.any, 'or' as const];
    if (parts.length === 0) return word === 'and' ? '(all of them)' : '(nobody)';
    const said = listed(
      parts.map((part) => phraseOf(part, course, parts.length > 1)),
      word,
    );
    return inner && parts.length > 1 ? `(${said})` : said;
  }
  if ('not' in selection) return `not ${phraseOf(selection.not, course, true)}`;
  const trait = traitOf(selection.measure);
  const about = trait && traitAbout(trait, course);
  return about ? testPhrase(selection, about) : '(by something that is gone)';
}

/** One test as it stands within the sentence. */
export function testPhrase(test: ColumnTest, about: TraitAbout): string {
  if (about.kind === 'choice') {
    const phrase = (v: Compared) =>
      about.values.find((a) => a.value === v)?.phrase ?? `(${v}, which is gone)`;
    if (test.is === '=') return phrase(test.value);
    if (test.is === 'in')
      return test.value.length === 0 ? '(nothing chosen yet)' : choices(test.value.map(phrase));
    return '(nothing chosen yet)';
  }
  const { noun, unit, span } = about;
  const value = (n: Compared) => `${n}${unit}`;
  switch (test.is) {
    case '<':
      return `with ${noun} under ${value(test.value)}${span}`;
    case '<=':
      return `with ${noun} of at most ${value(test.value)}${span}`;
    case '>':
      return `with ${noun} over ${value(test.value)}${span}`;
    case '>=':
      return `with ${noun} of at least ${value(test.value)}${span}`;
    case '=':
      return `with ${noun} of ${value(test.value)}${span}`;
    case 'in':
      return `with ${noun} of ${listed(test.value.map(value), 'or')}${span}`;
    case 'between':
      return `with ${noun} from ${test.value} to ${value(test.to)}${span}`;
    case 'known':
      return `of whom ${noun.replace(/^a /, 'the ')}${span} is known`;
    case 'lowest':
    case 'highest': {
      const by = `by ${noun.replace(/^a /, '')}${span}`;
      return test.after
        ? `among the ${test.percent} % after the ${test.is} ${test.after} % ${by}`
        : `among the ${test.is} ${test.percent} % ${by}`;
    }
  }
}

/** Phrases that begin alike say so once: "with Exercise 4 excused or graded". */
function choices(phrases: readonly string[]): string {
  const words = phrases.map((p) => p.split(' '));
  let alike = 0;
  while (words.every((w) => alike < w.length - 1 && w[alike] === words[0]![alike])) alike++;
  const head = words[0]!.slice(0, alike).join(' ');
  const said = listed(
    words.map((w) => w.slice(alike).join(' ')),
    'or',
  );
  return head ? `${head} ${said}` : said;
}
